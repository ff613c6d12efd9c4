import { QueryTypes } from 'sequelize';
import { UNSAID_CLIMATE } from '#core/budget/climate';
import { UNKNOWN_CONDITIONS } from '#core/budget/planDefaults';
import type { SiteValues } from '../../plan/resolve';
import { requireMay, type Actor } from '../auth/actor';
import { db } from '../db/connection';
import { notFound, refusal } from '../errors';
import { log } from '../log';
import { ReplanPool, replanWorkersBuilt } from '../replan/pool';
import type { ReplanFigures, ReplanOutcome, ReplanTask } from '../replan/replanHop';
import { catalogue } from './parts';
import { visibleTo } from './hops';
import { carriersAt, hopsAtSites } from './neighbours';

export interface Replan {
	id: string;
	status: 'running' | 'done' | 'cancelled' | 'failed';
	total: number;
	done: number;
	startedAt: Date;
	result: ReplanResult | null;
}

export interface ReplanResult {
	/** Hops whose figures moved, or that may not be issued as they stand; at most this many are kept. */
	notable: ReplanOutcome[];
	moved: number;
	withErrors: number;
	withOpenWarnings: number;
}

const BATCH = 40;
const MOST_NOTABLE = 1000;
/** A level that moves by less than this has not moved, dB. */
const MOVED_DB = 0.05;
const MOVED_PERCENT = 0.0005;
/** A run that nobody has touched for so long has died with its process. */
const SILENT_MS = 30_000;
const TOUCH_MS = 300;

/** Starts planning again every hop the actor sees; goes on after the answer. A repeat does nothing twice. */
export async function startReplan(actor: Actor, id: string): Promise<Replan> {
	requireMay(actor, 'edit-hops');
	const known = await findReplan(actor, id);
	if (known) return known;
	if (!replanWorkersBuilt()) {
		throw refusal('no-workers');
	}
	const [running] = await db().query<{ id: string }>(
		"SELECT id FROM replans WHERE started_by = ? AND status = 'running' AND touched_at > ? LIMIT 1",
		{ replacements: [actor.userId, new Date(Date.now() - SILENT_MS)], type: QueryTypes.SELECT }
	);
	if (running) throw refusal('replan-running');
	const { join, replacements } = visibleTo(actor);
	const [count] = await db().query<{ count: number }>(
		`SELECT COUNT(*) AS count FROM hops h ${join}`,
		{
			replacements,
			type: QueryTypes.SELECT
		}
	);
	const now = new Date();
	await db().query(
		"INSERT INTO replans (id, status, total, started_by, started_at, touched_at) VALUES (?, 'running', ?, ?, ?, ?)",
		{ replacements: [id, Number(count?.count ?? 0), actor.userId, now, now] }
	);
	void work(actor, id).catch(async (error: unknown) => {
		log.error({ err: error }, 'replan failed');
		await finish(id, 'failed', null).catch(() => undefined);
	});
	return getReplan(actor, id);
}

/** How far a replan is, with its result once there is one. */
export async function getReplan(actor: Actor, id: string): Promise<Replan> {
	requireMay(actor, 'edit-hops');
	const found = await findReplan(actor, id);
	if (!found) throw notFound('replan');
	return found;
}

/** Asks a replan to stop; it does so after the batches under way, on whichever process it runs. */
export async function cancelReplan(actor: Actor, id: string): Promise<Replan> {
	await getReplan(actor, id);
	await db().query('UPDATE replans SET cancel_requested = 1 WHERE id = ?', { replacements: [id] });
	return getReplan(actor, id);
}

async function findReplan(actor: Actor, id: string): Promise<Replan | undefined> {
	const [row] = await db().query<{
		id: string;
		status: Replan['status'];
		total: number;
		done: number;
		startedAt: Date;
		touchedAt: Date;
		result: string | null;
	}>(
		`SELECT id, status, total, done, started_at AS startedAt, touched_at AS touchedAt, result
		FROM replans WHERE id = ? AND started_by = ?`,
		{ replacements: [id, actor.userId], type: QueryTypes.SELECT }
	);
	if (!row) return undefined;
	const silent = row.status === 'running' && Date.now() - row.touchedAt.getTime() > SILENT_MS;
	return {
		id: row.id,
		status: silent ? 'failed' : row.status,
		total: row.total,
		done: row.done,
		startedAt: row.startedAt,
		result: row.result ? (JSON.parse(row.result) as ReplanResult) : null
	};
}

async function work(actor: Actor, id: string): Promise<void> {
	const pool = new ReplanPool(await catalogue());
	const result: ReplanResult = { notable: [], moved: 0, withErrors: 0, withOpenWarnings: 0 };
	let done = 0;
	let cancelled = false;
	let touchedAt = 0;
	const batches = batchesOf(actor);
	try {
		await pool.run(
			async () => (cancelled ? undefined : (await batches.next()).value),
			async (outcomes) => {
				done += outcomes.length;
				for (const outcome of outcomes) count(result, outcome);
				if (Date.now() - touchedAt < TOUCH_MS) return;
				touchedAt = Date.now();
				cancelled = await touch(id, done);
			}
		);
	} finally {
		await pool.stop();
	}
	await touch(id, done);
	await finish(id, cancelled ? 'cancelled' : 'done', result);
}

