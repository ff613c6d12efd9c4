import { randomInt, randomUUID } from 'node:crypto';
import { QueryTypes, UniqueConstraintError, type Transaction } from 'sequelize';
import type { End } from '#core/ends';
import { SIMULATED_FAULTS } from '#core/simulate/faults';
import type { PlanDraftValues } from '../../plan/resolve';
import { may, requireMay, type Actor } from '../auth/actor';
import { db, inTransaction } from '../db/connection';
import { hops, sites, users, type HopRow, type SiteRow } from '../db/models';
import { forbidden, invalid, notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';
import { planDraftSchema } from '../schemas/inputs';
import { validate } from '../schemas/joi';
import { likePattern, pageOf, type Page } from './paging';
import { siteOf, type Site } from './sites';

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
	/** Only told to who may change the hop. */
	plantedFault?: string | null;
	version: number;
}

export interface HopSummary {
	id: string;
	name: string;
	siteAName: string;
	siteBName: string;
	practice: boolean;
	revision: number | null;
	records: number;
	signed: boolean;
	updatedAt: Date;
}

/** Who sees a hop: its members and the administrators. Planners become members of what they make. */
export function visibleTo(actor: Actor): { join: string; replacements: string[] } {
	return actor.role === 'administrator'
		? { join: '', replacements: [] }
		: {
				join: 'JOIN hop_members m ON m.hop_id = h.id AND m.user_id = ?',
				replacements: [actor.userId]
			};
}

/** Someone with more hops than this has most of those there are: they are read in their order. */
const MANY_HOPS = 2000;

/**
 * Hops newest change first. Ids are found over narrow indexes, and only a page of them is joined to
 * names and standing, so that a page costs the same beside many thousands.
 */
export async function listHops(
	actor: Actor,
	query: { q: string; page: number }
): Promise<Page<HopSummary>> {
	requireMay(actor, 'read-hops');
	const found = query.q ? await searched(actor, likePattern(query.q)) : undefined;
	return pageOf(query.page, async (limit, offset) => {
		const count = found ? await found.count() : await countVisible(actor);
		const ids = found
			? await found.ids(limit, offset)
			: await newestIds(actor, count > MANY_HOPS, limit, offset);
		return { count, rows: ids.length ? await summaries(ids) : [] };
	});
}

async function countOf(sql: string, replacements: unknown[]): Promise<number> {
	const [row] = await db().query<{ count: number }>(`SELECT COUNT(*) AS count ${sql}`, {
		replacements,
		type: QueryTypes.SELECT
	});
	return Number(row?.count ?? 0);
}

async function idsOf(sql: string, replacements: unknown[]): Promise<string[]> {
	const rows = await db().query<{ id: string }>(sql, { replacements, type: QueryTypes.SELECT });
	return rows.map((row) => row.id);
}

function countVisible(actor: Actor): Promise<number> {
	return actor.role === 'administrator'
		? countOf('FROM hops', [])
		: countOf('FROM hop_members WHERE user_id = ?', [actor.userId]);
}

function newestIds(actor: Actor, many: boolean, limit: number, offset: number): Promise<string[]> {
	const order = 'ORDER BY h.updated_at DESC, h.id DESC LIMIT ? OFFSET ?';
	if (actor.role === 'administrator') {
		return idsOf(`SELECT h.id FROM hops h ${order}`, [limit, offset]);
	}
	const mine = 'm.hop_id = h.id AND m.user_id = ?';
	return many
		? idsOf(
				`SELECT h.id FROM hops h FORCE INDEX (ix_hops_updated)
				WHERE EXISTS (SELECT 1 FROM hop_members m WHERE ${mine}) ${order}`,
				[actor.userId, limit, offset]
			)
		: idsOf(`SELECT h.id FROM hops h JOIN hop_members m ON ${mine} ${order}`, [
				actor.userId,
				limit,
				offset
			]);
}

/** So many ids go into a query as they are: looked up one by one they beat a join by far. */
const MOST_LISTED_IDS = 1000;

