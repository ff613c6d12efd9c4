import type { End } from '../ends';
import type { HopState } from '../record/hopState';
import type { RecordPayloads } from '../record/records';
import type { SweepInput } from '../sweep/analyseSweep';

/** The input of the sweep analysis for a sweep recorded at one end of a planned hop. */
export function sweepInputOf(
	{ input, plan }: Pick<HopState, 'input' | 'plan'>,
	end: End,
	sweep: RecordPayloads['sweep']
): SweepInput {
	const dish = plan.dish[end];
	return {
		axis: sweep.axis,
		frequencyGhz: dish.receiveFrequencyGhz,
		dishDiameterM: input.ends[end].dish.diameterM,
		beamwidthDeg: dish.beamwidthDeg,
		plannedLevelDbm: plan.received[end].plannedLevelDbm,
		levelCurve: input.ends[end].radio.levelPort.curve,
		samples: sweep.samples
	};
}
