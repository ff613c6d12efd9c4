import { createHash } from 'node:crypto';
import canonicalize from 'canonicalize';

/** Digest before the first record of a hop. */
export const CHAIN_START = '0'.repeat(64);

/** What the digest of a record covers; times in ISO 8601 with milliseconds. */
export interface ChainedRecord {
	hopId: string;
	id: string;
	seq: number;
	revisionId: string;
	end: string;
	kind: string;
	payload: unknown;
	recordedAt: string;
	receivedAt: string;
	recordedBy: string;
}

/** JSON in the one form that equal values share (RFC 8785). */
export function canonicalJson(value: unknown): string {
	// Through JSON once, so that what has no place in it (undefined, dates) is as it will be read.
	return canonicalize(JSON.parse(JSON.stringify(value))) ?? 'null';
}

export const sha256 = (bytes: string | Uint8Array): string =>
	createHash('sha256').update(bytes).digest('hex');

/** What the digest of a record of a hub covers. */
export interface ChainedHubRecord extends Omit<ChainedRecord, 'hopId' | 'end'> {
	hubId: string;
	station: string;
}

/** Digest of a record of a hub: over what it says and the digest of the record before it. */
export const hubRecordDigest = (previous: string, record: ChainedHubRecord): string =>
	sha256(canonicalJson({ previous, ...record }));

/** Digest of a record: over what it says and the digest of the record before it. */
export function recordDigest(previous: string, record: ChainedRecord): string {
	const { hopId, id, seq, revisionId, end, kind, payload, recordedAt, receivedAt, recordedBy } =
		record;
	return sha256(
		canonicalJson({
			previous,
			hopId,
			id,
			seq,
			revisionId,
			end,
			kind,
			payload,
			recordedAt,
			receivedAt,
			recordedBy
		})
	);
}

/** Goes along a record; says the place where it no longer is what was recorded. */
export class ChainCheck<R extends { seq: number } = ChainedRecord> {
	digest = CHAIN_START;
	/** First place that does not follow from those before it; undefined while all do. */
	brokenAt: number | undefined;
	private seq = 0;

	/** @param digestOf of a record, over what it says and the digest of the one before it */
	constructor(private readonly digestOf: (previous: string, record: R) => string) {}

	/** @param digest as it was written beside the record */
	add(record: R, digest: string | null): void {
		this.seq += 1;
		this.digest = this.digestOf(this.digest, record);
		if (record.seq !== this.seq || digest !== this.digest) this.brokenAt ??= this.seq;
	}
}
