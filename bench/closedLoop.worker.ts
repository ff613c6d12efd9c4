import { parentPort } from 'node:worker_threads';
import { followTool, GuidedHop, type DishOfHop, type HopOutcome } from '../tests/core/guidedHop';
import { RIVALS } from './rivals';

const SIGMA = { azimuth: 3, tilt: 0.5 };

export interface LoopTask {
	seed: number;
	dish: DishOfHop;
}

export interface LoopAnswer {
	seed: number;
	dish: string;
	outcomes: Record<string, HopOutcome>;
}

parentPort!.on('message', (tasks: LoopTask[]) => {
	const answers = tasks.map(({ seed, dish }): LoopAnswer => {
		// Each school gets the same hop anew.
		const hop = (): GuidedHop => new GuidedHop(seed, dish, SIGMA.azimuth, SIGMA.tilt);
		const outcomes: Record<string, HopOutcome> = {
			'the tool': followTool(hop(), SIGMA.azimuth, SIGMA.tilt)
		};
		for (const [name, follow] of Object.entries(RIVALS)) outcomes[name] = follow(hop(), SIGMA);
		return { seed, dish: dish.name, outcomes };
	});
	parentPort!.postMessage(answers);
});
