import { itemAt } from '#core/units/lists';
import { randomUUID } from 'node:crypto';
import { requireMay, type Actor } from '../auth/actor';
import { InUseError, unlessTaken } from '../db/taken';
import { inTransaction, type Unit } from '../db/transaction';
import { invalid, notFound, refusal } from '../errors';
import { audit, auditEach } from '../repositories/audit';
import {
	findSite,
	insertSites as insertSiteRows,
	countStandingAt,
	pageOfSites,
	removeSite,
	updateSite as updateSiteRow,
	type Site,
	type SiteContent
} from '../repositories/sites';
import { pageOf, type ListQuery, type Page } from './paging';
import { groundAt } from './terrain';

export type { Site };

export interface SiteInput extends SiteContent {
	version?: number;
}

/** A site as it is typed: without a ground height it gets that of the terrain. */
export type TypedSite = Omit<SiteInput, 'groundAmslM'> & { groundAmslM: number | null };

export async function listSites(actor: Actor, query: ListQuery): Promise<Page<Site>> {
	requireMay(actor, 'read-hops');
	return pageOf(query, (slice) => pageOfSites(query.q, slice));
}

export async function getSite(actor: Actor, id: string): Promise<Site> {
	requireMay(actor, 'read-hops');
	const site = await findSite(id);
	if (!site) throw notFound('site');
	return site;
}

export async function createSite(actor: Actor, typed: TypedSite): Promise<Site> {
	requireMay(actor, 'edit-sites');
	const input = await withGround(typed);
	return getSite(actor, await inTransaction((unit) => insertSite(actor, input, unit)));
}

async function withGround(typed: TypedSite): Promise<SiteInput> {
	const { groundAmslM } = typed;
	if (groundAmslM !== null) return { ...typed, groundAmslM };
	const found = await groundAt(typed);
	if (found === undefined) {
		const message = 'No terrain is kept of this place: type the ground height.';
		throw invalid([{ field: 'groundAmslM', message }]);
	}
	// To the decimetre, as the table keeps it.
	return { ...typed, groundAmslM: Math.round(found * 10) / 10 };
}

/** The inner part of {@link createSite}, for callers that make several things or none. */
export async function insertSite(
	actor: Actor,
	input: SiteInput,
	unit: Unit,
	id: string = randomUUID()
): Promise<string> {
	await insertSites(actor, [input], unit, [id]);
	return id;
}

/** Several sites in a few statements. */
export async function insertSites(
	actor: Actor,
	inputs: readonly SiteContent[],
	unit: Unit,
	ids: readonly string[] = inputs.map(() => randomUUID())
): Promise<void> {
	requireMay(actor, 'edit-sites');
	const added = inputs.map((content, i) => ({ id: itemAt(ids, i), content }));
	await sayTaken(() => insertSiteRows(added, actor.userId, new Date(), unit));
	const lines = added.map(({ id, content }) => ({
		subject: `site:${id}`,
		detail: { name: content.name }
	}));
	await auditEach(actor.userId, 'create-site', lines, unit);
}

/** Makes a site under an id that it has elsewhere; one that is here already stays as it is. */
export async function insertSiteAs(
	actor: Actor,
	id: string,
	input: SiteInput,
	unit: Unit
): Promise<void> {
	if (!(await findSite(id, unit))) await insertSite(actor, input, unit, id);
}

export async function updateSite(actor: Actor, id: string, typed: TypedSite): Promise<Site> {
	requireMay(actor, 'edit-sites');
	const before = await getSite(actor, id);
	const input = await withGround(typed);
	const version = input.version ?? before.version;
	const changed = await sayTaken(() =>
		inTransaction((unit) => updateSiteRow(id, version, input, new Date(), unit))
	);
	if (!changed) throw refusal('changed-meanwhile', { what: 'site' });
	await audit(actor.userId, 'update-site', `site:${id}`, { before });
	return getSite(actor, id);
}

/** Deletes a site at which no hop and no hub stands, with its attachments. */
export async function deleteSite(actor: Actor, id: string): Promise<void> {
	requireMay(actor, 'edit-sites');
	const { name } = await getSite(actor, id);
	try {
		await inTransaction(async (unit) => {
			await removeSite(id, unit);
			await audit(actor.userId, 'delete-site', `site:${id}`, { name }, unit);
		});
	} catch (error) {
		if (error instanceof InUseError) throw refusal('site-in-use', await countStandingAt(id));
		throw error;
	}
}

function sayTaken<T>(work: () => Promise<T>): Promise<T> {
	return unlessTaken(work, ({ key }) => {
		throw key.includes('position')
			? refusal('position-taken').at('latitudeDeg')
			: refusal('name-taken', 'site').at('name');
	});
}
