import { strFromU8, unzipSync } from 'fflate';
import { planHop } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import type { End } from '#core/ends';
import type { RecordPayloads } from '#core/record/records';
import type { PlanDraftValues } from '../../plan/resolve';
import { invalid } from '../errors';
import { archivedRecordsSchema, archiveSchema } from '../schemas/archive';
import { planDraftSchema } from '../schemas/inputs';
import { validate } from '../schemas/joi';
import type { NewRecord } from '../services/feed';
import type { SiteInput } from '../services/sites';
import { itemAt } from '#core/units/lists';

export const LARGEST_ARCHIVE_BYTES = 60_000_000;
/** What an archive may unfold to, so that a small one cannot fill the memory. */
const MOST_UNFOLDED_BYTES = 400_000_000;
const MOST_ENTRIES = 600;
/** Records checked at once, as a device would send them. */
const RECORDS_AT_ONCE = 200;
/** A hop with every sweep that its limits allow holds no more values than this. */
const MOST_VALUES = 20_000_000;
/** The only names an archive may hold; nothing of it is ever written to a disk. */
const ENTRY =
	/^(hop\.json|README\.txt|acceptance-pack\.pdf|judgement\.csv|photos\/[0-9a-f]{8}-[0-9a-f-]{27}\.jpg)$/;

/** `hop.json` of an archive. */
export interface Archive {
	format: 'skiaxis-hop-archive';
	formatVersion: 1;
	people: { id: string; displayName: string }[];
	sites: (SiteInput & { id: string })[];
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
}

/** Every acceptance in an archive, the oldest first. */
export const acceptancesIn = ({ acceptance, acceptances }: Archive): ArchivedAcceptance[] =>
	acceptances ?? (acceptance ? [acceptance] : []);

export const README = `This archive holds one microwave hop: its plan, all that was recorded on it, its photos and its
acceptance. It can be read without the program that made it.

hop.json             everything, as JSON; times are UTC, levels dBm, angles degrees, lengths metres
judgement.csv        planned against measured
acceptance-pack.pdf  the pack to print
photos/              the photos, named by the ids that hop.json gives
`;

/** An archive whose every reference holds, with its files by name. Throws what is wrong with it. */
export function readArchive(bytes: Uint8Array): {
	document: Archive;
	files: ReadonlyMap<string, Uint8Array>;
} {
	const files = unfold(bytes);
	const document = readDocument(files);
	requireWhole(document, files);
	return { document, files };
}

const refuse = (message: string): never => {
	throw invalid([{ field: 'file', message }]);
};

function unfold(bytes: Uint8Array): Map<string, Uint8Array> {
	let count = 0;
	let size = 0;
	let problem: string | undefined;
	let entries: Record<string, Uint8Array> = {};
	try {
		entries = unzipSync(bytes, {
			filter: ({ name, originalSize }) => {
				count += 1;
				size += originalSize;
				if (!ENTRY.test(name)) {
					problem ??= `The archive holds “${name.slice(0, 80)}”, which does not belong there.`;
				} else if (count > MOST_ENTRIES) problem ??= 'The archive holds too many files.';
				else if (size > MOST_UNFOLDED_BYTES) problem ??= 'The archive unfolds to too much.';
				return problem === undefined;
			}
		});
	} catch {
		problem ??= 'The file is no ZIP archive, or it is damaged.';
	}
	if (problem) refuse(problem);
	return new Map(Object.entries(entries));
}

function readDocument(files: ReadonlyMap<string, Uint8Array>): Archive {
	const file = files.get('hop.json');
	if (!file) return refuse('The archive has no hop.json.');
	let value: unknown;
	try {
		value = JSON.parse(strFromU8(file));
	} catch {
		refuse('hop.json is no JSON.');
	}
	return validate<Archive>(archiveSchema, value, '', MOST_VALUES);
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
