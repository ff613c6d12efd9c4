import type { End } from '../ends';
import { compareChains, judgeChain, type ChainJudgement } from '../polarization/chain';
import type { HopState } from '../record/hopState';

/** The polarization chain of one end as it was last seen, against the plan; of some of its joints where they are named. */
export function chainState(
	{ input, ends }: HopState,
	end: End,
	only?: readonly string[]
): ChainJudgement {
	return judgeChain(input, ends[end].building.joints, end, only);
}

/** Where the two ends disagree although each looks whole by itself; empty when they agree. */
export function chainsApart({ input, ends }: HopState): string[] {
	return compareChains(input, { A: ends.A.building.joints, B: ends.B.building.joints });
}
