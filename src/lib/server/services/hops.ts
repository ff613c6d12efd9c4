import { randomInt, randomUUID } from 'node:crypto';
import type { End } from '#core/ends';
import type { Provenance } from '#core/provenance/provenance';
import { SIMULATED_FAULTS } from '#core/simulate/faults';
import { mayHaveFault, readPlanted } from '#core/simulate/planted';
import type { PlanDraftValues } from '../../plan/resolve';
import { may, requireMay, viewerOf, type Actor } from '../auth/actor';
import { InUseError, unlessTaken } from '../db/taken';
import { inTransaction, type Unit } from '../db/transaction';
import { forbidden, invalid, notFound, refusal } from '../errors';
import { CHAIN_START } from '../formats/recordChain';
import { audit, auditEach } from '../repositories/audit';
import { NO_CARDS } from '#core/safety/cardRule';
import { insertFeeds, lockFeed } from '../repositories/feeds';
import {
	findHop,
	insertHops as insertHopRows,
	insertMembers,
	isMember,
	membersOf,
	replaceMembers,
	removeHop,
	setArchived,
	updateHop as updateHopRow,
	type HopRow,
	type Member
} from '../repositories/hops';
import { pageOfHops, type HopChoice, type HopSummary } from '../repositories/hopList';
import { findRecordPlace, type RecordPlace } from '../repositories/recordPlace';
import { findSite, knownSiteIds, type Site } from '../repositories/sites';
import { countUsers } from '../repositories/users';
import { planDraftSchema } from '../schemas/inputs';
import { isUuid, validate } from '../schemas/joi';
import { pageOf, type ListQuery, type Page } from './paging';
import { provenanceOf } from './provenance';
import { itemAt } from '#core/units/lists';

export type { HopRow, HopSummary, Member, RecordPlace };

export interface HopInput {
	name: string;
	siteAId: string;
	siteBId: string;
	practice: boolean;
	/** Of a practice hop: what is wrong with it; `any` draws lots, left out keeps what it has. */
	plantedFault?: string | null;
	plan: PlanDraftValues;
	version?: number;
}

export interface Hop {
	id: string;
	name: string;
	sites: Record<End, Site>;
	plan: PlanDraftValues;
	/** Whether a simulated meter may be used on it. */
	practice: boolean;
	/** Whether it is put away, out of the list. */
	archived: boolean;
	/** Where it came from; null where it was made here. */
	provenance: Provenance | null;
	/** Only told to who may change the hop. */
	plantedFault?: string | null;
	version: number;
}

/** What is asked of the list of hops: every one that is worked on, the newest change first, unless it says so. */
export type HopQuery = ListQuery & Partial<Pick<HopChoice, 'standing' | 'sort'>>;

export async function listHops(actor: Actor, query: HopQuery): Promise<Page<HopSummary>> {
	requireMay(actor, 'read-hops');
	const { q, standing = 'open', sort = 'changed' } = query;
	const today = new Date().toISOString().slice(0, 10);
	return pageOf(query, (slice) => pageOfHops(viewerOf(actor), { q, standing, sort }, slice, today));
}

/** A hop that the actor may see, as its raw row; 404 for anyone else. */
export async function getHopRow(actor: Actor, id: string): Promise<HopRow> {
	requireMay(actor, 'read-hops');
	// Whatever stands in an address: what is no id is no hop's.
	const row = isUuid(id) ? await findHop(id) : undefined;
	const { userId, everything } = viewerOf(actor);
	if (!row || !(everything || (await isMember(id, userId)))) throw notFound('hop');
	return row;
}

/**
 * The same of a hop in which the actor may record; refuses whoever may not, as {@link requireMayRecord}.
 *
 * @param known what was read of the hop along with who asks, if anything was
 */
export async function getRecordPlace(
	actor: Actor,
	id: string,
	known?: RecordPlace
): Promise<RecordPlace> {
	requireMay(actor, 'read-hops');
	const { userId, everything } = viewerOf(actor);
	const place = known ?? (isUuid(id) ? await findRecordPlace(id, userId) : undefined);
	if (place?.hopId !== id || !(everything || place.isMember)) throw notFound('hop');
	requireMayRecord(actor, place);
	return place;
}

export async function getHop(actor: Actor, id: string): Promise<Hop> {
	return hopOf(actor, await getHopRow(actor, id));
}

