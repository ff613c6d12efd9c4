import { ENDS, type End, type PerEnd } from '#core/ends';
import { hopTrouble } from '#core/record/hopTrouble';
import { STAGES, type Stage } from '#core/stage/stages';
import { WAITS_FOR, type EndStanding, type WaitsFor } from '#core/stage/standing';
import type { CardsStanding } from '#core/safety/cardRule';
import { select, selectOne } from '../db/sql';
import { soughtWords } from '../nameWords';
import { openSnagsIn } from './feeds';
import { IN_TROUBLE } from './hopList';
import { seenBy, type Viewer } from './hops';
import type { Found, Slice } from './lists';
import { standColumns, standIn, type StandColumns } from './stands';
import { hasWords, planSearch } from './words';

/** What is looked at on the board beside a stage or a waiting. */
export const BOARD_FLAGS = ['all', 'trouble', 'overdue', 'parts', 'open'] as const;
export type BoardFlag = (typeof BOARD_FLAGS)[number];

export const BOARD_SORTS = ['name', 'due', 'waiting', 'changed'] as const;
export type BoardSort = (typeof BOARD_SORTS)[number];

/** Which hops the board shows. */
export interface BoardChoice {
	q: string;
	/** Id of a project; `none` for hops in none. */
	project?: string;
	/** Id of a crew that is assigned from today on. */
	crew?: string;
	region?: string;
	/** Hops of which an end stands there. */
	stage?: Stage;
	/** Hops of which an end waits for that. */
	waits?: WaitsFor;
	flag: BoardFlag;
	sort: BoardSort;
}

/** A hop as the board shows it. */
export interface BoardLine {
	id: string;
	name: string;
	practice: boolean;
	sites: PerEnd<string>;
	project: { id: string; name: string; region: string } | null;
	dueDay: string | null;
	overdue: boolean;
	accepted: boolean;
	ends: PerEnd<EndStanding>;
	shortParts: number;
	/** What has to be seen to, in words, the gravest first. */
	trouble: string[];
	/** What was recorded last; null where nothing was. */
	last: { by: string; at: Date; end: End } | null;
}

/** How many ends stand at each stage and wait for what, and how many hops are late or in trouble. */
export interface BoardCounts {
	hops: number;
	stages: Record<Stage, number>;
	waits: Record<WaitsFor, number>;
	overdue: number;
	trouble: number;
	parts: number;
}

const ACCEPTED = 'EXISTS (SELECT 1 FROM acceptances x WHERE x.hop_id = h.id)';
const DUE = 'COALESCE(ph.due_day, p.due_day)';
const TROUBLE = `(${IN_TROUBLE} OR s.state_a = 'trouble' OR s.state_b = 'trouble')`;
const stageOf = (end: 'a' | 'b'): string => `COALESCE(s.stage_${end}, 'prepare')`;
const waitsOf = (end: 'a' | 'b'): string => `IF(s.hop_id IS NULL, 'planner', s.waits_${end})`;

interface Part {
	sql: string;
	values: unknown[];
}

/** The hops of a choice, but for its stage, its waiting and its flag; undefined where no name can have the words. */
async function chosen(
	viewer: Viewer,
	{ q, project, crew, region }: BoardChoice,
	today: string
): Promise<Part | undefined> {
	const { join, values } = seenBy(viewer);
	const words = soughtWords(q);
	if (q && words.length === 0) return undefined;
	const named = words.length ? (await planSearch('hop', words)).patterns : [];
	const where = [
		'h.archived_at IS NULL',
		...(named.length ? [hasWords('hop', 'h', named)] : []),
		...(project === 'none' ? ['ph.hop_id IS NULL'] : project ? ['ph.project_id = ?'] : []),
		...(region ? ['p.region = ?'] : []),
		...(crew
			? [
					'EXISTS (SELECT 1 FROM assignments g WHERE g.hop_id = h.id AND g.crew_id = ? AND g.day >= ?)'
				]
			: [])
	];
	return {
		sql: `FROM hops h ${join}
			LEFT JOIN hop_stands s ON s.hop_id = h.id
			LEFT JOIN project_hops ph ON ph.hop_id = h.id LEFT JOIN projects p ON p.id = ph.project_id
			WHERE ${where.join(' AND ')}`,
		values: [
			...values,
			...named,
			...(project && project !== 'none' ? [project] : []),
			...(region ? [region] : []),
			...(crew ? [crew, today] : [])
		]
	};
}

