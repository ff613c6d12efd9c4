import { lastOf } from '#core/units/lists';
import { gauge } from '../metrics';

const LOOK_MS = 250;
const RECORDS_PER_MESSAGE = 1000;
/** Feeds read onward in one statement. */
const FEEDS_AT_ONCE = 50;
const ERROR_PAUSE_MS = 1500;

/** How the records of some kind of feed are read. */
export interface FeedReads<R> {
	/** Records of one feed after a place, in order. */
	after: (id: string, afterSeq: number, limit: number) => Promise<R[]>;
	/** Those of the feeds that go on beyond the place given with each. */
	moved: (places: ReadonlyMap<string, number>) => Promise<string[]>;
	/** Records of some feeds, of each those after a place and in order; `more` where the limit has cut some off. */
	beyond: (
		places: ReadonlyMap<string, number>,
		limit: number
	) => Promise<{ byFeed: Map<string, R[]>; more: boolean }>;
}

export interface FeedFollower<R> {
	/**
	 * Calls `listener` with every record after `afterSeq`, in order, each once, until the returned function is
	 * called.
	 */
	follow: (id: string, afterSeq: number, listener: (records: readonly R[]) => void) => () => void;
	/**
	 * Tells the followers here of records that were just committed, in order and without gaps among themselves.
	 * Only what goes on from where a feed's followers stand is passed on: what came before or between is found by
	 * the next look, and these along with it.
	 */
	tell: (id: string, records: readonly R[]) => void;
}

/**
 * Follows feeds of one kind for the event streams of this process. What this process appends is told at once;
 * what others append is found by one look at all feeds that anyone watches here, and then read onward by its
 * place, so that every record arrives in order and once, whichever process took it in.
 *
 * @param of what they are feeds of, as the gauge of those that are followed calls them
 */
export function feedFollower<R extends { seq: number }>(
	of: string,
	reads: FeedReads<R>
): FeedFollower<R> {
	type Listener = (records: readonly R[]) => void;

	/** A feed that somebody watches here. */
	interface Watch {
		listeners: Set<Listener>;
		/** No follower of it has less than this. */
		lastSeq: number;
	}

	const watches = new Map<string, Watch>();
	let timer: ReturnType<typeof setTimeout> | undefined;
	let looking = false;
	gauge(
		`skiaxis_watched_${of}`,
		`${of[0]!.toUpperCase()}${of.slice(1)} whose feed somebody follows on this process`,
		() => watches.size
	);

	function follow(id: string, afterSeq: number, listener: Listener): () => void {
		let delivered = afterSeq;
		let stopped = false;
		const deliver: Listener = (records) => {
			const fresh = records.filter((record) => record.seq > delivered);
			if (stopped || fresh.length === 0) return;
			delivered = lastOf(fresh).seq;
			listener(fresh);
		};
		void catchUp(
			id,
			() => delivered,
			deliver,
			() => stopped
		);
		return () => {
			stopped = true;
			const watch = watches.get(id);
			watch?.listeners.delete(deliver);
			if (watch?.listeners.size === 0) watches.delete(id);
			if (watches.size > 0) return;
			clearTimeout(timer);
			timer = undefined;
		};
	}

	function tell(id: string, records: readonly R[]): void {
		const watch = watches.get(id);
		if (watch && records[0]?.seq === watch.lastSeq + 1) passOn(watch, records);
	}

	function passOn(watch: Watch, records: readonly R[]): void {
		watch.lastSeq = lastOf(records).seq;
		for (const listener of [...watch.listeners]) listener(records);
	}

	/** Brings one follower up to the others of its feed, then joins them. */
	async function catchUp(
		id: string,
		delivered: () => number,
		deliver: Listener,
		stopped: () => boolean
	): Promise<void> {
		while (!stopped()) {
			try {
				const records = await reads.after(id, delivered(), RECORDS_PER_MESSAGE);
				deliver(records);
				if (records.length === RECORDS_PER_MESSAGE) continue;
				if (!stopped()) join(id, delivered(), deliver);
				return;
			} catch {
				await new Promise((resolve) => setTimeout(resolve, ERROR_PAUSE_MS));
			}
		}
	}

	function join(id: string, from: number, deliver: Listener): void {
		const watch = watches.get(id) ?? { listeners: new Set(), lastSeq: from };
		watches.set(id, watch);
		// The others may stand behind or before this follower: all go on from the earlier place, and each drops
		// what it already has.
		watch.lastSeq = Math.min(watch.lastSeq, from);
		watch.listeners.add(deliver);
		lookLater(LOOK_MS);
	}

	function lookLater(pauseMs: number): void {
		if (looking || watches.size === 0) return;
		timer ??= setTimeout(() => void look(), pauseMs);
	}

	/** One look at every feed watched here: a statement, however many there are, and what those have that moved. */
	async function look(): Promise<void> {
		timer = undefined;
		looking = true;
		let pauseMs = LOOK_MS;
		try {
			const moved = await reads.moved(placesOf([...watches.keys()]));
			for (let at = 0; at < moved.length; at += FEEDS_AT_ONCE) {
				await readOn(moved.slice(at, at + FEEDS_AT_ONCE));
			}
		} catch {
			pauseMs = ERROR_PAUSE_MS;
		}
		looking = false;
		lookLater(pauseMs);
	}

	/** Where the followers of feeds stand; those that nobody watches any more are left out. */
	function placesOf(ids: readonly string[]): Map<string, number> {
		return new Map(
			ids.flatMap((id) => {
				const watch = watches.get(id);
				return watch ? [[id, watch.lastSeq] as const] : [];
			})
		);
	}

	async function readOn(ids: readonly string[]): Promise<void> {
		for (;;) {
			const places = placesOf(ids);
			const found = await reads.beyond(places, RECORDS_PER_MESSAGE);
			for (const [id, records] of found.byFeed) {
				const watch = watches.get(id);
				// What was told meanwhile, and whoever joined with less, changed where to go on from: the next look.
				if (watch && watch.lastSeq === places.get(id)) passOn(watch, records);
			}
			if (!found.more) return;
		}
	}

	return { follow, tell };
}
