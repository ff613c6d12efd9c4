import type { End } from '#core/ends';
import { inverseGeodesic } from '#core/geodesy/geodesic';
import { hopTrouble } from '#core/record/hopTrouble';
import type { CardsStanding } from '#core/safety/cardRule';
import { partsOf } from '#core/units/lists';
import { countRows, select, timeText } from '../db/sql';
import { feeds, hops, members, type HopRow } from '../db/tables';
import type { Unit } from '../db/transaction';
import { soughtWords } from '../nameWords';
import { openSnagsIn } from './feeds';
import { COUNTED, type Found, type Slice } from './lists';
import { boxOf, type MapView } from './box';
import { addHopWords, hasWords, planSearch, renewHopWords } from './words';

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

/** What the list shows of a hop. */
export interface HopSummary {
	id: string;
	name: string;
	siteAName: string;
	siteBName: string;
	/** Along the ground, km. */
	distanceKm: number;
	/** What A sends on by the draft of the plan, GHz; null where it says none. */
	frequencyGhz: number | null;
	practice: boolean;
	archived: boolean;
	revision: number | null;
	records: number;
	signed: boolean;
	/** What was recorded last; null where nothing was. */
	last: { by: string; at: Date; end: End } | null;
	/** What has to be seen to, in words; nothing where all is well as far as the list tells. */
	trouble: string[];
	updatedAt: Date;
}

/** Which hops a list shows: those worked on, some of them by how far they are, or those put away. */
export const HOP_STANDINGS = [
	'open',
	'draft',
	'issued',
	'field',
	'accepted',
	'trouble',
	'archived'
] as const;
export type HopStanding = (typeof HOP_STANDINGS)[number];

const ISSUED = 'EXISTS (SELECT 1 FROM plan_revisions r WHERE r.hop_id = h.id)';
const ACCEPTED = 'EXISTS (SELECT 1 FROM acceptances x WHERE x.hop_id = h.id)';
const feedHas = (what: string): string =>
	`EXISTS (SELECT 1 FROM hop_feeds f WHERE f.hop_id = h.id AND (${what}))`;

/** What a standing asks of `hops h`. */
const STANDING_SQL: Record<HopStanding, string> = {
	open: 'TRUE',
	draft: `NOT ${ISSUED}`,
	issued: `${ISSUED} AND ${feedHas('f.last_seq = 0')} AND NOT ${ACCEPTED}`,
	field: `${feedHas('f.last_seq > 0')} AND NOT ${ACCEPTED}`,
	accepted: ACCEPTED,
	// As the texts are written here: a card that says no, a snag by its day, a visit.
	trouble: feedHas(
		`f.cards LIKE '%"go":false%' OR f.open_snags LIKE '%:%' OR f.open_visit IS NOT NULL
			OR f.sent_back`
	),
	archived: 'h.archived_at IS NOT NULL'
};

/** By what a list of hops is sorted. */
export const HOP_SORTS = ['changed', 'name'] as const;
export type HopSort = (typeof HOP_SORTS)[number];

/** Which hops are asked for, and in which order. */
export interface HopChoice {
	q: string;
	standing: HopStanding;
	sort: HopSort;
}

/** How each order is read, and what goes on from a hop that a page ends with. */
const ORDERS: Record<
	HopSort,
	{ index: string; by: string; after: string; pass(text: string, id: string): string[] | undefined }
> = {
	changed: {
		index: 'ix_hops_updated',
		by: 'ORDER BY h.updated_at DESC, h.id DESC',
		after: 'h.updated_at <= ? AND (h.updated_at < ? OR h.id < ?)',
		pass: (ms, id) => {
			const at = new Date(Number(ms || NaN));
			return Number.isFinite(at.getTime()) ? [timeText(at), timeText(at), id] : undefined;
		}
	},
	name: {
		index: 'uq_hops_name',
		by: 'ORDER BY h.name',
		after: 'h.name > (SELECT n.name FROM hops n WHERE n.id = ?)',
		pass: (_, id) => [id]
	}
};