/** Hops named like a pattern, or with a site named so. */
async function searched(
	actor: Actor,
	pattern: string
): Promise<{
	count: () => Promise<number>;
	ids: (limit: number, offset: number) => Promise<string[]>;
}> {
	const siteIds = await idsOf('SELECT id FROM sites WHERE name LIKE ? LIMIT ?', [
		pattern,
		MOST_LISTED_IDS + 1
	]);
	const listed = siteIds.length <= MOST_LISTED_IDS;
	const sites = listed ? '?' : 'SELECT id FROM sites WHERE name LIKE ?';
	// An empty list is no SQL; no hop has an empty id.
	const siteValue = listed ? (siteIds.length ? siteIds : ['']) : pattern;
	const { join, replacements } = visibleTo(actor);
	const from = `FROM (
			SELECT id FROM hops WHERE name LIKE ?
			UNION SELECT id FROM hops WHERE site_a_id IN (${sites})
			UNION SELECT id FROM hops WHERE site_b_id IN (${sites})
		) f JOIN hops h ON h.id = f.id ${join}`;
	const values = [pattern, siteValue, siteValue, ...replacements];
	return {
		count: () => countOf(from, values),
		ids: (limit, offset) =>
			idsOf(`SELECT h.id ${from} ORDER BY h.updated_at DESC, h.id DESC LIMIT ? OFFSET ?`, [
				...values,
				limit,
				offset
			])
	};
}

/** What the list shows of hops, in the order of the ids. */
async function summaries(ids: readonly string[]): Promise<HopSummary[]> {
	const rows = await db().query<{
		id: string;
		name: string;
		a: string;
		b: string;
		seed: number | null;
		revision: number | null;
		records: number | null;
		signed: number;
		updated: Date;
	}>(
		`SELECT h.id, h.name, a.name AS a, b.name AS b, h.simulation_seed AS seed, h.updated_at AS updated,
			(SELECT MAX(number) FROM plan_revisions r WHERE r.hop_id = h.id) AS revision,
			(SELECT last_seq FROM hop_feeds f WHERE f.hop_id = h.id) AS records,
			EXISTS (SELECT 1 FROM acceptances x WHERE x.hop_id = h.id) AS signed
		FROM hops h JOIN sites a ON a.id = h.site_a_id JOIN sites b ON b.id = h.site_b_id
		WHERE h.id IN (?)`,
		{ replacements: [ids], type: QueryTypes.SELECT }
	);
	const byId = new Map(rows.map((row) => [row.id, row]));
	return ids.flatMap((id) => {
		const row = byId.get(id);
		if (!row) return [];
		return [
			{
				id: row.id,
				name: row.name,
				siteAName: row.a,
				siteBName: row.b,
				practice: row.seed !== null,
				revision: row.revision,
				records: Number(row.records ?? 0),
				signed: Boolean(row.signed),
				updatedAt: row.updated
			}
		];
	});
}

/** A hop that the actor may see, as its raw row; 404 for anyone else. */
export async function getHopRow(actor: Actor, id: string): Promise<HopRow> {
	requireMay(actor, 'read-hops');
	const row = (await hops().findByPk(id, { raw: true })) as HopRow | null;
	if (!row) throw notFound('hop');
	if (actor.role !== 'administrator') {
		const [member] = await db().query(
			'SELECT 1 FROM hop_members WHERE hop_id = ? AND user_id = ?',
			{
				replacements: [id, actor.userId],
				type: QueryTypes.SELECT
			}
		);
		if (!member) throw notFound('hop');
	}
	return row;
}

export async function getHop(actor: Actor, id: string): Promise<Hop> {
	return hopOf(actor, await getHopRow(actor, id));
}

async function hopOf(actor: Actor, row: HopRow): Promise<Hop> {
	const [a, b] = await Promise.all(
		[row.siteAId, row.siteBId].map((siteId) => sites().findByPk(siteId, { raw: true }))
	);
	return {
		id: row.id,
		name: row.name,
		sites: {
			A: siteOf(a as unknown as SiteRow),
			B: siteOf(b as unknown as SiteRow)
		},
		// A draft saved before a field existed gets the field's default.
		plan: validate<PlanDraftValues>(planDraftSchema, JSON.parse(row.planDraft)),
		practice: row.simulationSeed !== null,
		...(may(actor, 'edit-hops') ? { plantedFault: row.plantedFault } : {}),
		version: row.version
	};
}

export async function createHop(actor: Actor, input: HopInput): Promise<Hop> {
	await requireSites(input);
	return getHop(actor, await inTransaction((transaction) => insertHop(actor, input, transaction)));
}

