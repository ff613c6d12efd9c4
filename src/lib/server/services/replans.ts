import { requireMay, viewerOf, type Actor } from '../auth/actor';
import { notFound, refusal } from '../errors';
import { log } from '../log';
import { ReplanPool, replanWorkersBuilt } from '../replan/pool';
import type { ReplanFigures, ReplanOutcome, ReplanTask } from '../replan/replanHop';
import {
	countHops,
	hopsAtSites,
	hopsToReplan,
	type HopToReplan,
	type SiteOfHop
} from '../repositories/hops';
import {
	endReplan,
	findReplan as findReplanRow,
	insertReplan,
	isReplanRunning,
	requestCancel,
	touchReplan,
	type ReplanRow
} from '../repositories/replans';
import { siteValuesOf } from '../repositories/sites';
import type { SiteValues } from '../../plan/resolve';
import { carriersAt } from './neighbours';
import { catalogue } from './parts';

export interface Replan {
	id: string;
	status: ReplanRow['status'];
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
	if (await isReplanRunning(actor.userId, new Date(Date.now() - SILENT_MS))) {
		throw refusal('replan-running');
	}
	await insertReplan(id, await countHops(viewerOf(actor)), actor.userId, new Date());
	void work(actor, id).catch(async (error: unknown) => {
		log.error({ err: error }, 'replan failed');
		await endReplan(id, 'failed', null, new Date()).catch(() => undefined);
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
	await requestCancel(id);
	return getReplan(actor, id);
}

async function findReplan(actor: Actor, id: string): Promise<Replan | undefined> {
	const row = await findReplanRow(id, actor.userId);
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
	let touchedAt = 0;
	const stop = { asked: false };
	const batches = batchesOf(actor);
	try {
		await pool.run(
			async () => (stop.asked ? undefined : (await batches.next()).value),
			async (outcomes) => {
				done += outcomes.length;
				for (const outcome of outcomes) count(result, outcome);
				if (Date.now() - touchedAt < TOUCH_MS) return;
				touchedAt = Date.now();
				stop.asked = await touchReplan(id, done, new Date());
			}
		);
	} finally {
		await pool.stop();
	}
	await touchReplan(id, done, new Date());
	await endReplan(id, stop.asked ? 'cancelled' : 'done', result, new Date());
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

/** The hops of an actor in the order of their ids, a batch at a time, each with its neighbours. */
async function* batchesOf(actor: Actor): AsyncGenerator<ReplanTask[], undefined> {
	let after = '';
	for (;;) {
		const rows = await hopsToReplan(viewerOf(actor), after, BATCH);
		const last = rows.at(-1);
		if (!last) return undefined;
		after = last.id;
		const around = await hopsAtSites(
			actor.userId,
			rows.flatMap(({ siteIds }) => [siteIds.A, siteIds.B])
		);
		yield rows.map((row) => ({
			id: row.id,
			name: row.name,
			draft: JSON.parse(row.planDraft) as unknown,
			sites: { A: valuesOf(row.sites.A), B: valuesOf(row.sites.B) },
			neighbours: carriersAt(actor, row.id, row.siteIds, around),
			issued: figuresOf(row)
		}));
	}
}

const valuesOf = (site: SiteOfHop): SiteValues => ({ ...site, ...siteValuesOf(site) });

function figuresOf({ levelA, levelB, availability }: HopToReplan): ReplanFigures | null {
	if (levelA === null || levelB === null) return null;
	return { levelADbm: levelA, levelBDbm: levelB, availabilityPercent: availability ?? 0 };
}