/** What stage, waiting and flag add to a choice. */
function narrowed({ stage, waits, flag }: BoardChoice, today: string): Part {
	const where = [
		...(stage ? [`(${stageOf('a')} = ? OR ${stageOf('b')} = ?)`] : []),
		...(waits ? [`(${waitsOf('a')} = ? OR ${waitsOf('b')} = ?)`] : []),
		...(flag === 'trouble' ? [TROUBLE] : []),
		...(flag === 'overdue' ? [`${DUE} < ? AND NOT ${ACCEPTED}`] : []),
		...(flag === 'parts' ? ['s.short_parts > 0'] : []),
		...(flag === 'open' ? [`NOT ${ACCEPTED}`] : [])
	];
	return {
		sql: where.map((one) => ` AND ${one}`).join(''),
		values: [
			...(stage ? [stage, stage] : []),
			...(waits ? [waits, waits] : []),
			...(flag === 'overdue' ? [today] : [])
		]
	};
}

/** Those that wait come before those that do not, the longest first. */
const WAITING_SINCE = `LEAST(IF(${waitsOf('a')} IS NULL, '9999', COALESCE(s.since_a, '9998')),
	IF(${waitsOf('b')} IS NULL, '9999', COALESCE(s.since_b, '9998')))`;

const ORDERS: Record<BoardSort, string> = {
	name: 'h.name',
	due: `${DUE} IS NULL, ${DUE}, h.name`,
	waiting: `${WAITING_SINCE}, h.name`,
	changed: 'GREATEST(h.updated_at, COALESCE(s.since_a, 0), COALESCE(s.since_b, 0)) DESC, h.id DESC'
};

/** One page of the board. */
export async function pageOfBoard(
	viewer: Viewer,
	choice: BoardChoice,
	slice: Slice,
	today: string
): Promise<Found<BoardLine>> {
	const all = await chosen(viewer, choice, today);
	if (!all) return { rows: [], count: 0 };
	const more = narrowed(choice, today);
	const from = `${all.sql}${more.sql}`;
	const values = [...all.values, ...more.values];
	const counted = await selectOne<{ count: number }>(`SELECT COUNT(*) AS count ${from}`, values);
	const ids = await select<{ id: string }>(
		`SELECT h.id ${from} ORDER BY ${ORDERS[choice.sort]} LIMIT ? OFFSET ?`,
		[...values, slice.limit, slice.offset]
	);
	const rows = await linesOf(
		ids.map(({ id }) => id),
		today
	);
	return { rows, count: counted?.count ?? 0 };
}

/** The same counted, before stage, waiting and flag narrow it. */
export async function countBoard(
	viewer: Viewer,
	choice: BoardChoice,
	today: string
): Promise<BoardCounts> {
	const all = await chosen(viewer, choice, today);
	const stages = STAGES.map(
		(stage) =>
			`SUM(${stageOf('a')} = '${stage}') + SUM(${stageOf('b')} = '${stage}') AS stage_${stage}`
	);
	const waits = WAITS_FOR.map(
		(what) =>
			`SUM(COALESCE(${waitsOf('a')} = '${what}', 0)) + SUM(COALESCE(${waitsOf('b')} = '${what}', 0)) AS \`waits_${what}\``
	);
	const row = all
		? await selectOne<Record<string, number | string | null>>(
				`SELECT COUNT(*) AS hops, ${[...stages, ...waits].join(', ')},
					SUM(COALESCE(${DUE} < ?, 0) AND NOT ${ACCEPTED}) AS overdue,
					SUM(COALESCE(${TROUBLE}, 0)) AS trouble, SUM(COALESCE(s.short_parts > 0, 0)) AS parts ${all.sql}`,
				[today, ...all.values]
			)
		: undefined;
	const figure = (name: string): number => Number(row?.[name] ?? 0);
	return {
		hops: figure('hops'),
		stages: byName(STAGES, (stage) => figure(`stage_${stage}`)),
		waits: byName(WAITS_FOR, (what) => figure(`waits_${what}`)),
		overdue: figure('overdue'),
		trouble: figure('trouble'),
		parts: figure('parts')
	};
}

