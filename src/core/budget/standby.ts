import { farEnd, type End } from '../ends';
import { makeLevelCurve } from '../radio/levelCurve';
import type { HopPlanInput } from './planInput';
import type { CarrierBudget, HopPlan } from './planTypes';

/** A level at one unit, and the same at its port. */
export interface UnitLevel {
	levelDbm: number;
	volts: number;
}

/** What the units of an end hear while the far end's standby unit sends. */
export interface SwitchedLevels {
	main: UnitLevel;
	standby: UnitLevel;
}

/**
 * Which unit of the far end the level of a standby unit is stated with: in service only the main one
 * sends. Plans frozen before that was so state it with the standby unit; null for other carriers.
 */
export function senderOf(
	plan: Pick<HopPlan, 'received'>,
	carrier: CarrierBudget,
	end: End
): 'main' | 'standby' | null {
	if (carrier.role !== 'standby') return null;
	const own = carrier.received[end].transmitBranchLossDb;
	return own === plan.received[end].transmitBranchLossDb ? 'main' : 'standby';
}

/**
 * The levels at an end with the far end switched over to its standby unit, in the alignment state; null
 * where there is none. Only the arm of the sending unit differs.
 */
export function levelsWhenSwitched(
	input: HopPlanInput,
	plan: HopPlan,
	end: End
): SwitchedLevels | null {
	const standby = plan.carriers.find(({ role }) => role === 'standby');
	const arms = input.ends[farEnd(end)].coupling?.arms;
	const [mainArm, standbyArm] = [arms?.[0], arms?.[1]];
	if (!standby || !mainArm || !standbyArm) return null;
	const curve = makeLevelCurve(input.ends[end].radio.levelPort.curve);
	const at = (carrier: Pick<CarrierBudget, 'received'>): UnitLevel => {
		const budget = carrier.received[end];
		const levelDbm = budget.plannedLevelDbm + budget.transmitBranchLossDb - standbyArm.lossDb;
		return { levelDbm, volts: curve.voltsAt(levelDbm) };
	};
	return { main: at(plan), standby: at(standby) };
}

/** How a level of hot standby is read with the other unit sending. */
export const SWITCHING =
	'in service only the main unit sends; to read with the other, switch the far end over in its menu (or mute its main unit), and switch it back before leaving';
