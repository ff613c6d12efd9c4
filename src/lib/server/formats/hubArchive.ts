import type { NewHubRecord } from '#core/bringup/hubRecords';
import type { HubDraft } from '#core/hub/hubDraft';
import { MOST_TERMINALS, MOST_UNITS, type HubInput } from '#core/hub/hubInput';
import { hubPathsOf, planHub } from '#core/hub/hubPlan';
import type { Provenance } from '#core/provenance/provenance';
import type { HubStandIn } from '#core/simulate/simulatedHub';
import { itemAt } from '#core/units/lists';
import type { StoredAcceptance } from '../repositories/hubWork';
import type { SiteContent } from '../repositories/sites';
import { archivedHubRecordsSchema, hubArchiveSchema } from '../schemas/hubArchive';
import { validate } from '../schemas/joi';
import {
	openArchive,
	refuseArchive as refuse,
	zipArchive,
	type ArchiveContent,
	type ArchiveKind,
	type OpenedArchive
} from './archiveFile';
import { ChainCheck, hubRecordDigest, type ChainedHubRecord } from './recordChain';

/** Records checked at once, as a device would send them. */
const RECORDS_AT_ONCE = 200;
/** A hub with all its terminals and their ground, issued many times, holds no more values than this. */
const MOST_VALUES = 20_000_000;

/** `hub.json` of an archive. */
export interface HubArchive {
	format: 'skiaxis-hub-archive';
	formatVersion: 1;
	/** Where the hub had come from before. */
	provenance: Provenance | null;
	people: { id: string; displayName: string }[];
	site: SiteContent & { id: string };
	hub: {
		id: string;
		name: string;
		plan: HubDraft;
		/** What stands in for it; null of a real one. */
		practice: HubStandIn | null;
		version: number;
		createdBy: string;
		createdAt: string;
		updatedAt: string;
	};
	revisions: {
		id: string;
		number: number;
		input: HubInput;
		note: string;
		issuedBy: string;
		issuedAt: string;
	}[];
	records: {
		record: Omit<NewHubRecord, 'revisionNumber'>;
		seq: number;
		revisionNumber: number;
		receivedAt: string;
		recordedBy: string;
		/** Over this record and the one before it. */
		digest: string;
	}[];
	/** Every acceptance of a terminal, the oldest first. */
	acceptances: (Omit<StoredAcceptance, 'signedAt'> & { signedAt: string })[];
}

const KIND: ArchiveKind = {
	document: 'hub.json',
	others: /^terminals\.csv$/,
	readme: `This archive holds one hub or small link: its plan, all that was recorded on its units and terminals,
and their acceptances. It can be read without the program that made it.

hub.json        everything, as JSON; times are UTC, levels dBm, angles degrees, lengths metres
signature.json  signature of the installation that made it, over hub.json (Ed25519)
terminals.csv   the terminals of the plan as a table
`
};

export const HUB_DOCUMENT = KIND.document;

/** An archive of a hub as a ZIP, signed by the installation that makes it. */
export const writeHubArchive = (content: ArchiveContent<HubArchive>): Uint8Array =>
	zipArchive(KIND, content);

/** An archive that was read: whole, and as its signature says if it has one. */
export interface ReadHubArchive extends Omit<OpenedArchive, 'raw' | 'files'> {
	document: HubArchive;
}

/** An archive whose every reference holds. Throws what is wrong with it. */
export function readHubArchive(bytes: Uint8Array): ReadHubArchive {
	const { raw, signer } = openArchive(KIND, bytes);
	const document = validate<HubArchive>(hubArchiveSchema, raw, '', MOST_VALUES);
	requireUnbroken(document);
	requireWhole(document);
	requireRecords(document);
	return { document, signer };
}

/**
 * The digest after each record, and before the first, as somebody writes them who takes the records in.
 *
 * @param digestOf of a record after the digest before it
 */
export function digestsAlong<R>(
	start: string,
	records: readonly R[],
	digestOf: (previous: string, record: R) => string
): string[] {
	const digests = [start];
	for (const record of records) digests.push(digestOf(itemAt(digests, digests.length - 1), record));
	return digests;
}