const byName = <Name extends string>(
	names: readonly Name[],
	value: (name: Name) => number
): Record<Name, number> =>
	Object.fromEntries(names.map((name) => [name, value(name)])) as Record<Name, number>;

type LineRow = StandColumns & {
	id: string;
	name: string;
	seed: number | null;
	siteA: string;
	siteB: string;
	projectId: string | null;
	projectName: string | null;
	region: string | null;
	dueDay: string | null;
	accepted: number;
	shortParts: number | null;
	cards: string | null;
	openSnags: string | null;
	openVisit: string | null;
	sentBack: number | null;
	lastEnd: End;
	lastAt: Date;
	lastBy: string | null;
};

/** Some hops as the board shows them, in the order of the ids. No check of who asks. */
export async function linesOf(ids: readonly string[], today: string): Promise<BoardLine[]> {
	if (ids.length === 0) return [];
	const rows = await select<LineRow>(
		`SELECT h.id, h.name, h.simulation_seed AS seed, a.name AS siteA, b.name AS siteB,
			${ENDS.map(standColumns).join(', ')}, s.short_parts AS shortParts,
			ph.project_id AS projectId, p.name AS projectName, p.region, ${DUE} AS dueDay,
			${ACCEPTED} AS accepted, f.cards, f.open_snags AS openSnags, f.open_visit AS openVisit,
			f.sent_back AS sentBack, x.end AS lastEnd, x.recorded_at AS lastAt, u.display_name AS lastBy
		FROM hops h JOIN sites a ON a.id = h.site_a_id JOIN sites b ON b.id = h.site_b_id
		LEFT JOIN hop_stands s ON s.hop_id = h.id
		LEFT JOIN project_hops ph ON ph.hop_id = h.id LEFT JOIN projects p ON p.id = ph.project_id
		LEFT JOIN hop_feeds f ON f.hop_id = h.id
		LEFT JOIN field_records x ON x.hop_id = h.id AND x.seq = f.last_seq
		LEFT JOIN users u ON u.id = x.recorded_by
		WHERE h.id IN (?)`,
		[ids]
	);
	const byId = new Map(rows.map((row) => [row.id, row]));
	return ids.flatMap((id) => {
		const row = byId.get(id);
		return row ? [lineOf(row, today)] : [];
	});
}

function lineOf(row: LineRow, today: string): BoardLine {
	const { id, name, dueDay, lastBy } = row;
	const accepted = Boolean(row.accepted);
	const ends = { A: standIn(row, 'A'), B: standIn(row, 'B') };
	const glance = {
		cards: row.cards === null ? null : (JSON.parse(row.cards) as CardsStanding),
		openSnags: openSnagsIn(row.openSnags),
		visitOpen: row.openVisit !== null,
		sentBack: Boolean(row.sentBack)
	};
	const atEnds = ENDS.flatMap((end) =>
		ends[end].state === 'trouble' ? [`${end}: ${ends[end].note}`] : []
	);
	return {
		...{ id, name, dueDay, accepted, ends },
		practice: row.seed !== null,
		sites: { A: row.siteA, B: row.siteB },
		project:
			row.projectId === null
				? null
				: { id: row.projectId, name: row.projectName ?? '', region: row.region ?? '' },
		overdue: dueDay !== null && dueDay < today && !accepted,
		shortParts: row.shortParts ?? 0,
		trouble: [...hopTrouble(glance, today), ...atEnds],
		last: lastBy === null ? null : { by: lastBy, at: row.lastAt, end: row.lastEnd }
	};
}

/** Every region that a project names. */
export const regionsOfProjects = async (): Promise<string[]> =>
	(
		await select<{ region: string }>(
			"SELECT DISTINCT region FROM projects WHERE region <> '' ORDER BY region"
		)
	).map(({ region }) => region);
