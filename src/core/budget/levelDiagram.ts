import { farEnd, type End } from '../ends';
import type { HopPlan } from './hopPlan';
import type { HopPlanInput } from './planInput';

/** One gain or loss on the way from a transmitter to the far receiver. */
export interface LevelStep {
	/** What it is. */
	name: string;
	/** What it adds, dB; losses are negative. */
	changeDb: number;
	/** Level after it, dBm. */
	levelDbm: number;
}

/** One direction of a hop as a way down (and up) the levels. */
export interface LevelDiagram {
	/** The end that receives. */
	receivingEnd: End;
	/** Power at the transmitter, dBm. */
	transmitDbm: number;
	/** Every gain and loss that is there, in order; the last one ends at the receiver. */
	steps: LevelStep[];
	/** Threshold of each modulation of the receiving radio, dBm. */
	thresholds: { modulation: string; dbm: number }[];
	/** Level above which the receiver is overloaded, dBm. */
	overloadDbm: number;
}

/** A change smaller than this is not on the diagram, dB. */
const LEAST_DB = 0.005;

/**
 * The levels along one direction of the first carrier, in the alignment state: from the transmitter through
 * branching, feeder and antenna, over the path, into the receiver. The sum is the planned level of the budget.
 *
 * @param input the plan's input, for what the receiver bears
 * @param plan what was computed from it
 * @param end the receiving end
 * @returns levels in dBm and changes in dB; a gain or loss of nothing is left out
 */
export function levelDiagram(input: HopPlanInput, plan: HopPlan, end: End): LevelDiagram {
	const budget = plan.received[end];
	const far = farEnd(end);
	const changes: [name: string, changeDb: number][] = [
		[`branching at ${far}`, -budget.transmitBranchLossDb],
		[`feeder at ${far}`, -budget.transmitFeederLossDb],
		[`antenna at ${far}`, budget.transmitGainDbi],
		['free space', -budget.freeSpaceLossDb],
		['gases', -budget.gasLossDb],
		['obstruction', -budget.obstructionLossDb],
		['additional loss', -budget.additionalLossDb],
		[`antenna at ${end}`, budget.receiveGainDbi],
		[`feeder at ${end}`, -budget.receiveFeederLossDb],
		[`branching at ${end}`, -budget.receiveBranchLossDb]
	];
	const transmitDbm =
		budget.plannedLevelDbm - changes.reduce((sum, [, changeDb]) => sum + changeDb, 0);
	let levelDbm = transmitDbm;
	const steps = changes
		.filter(([, changeDb]) => Math.abs(changeDb) >= LEAST_DB)
		.map(([name, changeDb]) => {
			levelDbm += changeDb;
			return { name, changeDb, levelDbm };
		});
	return {
		receivingEnd: end,
		transmitDbm,
		steps,
		thresholds: budget.margins.map(({ modulation, thresholdDbm }) => ({
			modulation,
			dbm: thresholdDbm
		})),
		overloadDbm: input.ends[end].radio.maxInputDbm
	};
}
