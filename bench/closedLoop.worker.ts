import { parentPort } from 'node:worker_threads';
import { makeApertureDish } from '../tests/core/apertureDish';
import { makeForeignDish } from '../tests/core/foreignDish';
import { makeSimulatedDish } from '#core/simulate/simulatedDish';
import { followTool, GuidedHop, type DishOfHop, type HopOutcome } from '../tests/core/guidedHop';
import { RIVALS } from './rivals';

const SIGMA = { azimuth: 3, tilt: 0.5 };

/** What makes the dishes: the tool's own model, and two that it does not know. */
const FAMILIES = { own: makeSimulatedDish, uneven: makeForeignDish, aperture: makeApertureDish };

export interface LoopTask {
	seed: number;
	family: keyof typeof FAMILIES;
	dish: DishOfHop;
}

export interface LoopAnswer {
	seed: number;
	dish: string;
	outcomes: Record<string, HopOutcome>;
}

parentPort!.on('message', (tasks: LoopTask[]) => {
	const answers = tasks.map(({ seed, dish, family }): LoopAnswer => {
		// Each school gets the same hop anew.
		const hop = (): GuidedHop =>
			new GuidedHop(seed, dish, SIGMA.azimuth, SIGMA.tilt, FAMILIES[family]);
		const outcomes: Record<string, HopOutcome> = {
			'the tool': followTool(hop(), SIGMA.azimuth, SIGMA.tilt)
		};
		for (const [name, follow] of Object.entries(RIVALS)) outcomes[name] = follow(hop(), SIGMA);
		return { seed, dish: dish.name, outcomes };
	});
	parentPort!.postMessage(answers);
});