async function hopOf(actor: Actor, row: HopRow): Promise<Hop> {
	return {
		id: row.id,
		name: row.name,
		sites: { A: await siteAt(row.siteAId), B: await siteAt(row.siteBId) },
		// A draft saved before a field existed gets the field's default.
		plan: validate<PlanDraftValues>(planDraftSchema, JSON.parse(row.planDraft)),
		practice: row.simulationSeed !== null,
		archived: row.archivedAt !== null,
		provenance: await provenanceOf(row.id),
		...(may(actor, 'edit-hops') ? { plantedFault: row.plantedFault } : {}),
		version: row.version
	};
}

async function siteAt(id: string): Promise<Site> {
	const site = await findSite(id);
	if (!site) throw notFound('site');
	return site;
}

export async function createHop(actor: Actor, input: HopInput): Promise<Hop> {
	await requireSites(input);
	return getHop(actor, await inTransaction((unit) => insertHop(actor, input, unit)));
}

/** The inner part of {@link createHop}, for callers that make several things or none. */
export async function insertHop(actor: Actor, input: HopInput, unit: Unit): Promise<string> {
	return itemAt(await insertHops(actor, [input], unit), 0);
}

/** Several hops in a few statements; their ids in the same order. */
export async function insertHops(
	actor: Actor,
	inputs: readonly HopInput[],
	unit: Unit
): Promise<string[]> {
	requireMay(actor, 'edit-hops');
	const now = new Date();
	const added = inputs.map((input) => ({ id: randomUUID(), input }));
	const rows = added.map(({ id, input }) => ({
		...{ id, name: input.name, siteAId: input.siteAId, siteBId: input.siteBId },
		planDraft: JSON.stringify(input.plan),
		simulationSeed: input.practice ? randomInt(1, 2 ** 31) : null,
		plantedFault: plantedFaultOf(input, null),
		...{ version: 1, createdBy: actor.userId, createdAt: now, updatedAt: now, archivedAt: null }
	}));
	await sayNameTaken(() => insertHopRows(rows, unit));
	const begun = {
		...{
			lastSeq: 0,
			ready: { A: false, B: false },
			openVisit: null,
			cards: NO_CARDS,
			openSnags: {},
			sentBack: false,
			digest: CHAIN_START
		}
	};
	await insertFeeds(
		added.map(({ id, input }) => ({ hopId: id, baton: input.plan.firstToMove, ...begun })),
		unit
	);
	const ids = added.map(({ id }) => id);
	await insertMembers(ids, [actor.userId], unit);
	const lines = added.map(({ id, input }) => ({
		subject: `hop:${id}`,
		detail: { name: input.name }
	}));
	await auditEach(actor.userId, 'create-hop', lines, unit);
	return ids;
}

export async function updateHop(actor: Actor, id: string, input: HopInput): Promise<Hop> {
	requireMay(actor, 'edit-hops');
	const row = await getHopRow(actor, id);
	await requireSites(input);
	const version = input.version ?? row.version;
	const seed = input.practice ? (row.simulationSeed ?? randomInt(1, 2 ** 31)) : null;
	const changed = await sayNameTaken(() =>
		inTransaction(async (unit) => {
			await requireMayChange(row, input, unit);
			return updateHopRow(
				id,
				version,
				{
					name: input.name,
					siteAId: input.siteAId,
					siteBId: input.siteBId,
					planDraft: JSON.stringify(input.plan),
					simulationSeed: seed,
					plantedFault: plantedFaultOf(input, row.plantedFault),
					updatedAt: new Date()
				},
				unit
			);
		})
	);
	if (!changed) throw refusal('changed-meanwhile', { what: 'hop' });
	await audit(actor.userId, 'update-hop', `hop:${id}`, {
		before: JSON.parse(row.planDraft) as unknown
	});
	return getHop(actor, id);
}

/** Another hop with the same plan between the same sites; nothing issued or recorded comes along. */
export async function copyHop(actor: Actor, id: string, name: string): Promise<Hop> {
	requireMay(actor, 'edit-hops');
	const { sites, plan, practice, plantedFault } = await getHop(actor, id);
	const places = { siteAId: sites.A.id, siteBId: sites.B.id };
	return createHop(actor, {
		...{ name, ...places, plan, practice },
		...(plantedFault === undefined ? {} : { plantedFault })
	});
}

