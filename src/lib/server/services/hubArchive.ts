import { strToU8 } from 'fflate';
import { withinSteps, type Provenance } from '#core/provenance/provenance';
import { present } from '#core/units/lists';
import { may, requireMay, type Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import { inTransaction, type Unit } from '../db/transaction';
import { notFound, refusal } from '../errors';
import { digestsAlong, type HubArchive } from '../formats/hubArchive';
import { CHAIN_START } from '../formats/recordChain';
import { inWorker } from '../jobs/pool';
import { audit } from '../repositories/audit';
import { findHub, findStoredHub, insertStoredHub } from '../repositories/hubs';
import {
	allHubRevisions,
	insertHubRecords,
	insertHubRevision,
	insertTerminalAcceptance,
	storedAcceptances,
	storedHubRecordsAfter,
	type HubRevision
} from '../repositories/hubWork';
import { insertHubImport } from '../repositories/imports';
import { namesOf } from '../repositories/users';
import { archivedSite, insertPeople } from './archiveParts';
import { exportHub } from './hubs';
import { digestOfHubRow, type NewHubRecord } from './hubWork';
import { ownKeys } from './installation';
import { hubProvenanceOf } from './provenance';
import { insertSiteAs } from './sites';

/** One hub with everything that belongs to it, as a ZIP that reads back in without loss. */
export async function exportHubArchive(actor: Actor, hubId: string): Promise<Uint8Array> {
	requireMay(actor, 'read-hops');
	const stored = await findStoredHub(hubId);
	if (!stored) throw notFound('hub');
	const { id, name, plan, practice, version, createdBy, createdAt, updatedAt } = stored;
	const revisions = await allHubRevisions(hubId);
	const records = await archivedRecords(hubId, revisions);
	const acceptances = await storedAcceptances(hubId);
	const document: HubArchive = {
		format: 'skiaxis-hub-archive',
		formatVersion: 1,
		provenance: withinSteps(await hubProvenanceOf(hubId)),
		people: await namesOf([
			createdBy,
			...revisions.map(({ issuedBy }) => issuedBy),
			...records.map(({ recordedBy }) => recordedBy),
			...acceptances.map(({ signedBy }) => signedBy)
		]),
		site: await archivedSite(actor, stored.siteId),
		hub: {
			...{ id, name, plan, version, createdBy },
			// Who practises on it is not told what is wrong with it.
			practice: practice && {
				...practice,
				planted: may(actor, 'edit-hops') ? practice.planted : []
			},
			createdAt: createdAt.toISOString(),
			updatedAt: updatedAt.toISOString()
		},
		revisions: revisions.map(({ hub: input, issuedAt, ...rest }) => ({
			...rest,
			input,
			issuedAt: issuedAt.toISOString()
		})),
		records,
		acceptances: acceptances.map(({ signedAt, ...rest }) => ({
			...rest,
			signedAt: signedAt.toISOString()
		}))
	};
	const { body } = await exportHub(actor, hubId, 'csv');
	return inWorker('zip-hub-archive', {
		document,
		files: { 'terminals.csv': strToU8(body) },
		pictures: new Map(),
		keys: await ownKeys()
	});
}

/** Records read at once for an archive. */
const RECORDS_AT_ONCE = 2000;

async function archivedRecords(
	hubId: string,
	revisions: readonly HubRevision[]
): Promise<HubArchive['records']> {
	const numberOf = new Map(revisions.map(({ id, number }) => [id, number]));
	const records: HubArchive['records'] = [];
	for (;;) {
		const rows = await storedHubRecordsAfter(hubId, records.at(-1)?.seq ?? 0, RECORDS_AT_ONCE);
		for (const { id, station, kind, payload, recordedAt, receivedAt, ...row } of rows) {
			records.push({
				record: {
					...{ id, station, kind, recordedAt: recordedAt.toISOString() },
					payload: JSON.parse(payload) as NewHubRecord['payload']
				},
				...{ seq: row.seq, recordedBy: row.recordedBy, digest: row.digest },
				revisionNumber: present(numberOf.get(row.revisionId), 'issued plan'),
				receivedAt: receivedAt.toISOString()
			});
		}
		if (rows.length < RECORDS_AT_ONCE) return records;
	}
}

/** What was taken in, and what is known of where it was made. */
export interface ImportedHub {
	hubId: string;
	records: number;
	acceptances: number;
	provenance: Provenance | null;
}

/**
 * Takes a hub in from its archive: all of it or nothing. A hub that is here already is refused, so that a repeat
 * does no harm. People who are not here get an account that nobody can sign in with.
 */
export async function importHubArchive(actor: Actor, bytes: Uint8Array): Promise<ImportedHub> {
	requireMay(actor, 'edit-hops');
	const { document, signer } = await inWorker('read-hub-archive', bytes);
	const { hub, people, records, revisions, acceptances } = document;
	const { id: siteId, ...site } = document.site;
	const takeIn = (): Promise<void> =>
		inTransaction(async (unit) => {
			if (await findHub(hub.id, unit)) throw refusal('hub-exists');
			await insertPeople(people, unit);
			await insertSiteAs(actor, siteId, site, unit);
			await insertContent(document, unit);
			await insertHubImport(
				{
					hubId: hub.id,
					importedBy: actor.userId,
					importedAt: new Date(),
					sourceKey: signer?.publicKey ?? null,
					sourceName: signer?.name ?? null,
					lastSeq: records.length,
					revisions: Math.max(0, ...revisions.map(({ number }) => number)),
					acceptances: acceptances.length,
					earlier: document.provenance
				},
				unit
			);
			const counts = { records: records.length, signedBy: signer?.publicKey ?? null };
			await audit(actor.userId, 'import-hub', `hub:${hub.id}`, counts, unit);
		});
	await unlessTaken(takeIn, () => {
		throw refusal('name-taken', 'archive');
	});
	return {
		hubId: hub.id,
		records: records.length,
		acceptances: acceptances.length,
		provenance: await hubProvenanceOf(hub.id)
	};
}

async function insertContent(document: HubArchive, unit: Unit): Promise<void> {
	const { hub, site, revisions, records, acceptances } = document;
	const idOf = new Map(revisions.map(({ number, id }) => [number, id]));
	const rows = records.map(({ record, seq, revisionNumber, receivedAt, recordedBy }) => ({
		...{ id: record.id, station: record.station, kind: record.kind },
		...{ hubId: hub.id, seq, recordedBy },
		revisionId: present(idOf.get(revisionNumber), 'issued plan'),
		payload: JSON.stringify(record.payload),
		recordedAt: new Date(record.recordedAt),
		receivedAt: new Date(receivedAt)
	}));
	const digests = digestsAlong(CHAIN_START, rows, digestOfHubRow);
	const digestAt = (seq: number): string => present(digests[seq], 'digest');
	const { createdAt, updatedAt, ...rest } = hub;
	await insertStoredHub(
		{
			...rest,
			siteId: site.id,
			createdAt: new Date(createdAt),
			updatedAt: new Date(updatedAt)
		},
		{ lastSeq: rows.length, digest: digestAt(rows.length) },
		unit
	);
	for (const { input, issuedAt, ...revision } of revisions) {
		const issued = { ...revision, hubId: hub.id, issuedAt: new Date(issuedAt) };
		await insertHubRevision({ ...issued, input: JSON.stringify(input) }, unit);
	}
	await insertHubRecords(
		rows.map((row) => ({ ...row, digest: digestAt(row.seq) })),
		unit
	);
	// Where in the archive's own chain each was signed: the same place in the one that is written here.
	const seqOf = new Map(records.map(({ digest, seq }) => [digest, seq]));
	for (const [i, acceptance] of acceptances.entries()) {
		const { revisionNumber, judgement, causes, signature, signedAt, ...signed } = acceptance;
		await insertTerminalAcceptance(
			{
				...signed,
				hubId: hub.id,
				revisionId: present(idOf.get(revisionNumber), 'issued plan'),
				judgement: JSON.stringify(judgement),
				causes: JSON.stringify(causes),
				signature: JSON.stringify(signature),
				signedAt: new Date(signedAt),
				recordDigest: digestAt(seqOf.get(acceptance.recordDigest) ?? 0),
				importedPlace: i + 1
			},
			unit
		);
	}
}
