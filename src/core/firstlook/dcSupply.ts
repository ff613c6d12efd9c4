import { loopOhmPerKm } from '../catalogue/cableFigures';
import type { CablePart } from '../catalogue/parts';
import { requireInRange } from '../units/errors';

/** Copper grows more resistive by this share a kelvin. Source: IEC 60228 (0.00393/K at 20 °C). */
const COPPER_PER_K = 0.00393;
/** Temperature at which the worst case is taken: a black cable in the sun. */
export const WORST_CABLE_C = 50;

export type DcSupply =
	| { kind: 'fed'; voltageAtUnitV: number; currentA: number; dropV: number; loopOhm: number }
	| { kind: 'collapses'; loopOhm: number; mostPowerW: number };

/**
 * Voltage at a unit that takes constant power at the end of a cable:
 * V = (Vs + √(Vs² − 4PR))/2 with R there and back. No solution means the supply collapses.
 *
 * @param supplyV at the foot, 1 to 100
 * @param powerW taken by the unit, 0 to 2000
 * @param lengthM of the cable, 0 to 1000
 * @param temperatureC of the conductor, −50 to 90
 * @throws OutOfRangeError outside these ranges
 * Source: constant-power load on a resistive line.
 */
export function dcSupply(
	supplyV: number,
	powerW: number,
	cable: Pick<CablePart, 'ohmPerKm' | 'coaxial'>,
	lengthM: number,
	temperatureC: number = WORST_CABLE_C
): DcSupply {
	requireInRange('supplyV', supplyV, 1, 100);
	requireInRange('powerW', powerW, 0, 2000);
	requireInRange('lengthM', lengthM, 0, 1000);
	requireInRange('temperatureC', temperatureC, -50, 90);
	const loopOhm =
		((loopOhmPerKm(cable) * lengthM) / 1000) * (1 + COPPER_PER_K * (temperatureC - 20));
	const under = supplyV ** 2 - 4 * powerW * loopOhm;
	if (under < 0) return { kind: 'collapses', loopOhm, mostPowerW: supplyV ** 2 / (4 * loopOhm) };
	const voltageAtUnitV = (supplyV + Math.sqrt(under)) / 2;
	return {
		kind: 'fed',
		voltageAtUnitV,
		currentA: powerW / voltageAtUnitV,
		dropV: supplyV - voltageAtUnitV,
		loopOhm
	};
}
