import type { Actor } from '../auth/actor';
import { ChainCheck, CHAIN_START, recordDigest } from '../formats/recordChain';
import { listAcceptances } from '../repositories/acceptances';
import { readFeed, storedRecordsAfter } from '../repositories/feeds';
import { hopIdsAfter } from '../repositories/hops';
import { getHopRow } from './hops';

/** Whether a hop's record is still, to the last sign, what was recorded. */
export interface RecordCheck {
	records: number;
	/** Digest of the last record, recomputed from what stands there. */
	digest: string;
	/** What is wrong, in words; empty while all is whole. */
	problems: string[];
}

/** Records read at once: so few that nobody waits for their digests. */
const RECORDS_AT_ONCE = 500;
const HOPS_AT_ONCE = 200;

/** Recomputes the chain of a hop's record and holds it against what was written and what was signed. */
export async function checkRecord(actor: Actor, hopId: string): Promise<RecordCheck> {
	await getHopRow(actor, hopId);
	return checkStoredRecord(hopId);
}

/** {@link checkRecord} for whoever runs the installation. */
export async function checkStoredRecord(hopId: string): Promise<RecordCheck> {
	// What is recorded while this runs is not looked at.
	const feed = await readFeed(hopId);
	const signed = await listAcceptances(hopId);
	const wanted = new Map(signed.map(({ lastSeq, recordDigest }) => [lastSeq, recordDigest]));
	const found = new Map([[0, CHAIN_START]]);
	const chain = new ChainCheck(recordDigest);
	let seq = 0;
	for (;;) {
		const rows = await storedRecordsAfter(hopId, seq, RECORDS_AT_ONCE);
		const within = rows.filter((row) => row.seq <= feed.lastSeq);
		for (const row of within) {
			chain.add(
				{
					...row,
					payload: JSON.parse(row.payload) as unknown,
					recordedAt: row.recordedAt.toISOString(),
					receivedAt: row.receivedAt.toISOString()
				},
				row.digest
			);
			seq = row.seq;
			if (wanted.has(seq)) found.set(seq, chain.digest);
		}
		if (within.length < RECORDS_AT_ONCE) break;
	}
	const problems = chainProblems(chain, seq, feed);
	for (const { number, lastSeq, recordDigest } of signed) {
		if (recordDigest !== null && found.get(lastSeq) !== recordDigest) {
			problems.push(
				`Acceptance ${number} was signed over another record than the one that is here.`
			);
		}
	}
	return { records: seq, digest: chain.digest, problems };
}

/** What is wrong with a record that was gone along to its last entry; empty while it is whole. */
export function chainProblems(
	{ brokenAt, digest }: Pick<ChainCheck, 'brokenAt' | 'digest'>,
	lastEntry: number,
	feed: { lastSeq: number; digest: string }
): string[] {
	if (brokenAt !== undefined) {
		return [
			`Entry ${brokenAt} is not as it was recorded: it was changed, or one before it is missing.`
		];
	}
	return lastEntry !== feed.lastSeq || digest !== feed.digest
		? [`The record ends at entry ${lastEntry}; ${feed.lastSeq} were recorded.`]
		: [];
}

/** Every hop whose record is no longer what was recorded, one after the other. */
export async function* brokenRecords(): AsyncGenerator<
	{ hopId: string; name: string; check: RecordCheck },
	{ hops: number; records: number }
> {
	let hops = 0;
	let records = 0;
	let after = '';
	for (;;) {
		const page = await hopIdsAfter(after, HOPS_AT_ONCE);
		for (const { id, name } of page) {
			const check = await checkStoredRecord(id);
			hops += 1;
			records += check.records;
			if (check.problems.length) yield { hopId: id, name, check };
			after = id;
		}
		if (page.length < HOPS_AT_ONCE) return { hops, records };
	}
}
