import type { End } from '#core/ends';
import { inverseGeodesic } from '#core/geodesy/geodesic';
import { hopTrouble } from '#core/record/hopTrouble';
import type { CardsStanding } from '#core/safety/cardRule';
import { countRows, select, timeText } from '../db/sql';
import { soughtWords } from '../nameWords';
import { openSnagsIn } from './feeds';
import { seenBy, type Viewer } from './hops';
import { COUNTED, type Found, type Slice } from './lists';
import { hasWords, planSearch } from './words';

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

/** Whether `hops h` has something to see to, by what its feed remembers. */
export const IN_TROUBLE = feedHas(
	// As the texts are written here: a card that says no, a snag by its day, a visit.
	`f.cards LIKE '%"go":false%' OR f.open_snags LIKE '%:%' OR f.open_visit IS NOT NULL
		OR f.sent_back`
);

/** What a standing asks of `hops h`. */
const STANDING_SQL: Record<HopStanding, string> = {
	open: 'TRUE',
	draft: `NOT ${ISSUED}`,
	issued: `${ISSUED} AND ${feedHas('f.last_seq = 0')} AND NOT ${ACCEPTED}`,
	field: `${feedHas('f.last_seq > 0')} AND NOT ${ACCEPTED}`,
	accepted: ACCEPTED,
	trouble: IN_TROUBLE,
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
