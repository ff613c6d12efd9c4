import { levelText, numberText } from '../units/text';
import { range, type GuidanceInput, type GuidanceReading } from './situation';

/** A level above plan by this much is not of this plan, dB. */
const TOO_HIGH_DB = 7;
/** Power control holds a level within this of the plan; far out on the lobes several may be alike by chance. */
const NEAR_PLAN_DB = 15;
/** Sway that is told of, in beamwidths. */
const SWAY_BEAMS = 0.1;

/**
 * What so much sway away from the axis costs more, dB, by the parabola of 12·(x/θ)² dB.
 *
 * @param offBeams where the dish stands beside its axis, beamwidths
 */
const swayDb = (offBeams: number): number => 12 * ((offBeams + SWAY_BEAMS) ** 2 - offBeams ** 2);

/** More readings than this in one turn lead nowhere. */
const MOST_READINGS = 900;

/**
 * What must be looked into before any advice is worth anything; undefined where nothing must.
 *
 * @param beamwidthDeg half-power beamwidth, degrees, above 0
 */
export function troubleIn(
	input: GuidanceInput,
	readings: readonly GuidanceReading[],
	beamwidthDeg: number
): string[] | undefined {
	const highest = readings.reduce((most, r) => Math.max(most, r.levelDbm), -Infinity);
	if (highest > input.plannedLevelDbm + TOO_HIGH_DB) {
		return [
			`${levelText(highest)} is ${numberText(highest - input.plannedLevelDbm, 1)} dB above the plan: as suspect as too low.`,
			'Check the far power and its fixed state, the level curve of this port, and that the reading is of this link.',
			`Where it is too strong, send less; never point off. Half a beam off the axis costs 3 dB, and there ${numberText(SWAY_BEAMS * beamwidthDeg, 2)}° of sway change the level by ${numberText(swayDb(0.5), 1)} dB; on the axis by ${numberText(swayDb(0), 1)} dB.`
		];
	}
	if (readings.length > MOST_READINGS) {
		return [
			'So many readings have not settled where the far end is: check that nobody moves it, and that its power is fixed.'
		];
	}
	const apart = readings.filter((r) => r.levelDbm > input.floorDbm + 12);
	if (apart.length >= 8) {
		const levels = apart.map((r) => r.levelDbm);
		const spread = Math.max(...levels) - Math.min(...levels);
		const reach = Math.max(
			range(apart.map((r) => r.azimuthDeg)),
			range(apart.map((r) => r.tiltDeg))
		);
		const nearPlan = highest > input.plannedLevelDbm - NEAR_PLAN_DB;
		if (nearPlan && spread < 1.2 && reach > 2 * beamwidthDeg && apart.length === readings.length) {
			return [
				`The level stays within ${numberText(spread, 1)} dB while the dish moved over ${numberText(reach / beamwidthDeg, 1)} beams: it does not follow the pointing.`,
				'Look for ATPC left on at the far end, a saturated port, or a meter on the wrong port.'
			];
		}
	}
	return undefined;
}