/** Puts a hop away, out of the list and of nothing else, or takes it out again. */
export async function archiveHop(actor: Actor, id: string, archived: boolean): Promise<void> {
	requireMay(actor, 'edit-hops');
	const { archivedAt } = await getHopRow(actor, id);
	if ((archivedAt !== null) === archived) return;
	await inTransaction(async (unit) => {
		await setArchived(id, archived ? new Date() : null, unit);
		await audit(actor.userId, archived ? 'archive-hop' : 'take-out-hop', `hop:${id}`, {}, unit);
	});
}

/** Deletes a hop of which nothing is issued and nothing recorded. */
export async function deleteHop(actor: Actor, id: string): Promise<void> {
	requireMay(actor, 'edit-hops');
	const { name } = await getHopRow(actor, id);
	try {
		await inTransaction(async (unit) => {
			await removeHop(id, unit);
			await audit(actor.userId, 'delete-hop', `hop:${id}`, { name }, unit);
		});
	} catch (error) {
		if (error instanceof InUseError) throw refusal('hop-has-history');
		throw error;
	}
}

/** What is measured or signed already says what a hop is: that much of it stays. */
async function requireMayChange(row: HopRow, input: HopInput, unit: Unit): Promise<void> {
	// Locked: nothing is recorded and nothing signed between the look and the change.
	const { lastSeq, accepted } = await lockFeed(row.id, unit);
	if (lastSeq > 0 && input.practice !== (row.simulationSeed !== null)) {
		throw refusal('practice-fixed').at('practice');
	}
	const fixed = (['name', 'siteAId', 'siteBId'] as const).find(
		(field) => input[field] !== row[field]
	);
	if (accepted && fixed) throw refusal('accepted-fixed').at(fixed);
}

/** The faults to keep: as asked, the present ones where nothing is asked, one by lot for `any`. */
function plantedFaultOf(input: HopInput, present: string | null): string | null {
	if (!input.practice || input.plantedFault === null) return null;
	if (input.plantedFault === undefined) return present;
	const { kind } = input.plan.configuration;
	if (input.plantedFault === 'any') {
		const possible = SIMULATED_FAULTS.filter((fault) => mayHaveFault(fault, kind));
		return itemAt(possible, randomInt(possible.length));
	}
	const planted = readPlanted(input.plantedFault) ?? [];
	if (!planted.every(({ fault }) => mayHaveFault(fault, kind))) {
		const message = 'A hop of this configuration cannot have this fault.';
		throw invalid([{ field: 'plantedFault', message }]);
	}
	return input.plantedFault;
}

async function requireSites(input: HopInput): Promise<void> {
	const known = await knownSiteIds([input.siteAId, input.siteBId]);
	const missing = (['siteAId', 'siteBId'] as const).filter((field) => !known.has(input[field]));
	if (missing.length) {
		throw invalid(missing.map((field) => ({ field, message: 'Choose a site that exists.' })));
	}
}

function sayNameTaken<T>(work: () => Promise<T>): Promise<T> {
	return unlessTaken(work, () => {
		throw refusal('name-taken', 'hop').at('name');
	});
}

export async function listMembers(actor: Actor, hopId: string): Promise<Member[]> {
	await getHopRow(actor, hopId);
	return membersOf(hopId);
}

/** Says who works on a hop; the one who sets it stays a member. */
export async function setMembers(
	actor: Actor,
	hopId: string,
	memberIds: readonly string[]
): Promise<Member[]> {
	requireMay(actor, 'edit-hops');
	await getHopRow(actor, hopId);
	const ids = [...new Set([...memberIds, actor.userId])];
	const known = await countUsers(ids);
	if (known !== ids.length) {
		throw invalid([{ field: 'memberIds', message: 'One of these people has no account.' }]);
	}
	await inTransaction(async (unit) => {
		await replaceMembers(hopId, ids, unit);
		await audit(actor.userId, 'set-members', `hop:${hopId}`, { ids }, unit);
	});
	return listMembers(actor, hopId);
}

/** Throws unless the actor may add field records to this hop. */
export function requireMayRecord(actor: Actor, hop: Pick<HopRow, 'simulationSeed'>): void {
	if (may(actor, 'record')) return;
	if (may(actor, 'record-practice')) {
		if (hop.simulationSeed !== null) return;
		throw refusal('practice-only');
	}
	throw forbidden('record on this hop');
}
