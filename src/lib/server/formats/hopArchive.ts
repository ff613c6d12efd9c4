import { planHop } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import type { End } from '#core/ends';
import type { RecordPayloads } from '#core/record/records';
import type { PlanDraftValues } from '../../plan/resolve';
import { archivedRecordsSchema, archiveSchema } from '../schemas/archive';
import { planDraftSchema } from '../schemas/inputs';
import { validate } from '../schemas/joi';
import type { NewRecord } from '../services/feed';
import type { SiteContent } from '../repositories/sites';
import { itemAt } from '#core/units/lists';
import type { Provenance } from '#core/provenance/provenance';
import {
	openArchive,
	refuseArchive as refuse,
	zipArchive,
	type ArchiveContent,
	type ArchiveKind,
	type OpenedArchive
} from './archiveFile';
import { ChainCheck, recordDigest } from './recordChain';

/** Records checked at once, as a device would send them. */
const RECORDS_AT_ONCE = 200;
/** A hop with every sweep that its limits allow holds no more values than this. */
const MOST_VALUES = 20_000_000;

/** `hop.json` of an archive. */
export interface Archive {
	format: 'skiaxis-hop-archive';
	/** 2 since records carry digests; both are read. */
	formatVersion: 1 | 2;
	/** Where the hop had come from before; absent in the first version. */
	provenance?: Provenance | null;
	people: { id: string; displayName: string }[];
	sites: (SiteContent & { id: string; version?: number })[];
	hop: {
		id: string;
		name: string;
		siteAId: string;
		siteBId: string;
		plan: PlanDraftValues;
		simulationSeed: number | null;
		plantedFault: string | null;
		version: number;
		createdBy: string;
		createdAt: string;
		updatedAt: string;
		baton: End;
		readyA: boolean;
		readyB: boolean;
	};
	revisions: {
		id: string;
		number: number;
		input: object;
		plan: object;
		review: object | null;
		note: string;
		issuedBy: string;
		issuedAt: string;
	}[];
	records: {
		record: NewRecord;
		seq: number;
		revisionNumber: number;
		receivedAt: string;
		recordedBy: string;
		/** Over this record and the one before it; absent in the first version. */
		digest?: string;
	}[];
	photos: {
		id: string;
		end: End;
		sourceSha256: string;
		uploadedBy: string;
		uploadedAt: string;
	}[];
	/** The first acceptance; archives older than life after acceptance have only this one. */
	acceptance: ArchivedAcceptance | null;
	/** Every acceptance, the oldest first. */
	acceptances?: ArchivedAcceptance[];
}

export interface ArchivedAcceptance {
	id: string;
	revisionNumber: number;
	lastSeq: number;
	judgement: object;
	causes: object;
	signature: object;
	signedBy: string;
	signedAt: string;
	/** Digest of the last record that was judged. */
	recordDigest?: string | null;
}

/** Every acceptance in an archive, the oldest first. */
export const acceptancesIn = ({
	acceptance,
	acceptances
}: Pick<Archive, 'acceptance' | 'acceptances'>): ArchivedAcceptance[] =>
	acceptances ?? (acceptance ? [acceptance] : []);

const KIND: ArchiveKind = {
	document: 'hop.json',
	others: /^(acceptance-pack\.pdf|judgement\.csv|photos\/[0-9a-f]{8}-[0-9a-f-]{27}\.jpg)$/,
	readme: `This archive holds one microwave hop: its plan, all that was recorded on it, its photos and its
acceptance. It can be read without the program that made it.

hop.json             everything, as JSON; times are UTC, levels dBm, angles degrees, lengths metres
signature.json       signature of the installation that made it, over hop.json and the photos (Ed25519)
judgement.csv        planned against measured
acceptance-pack.pdf  the pack to print
photos/              the photos, named by the ids that hop.json gives
`
};

/** An archive as a ZIP, signed by the installation that makes it. */
export const writeArchive = (content: ArchiveContent<Archive>): Uint8Array =>
	zipArchive(KIND, content);

/** An archive that was read: whole, and as its signature says if it has one. */
export interface ReadArchive extends Omit<OpenedArchive, 'raw'> {
	document: Archive;
}

