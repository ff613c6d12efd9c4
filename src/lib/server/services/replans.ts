import { requireMay, viewerOf, type Actor } from '../auth/actor';
import { refusal } from '../errors';
import { ReplanPool, replanWorkersBuilt } from '../replan/pool';
import type { ReplanFigures, ReplanOutcome, ReplanTask } from '../replan/replanHop';
import {
	countHops,
	hopsAtSites,
	hopsToReplan,
	type HopToReplan,
	type SiteOfHop
} from '../repositories/hops';
import { siteValuesOf } from '../repositories/sites';
import type { SiteValues } from '../../plan/resolve';
import { carriersAt } from './neighbours';
import type { JobKind } from './jobRunner';
import { startJob, type JobOf } from './jobs';
import { catalogue } from './parts';

export interface ReplanResult {
	/** Hops whose figures moved, or that may not be issued as they stand; at most this many are kept. */
	notable: ReplanOutcome[];
	moved: number;
	withErrors: number;
	withOpenWarnings: number;
}

const BATCH = 40;
/** Batches for each worker between two words of how far it is. */
const BATCHES_EACH = 2;
const MOST_NOTABLE = 1000;
/** A level that moves by less than this has not moved, dB. */
const MOVED_DB = 0.05;
const MOVED_PERCENT = 0.0005;

/** Starts planning again every hop the actor sees; goes on after the answer. A repeat does nothing twice. */
export async function startReplan(actor: Actor, id: string): Promise<JobOf<string, object>> {
	requireMay(actor, 'edit-hops');
	if (!replanWorkersBuilt()) throw refusal('no-workers');
	return startJob(actor, 'replan', { id, input: {}, total: await countHops(viewerOf(actor)) });
}

interface ReplanState {
	/** The hop after which to go on, in the order of their ids. */
	after: string;
	result: ReplanResult;
}

/** Plans again, a few batches at a time: after each it is known where another process would go on. */
export const replanJob: JobKind<object, ReplanState> = async ({ actor, state, done, keep }) => {
	requireMay(actor, 'edit-hops');
	const pool = new ReplanPool(await catalogue());
	const result: ReplanResult = state?.result ?? {
		...{ notable: [], moved: 0, withErrors: 0, withOpenWarnings: 0 }
	};
	let after = state?.after ?? '';
	let planned = done;
	try {
		for (;;) {
			const batches: ReplanTask[][] = [];
			while (batches.length < pool.size * BATCHES_EACH) {
				const tasks = await batchAfter(actor, after);
				const last = tasks.at(-1);
				if (!last) break;
				after = last.id;
				batches.push(tasks);
			}
			if (batches.length === 0) return result;
			await pool.run(
				() => Promise.resolve(batches.shift()),
				(outcomes) => {
					planned += outcomes.length;
					for (const outcome of outcomes) count(result, outcome);
					return Promise.resolve();
				}
			);
			if (!(await keep({ done: planned, state: { after, result } }))) return result;
		}
	} finally {
		await pool.stop();
	}
};

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

/** A batch of the hops of an actor in the order of their ids, each with its neighbours. */
async function batchAfter(actor: Actor, after: string): Promise<ReplanTask[]> {
	const rows = await hopsToReplan(viewerOf(actor), after, BATCH);
	if (rows.length === 0) return [];
	const around = await hopsAtSites(
		actor.userId,
		rows.flatMap(({ siteIds }) => [siteIds.A, siteIds.B])
	);
	return rows.map((row) => ({
		id: row.id,
		name: row.name,
		draft: JSON.parse(row.planDraft) as unknown,
		sites: { A: valuesOf(row.sites.A), B: valuesOf(row.sites.B) },
		neighbours: carriersAt(actor, row.id, row.siteIds, around),
		issued: figuresOf(row)
	}));
}

const valuesOf = (site: SiteOfHop): SiteValues => ({ ...site, ...siteValuesOf(site) });

function figuresOf({ levelA, levelB, availability }: HopToReplan): ReplanFigures | null {
	if (levelA === null || levelB === null) return null;
	return { levelADbm: levelA, levelBDbm: levelB, availabilityPercent: availability ?? 0 };
}
