import type { FieldRecord } from '#core/record/records';
import { lastOf } from '#core/units/lists';
import { gauge } from '../metrics';
import { feedsBeyond, recordsAfter, recordsBeyond } from '../repositories/feeds';

/**
 * Follows the feeds of hops for the event streams of this process. What this process appends is told at once;
 * what others append is found by one look at all hops that anyone watches here, and then read onward by its
 * place, so that every record arrives in order and once, whichever process took it in.
 */
const LOOK_MS = 250;
const RECORDS_PER_MESSAGE = 1000;
/** Hops read onward in one statement. */
const HOPS_AT_ONCE = 50;
const ERROR_PAUSE_MS = 1500;

type Listener = (records: readonly FieldRecord[]) => void;

/** A hop that somebody watches here. */
interface Watch {
	listeners: Set<Listener>;
	/** No follower of it has less than this. */
	lastSeq: number;
}

const watches = new Map<string, Watch>();
let timer: ReturnType<typeof setTimeout> | undefined;
let looking = false;

gauge(
	'skiaxis_watched_hops',
	'Hops whose feed somebody follows on this process',
	() => watches.size
);

/**
 * Calls `listener` with every record after `afterSeq`, in order, each once, until the returned
 * function is called.
 */
export function followFeed(hopId: string, afterSeq: number, listener: Listener): () => void {
	let delivered = afterSeq;
	let stopped = false;
	const deliver: Listener = (records) => {
		const fresh = records.filter((record) => record.seq > delivered);
		if (stopped || fresh.length === 0) return;
		delivered = lastOf(fresh).seq;
		listener(fresh);
	};
	void catchUp(
		hopId,
		() => delivered,
		deliver,
		() => stopped
	);
	return () => {
		stopped = true;
		const watch = watches.get(hopId);
		watch?.listeners.delete(deliver);
		if (watch?.listeners.size === 0) watches.delete(hopId);
		if (watches.size > 0) return;
		clearTimeout(timer);
		timer = undefined;
	};
}

/**
 * Tells the followers here of records that were just committed, in order and without gaps among themselves.
 * Only what goes on from where a hop's followers stand is passed on: what came before or between is found by
 * the next look, and these along with it.
 */
export function tellAppended(hopId: string, records: readonly FieldRecord[]): void {
	const watch = watches.get(hopId);
	if (watch && records[0]?.seq === watch.lastSeq + 1) passOn(watch, records);
}

function passOn(watch: Watch, records: readonly FieldRecord[]): void {
	watch.lastSeq = lastOf(records).seq;
	for (const listener of [...watch.listeners]) listener(records);
}

/** Brings one follower up to the others of its hop, then joins them. */
async function catchUp(
	hopId: string,
	delivered: () => number,
	deliver: Listener,
	stopped: () => boolean
): Promise<void> {
	while (!stopped()) {
		try {
			const records = await recordsAfter(hopId, delivered(), RECORDS_PER_MESSAGE);
			deliver(records);
			if (records.length === RECORDS_PER_MESSAGE) continue;
			if (!stopped()) join(hopId, delivered(), deliver);
			return;
		} catch {
			await new Promise((resolve) => setTimeout(resolve, ERROR_PAUSE_MS));
		}
	}
}

function join(hopId: string, from: number, deliver: Listener): void {
	const watch = watches.get(hopId) ?? { listeners: new Set(), lastSeq: from };
	watches.set(hopId, watch);
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

/** One look at every hop watched here: a statement, however many there are, and what those have that moved. */
async function look(): Promise<void> {
	timer = undefined;
	looking = true;
	let pauseMs = LOOK_MS;
	try {
		const moved = await feedsBeyond(placesOf([...watches.keys()]));
		for (let at = 0; at < moved.length; at += HOPS_AT_ONCE) {
			await readOn(moved.slice(at, at + HOPS_AT_ONCE));
		}
	} catch {
		pauseMs = ERROR_PAUSE_MS;
	}
	looking = false;
	lookLater(pauseMs);
}

/** Where the followers of hops stand; those that nobody watches any more are left out. */
function placesOf(hopIds: readonly string[]): Map<string, number> {
	return new Map(
		hopIds.flatMap((hopId) => {
			const watch = watches.get(hopId);
			return watch ? [[hopId, watch.lastSeq] as const] : [];
		})
	);
}

async function readOn(hopIds: readonly string[]): Promise<void> {
	for (;;) {
		const places = placesOf(hopIds);
		const found = await recordsBeyond(places, RECORDS_PER_MESSAGE);
		for (const [hopId, records] of found.byHop) {
			const watch = watches.get(hopId);
			// What was told meanwhile, and whoever joined with less, changed where to go on from: the next look.
			if (watch && watch.lastSeq === places.get(hopId)) passOn(watch, records);
		}
		if (!found.more) return;
	}
}
