import { randomBytes } from 'node:crypto';
import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import { QueryTypes, UniqueConstraintError, type Transaction } from 'sequelize';
import type { End } from '#core/ends';
import { planHop } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import type { PlanDraftValues } from '../../plan/resolve';
import { hashPassword } from '../auth/passwords';
import { may, requireMay, type Actor } from '../auth/actor';
import { db, inTransaction } from '../db/connection';
import { hops, revisions, users, type RevisionRow } from '../db/models';
import { invalid, refusal } from '../errors';
import type { RecordPayloads } from '#core/record/records';
import { insertAcceptance, listAcceptances } from '../repositories/acceptances';
import { audit } from '../repositories/audit';
import { insertRecords } from '../repositories/feeds';
import { archivedRecordsSchema, archiveSchema } from '../schemas/archive';
import { validate } from '../schemas/joi';
import { planDraftSchema } from '../schemas/inputs';
import { packPdf } from '../pdf/packPdf';
import { asBuiltCsv } from './asBuilt';
import type { NewRecord } from './feed';
import { getHop, getHopRow } from './hops';
import { gatherPack } from './pack';
import { checkStoredPhoto } from './photos';
import { getSite, insertSiteAs, type SiteInput } from './sites';

export const LARGEST_ARCHIVE_BYTES = 60_000_000;
/** What an archive may unfold to, so that a small one cannot fill the memory. */
const MOST_UNFOLDED_BYTES = 400_000_000;
const MOST_ENTRIES = 600;
/** The only names an archive may hold; nothing of it is ever written to a disk. */
const ENTRY =
	/^(hop\.json|README\.txt|acceptance-pack\.pdf|judgement\.csv|photos\/[0-9a-f]{8}-[0-9a-f-]{27}\.jpg)$/;