/** Each record of an archive with what its digest covers. */
export function chainedRecords({ hub, revisions, records }: HubArchive): ChainedHubRecord[] {
	const idOf = new Map(revisions.map(({ number, id }) => [number, id]));
	return records.map(({ record, seq, revisionNumber, receivedAt, recordedBy }) => ({
		...record,
		...{ hubId: hub.id, seq, revisionId: idOf.get(revisionNumber) ?? '', receivedAt, recordedBy }
	}));
}

/** The digests of the records follow from what the records say, and what was signed was signed over them. */
function requireUnbroken(document: HubArchive): void {
	const chain = new ChainCheck(hubRecordDigest);
	const found = new Set([chain.digest]);
	for (const [i, record] of chainedRecords(document).entries()) {
		chain.add(record, itemAt(document.records, i).digest);
		found.add(chain.digest);
	}
	if (chain.brokenAt !== undefined) {
		refuse(
			`Record ${chain.brokenAt} is not as it was recorded: it, or one before it, was changed.`
		);
	}
	if (document.acceptances.some(({ recordDigest }) => !found.has(recordDigest))) {
		refuse('The record is not the one that was signed in an acceptance.');
	}
}

/** Whatever refers to something refers to what is there. */
function requireWhole({ hub, people, revisions, records, acceptances }: HubArchive): void {
	const known = new Set(people.map(({ id }) => id));
	const named = [
		hub.createdBy,
		...revisions.map(({ issuedBy }) => issuedBy),
		...records.map(({ recordedBy }) => recordedBy),
		...acceptances.map(({ signedBy }) => signedBy)
	];
	if (named.some((id) => !known.has(id))) refuse('A person who is named in it is missing.');
	for (const { number, input } of revisions) {
		if (!canBePlanned(input)) {
			refuse(`Plan revision ${number} cannot be computed: the file was changed.`);
		}
	}
	const numbers = new Set(revisions.map(({ number }) => number));
	records.forEach(({ seq, revisionNumber }, i) => {
		if (seq !== i + 1) refuse(`Record ${i + 1} is missing or out of order.`);
		if (!numbers.has(revisionNumber))
			refuse(`Record ${seq} names a plan revision that is missing.`);
	});
	if (new Set(records.map(({ record }) => record.id)).size !== records.length) {
		refuse('A record stands in it twice.');
	}
	const signed = new Map<string, number>();
	for (const { terminal, number, revisionNumber, lastSeq } of acceptances) {
		if (!numbers.has(revisionNumber) || lastSeq > records.length) {
			refuse('An acceptance refers to something that is missing.');
		}
		if (number !== (signed.get(terminal) ?? 0) + 1) {
			refuse(`An acceptance of terminal ${terminal} is missing or out of order.`);
		}
		signed.set(terminal, number);
	}
}

function canBePlanned(input: HubInput): boolean {
	try {
		const { units, terminals } = input;
		if (units.length > MOST_UNITS || terminals.length > MOST_TERMINALS) return false;
		return planHub(input, hubPathsOf(input)).terminals.length === terminals.length;
	} catch {
		return false;
	}
}

/** Every record is one that a device may send, and what is simulated is on a hub for practice. */
function requireRecords({ hub, records }: HubArchive): void {
	for (let at = 0; at < records.length; at += RECORDS_AT_ONCE) {
		const part = records.slice(at, at + RECORDS_AT_ONCE).map(({ record }) => record);
		const checked = validate<{ records: NewHubRecord[] }>(
			archivedHubRecordsSchema,
			{ records: part },
			'',
			MOST_VALUES
		);
		checked.records.forEach((record, i) => (itemAt(records, at + i).record = record));
	}
	const simulated = records.find(
		({ record: { payload } }) => 'source' in payload && payload.source === 'simulated'
	);
	if (simulated && !hub.practice) {
		refuse(`Record ${simulated.seq} is simulated, and the hub is not for practice.`);
	}
}
