import type { End } from '#core/ends';
import { partsOf } from '#core/units/lists';
import { select } from '../db/sql';
import { feeds, hops, members, type HopRow } from '../db/tables';
import type { Unit } from '../db/transaction';
import { boxOf, type MapView } from './box';
import { addHopWords, renewHopWords } from './words';

export type { HopRow };

/** Whose hops are meant: those a person is a member of, or every one. */
export interface Viewer {
	userId: string;
	everything: boolean;
}

/** Joins `hops h` to what a viewer may see. */
export function seenBy(viewer: Viewer): { join: string; values: string[] } {
	return viewer.everything
		? { join: '', values: [] }
		: {
				join: 'JOIN hop_members m ON m.hop_id = h.id AND m.user_id = ?',
				values: [viewer.userId]
			};
}

/** Those of some hops that somebody sees. */
export async function seenOf(viewer: Viewer, ids: readonly string[]): Promise<Set<string>> {
	if (ids.length === 0) return new Set();
	const { join, values } = seenBy(viewer);
	const rows = await select<{ id: string }>(`SELECT h.id FROM hops h ${join} WHERE h.id IN (?)`, [
		...values,
		ids
	]);
	return new Set(rows.map(({ id }) => id));
}

/** How many hops somebody sees. */
export function countHops(viewer: Viewer): Promise<number> {
	return viewer.everything ? hops.count() : members.count({ userId: viewer.userId });
}

/** A hop as its table keeps it; `planDraft` is JSON. */
export function findHop(id: string, unit?: Unit): Promise<HopRow | undefined> {
	return hops.one({ id }, unit ? { unit } : {});
}

/** Whether a hop is there and one for practice. */
export async function isPractice(id: string, unit: Unit): Promise<boolean> {
	const [row] = await hops.some(['simulationSeed'], { id }, { unit });
	return row !== undefined && row.simulationSeed !== null;
}

/** Throws TakenError where a name is in use. */
export async function insertHops(rows: readonly HopRow[], unit: Unit): Promise<void> {
	await hops.add(rows, unit);
	await addHopWords(
		rows.map(({ id }) => id),
		unit
	);
}

/** Whether the hop still had that version and is changed now. Throws TakenError as above. */
export async function updateHop(
	id: string,
	version: number,
	values: Omit<HopRow, 'id' | 'version' | 'createdBy' | 'createdAt' | 'archivedAt'>,
	unit: Unit
): Promise<boolean> {
	const changed =
		(await hops.change({ id, version }, { ...values, version: version + 1 }, unit)) > 0;
	if (changed) await renewHopWords([id], unit);
	return changed;
}

/** Puts a hop away, or takes it out again: whether there was one that was not so already. */
export async function setArchived(id: string, at: Date | null, unit: Unit): Promise<boolean> {
	return (await hops.change({ id }, { archivedAt: at }, unit)) > 0;
}

/** Removes a hop of which nothing was issued and nothing recorded. Throws InUseError where something was. */
export async function removeHop(id: string, unit: Unit): Promise<void> {
	await feeds.remove({ hopId: id }, unit);
	await hops.remove({ id }, unit);
}

/** What a practice hop's simulation is made from, set beside its plan. */
export async function updateSimulation(
	id: string,
	simulationSeed: number,
	plantedFault: string | null
): Promise<void> {
	await hops.change({ id }, { simulationSeed, plantedFault });
}

/** Those of the names that a hop has, in small letters: also of hops that one may not see. */
export async function takenHopNames(names: readonly string[]): Promise<Set<string>> {
	const found = new Set<string>();
	for (const part of partsOf([...new Set(names)], NAMES_AT_ONCE)) {
		for (const { name } of await hops.some(['name'], { name: part })) found.add(name.toLowerCase());
	}
	return found;
}

/** Names looked for in one statement. */
const NAMES_AT_ONCE = 500;

/** A hop with the names of its sites, for an export. */
export interface NamedHop {
	name: string;
	siteA: string;
	siteB: string;
	simulationSeed: number | null;
	/** JSON. */
	planDraft: string;
}

/** Every hop somebody sees, by name. */
export function allHops(viewer: Viewer): Promise<NamedHop[]> {
	const { join, values } = seenBy(viewer);
	return select(
		`SELECT h.name, a.name AS siteA, b.name AS siteB, h.simulation_seed AS simulationSeed,
			h.plan_draft AS planDraft
		FROM hops h ${join} JOIN sites a ON a.id = h.site_a_id JOIN sites b ON b.id = h.site_b_id
		ORDER BY h.name`,
		values
	);
}

/** Who works on a hop, as lists show it. */
export interface Member {
	id: string;
	displayName: string;
	role: string;
}

