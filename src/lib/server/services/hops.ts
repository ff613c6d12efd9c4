import { randomInt, randomUUID } from 'node:crypto';
import { QueryTypes, UniqueConstraintError, type Transaction } from 'sequelize';
import type { End } from '$core/ends';
import type { PlanDraftValues } from '../../plan/resolve';
import { may, requireMay, type Actor } from '../auth/actor';
import { db, inTransaction } from '../db/connection';
import { hops, sites, users, type HopRow, type SiteRow } from '../db/models';
import { AppError, conflict, forbidden, invalid, notFound } from '../errors';
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

export async function listHops(
	actor: Actor,
	query: { q: string; page: number }
): Promise<Page<HopSummary>> {
	requireMay(actor, 'read-hops');
	const { join, replacements } = visibleTo(actor);
	const pattern = query.q ? likePattern(query.q) : undefined;
	const where = pattern ? 'WHERE h.name LIKE ? OR a.name LIKE ? OR b.name LIKE ?' : '';
	const from = `FROM hops h ${join}
		JOIN sites a ON a.id = h.site_a_id JOIN sites b ON b.id = h.site_b_id ${where}`;
	const values = [...replacements, ...(pattern ? [pattern, pattern, pattern] : [])];
	return pageOf(query.page, async (limit, offset) => {
		const [total] = await db().query<{ count: number }>(`SELECT COUNT(*) AS count ${from}`, {
			replacements: values,
			type: QueryTypes.SELECT
		});
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
			${from} ORDER BY h.updated_at DESC, h.id LIMIT ? OFFSET ?`,
			{ replacements: [...values, limit, offset], type: QueryTypes.SELECT }
		);
		return {
			count: Number(total?.count ?? 0),
			rows: rows.map((row) => ({
				id: row.id,
				name: row.name,
				siteAName: row.a,
				siteBName: row.b,
				practice: row.seed !== null,
				revision: row.revision,
				records: Number(row.records ?? 0),
				signed: Boolean(row.signed),
				updatedAt: row.updated
			}))
		};
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
	return hopOf(await getHopRow(actor, id));
}

async function hopOf(row: HopRow): Promise<Hop> {
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
				version: version + 1,
				updatedAt: new Date()
			},
			{ where: { id, version } }
		)
	);
	if (changed === 0) {
		throw conflict(
			'changed-meanwhile',
			'Somebody else has changed this hop meanwhile. Load it again and repeat the change.'
		);
	}
	await audit(actor.userId, 'update-hop', `hop:${id}`, { before: JSON.parse(row.planDraft) });
	return getHop(actor, id);
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
		throw conflict('name-taken', 'Another hop has this name.', [
			{ field: 'name', message: 'Another hop has this name.' }
		]);
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
		throw new AppError(403, 'practice-only', 'A trainee records on practice hops only.');
	}
	throw forbidden('record on this hop');
}