/**
 * One page of hops, in the order asked for; with words, those with each of them in their own name or in
 * those of their sites. Ids are found over narrow indexes, no more are counted than a person turns the
 * pages of, and only a page of them is joined to names and standing: a page costs the same beside many
 * thousands.
 */
export async function pageOfHops(
	viewer: Viewer,
	{ q, standing, sort }: HopChoice,
	slice: Slice,
	today: string
): Promise<Found<HopSummary>> {
	const order = ORDERS[sort];
	const all = q ? await foundByWords(viewer, q, order.index) : await ofViewer(viewer, order.index);
	if (!all) return { rows: [], count: 0 };
	const putAway = standing === 'archived' ? '' : 'h.archived_at IS NULL AND ';
	const from = { ...all, sql: `${all.sql} AND ${putAway}${STANDING_SQL[standing]}` };
	const counted = await countUpTo(from, order.by);
	const [mark = '', id = ''] = (slice.after ?? '').split('~');
	const passed = id ? order.pass(mark, id) : undefined;
	const ids = await idsOf(
		`SELECT h.id ${from.sql}${passed ? ` AND ${order.after}` : ''} ${order.by} LIMIT ? OFFSET ?`,
		[...from.values, ...(passed ?? []), slice.limit + 1, passed ? 0 : slice.offset]
	);
	const rows = ids.length ? await summaries(ids.slice(0, slice.limit), today) : [];
	const last = rows.at(-1);
	return {
		...counted,
		rows,
		next: ids.length > slice.limit && last ? `${last.updatedAt.getTime()}~${last.id}` : null
	};
}

/** A part of a statement that goes on from `SELECT` something of `hops h`, and may be followed by AND. */
interface From {
	sql: string;
	values: unknown[];
}

/** How many there are, and whether there are more than {@link COUNTED}. */
async function countUpTo(
	{ sql, values }: From,
	order: string
): Promise<{ count: number; more: boolean }> {
	// In the order of the list: whose hops are the newest would wait for all older ones to be passed by.
	const count = await countRows(`FROM (SELECT 1 ${sql} ${order} LIMIT ?) x`, [
		...values,
		COUNTED + 1
	]);
	return { count: Math.min(count, COUNTED), more: count > COUNTED };
}

/** How many hops somebody sees. */
export function countHops(viewer: Viewer): Promise<number> {
	return viewer.everything ? hops.count() : members.count({ userId: viewer.userId });
}

async function idsOf(sql: string, values: readonly unknown[]): Promise<string[]> {
	return (await select<{ id: string }>(sql, values)).map((row) => row.id);
}

/** Hops read in their order, of which a viewer sees some. */
function inOrder({ userId, everything }: Viewer, index: string): From {
	const all = `FROM hops h FORCE INDEX (${index})`;
	return everything
		? { sql: `${all} WHERE TRUE`, values: [] }
		: {
				sql: `${all} STRAIGHT_JOIN hop_members m ON m.hop_id = h.id WHERE m.user_id = ?`,
				values: [userId]
			};
}

async function ofViewer(viewer: Viewer, index: string): Promise<From> {
	if (viewer.everything) return inOrder(viewer, index);
	const mine = 'FROM hop_members m JOIN hops h ON h.id = m.hop_id WHERE m.user_id = ?';
	const own = await countRows('FROM (SELECT 1 FROM hop_members WHERE user_id = ? LIMIT ?) x', [
		viewer.userId,
		COUNTED + 1
	]);
	// Somebody with so many has a good part of those there are: they are read in their order.
	return own > COUNTED ? inOrder(viewer, index) : { sql: mine, values: [viewer.userId] };
}

