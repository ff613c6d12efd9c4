import { resolve } from '$app/paths';
import type { End } from '#core/ends';
import type { DishNumber } from '#core/record/secondDish';
import type { Stage } from '#core/stage/stages';
import type { LiveHop } from './liveHop.svelte';

/** What the bench of one dish works on: the hop itself for the first dishes, or that of a second dish. */
export type BenchHop = Pick<
	LiveHop,
	| 'hopId'
	| 'nowMs'
	| 'records'
	| 'weighed'
	| 'weighing'
	| 'revision'
	| 'state'
	| 'recorded'
	| 'mayRecord'
	| 'analysisOf'
	| 'add'
	| 'simulate'
> & {
	readonly dish: DishNumber;
	/** The hop with all its dishes. */
	readonly whole: LiveHop;
};

/** Where a stage of an end stands, for one of its dishes. */
export function stageHrefOf(hopId: string, end: End, stage: Stage, dish: DishNumber = 1): string {
	const path = resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
		hopId,
		end: end === 'A' ? 'a' : 'b',
		stage
	});
	return dish === 2 ? `${path}?dish=2` : path;
}