/** An archive whose every reference holds, with its files by name. Throws what is wrong with it. */
export function readArchive(bytes: Uint8Array): ReadArchive {
	const { raw, files, signer } = openArchive(KIND, bytes);
	const document = validate<Archive>(archiveSchema, raw, '', MOST_VALUES);
	// Before records are put in the form of this version: the digests are over what was recorded.
	requireUnbroken(document);
	requireWhole(document, files);
	return { document, files, signer };
}

/** The digests of the records follow from what the records say. */
function requireUnbroken({ hop, revisions, records, ...signed }: Archive): void {
	if (records.every(({ digest }) => digest === undefined)) return;
	const idOf = new Map(revisions.map(({ number, id }) => [number, id]));
	const chain = new ChainCheck(recordDigest);
	const digests = [chain.digest];
	for (const { record, seq, revisionNumber, receivedAt, recordedBy, digest } of records) {
		const revisionId = idOf.get(revisionNumber) ?? '';
		chain.add(
			{ ...record, hopId: hop.id, seq, revisionId, receivedAt, recordedBy },
			digest ?? null
		);
		digests.push(chain.digest);
	}
	if (chain.brokenAt !== undefined) {
		refuse(
			`Record ${chain.brokenAt} is not as it was recorded: it, or one before it, was changed.`
		);
	}
	for (const { lastSeq, recordDigest } of acceptancesIn(signed)) {
		if (recordDigest && recordDigest !== digests[lastSeq]) {
			refuse('The record is not the one that was signed in the acceptance.');
		}
	}
}

/** Whatever refers to something refers to what is there. */
function requireWhole(document: Archive, files: ReadonlyMap<string, Uint8Array>): void {
	const { hop, sites, people, revisions: issued, records, photos } = document;
	const signed = acceptancesIn(document);
	const siteIds = new Set(sites.map((site) => site.id));
	if (!siteIds.has(hop.siteAId) || !siteIds.has(hop.siteBId))
		refuse('A site of the hop is missing.');
	const known = new Set(people.map((person) => person.id));
	const named = [
		hop.createdBy,
		...issued.map((revision) => revision.issuedBy),
		...records.map((record) => record.recordedBy),
		...photos.map((photo) => photo.uploadedBy),
		...signed.map((one) => one.signedBy)
	];
	if (named.some((id) => !known.has(id))) refuse('A person who is named in it is missing.');
	const numbers = new Set(issued.map((revision) => revision.number));
	for (const { input } of issued) {
		try {
			planHop({ ...(input as HopPlanInput), workDate: new Date((input as HopPlanInput).workDate) });
		} catch {
			refuse('A plan revision cannot be computed: the file was changed.');
		}
	}
	records.forEach(({ seq, revisionNumber }, i) => {
		if (seq !== i + 1) refuse(`Record ${i + 1} is missing or out of order.`);
		if (!numbers.has(revisionNumber))
			refuse(`Record ${seq} names a plan revision that is missing.`);
	});
	for (let at = 0; at < records.length; at += RECORDS_AT_ONCE) {
		const part = records.slice(at, at + RECORDS_AT_ONCE).map(({ record }) => record);
		const checked = validate<{ records: NewRecord[] }>(
			archivedRecordsSchema,
			{ records: part },
			'',
			MOST_VALUES
		);
		checked.records.forEach((record, i) => (itemAt(records, at + i).record = record));
	}
	if (new Set(records.map(({ record }) => record.id)).size !== records.length) {
		refuse('A record stands in it twice.');
	}
	if (signed.some((one) => !numbers.has(one.revisionNumber) || one.lastSeq > records.length)) {
		refuse('The acceptance refers to something that is missing.');
	}
	for (const { id } of photos) {
		if (!files.has(`photos/${id}.jpg`)) refuse(`The photo ${id} is missing.`);
	}
	validate(planDraftSchema, hop.plan);
}

/** Id of the visit that the records of an archive leave open; null if none. */
export function openVisitIn({ records }: Archive): string | null {
	const closed = new Set(
		records.flatMap(({ record }) =>
			record.kind === 'visit-closed'
				? [(record.payload as RecordPayloads['visit-closed']).visitId]
				: []
		)
	);
	const last = records.findLast(({ record }) => record.kind === 'visit-opened');
	if (!last) return null;
	const { visitId } = last.record.payload as RecordPayloads['visit-opened'];
	return closed.has(visitId) ? null : visitId;
}