/** Undefined where nothing typed could be part of a name. */
async function foundByWords(
	viewer: Viewer,
	typed: string,
	index: string
): Promise<From | undefined> {
	const words = soughtWords(typed);
	if (words.length === 0) return undefined;
	const { common, patterns } = await planSearch('hop', words);
	if (common) {
		const { sql, values } = inOrder(viewer, index);
		return {
			sql: `${sql} AND ${hasWords('hop', 'h', patterns)}`,
			values: [...values, ...patterns]
		};
	}
	const [rarest, ...others] = patterns;
	const { join, values } = seenBy(viewer);
	return {
		sql: `FROM (SELECT DISTINCT hop_id FROM hop_words WHERE word LIKE ?) f
			JOIN hops h ON h.id = f.hop_id ${join} WHERE ${hasWords('hop', 'h', others) || 'TRUE'}`,
		values: [rarest, ...values, ...others]
	};
}

/** What the list shows of hops, in the order of the ids. */
async function summaries(ids: readonly string[], today: string): Promise<HopSummary[]> {
	const rows = await select<SummaryRow>(
		`SELECT h.id, h.name, a.name AS siteAName, b.name AS siteBName, h.simulation_seed AS seed,
			a.latitude_deg AS latA, a.longitude_deg AS lonA, b.latitude_deg AS latB, b.longitude_deg AS lonB,
			JSON_VALUE(h.plan_draft, '$.ends.A.transmitFrequencyGhz') AS frequencyGhz,
			h.updated_at AS updatedAt, h.archived_at AS archivedAt,
			(SELECT MAX(number) FROM plan_revisions r WHERE r.hop_id = h.id) AS revision,
			f.last_seq AS records, f.cards, f.open_snags AS openSnags, f.open_visit AS openVisit,
			f.sent_back AS sentBack,
			x.end AS lastEnd, x.recorded_at AS lastAt, u.display_name AS lastBy,
			${ACCEPTED} AS signed
		FROM hops h JOIN sites a ON a.id = h.site_a_id JOIN sites b ON b.id = h.site_b_id
		LEFT JOIN hop_feeds f ON f.hop_id = h.id
		LEFT JOIN field_records x ON x.hop_id = h.id AND x.seq = f.last_seq
		LEFT JOIN users u ON u.id = x.recorded_by
		WHERE h.id IN (?)`,
		[ids]
	);
	const byId = new Map(rows.map((row) => [row.id, row]));
	return ids.flatMap((id) => {
		const row = byId.get(id);
		return row ? [summaryOf(row, today)] : [];
	});
}

type SummaryRow = Pick<HopSummary, 'id' | 'name' | 'siteAName' | 'siteBName' | 'updatedAt'> &
	Record<'latA' | 'lonA' | 'latB' | 'lonB', number> & {
		seed: number | null;
		frequencyGhz: string | null;
		archivedAt: Date | null;
		revision: number | null;
		records: number | null;
		cards: string | null;
		openSnags: string | null;
		openVisit: string | null;
		sentBack: number | null;
		lastEnd: End;
		lastAt: Date;
		lastBy: string | null;
		signed: number;
	};

function summaryOf(row: SummaryRow, today: string): HopSummary {
	const { id, name, siteAName, siteBName, revision, updatedAt, lastBy } = row;
	const distanceKm =
		inverseGeodesic(
			{ latitudeDeg: row.latA, longitudeDeg: row.lonA },
			{ latitudeDeg: row.latB, longitudeDeg: row.lonB }
		).lengthM / 1000;
	const cards = row.cards === null ? null : (JSON.parse(row.cards) as CardsStanding);
	const openSnags = openSnagsIn(row.openSnags);
	return {
		...{ id, name, siteAName, siteBName, distanceKm, revision, updatedAt },
		frequencyGhz: row.frequencyGhz === null ? null : Number(row.frequencyGhz),
		practice: row.seed !== null,
		archived: row.archivedAt !== null,
		records: row.records ?? 0,
		signed: Boolean(row.signed),
		last: lastBy === null ? null : { by: lastBy, at: row.lastAt, end: row.lastEnd },
		trouble: hopTrouble(
			{ cards, openSnags, visitOpen: row.openVisit !== null, sentBack: Boolean(row.sentBack) },
			today
		)
	};
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
