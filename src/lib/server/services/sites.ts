import { randomUUID } from 'node:crypto';
import { QueryTypes, UniqueConstraintError, type Transaction } from 'sequelize';
import { UNSAID_CLIMATE, type ClimateChoice } from '#core/budget/climate';
import { UNKNOWN_CONDITIONS } from '#core/budget/planDefaults';
import type { SiteConditions } from '#core/budget/planInput';
import { requireMay, type Actor } from '../auth/actor';
import { db, inTransaction } from '../db/connection';
import { sites, type SiteRow } from '../db/models';
import { notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';
import { likePattern, pageOf, type Page } from './paging';

export interface SiteInput {
	name: string;
	latitudeDeg: number;
	longitudeDeg: number;
	groundAmslM: number;
	notes: string;
	climate: ClimateChoice;
	conditions: SiteConditions;
	version?: number;
}

export interface Site extends Omit<SiteInput, 'version'> {
	id: string;
	version: number;
}

export async function listSites(
	actor: Actor,
	query: { q: string; page: number }
): Promise<Page<Site>> {
	requireMay(actor, 'read-hops');
	const where = query.q ? 'WHERE name LIKE ?' : '';
	const values = query.q ? [likePattern(query.q)] : [];
	return pageOf(query.page, async (limit, offset) => {
		const [total] = await db().query<{ count: number }>(
			`SELECT COUNT(*) AS count FROM sites ${where}`,
			{ replacements: values, type: QueryTypes.SELECT }
		);
		// The page is found over the index of names alone; only its rows are read.
		const rows = await db().query<Record<string, unknown>>(
			`SELECT s.id, s.name, s.latitude_deg AS latitudeDeg, s.longitude_deg AS longitudeDeg,
				s.ground_amsl_m AS groundAmslM, s.notes, s.climate, s.conditions, s.version
			FROM (SELECT id FROM sites ${where} ORDER BY name LIMIT ? OFFSET ?) p
			JOIN sites s ON s.id = p.id ORDER BY s.name`,
			{ replacements: [...values, limit, offset], type: QueryTypes.SELECT }
		);
		return {
			count: Number(total?.count ?? 0),
			rows: rows.map((row) => siteOf(row as unknown as SiteRow))
		};
	});
}

export async function getSite(actor: Actor, id: string): Promise<Site> {
	requireMay(actor, 'read-hops');
	const row = (await sites().findByPk(id, { raw: true })) as SiteRow | null;
	if (!row) throw notFound('site');
	return siteOf(row);
}

export async function createSite(actor: Actor, input: SiteInput): Promise<Site> {
	return getSite(
		actor,
		await inTransaction((transaction) => insertSite(actor, input, transaction))
	);
}

/** The inner part of {@link createSite}, for callers that make several things or none. */
export async function insertSite(
	actor: Actor,
	input: SiteInput,
	transaction: Transaction,
	id: string = randomUUID()
): Promise<string> {
	requireMay(actor, 'edit-sites');
	const now = new Date();
	await sayTaken(() =>
		sites().create(
			{
				id,
				...columnsOf(input),
				version: 1,
				createdBy: actor.userId,
				createdAt: now,
				updatedAt: now
			},
			{ transaction }
		)
	);
	await audit(actor.userId, 'create-site', `site:${id}`, { name: input.name }, transaction);
	return id;
}

/** Makes a site under an id that it has elsewhere; one that is here already stays as it is. */
export async function insertSiteAs(
	actor: Actor,
	id: string,
	input: SiteInput,
	transaction: Transaction
): Promise<void> {
	if (!(await sites().findByPk(id, { transaction }))) {
		await insertSite(actor, input, transaction, id);
	}
}

export async function updateSite(actor: Actor, id: string, input: SiteInput): Promise<Site> {
	requireMay(actor, 'edit-sites');
	const before = await getSite(actor, id);
	const version = input.version ?? before.version;
	const [changed] = await sayTaken(() =>
		sites().update(
			{
				...columnsOf(input),
				version: version + 1,
				updatedAt: new Date()
			},
			{ where: { id, version } }
		)
	);
	if (changed === 0) {
		throw refusal('changed-meanwhile', { what: 'site' });
	}
	await audit(actor.userId, 'update-site', `site:${id}`, { before });
	return getSite(actor, id);
}

/** What a form says of a site, as the table keeps it. */
function columnsOf(
	input: SiteInput
): Omit<SiteRow, 'id' | 'version' | 'createdBy' | 'createdAt' | 'updatedAt'> {
	const { name, latitudeDeg, longitudeDeg, groundAmslM, notes, climate, conditions } = input;
	return {
		name,
		latitudeDeg: rounded(latitudeDeg),
		longitudeDeg: rounded(longitudeDeg),
		groundAmslM,
		notes,
		climate: JSON.stringify(climate),
		conditions: JSON.stringify(conditions)
	};
}

/** Six decimals, a decimetre: what the table keeps, so that equal positions are found equal. */
const rounded = (deg: number): number => Math.round(deg * 1e6) / 1e6;

async function sayTaken<T>(work: () => Promise<T>): Promise<T> {
	try {
		return await work();
	} catch (error) {
		if (!(error instanceof UniqueConstraintError)) throw error;
		const position = JSON.stringify(error.fields).includes('position');
		throw position
			? refusal('position-taken').at('latitudeDeg')
			: refusal('name-taken', 'site').at('name');
	}
}

export function siteOf(row: SiteRow): Site {
	const { id, name, latitudeDeg, longitudeDeg, groundAmslM, notes, version } = row;
	return {
		id,
		name,
		latitudeDeg: Number(latitudeDeg),
		longitudeDeg: Number(longitudeDeg),
		groundAmslM: Number(groundAmslM),
		notes,
		climate: row.climate ? (JSON.parse(row.climate) as ClimateChoice) : UNSAID_CLIMATE,
		conditions: row.conditions
			? (JSON.parse(row.conditions) as SiteConditions)
			: UNKNOWN_CONDITIONS,
		version
	};
}