interface Archive {
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

interface ArchivedAcceptance {
	id: string;
	revisionNumber: number;
	lastSeq: number;
	judgement: object;
	causes: object;
	signature: object;
	signedBy: string;
	signedAt: string;
}

const acceptancesIn = ({ acceptance, acceptances }: Archive): ArchivedAcceptance[] =>
	acceptances ?? (acceptance ? [acceptance] : []);

const README = `This archive holds one microwave hop: its plan, all that was recorded on it, its photos and its
acceptance. It can be read without the program that made it.

hop.json             everything, as JSON; times are UTC, levels dBm, angles degrees, lengths metres
judgement.csv        planned against measured
acceptance-pack.pdf  the pack to print
photos/              the photos, named by the ids that hop.json gives
`;

/** One hop with everything that belongs to it, as a ZIP that reads back in without loss. */
export async function exportArchive(actor: Actor, hopId: string): Promise<Uint8Array> {
	const hop = await getHop(actor, hopId);
	const row = await getHopRow(actor, hopId);
	const photoRows = await db().query<{
		id: string;
		end: End;
		sourceSha256: string;
		uploadedBy: string;
		uploadedAt: Date;
		content: Buffer;
	}>(
		`SELECT id, end, source_sha256 AS sourceSha256, uploaded_by AS uploadedBy,
			uploaded_at AS uploadedAt, content FROM photos WHERE hop_id = ? ORDER BY uploaded_at, id`,
		{ replacements: [hopId], type: QueryTypes.SELECT }
	);
	const [feed] = await db().query<{ baton: End; ready_a: number; ready_b: number }>(
		'SELECT baton, ready_a, ready_b FROM hop_feeds WHERE hop_id = ?',
		{ replacements: [hopId], type: QueryTypes.SELECT }
	);
	const revisionRows = (await revisions().findAll({
		where: { hopId },
		order: [['number', 'ASC']],
		raw: true
	})) as unknown as RevisionRow[];
	const signed = (await listAcceptances(hopId)).map(
		({
			id,
			revisionNumber,
			lastSeq,
			judgement,
			causes,
			signature,
			signedById,
			signedAt
		}): ArchivedAcceptance => ({
			id,
			revisionNumber,
			lastSeq,
			judgement,
			causes,
			signature,
			signedBy: signedById,
			signedAt
		})
	);
	const numberOf = new Map(revisionRows.map((revision) => [revision.id, revision.number]));
	const records = await archivedRecords(hopId, numberOf);
	const siteOf = async (id: string): Promise<SiteInput & { id: string }> => {
		const { name, latitudeDeg, longitudeDeg, groundAmslM, notes, climate, conditions } =
			await getSite(actor, id);
		return { id, name, latitudeDeg, longitudeDeg, groundAmslM, notes, climate, conditions };
	};
	const document: Archive = {
		format: 'skiaxis-hop-archive',
		formatVersion: 1,
		people: await peopleOf([
			row.createdBy,
			...revisionRows.map((revision) => revision.issuedBy),
			...records.map((record) => record.recordedBy),
			...photoRows.map((photo) => photo.uploadedBy),
			...signed.map((one) => one.signedBy)
		]),
		sites: [await siteOf(row.siteAId), await siteOf(row.siteBId)],
		hop: {
			id: row.id,
			name: row.name,
			siteAId: row.siteAId,
			siteBId: row.siteBId,
			plan: hop.plan,
			simulationSeed: row.simulationSeed,
			// Who practises on it is not told what is wrong with it.
			plantedFault: may(actor, 'edit-hops') ? row.plantedFault : null,
			version: row.version,
			createdBy: row.createdBy,
			createdAt: row.createdAt.toISOString(),
			updatedAt: row.updatedAt.toISOString(),
			baton: feed!.baton,
			readyA: Boolean(feed!.ready_a),
			readyB: Boolean(feed!.ready_b)
		},
		revisions: revisionRows.map((revision) => ({
			id: revision.id,
			number: revision.number,
			input: JSON.parse(revision.input) as object,
			plan: JSON.parse(revision.plan) as object,
			review: revision.review ? (JSON.parse(revision.review) as object) : null,
			note: revision.note,
			issuedBy: revision.issuedBy,
			issuedAt: revision.issuedAt.toISOString()
		})),
		records,
		photos: photoRows.map(({ id, end, sourceSha256, uploadedBy, uploadedAt }) => ({
			id,
			end,
			sourceSha256,
			uploadedBy,
			uploadedAt: uploadedAt.toISOString()
		})),
		acceptance: signed[0] ?? null,
		acceptances: signed
	};
	const files: Zippable = {
		'README.txt': strToU8(README),
		'hop.json': strToU8(`${JSON.stringify(document, null, '\t')}\n`)
	};
	if (revisionRows.length) {
		files['judgement.csv'] = strToU8(await asBuiltCsv(actor, hopId));
		files['acceptance-pack.pdf'] = new Uint8Array(await packPdf(await gatherPack(actor, hopId)));
	}
	for (const { id, content } of photoRows) {
		// A photo does not shrink any further.
		files[`photos/${id}.jpg`] = [new Uint8Array(content), { level: 0 }];
	}
	return zipSync(files, { level: 6, mtime: '2000-01-01' });
}

async function archivedRecords(
	hopId: string,
	numberOf: ReadonlyMap<string, number>
): Promise<Archive['records']> {
	const rows = await db().query<{
		id: string;
		seq: number | string;
		revisionId: string;
		end: End;
		kind: NewRecord['kind'];
		payload: string;
		recordedAt: Date;
		receivedAt: Date;
		recordedBy: string;
	}>(
		`SELECT id, seq, revision_id AS revisionId, end, kind, payload, recorded_at AS recordedAt,
			received_at AS receivedAt, recorded_by AS recordedBy
		FROM field_records WHERE hop_id = ? ORDER BY seq`,
		{ replacements: [hopId], type: QueryTypes.SELECT }
	);
	return rows.map((row) => ({
		record: {
			id: row.id,
			end: row.end,
			kind: row.kind,
			payload: JSON.parse(row.payload) as NewRecord['payload'],
			recordedAt: row.recordedAt.toISOString()
		},
		seq: Number(row.seq),
		revisionNumber: numberOf.get(row.revisionId)!,
		receivedAt: row.receivedAt.toISOString(),
		recordedBy: row.recordedBy
	}));
}

async function peopleOf(ids: readonly string[]): Promise<Archive['people']> {
	const rows = await users().findAll({
		where: { id: [...new Set(ids)] },
		attributes: ['id', 'displayName'],
		order: [['displayName', 'ASC']],
		raw: true
	});
	return (rows as unknown as Archive['people']).map(({ id, displayName }) => ({ id, displayName }));
}

/**
 * Takes a hop in from its archive: all of it or nothing. A hop that is here already is refused, so
 * that a repeat does no harm. People who are not here get an account that nobody can sign in with.
 */
export async function importArchive(
	actor: Actor,
	bytes: Uint8Array
): Promise<{ hopId: string; records: number; photos: number }> {
	requireMay(actor, 'edit-hops');
	const files = unfold(bytes);
	const document = readDocument(files);
	requireWhole(document, files);
	const photos = await Promise.all(
		document.photos.map(async (photo) => ({
			...photo,
			...(await checkStoredPhoto(files.get(`photos/${photo.id}.jpg`)!, photo.id))
		}))
	);
	try {
		await inTransaction(async (transaction) => {
			if (await hops().findByPk(document.hop.id, { transaction })) {
				throw refusal('hop-exists');
			}
			await insertPeople(document.people, transaction);
			for (const { id, ...site } of document.sites) {
				await insertSiteAs(actor, id, site, transaction);
			}
			await insertRows(actor, document, photos, transaction);
			await audit(
				actor.userId,
				'import-hop',
				`hop:${document.hop.id}`,
				{ records: document.records.length, photos: photos.length },
				transaction
			);
		});
	} catch (error) {
		if (!(error instanceof UniqueConstraintError)) throw error;
		throw refusal('name-taken', 'archive');
	}
	return { hopId: document.hop.id, records: document.records.length, photos: photos.length };
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
	return validate<Archive>(archiveSchema, value);
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
	for (let at = 0; at < records.length; at += 200) {
		const part = records.slice(at, at + 200).map(({ record }) => record);
		const checked = validate<{ records: NewRecord[] }>(archivedRecordsSchema, { records: part });
		checked.records.forEach((record, i) => (records[at + i]!.record = record));
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

async function insertPeople(people: Archive['people'], transaction: Transaction): Promise<void> {
	for (const { id, displayName } of people) {
		if (await users().findByPk(id, { transaction })) continue;
		await users().create(
			{
				id,
				signInName: `archived-${id}`,
				displayName,
				role: 'technician',
				passwordHash: await hashPassword(randomBytes(24).toString('base64')),
				disabled: true,
				createdAt: new Date()
			},
			{ transaction }
		);
	}
}

async function insertRows(
	actor: Actor,
	document: Archive,
	photos: (Archive['photos'][number] & Awaited<ReturnType<typeof checkStoredPhoto>>)[],
	transaction: Transaction
): Promise<void> {
	const { hop } = document;
	await hops().create(
		{
			id: hop.id,
			name: hop.name,
			siteAId: hop.siteAId,
			siteBId: hop.siteBId,
			planDraft: JSON.stringify(hop.plan),
			simulationSeed: hop.simulationSeed,
			plantedFault: hop.plantedFault,
			version: hop.version,
			createdBy: hop.createdBy,
			createdAt: new Date(hop.createdAt),
			updatedAt: new Date(hop.updatedAt)
		},
		{ transaction }
	);
	const insert = async (sql: string, rows: unknown[][]): Promise<void> => {
		for (let at = 0; at < rows.length; at += 200) {
			await db().query(`${sql} VALUES ?`, {
				replacements: [rows.slice(at, at + 200)],
				transaction
			});
		}
	};
	await insert('INSERT INTO hop_feeds (hop_id, last_seq, baton, ready_a, ready_b, open_visit)', [
		[hop.id, document.records.length, hop.baton, hop.readyA, hop.readyB, openVisitIn(document)]
	]);
	await insert('INSERT INTO hop_members (hop_id, user_id)', [[hop.id, actor.userId]]);
	for (const revision of document.revisions) {
		await revisions().create(
			{
				id: revision.id,
				hopId: hop.id,
				number: revision.number,
				input: JSON.stringify(revision.input),
				plan: JSON.stringify(revision.plan),
				review: revision.review ? JSON.stringify(revision.review) : null,
				note: revision.note,
				issuedBy: revision.issuedBy,
				issuedAt: new Date(revision.issuedAt)
			},
			{ transaction }
		);
	}
	const revisionId = new Map(document.revisions.map(({ number, id }) => [number, id]));
	await insertRecords(
		document.records.map(({ record, seq, revisionNumber, receivedAt, recordedBy }) => ({
			id: record.id,
			hopId: hop.id,
			seq,
			revisionId: revisionId.get(revisionNumber)!,
			end: record.end,
			kind: record.kind,
			payload: JSON.stringify(record.payload),
			recordedAt: new Date(record.recordedAt),
			receivedAt: new Date(receivedAt),
			recordedBy
		})),
		transaction
	);
	for (const photo of photos) {
		await insert(
			`INSERT INTO photos (id, hop_id, end, source_sha256, width, height, size_bytes, content,
			thumbnail, uploaded_by, uploaded_at)`,
			[
				[
					photo.id,
					hop.id,
					photo.end,
					photo.sourceSha256,
					photo.width,
					photo.height,
					photo.content.byteLength,
					photo.content,
					photo.thumbnail,
					photo.uploadedBy,
					new Date(photo.uploadedAt)
				]
			]
		);
	}
	for (const [i, one] of acceptancesIn(document).entries()) {
		await insertAcceptance(
			{
				id: one.id,
				hopId: hop.id,
				number: i + 1,
				revisionId: revisionId.get(one.revisionNumber)!,
				lastSeq: one.lastSeq,
				judgement: one.judgement,
				causes: one.causes,
				signature: one.signature,
				signedById: one.signedBy,
				signedAt: new Date(one.signedAt)
			},
			transaction
		);
	}
}

/** Id of the visit that the records of an archive leave open; null if none. */
function openVisitIn({ records }: Archive): string | null {
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
