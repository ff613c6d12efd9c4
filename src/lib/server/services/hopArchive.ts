import { strToU8 } from 'fflate';
import { may, requireMay, type Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import { inTransaction, type Unit } from '../db/transaction';
import { refusal } from '../errors';
import {
	acceptancesIn,
	openVisitIn,
	type Archive,
	type ArchivedAcceptance
} from '../formats/hopArchive';
import { insertAcceptance, listAcceptances, type Acceptance } from '../repositories/acceptances';
import { audit } from '../repositories/audit';
import { cardsOf } from '#core/record/baton';
import { openSnagsOf } from '#core/record/hopTrouble';
import { insertFeeds, insertRecords, readFeed, storedRecordsAfter } from '../repositories/feeds';
import { findHop, insertHops, insertMembers } from '../repositories/hops';
import { insertPhoto, wholePhotosOf } from '../repositories/photos';
import { allRevisions, insertRevision, type FrozenRevision } from '../repositories/revisions';
import { namesOf } from '../repositories/users';
import { inWorker } from '../jobs/pool';
import { archivedSite, insertPeople } from './archiveParts';
import { asBuiltCsv } from './asBuilt';
import { digestOfRow, type NewRecord } from './feed';
import { getHop, getHopRow } from './hops';
import { gatherPack } from './pack';
import { checkStoredPhoto } from './photos';
import { insertSiteAs } from './sites';
import { withinSteps, type Provenance } from '#core/provenance/provenance';
import { itemAt, present } from '#core/units/lists';
import { CHAIN_START } from '../formats/recordChain';
import { insertImport } from '../repositories/imports';
import { ownKeys } from './installation';
import { provenanceOf } from './provenance';

export { LARGEST_ARCHIVE_BYTES } from '../formats/archiveFile';

/** One hop with everything that belongs to it, as a ZIP that reads back in without loss. */
export async function exportArchive(actor: Actor, hopId: string): Promise<Uint8Array> {
	const row = await getHopRow(actor, hopId);
	const { plan } = await getHop(actor, hopId);
	const photos = await wholePhotosOf(hopId);
	const { baton, ready } = await readFeed(hopId);
	const revisions = await allRevisions(hopId);
	const signed = (await listAcceptances(hopId)).map(archivedAcceptance);
	const records = await archivedRecords(hopId, revisions);
	const document: Archive = {
		format: 'skiaxis-hop-archive',
		formatVersion: 2,
		provenance: withinSteps(await provenanceOf(hopId)),
		people: await namesOf([
			row.createdBy,
			...revisions.map(({ issuedBy }) => issuedBy),
			...records.map(({ recordedBy }) => recordedBy),
			...photos.map(({ uploadedBy }) => uploadedBy),
			...signed.map(({ signedBy }) => signedBy)
		]),
		sites: [await archivedSite(actor, row.siteAId), await archivedSite(actor, row.siteBId)],
		hop: {
			id: row.id,
			name: row.name,
			siteAId: row.siteAId,
			siteBId: row.siteBId,
			plan,
			simulationSeed: row.simulationSeed,
			// Who practises on it is not told what is wrong with it.
			plantedFault: may(actor, 'edit-hops') ? row.plantedFault : null,
			version: row.version,
			createdBy: row.createdBy,
			createdAt: row.createdAt.toISOString(),
			updatedAt: row.updatedAt.toISOString(),
			baton,
			readyA: ready.A,
			readyB: ready.B
		},
		revisions: revisions.map(archivedRevision),
		records,
		photos: photos.map(({ id, end, sourceSha256, uploadedBy, uploadedAt }) => ({
			id,
			end,
			sourceSha256,
			uploadedBy,
			uploadedAt: uploadedAt.toISOString()
		})),
		acceptance: signed[0] ?? null,
		acceptances: signed
	};
	const files: Record<string, Uint8Array> = {};
	if (revisions.length) {
		files['judgement.csv'] = strToU8(await asBuiltCsv(actor, hopId));
		files['acceptance-pack.pdf'] = await inWorker('pack-pdf', {
			pack: await gatherPack(actor, hopId),
			system: 'metric'
		});
	}
	const pictures = new Map(
		photos.map(({ id, content }) => [`photos/${id}.jpg`, new Uint8Array(content)])
	);
	return inWorker('zip-archive', { document, files, pictures, keys: await ownKeys() });
}

const archivedRevision = (revision: FrozenRevision): Archive['revisions'][number] => ({
	id: revision.id,
	number: revision.number,
	input: revision.input,
	plan: revision.plan,
	review: revision.review,
	note: revision.note,
	issuedBy: revision.issuedBy,
	issuedAt: revision.issuedAt.toISOString()
});

const archivedAcceptance = (acceptance: Acceptance): ArchivedAcceptance => ({
	id: acceptance.id,
	revisionNumber: acceptance.revisionNumber,
	lastSeq: acceptance.lastSeq,
	judgement: acceptance.judgement,
	causes: acceptance.causes,
	signature: acceptance.signature,
	signedBy: acceptance.signedById,
	signedAt: acceptance.signedAt,
	recordDigest: acceptance.recordDigest
});

/** Records read at once for an archive. */
const RECORDS_AT_ONCE = 2000;

async function archivedRecords(
	hopId: string,
	revisions: readonly FrozenRevision[]
): Promise<Archive['records']> {
	const numberOf = new Map(revisions.map(({ id, number }) => [id, number]));
	const records: Archive['records'] = [];
	for (;;) {
		const rows = await storedRecordsAfter(hopId, records.at(-1)?.seq ?? 0, RECORDS_AT_ONCE);
		for (const row of rows) {
			records.push({
				record: {
					id: row.id,
					end: row.end,
					kind: row.kind,
					payload: JSON.parse(row.payload) as NewRecord['payload'],
					recordedAt: row.recordedAt.toISOString()
				},
				seq: row.seq,
				revisionNumber: present(numberOf.get(row.revisionId), 'revision'),
				receivedAt: row.receivedAt.toISOString(),
				recordedBy: row.recordedBy,
				digest: row.digest
			});
		}
		if (rows.length < RECORDS_AT_ONCE) return records;
	}
}

/** What was taken in, and what is known of where it was made. */
export interface ImportedHop {
	hopId: string;
	records: number;
	photos: number;
	provenance: Provenance | null;
}

/**
 * Takes a hop in from its archive: all of it or nothing. A hop that is here already is refused, so
 * that a repeat does no harm. People who are not here get an account that nobody can sign in with.
 */
export async function importArchive(actor: Actor, bytes: Uint8Array): Promise<ImportedHop> {
	requireMay(actor, 'edit-hops');
	const { document, files, signer } = await inWorker('read-archive', bytes);
	const photos = await Promise.all(
		document.photos.map(async (photo) => ({
			...photo,
			...(await checkStoredPhoto(present(files.get(`photos/${photo.id}.jpg`), 'photo'), photo.id))
		}))
	);
	const { hop, people, sites, records } = document;
	const takeIn = (): Promise<void> =>
		inTransaction(async (unit) => {
			if (await findHop(hop.id, unit)) throw refusal('hop-exists');
			await insertPeople(people, unit);
			for (const { id, ...site } of sites) await insertSiteAs(actor, id, site, unit);
			await insertContent(actor, document, photos, unit);
			await insertImport(
				{
					hopId: hop.id,
					importedBy: actor.userId,
					importedAt: new Date(),
					sourceKey: signer?.publicKey ?? null,
					sourceName: signer?.name ?? null,
					lastSeq: records.length,
					revisions: Math.max(0, ...document.revisions.map(({ number }) => number)),
					acceptances: acceptancesIn(document).length,
					photos: photos.length,
					earlier: document.provenance ?? null
				},
				unit
			);
			const counts = {
				records: records.length,
				photos: photos.length,
				signedBy: signer?.publicKey ?? null
			};
			await audit(actor.userId, 'import-hop', `hop:${hop.id}`, counts, unit);
		});
	await unlessTaken(takeIn, () => {
		throw refusal('name-taken', 'archive');
	});
	return {
		hopId: hop.id,
		records: records.length,
		photos: photos.length,
		provenance: await provenanceOf(hop.id)
	};
}

async function insertContent(
	actor: Actor,
	document: Archive,
	photos: (Archive['photos'][number] & Awaited<ReturnType<typeof checkStoredPhoto>>)[],
	unit: Unit
): Promise<void> {
	const { plan, baton, readyA, readyB, createdAt, updatedAt, ...hop } = document.hop;
	const hopId = hop.id;
	const row = {
		...hop,
		planDraft: JSON.stringify(plan),
		createdAt: new Date(createdAt),
		updatedAt: new Date(updatedAt),
		archivedAt: null
	};
	await insertHops([row], unit);
	const { records } = document;
	const ready = { A: readyA, B: readyB };
	const openVisit = openVisitIn(document);
	await insertMembers([hopId], [actor.userId], unit);
	for (const revision of document.revisions) {
		await insertRevision({ ...revision, hopId, issuedAt: new Date(revision.issuedAt) }, unit);
	}
	const idOf = new Map(document.revisions.map(({ number, id }) => [number, id]));
	const digests = [CHAIN_START];
	const rows = records.map(({ record, seq, revisionNumber, receivedAt, recordedBy }) => {
		const row = {
			id: record.id,
			hopId,
			seq,
			revisionId: present(idOf.get(revisionNumber), 'revision'),
			end: record.end,
			kind: record.kind,
			payload: JSON.stringify(record.payload),
			recordedAt: new Date(record.recordedAt),
			receivedAt: new Date(receivedAt),
			recordedBy
		};
		const digest = digestOfRow(itemAt(digests, digests.length - 1), row);
		digests.push(digest);
		return { ...row, digest };
	});
	const digest = itemAt(digests, records.length);
	const cards = cardsOf(records.map(({ record }) => record));
	const openSnags = openSnagsOf(records.map(({ record }) => record));
	const sentBackAt = records.findLast(({ record }) => record.kind === 'sent-back')?.seq ?? 0;
	const sentBack = sentBackAt > (acceptancesIn(document).at(-1)?.lastSeq ?? 0);
	const standing = { baton, ready, openVisit, cards, openSnags, sentBack, digest };
	const feed = { hopId, lastSeq: records.length, ...standing };
	await insertFeeds([feed], unit);
	await insertRecords(rows, unit);
	for (const photo of photos) {
		const { uploadedAt, ...rest } = photo;
		const sizeBytes = photo.content.byteLength;
		await insertPhoto({ ...rest, hopId, sizeBytes, uploadedAt: new Date(uploadedAt) }, unit);
	}
	for (const [
		i,
		{ revisionNumber, signedBy, signedAt, recordDigest, ...acceptance }
	] of acceptancesIn(document).entries()) {
		await insertAcceptance(
			{
				...acceptance,
				hopId,
				number: i + 1,
				revisionId: present(idOf.get(revisionNumber), 'revision'),
				signedById: signedBy,
				signedAt: new Date(signedAt),
				// Checked against the archive's own digests when it was read.
				recordDigest: recordDigest ? itemAt(digests, acceptance.lastSeq) : null
			},
			unit
		);
	}
}
