import { requireMay, type Actor } from '../auth/actor';
import { inTransaction } from '../db/transaction';
import { notFound } from '../errors';
import {
	ChainCheck,
	CHAIN_START,
	hubRecordDigest,
	type ChainedHubRecord
} from '../formats/recordChain';
import { hubIdsAfter } from '../repositories/hubs';
import { lockHubFeed, signedDigests, storedHubRecordsAfter } from '../repositories/hubWork';
import { chainProblems, type RecordCheck } from './verify';

/** Records read at once: so few that nobody waits for their digests. */
const RECORDS_AT_ONCE = 500;
const HUBS_AT_ONCE = 200;

/** Recomputes the chain of a hub's record and holds it against what was written and what was signed. */
export async function checkHubRecord(actor: Actor, hubId: string): Promise<RecordCheck> {
	requireMay(actor, 'read-hops');
	return checkStoredHubRecord(hubId);
}

/** {@link checkHubRecord} for whoever runs the installation. */
export async function checkStoredHubRecord(hubId: string): Promise<RecordCheck> {
	const feed = await inTransaction((unit) => lockHubFeed(hubId, unit));
	if (!feed) throw notFound('hub');
	const signed = await signedDigests(hubId);
	const found = new Set([CHAIN_START]);
	const chain = new ChainCheck<ChainedHubRecord>(hubRecordDigest);
	let seq = 0;
	for (;;) {
		const rows = await storedHubRecordsAfter(hubId, seq, RECORDS_AT_ONCE);
		const within = rows.filter((row) => row.seq <= feed.lastSeq);
		for (const { digest, ...row } of within) {
			chain.add(
				{
					...row,
					payload: JSON.parse(row.payload) as unknown,
					recordedAt: row.recordedAt.toISOString(),
					receivedAt: row.receivedAt.toISOString()
				},
				digest
			);
			seq = row.seq;
			found.add(chain.digest);
		}
		if (within.length < RECORDS_AT_ONCE) break;
	}
	const problems = chainProblems(chain, seq, feed);
	for (const { terminal, number, recordDigest } of signed) {
		if (!found.has(recordDigest)) {
			problems.push(
				`Acceptance ${number} of terminal ${terminal} was signed over another record than the one that is here.`
			);
		}
	}
	return { records: seq, digest: chain.digest, problems };
}

/** Every hub whose record is no longer what was recorded, one after the other. */
export async function* brokenHubRecords(): AsyncGenerator<
	{ hubId: string; name: string; check: RecordCheck },
	{ hubs: number; records: number }
> {
	let hubs = 0;
	let records = 0;
	let after = '';
	for (;;) {
		const page = await hubIdsAfter(after, HUBS_AT_ONCE);
		for (const { id, name } of page) {
			const check = await checkStoredHubRecord(id);
			hubs += 1;
			records += check.records;
			if (check.problems.length) yield { hubId: id, name, check };
			after = id;
		}
		if (page.length < HUBS_AT_ONCE) return { hubs, records };
	}
}