function count(result: ReplanResult, outcome: ReplanOutcome): void {
	const { before, after } = outcome;
	const moved =
		before !== null &&
		(after === null ||
			Math.abs(before.levelADbm - after.levelADbm) > MOVED_DB ||
			Math.abs(before.levelBDbm - after.levelBDbm) > MOVED_DB ||
			Math.abs(before.availabilityPercent - after.availabilityPercent) > MOVED_PERCENT);
	if (moved) result.moved += 1;
	if (outcome.errors > 0) result.withErrors += 1;
	else if (outcome.openWarnings > 0) result.withOpenWarnings += 1;
	if ((moved || outcome.trouble !== null) && result.notable.length < MOST_NOTABLE) {
		result.notable.push(outcome);
	}
}

async function touch(id: string, done: number): Promise<boolean> {
	await db().query('UPDATE replans SET done = ?, touched_at = ? WHERE id = ?', {
		replacements: [done, new Date(), id]
	});
	const [row] = await db().query<{ cancel: number }>(
		'SELECT cancel_requested AS cancel FROM replans WHERE id = ?',
		{ replacements: [id], type: QueryTypes.SELECT }
	);
	return Boolean(row?.cancel);
}

async function finish(
	id: string,
	status: Replan['status'],
	result: ReplanResult | null
): Promise<void> {
	await db().query('UPDATE replans SET status = ?, result = ?, touched_at = ? WHERE id = ?', {
		replacements: [status, result ? JSON.stringify(result) : null, new Date(), id]
	});
}

interface TaskRow {
	id: string;
	name: string;
	planDraft: string;
	siteAId: string;
	siteBId: string;
	levelA: number | null;
	levelB: number | null;
	availability: number | null;
	[column: string]: unknown;
}

const SITE_COLUMNS = [
	'name',
	'latitude_deg',
	'longitude_deg',
	'ground_amsl_m',
	'climate',
	'conditions'
];

/** The hops of an actor in the order of their ids, a batch at a time, each with its neighbours. */
async function* batchesOf(actor: Actor): AsyncGenerator<ReplanTask[], undefined> {
	const { join, replacements } = visibleTo(actor);
	const columns = (['a', 'b'] as const)
		.flatMap((site) => SITE_COLUMNS.map((column) => `${site}.${column} AS ${site}_${column}`))
		.join(', ');
	let after = '';
	for (;;) {
		const rows = await db().query<TaskRow>(
			`SELECT h.id, h.name, h.plan_draft AS planDraft, h.site_a_id AS siteAId, h.site_b_id AS siteBId, ${columns},
				JSON_VALUE(r.plan, :levelA) AS levelA, JSON_VALUE(r.plan, :levelB) AS levelB,
				JSON_VALUE(r.plan, :availability) AS availability
			FROM hops h ${join.replace('?', ':user')}
			JOIN sites a ON a.id = h.site_a_id JOIN sites b ON b.id = h.site_b_id
			LEFT JOIN plan_revisions r ON r.hop_id = h.id
				AND r.number = (SELECT MAX(number) FROM plan_revisions n WHERE n.hop_id = h.id)
			WHERE h.id > :after ORDER BY h.id LIMIT :limit`,
			{
				replacements: {
					user: replacements[0] ?? null,
					after,
					limit: BATCH,
					levelA: '$.received.A.plannedLevelDbm',
					levelB: '$.received.B.plannedLevelDbm',
					availability: '$.availability.achievedPercent'
				},
				type: QueryTypes.SELECT
			}
		);
		const last = rows.at(-1);
		if (!last) return undefined;
		after = last.id;
		const around = await hopsAtSites(
			actor,
			rows.flatMap((row) => [row.siteAId, row.siteBId])
		);
		yield rows.map((row) => ({
			id: row.id,
			name: row.name,
			draft: JSON.parse(row.planDraft) as unknown,
			sites: { A: siteValues(row, 'a'), B: siteValues(row, 'b') },
			neighbours: carriersAt(actor, row.id, { A: row.siteAId, B: row.siteBId }, around),
			issued: figuresOf(row)
		}));
	}
}

function siteValues(row: TaskRow, site: 'a' | 'b'): SiteValues {
	const at = (column: string): unknown => row[`${site}_${column}`];
	const json = (column: string): unknown => {
		const text = at(column);
		return typeof text === 'string' ? JSON.parse(text) : undefined;
	};
	return {
		name: String(at('name')),
		latitudeDeg: Number(at('latitude_deg')),
		longitudeDeg: Number(at('longitude_deg')),
		groundAmslM: Number(at('ground_amsl_m')),
		climate: (json('climate') as SiteValues['climate'] | undefined) ?? UNSAID_CLIMATE,
		conditions: (json('conditions') as SiteValues['conditions'] | undefined) ?? UNKNOWN_CONDITIONS
	};
}

function figuresOf(row: TaskRow): ReplanFigures | null {
	if (row.levelA === null || row.levelB === null) return null;
	return {
		levelADbm: Number(row.levelA),
		levelBDbm: Number(row.levelB),
		availabilityPercent: Number(row.availability ?? 0)
	};
}