export async function isMember(hopId: string, userId: string): Promise<boolean> {
	return (await members.count({ hopId, userId })) > 0;
}

export function membersOf(hopId: string): Promise<Member[]> {
	return select(
		`SELECT u.id, u.display_name AS displayName, u.role FROM hop_members m
		JOIN users u ON u.id = m.user_id WHERE m.hop_id = ? ORDER BY u.display_name`,
		[hopId]
	);
}

/** Everyone of these works on every one of these. */
export function insertMembers(
	hopIds: readonly string[],
	userIds: readonly string[],
	unit: Unit
): Promise<void> {
	return members.add(
		hopIds.flatMap((hopId) => userIds.map((userId) => ({ hopId, userId }))),
		unit
	);
}

export async function replaceMembers(
	hopId: string,
	userIds: readonly string[],
	unit: Unit
): Promise<void> {
	await members.remove({ hopId }, unit);
	await insertMembers([hopId], userIds, unit);
}

/** A hop as its sites' other hops need to know it. */
export interface HopAtSite {
	id: string;
	name: string;
	member: number;
	siteA: string;
	siteB: string;
	/** JSON. */
	planDraft: string;
	latA: number;
	lonA: number;
	latB: number;
	lonB: number;
}

/** More hops at a handful of sites than this are no sites any more. */
const MOST_HOPS_AT_SITES = 4000;

/** Every hop that stands at one of the sites, also those the asker may not see. */
export function hopsAtSites(userId: string, siteIds: readonly string[]): Promise<HopAtSite[]> {
	const ids = [...new Set(siteIds)];
	return select(
		`SELECT h.id, h.name, h.site_a_id AS siteA, h.site_b_id AS siteB, h.plan_draft AS planDraft,
			EXISTS (SELECT 1 FROM hop_members m WHERE m.hop_id = h.id AND m.user_id = ?) AS member,
			a.latitude_deg AS latA, a.longitude_deg AS lonA, b.latitude_deg AS latB, b.longitude_deg AS lonB
		FROM (
			SELECT id FROM hops WHERE site_a_id IN (?) UNION SELECT id FROM hops WHERE site_b_id IN (?)
		) near
		JOIN hops h ON h.id = near.id
		JOIN sites a ON a.id = h.site_a_id JOIN sites b ON b.id = h.site_b_id
		LIMIT ?`,
		[userId, ids, ids, MOST_HOPS_AT_SITES]
	);
}

/** A hop to be planned again, with what was issued of it. */
export interface HopToReplan {
	id: string;
	name: string;
	/** JSON. */
	planDraft: string;
	siteIds: Record<End, string>;
	/** JSON and figures of both sites. */
	sites: Record<End, SiteOfHop>;
	/** Figures of the newest revision; null while none is issued. */
	levelA: number | null;
	levelB: number | null;
	availability: number | null;
}

export interface SiteOfHop {
	name: string;
	latitudeDeg: number;
	longitudeDeg: number;
	groundAmslM: number;
	climate: string | null;
	conditions: string | null;
}

const SITE_COLUMNS = {
	name: 'name',
	latitudeDeg: 'latitude_deg',
	longitudeDeg: 'longitude_deg',
	groundAmslM: 'ground_amsl_m',
	climate: 'climate',
	conditions: 'conditions'
} as const satisfies Record<keyof SiteOfHop, string>;

type ReplanRow = Omit<HopToReplan, 'siteIds' | 'sites'> & {
	siteAId: string;
	siteBId: string;
} & Record<`${End}_${keyof SiteOfHop}`, unknown>;

/** Figures of both sites, as columns of a row. */
const siteColumns = (): string =>
	(['A', 'B'] as const)
		.flatMap((end) =>
			Object.entries(SITE_COLUMNS).map(([as, column]) => `site${end}.${column} AS ${end}_${as}`)
		)
		.join(', ');

