import type { FieldRecord } from '#core/record/records';
import { ApiRefusal, callApi } from '../api';
import { onSessionBack, session } from '../session.svelte';

const RETRY_MS = 1500;
/** The server beats once a second: this long without hearing it, and the page says that it is cut off. */
const SILENT_MS = 2600;
/** A connection that stays silent this long is given up for a new one. */
const DEAD_MS = 7000;

interface FeedListener<R> {
	/** The last place that is known here, asked at each new connection. */
	after: () => number;
	/** Gets each record. */
	taken: (record: R) => void;
	/** Runs whenever the connection is there again. */
	opened: () => void;
}

/** What the server sends of the feed of one hop or hub, in order, as long as there is a connection. */
export class FeedStream<R = FieldRecord> {
	/** Whether the feed is heard just now. */
	connected = $state(false);
	/** Words of the server where it shows this hop to this person no longer. */
	barred: string | undefined = $state();
	#source: EventSource | undefined;
	#stopped = false;
	#retry: ReturnType<typeof setTimeout> | undefined;
	#silence: ReturnType<typeof setTimeout> | undefined;
	#forget: (() => void)[] = [];

	constructor(
		private readonly id: string,
		private readonly listener: FeedListener<R>,
		private readonly what: 'hops' | 'hubs' = 'hops'
	) {}

	connect(): void {
		if (this.#stopped) return;
		if (this.#forget.length === 0) this.#watchDevice();
		this.#open();
	}

	#open(): void {
		this.#close();
		if (this.#stopped || session.ended) return;
		const { after, taken, opened } = this.listener;
		const source = new EventSource(`/api/v1/${this.what}/${this.id}/feed?after=${after()}`);
		this.#source = source;
		this.#listen(DEAD_MS);
		source.onopen = () => {
			this.#heard();
			opened();
		};
		source.addEventListener('beat', () => this.#heard());
		source.onmessage = (event: MessageEvent<string>) => {
			this.#heard();
			taken(JSON.parse(event.data) as R);
		};
		source.onerror = () => {
			this.connected = false;
			// The browser reconnects by itself unless the server answered with an error: then it is asked why.
			if (source.readyState === EventSource.CLOSED) void this.#askWhy();
		};
	}

	#heard(): void {
		this.connected = true;
		this.barred = undefined;
		this.#listen(SILENT_MS);
	}

	/** Waits for a beat; without one the page is cut off, and after a while a new connection is tried. */
	#listen(patienceMs: number): void {
		clearTimeout(this.#silence);
		this.#silence = setTimeout(() => {
			this.connected = false;
			if (patienceMs >= DEAD_MS) this.#open();
			else this.#listen(DEAD_MS);
		}, patienceMs);
	}

	/** The stream was refused: has the session ended, is the hop taken from this person, or is it only busy? */
	async #askWhy(): Promise<void> {
		try {
			await callApi('GET', `/${this.what}/${this.id}`);
		} catch (error) {
			if (error instanceof ApiRefusal && [403, 404].includes(error.status)) {
				this.barred = error.message;
				this.#close();
				return;
			}
		}
		if (session.ended) this.#close();
		else this.#later();
	}

	#later(): void {
		clearTimeout(this.#retry);
		this.#retry = setTimeout(() => this.#open(), RETRY_MS);
	}

	/** The device itself knows at once when it is cut off, and when it is back. */
	#watchDevice(): void {
		const gone = (): void => {
			this.connected = false;
		};
		const back = (): void => this.#open();
		addEventListener('offline', gone);
		addEventListener('online', back);
		this.#forget = [
			() => removeEventListener('offline', gone),
			() => removeEventListener('online', back),
			onSessionBack(back)
		];
	}

	#close(): void {
		clearTimeout(this.#retry);
		clearTimeout(this.#silence);
		this.#source?.close();
		this.#source = undefined;
		this.connected = false;
	}

	stop(): void {
		this.#stopped = true;
		for (const forget of this.#forget) forget();
		this.#forget = [];
		this.#close();
	}

	/** Lets it be connected again after {@link stop}. */
	restart(): void {
		this.#stopped = false;
	}
}
