import type { FieldRecord } from '#core/record/records';

const RETRY_MS = 2500;

interface FeedListener {
	/** The last place that is known here, asked at each new connection. */
	after: () => number;
	/** Gets each record. */
	taken: (record: FieldRecord) => void;
	/** Runs whenever the connection is there again. */
	opened: () => void;
}

/** What the server sends of one hop's feed, in order, as long as there is a connection. */
export class FeedStream {
	/** Whether the feed is connected just now. */
	connected = $state(false);
	#source: EventSource | undefined;
	#stopped = false;
	#timer: ReturnType<typeof setTimeout> | undefined;

	constructor(
		private readonly hopId: string,
		private readonly listener: FeedListener
	) {}

	connect(): void {
		if (this.#stopped) return;
		const { after, taken, opened } = this.listener;
		const source = new EventSource(`/api/v1/hops/${this.hopId}/feed?after=${after()}`);
		this.#source = source;
		source.onopen = () => {
			this.connected = true;
			opened();
		};
		source.onmessage = (event: MessageEvent<string>) =>
			taken(JSON.parse(event.data) as FieldRecord);
		source.onerror = () => {
			this.connected = false;
			// The browser reconnects by itself unless the server answered with an error.
			if (source.readyState === EventSource.CLOSED) {
				source.close();
				this.#timer = setTimeout(() => this.connect(), RETRY_MS);
			}
		};
	}

	stop(): void {
		this.#stopped = true;
		clearTimeout(this.#timer);
		this.#source?.close();
	}

	/** Lets it be connected again after {@link stop}. */
	restart(): void {
		this.#stopped = false;
	}
}