/** The hops somebody sees in the order of their ids, a batch after an id. */
export async function hopsToReplan(
	viewer: Viewer,
	after: string,
	limit: number
): Promise<HopToReplan[]> {
	const { join, values } = seenBy(viewer);
	const rows = await select<ReplanRow>(
		`SELECT h.id, h.name, h.plan_draft AS planDraft, h.site_a_id AS siteAId, h.site_b_id AS siteBId,
			${siteColumns()},
			JSON_VALUE(r.plan, '$.received.A.plannedLevelDbm') AS levelA,
			JSON_VALUE(r.plan, '$.received.B.plannedLevelDbm') AS levelB,
			JSON_VALUE(r.plan, '$.availability.achievedPercent') AS availability
		FROM hops h ${join}
		JOIN sites siteA ON siteA.id = h.site_a_id JOIN sites siteB ON siteB.id = h.site_b_id
		LEFT JOIN plan_revisions r ON r.hop_id = h.id
			AND r.number = (SELECT MAX(number) FROM plan_revisions n WHERE n.hop_id = h.id)
		WHERE h.id > ? ORDER BY h.id LIMIT ?`,
		[...values, after, limit]
	);
	const figure = (value: number | string | null): number | null =>
		value === null ? null : Number(value);
	return rows.map((row) => ({
		id: row.id,
		name: row.name,
		planDraft: row.planDraft,
		siteIds: { A: row.siteAId, B: row.siteBId },
		sites: { A: siteIn(row, 'A'), B: siteIn(row, 'B') },
		levelA: figure(row.levelA),
		levelB: figure(row.levelB),
		availability: figure(row.availability)
	}));
}

const siteIn = (row: ReplanRow, end: End): SiteOfHop =>
	Object.fromEntries(
		Object.keys(SITE_COLUMNS).map((name) => [name, row[`${end}_${name as keyof SiteOfHop}`]])
	) as unknown as SiteOfHop;

/** A hop in reach of another, its draft without the profile. */
export interface HopInReach {
	id: string;
	name: string;
	member: number;
	/** JSON. */
	planDraft: string;
	sites: Record<End, SiteOfHop>;
}

/**
 * The hops with an end in a box that send between two frequencies, on either pair; as many as the limit. The
 * index on places is read by itself, once for either end: with a table made on the way the database locks
 * it, which the isolation of a reader does not allow.
 */
export async function hopsInReach(
	userId: string,
	view: MapView,
	ghz: readonly [number, number],
	limit: number
): Promise<HopInReach[]> {
	const sent = ['transmitFrequencyGhz', 'secondTransmitFrequencyGhz'].flatMap((field) =>
		(['A', 'B'] as const).map(
			(end) => `CAST(JSON_VALUE(h.plan_draft, '$.ends.${end}.${field}') AS DOUBLE) BETWEEN ? AND ?`
		)
	);
	const near = (column: 'site_a_id' | 'site_b_id'): Promise<{ id: string }[]> =>
		select(
			`SELECT h.id FROM sites s FORCE INDEX (ix_sites_place) JOIN hops h ON h.${column} = s.id
			WHERE MBRIntersects(ST_GeomFromText(?), s.place)
				AND s.latitude_deg BETWEEN ? AND ? AND s.longitude_deg BETWEEN ? AND ?
				AND (${sent.join(' OR ')}) LIMIT ?`,
			[...boxOf(view), ...sent.flatMap(() => ghz), limit]
		);
	const found = [...(await near('site_a_id')), ...(await near('site_b_id'))];
	const ids = [...new Set(found.map(({ id }) => id))].toSorted().slice(0, limit);
	if (ids.length === 0) return [];
	const rows = await select<ReplanRow & { member: number }>(
		`SELECT h.id, h.name, JSON_REMOVE(h.plan_draft, '$.path.profile') AS planDraft,
			EXISTS (SELECT 1 FROM hop_members m WHERE m.hop_id = h.id AND m.user_id = ?) AS member,
			${siteColumns()}
		FROM hops h
		JOIN sites siteA ON siteA.id = h.site_a_id JOIN sites siteB ON siteB.id = h.site_b_id
		WHERE h.id IN (?) ORDER BY h.id`,
		[userId, ids]
	);
	return rows.map(({ id, name, member, planDraft, ...row }) => ({
		...{ id, name, member, planDraft },
		sites: { A: siteIn(row as ReplanRow, 'A'), B: siteIn(row as ReplanRow, 'B') }
	}));
}

/** Some hops by their ids, from after one of them: to go through all. */
export function hopIdsAfter(after: string, limit: number): Promise<Pick<HopRow, 'id' | 'name'>[]> {
	return select('SELECT id, name FROM hops WHERE id > ? ORDER BY id LIMIT ?', [after, limit]);
}

/** Which of the people work on which of the hops, as `hop person`. */
export async function memberships(
	hopIds: readonly string[],
	userIds: readonly string[]
): Promise<Set<string>> {
	if (hopIds.length === 0 || userIds.length === 0) return new Set();
	const rows = await select<{ hopId: string; userId: string }>(
		`SELECT hop_id AS hopId, user_id AS userId FROM hop_members
		WHERE hop_id IN (:hopIds) AND user_id IN (:userIds)`,
		{ hopIds, userIds }
	);
	return new Set(rows.map(({ hopId, userId }) => `${hopId} ${userId}`));
}
