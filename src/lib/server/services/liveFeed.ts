import type { FieldRecord } from '#core/record/records';
import { readRecords } from './feed';
import { lastOf } from '#core/units/lists';

/**
 * Follows the feeds of hops for the event streams of this process. One loop per hop that anyone
 * watches reads the record table onward by place, so records arrive whichever process took them in.
 */
const POLL_MS = 250;
const RECORDS_PER_MESSAGE = 1000;
const ERROR_PAUSE_MS = 1500;

type Listener = (records: readonly FieldRecord[]) => void;

interface Watch {
	listeners: Set<Listener>;
	lastSeq: number;
	timer: ReturnType<typeof setTimeout> | undefined;
}

const watches = new Map<string, Watch>();

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
		if (watch && watch.listeners.size === 0) {
			clearTimeout(watch.timer);
			watches.delete(hopId);
		}
	};
}

/** Brings one follower up to the shared loop, then joins it. */
async function catchUp(
	hopId: string,
	delivered: () => number,
	deliver: Listener,
	stopped: () => boolean
): Promise<void> {
	while (!stopped()) {
		try {
			const records = await readRecords(hopId, delivered(), { limit: RECORDS_PER_MESSAGE });
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
	let watch = watches.get(hopId);
	if (!watch) {
		watch = { listeners: new Set(), lastSeq: from, timer: undefined };
		watches.set(hopId, watch);
		schedule(hopId, watch, POLL_MS);
	}
	// The loop may stand behind or before this follower: it starts again from the earlier place,
	// and each follower drops what it already has.
	watch.lastSeq = Math.min(watch.lastSeq, from);
	watch.listeners.add(deliver);
}

function schedule(hopId: string, watch: Watch, delayMs: number): void {
	watch.timer = setTimeout(() => void poll(hopId, watch), delayMs);
}

async function poll(hopId: string, watch: Watch): Promise<void> {
	let delayMs = POLL_MS;
	try {
		const from = watch.lastSeq;
		const records = await readRecords(hopId, from, { limit: RECORDS_PER_MESSAGE });
		const last = records.at(-1);
		if (last) {
			for (const listener of [...watch.listeners]) listener(records);
			// A follower that joined meanwhile may have moved the start back.
			if (watch.lastSeq === from) watch.lastSeq = last.seq;
			delayMs = 0;
		}
	} catch {
		delayMs = ERROR_PAUSE_MS;
	}
	if (watches.get(hopId) === watch) schedule(hopId, watch, delayMs);
}
