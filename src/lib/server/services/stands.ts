import { inWorker } from '../jobs/pool';
import { inTransaction } from '../db/transaction';
import { log } from '../log';
import { isDatabaseGone } from '../errors';
import { findLatestAcceptance } from '../repositories/acceptances';
import { keepSeen } from '../repositories/durations';
import { keepStand, staleStands, type StaleStand } from '../repositories/stands';
import { readAllRecords } from './feed';
import { findingsOf } from './findings';
import { findLatestRevision } from './plans';

/** Hops that are read before the rest is asked for again. */
const AT_ONCE = 20;
/** How long a list waits for what it shows to be read; the rest is read behind it. */
const PATIENCE_MS = 400;
/** More than so many are not counted. */
const MOST_COUNTED = 1000;

let reading: Promise<void> | undefined;
/** What could not be read here as it stood: it is not tried again until something is recorded. */
const given = new Set<string>();
const keyOf = ({ hopId, lastSeq, revision, acceptances }: StaleStand): string =>
	`${hopId}/${lastSeq}/${revision}/${acceptances}`;

/** Reads where every hop stands that went on since; several askers share one reading. */
async function readStale(): Promise<void> {
	for (;;) {
		const stale = (await staleStands(AT_ONCE + given.size)).filter((one) => !given.has(keyOf(one)));
		if (stale.length === 0) return;
		for (const one of stale) {
			try {
				await readOne(one);
			} catch (error) {
				if (isDatabaseGone(error)) throw error;
				given.add(keyOf(one));
				log.warn({ err: error, hop: one.hopId }, 'where a hop stands could not be read');
			}
		}
	}
}

/** Folds the record of a hop beside the requests, and keeps where its ends stand. */
async function readOne(stale: StaleStand): Promise<void> {
	const revision = await findLatestRevision(stale.hopId);
	if (!revision) return;
	const all = await readAllRecords(stale.hopId);
	const records = all.filter(({ seq }) => seq <= stale.lastSeq);
	const accepted = await findLatestAcceptance(stale.hopId);
	const { standing, seen } = await inWorker('stand', {
		...{ input: revision.input, plan: revision.plan, records },
		findings: await findingsOf(revision, records),
		revisionNumber: revision.number,
		accepted: accepted
			? { revisionNumber: accepted.revisionNumber, lastSeq: accepted.lastSeq }
			: null
	});
	await inTransaction(async (unit) => {
		await keepStand(stale, standing, unit);
		await keepSeen(stale.hopId, seen, unit);
	});
}

/**
 * Sees to it that lists show where hops stand: waits a little for what went on since, the rest is read behind.
 *
 * @returns how many hops are not read yet
 */
export async function freshStands(): Promise<number> {
	const going = (reading ??= readStale().finally(() => (reading = undefined)));
	// Whoever waits no longer is not told of what goes wrong behind.
	going.catch(() => undefined);
	let timer: ReturnType<typeof setTimeout> | undefined;
	const patience = new Promise<void>((resolve) => (timer = setTimeout(resolve, PATIENCE_MS)));
	try {
		await Promise.race([going, patience]);
	} finally {
		clearTimeout(timer);
	}
	const stale = await staleStands(MOST_COUNTED);
	return stale.filter((one) => !given.has(keyOf(one))).length;
}