/** The inner part of {@link createHop}, for callers that make several things or none. */
export async function insertHop(
	actor: Actor,
	input: HopInput,
	transaction: Transaction
): Promise<string> {
	requireMay(actor, 'edit-hops');
	const id = randomUUID();
	const now = new Date();
	await sayNameTaken(() =>
		hops().create(
			{
				id,
				name: input.name,
				siteAId: input.siteAId,
				siteBId: input.siteBId,
				planDraft: JSON.stringify(input.plan),
				simulationSeed: input.practice ? randomInt(1, 2 ** 31) : null,
				plantedFault: plantedFaultOf(input, null),
				version: 1,
				createdBy: actor.userId,
				createdAt: now,
				updatedAt: now
			},
			{ transaction }
		)
	);
	await db().query('INSERT INTO hop_feeds (hop_id, baton) VALUES (?, ?)', {
		replacements: [id, input.plan.firstToMove],
		transaction
	});
	await db().query('INSERT INTO hop_members (hop_id, user_id) VALUES (?, ?)', {
		replacements: [id, actor.userId],
		transaction
	});
	await audit(actor.userId, 'create-hop', `hop:${id}`, { name: input.name }, transaction);
	return id;
}

export async function updateHop(actor: Actor, id: string, input: HopInput): Promise<Hop> {
	requireMay(actor, 'edit-hops');
	const row = await getHopRow(actor, id);
	await requireSites(input);
	const version = input.version ?? row.version;
	const seed = input.practice ? (row.simulationSeed ?? randomInt(1, 2 ** 31)) : null;
	const [changed] = await sayNameTaken(() =>
		hops().update(
			{
				name: input.name,
				siteAId: input.siteAId,
				siteBId: input.siteBId,
				planDraft: JSON.stringify(input.plan),
				simulationSeed: seed,
				plantedFault: plantedFaultOf(input, row.plantedFault),
				version: version + 1,
				updatedAt: new Date()
			},
			{ where: { id, version } }
		)
	);
	if (changed === 0) {
		throw refusal('changed-meanwhile', { what: 'hop' });
	}
	await audit(actor.userId, 'update-hop', `hop:${id}`, { before: JSON.parse(row.planDraft) });
	return getHop(actor, id);
}

/** The fault to keep: as asked, the present one where nothing is asked, one by lot for `any`. */
function plantedFaultOf(input: HopInput, present: string | null): string | null {
	if (!input.practice || input.plantedFault === null) return null;
	if (input.plantedFault === undefined) return present;
	return input.plantedFault === 'any'
		? SIMULATED_FAULTS[randomInt(SIMULATED_FAULTS.length)]!
		: input.plantedFault;
}

async function requireSites(input: HopInput): Promise<void> {
	const found = await sites().findAll({
		where: { id: [input.siteAId, input.siteBId] },
		attributes: ['id'],
		raw: true
	});
	const ids = new Set(found.map((row) => (row as unknown as { id: string }).id));
	const missing = (['siteAId', 'siteBId'] as const).filter((field) => !ids.has(input[field]));
	if (missing.length) {
		throw invalid(missing.map((field) => ({ field, message: 'Choose a site that exists.' })));
	}
}

async function sayNameTaken<T>(work: () => Promise<T>): Promise<T> {
	try {
		return await work();
	} catch (error) {
		if (!(error instanceof UniqueConstraintError)) throw error;
		throw refusal('name-taken', 'hop').at('name');
	}
}

export interface Member {
	id: string;
	displayName: string;
	role: string;
}

export async function listMembers(actor: Actor, hopId: string): Promise<Member[]> {
	await getHopRow(actor, hopId);
	return db().query<Member>(
		`SELECT u.id, u.display_name AS displayName, u.role FROM hop_members m
		JOIN users u ON u.id = m.user_id WHERE m.hop_id = ? ORDER BY u.display_name`,
		{ replacements: [hopId], type: QueryTypes.SELECT }
	);
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
	const known = await users().count({ where: { id: ids } });
	if (known !== ids.length) {
		throw invalid([{ field: 'memberIds', message: 'One of these people has no account.' }]);
	}
	await inTransaction(async (transaction) => {
		await db().query('DELETE FROM hop_members WHERE hop_id = ?', {
			replacements: [hopId],
			transaction
		});
		await db().query('INSERT INTO hop_members (hop_id, user_id) VALUES ?', {
			replacements: [ids.map((id) => [hopId, id])],
			transaction
		});
		await audit(actor.userId, 'set-members', `hop:${hopId}`, { ids }, transaction);
	});
	return listMembers(actor, hopId);
}

/** Throws unless the actor may add field records to this hop. */
export function requireMayRecord(actor: Actor, hop: HopRow): void {
	if (may(actor, 'record')) return;
	if (may(actor, 'record-practice')) {
		if (hop.simulationSeed !== null) return;
		throw refusal('practice-only');
	}
	throw forbidden('record on this hop');
}
