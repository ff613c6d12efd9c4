import { STANDARD_K_FACTOR } from '../geodesy/tilt';
import {
	pathClearance,
	type ClearancePoint,
	type Obstacle,
	type PathClearance
} from './pathClearance';
import type { TerrainProfile } from './samplePath';

/** Which school judges the clearance of a hop. */
export type ClearanceSchool = 'p530' | 'practice';
/** Kind of the obstruction that decides at low k (P.530). */
export type ObstructionKind = 'isolated' | 'extended';
export type ClimateKind = 'temperate' | 'tropical';

export interface ClearanceRule {
	kFactor: number;
	/** Wanted clearance in first Fresnel radii. */
	wantedRatio: number;
	why: string;
}

export interface ClearanceCheck extends ClearanceRule {
	clearance: PathClearance;
	worstRatio: number;
	holds: boolean;
	/** How much higher the ray must be at the worst point, m; 0 where the rule holds. */
	missingM: number;
	/** Where something reaches into the beam in the near field of a dish; null where nothing does. */
	beforeDish: ClearancePoint | null;
}

export interface ClearanceVerdict {
	school: ClearanceSchool;
	schoolInWords: string;
	checks: ClearanceCheck[];
	/** Every rule of the school holds. */
	holds: boolean;
	/** The rule with the least room. */
	tightest: ClearanceCheck;
}

/** Above this length the practice looks at both k values, km. */
const LONG_PATH_KM = 20;

/**
 * The rules of a school for a path.
 *
 * P.530-18 §2.2.2.1: 1.0 F1 at the median k; at the k exceeded for 99.9 % of the time 0 F1
 * (temperate, single isolated obstruction), 0.3 F1 (temperate, extended obstruction) or 0.6 F1
 * (tropical, paths beyond about 30 km).
 * Practice: 0.6 F1 at k = 4/3; on long paths also 1.0 F1 at 4/3 and 0.6 F1 at 2/3.
 */
export function clearanceRules(input: {
	school: ClearanceSchool;
	pathKm: number;
	medianK: number;
	lowK: number;
	climate: ClimateKind;
	obstruction: ObstructionKind;
}): ClearanceRule[] {
	if (input.school === 'practice') {
		return input.pathKm <= LONG_PATH_KM
			? [
					{
						kFactor: STANDARD_K_FACTOR,
						wantedRatio: 0.6,
						why: 'common practice, 0.6 F1 at k = 4/3'
					}
				]
			: [
					{
						kFactor: STANDARD_K_FACTOR,
						wantedRatio: 1,
						why: 'common practice for long paths, 1.0 F1 at k = 4/3'
					},
					{
						kFactor: 2 / 3,
						wantedRatio: 0.6,
						why: 'common practice for long paths, 0.6 F1 at k = 2/3'
					}
				];
	}
	const tropical = input.climate === 'tropical' && input.pathKm > 30;
	const low = tropical ? 0.6 : input.obstruction === 'extended' ? 0.3 : 0;
	return [
		{
			kFactor: input.medianK,
			wantedRatio: 1,
			why: 'ITU-R P.530, 1.0 F1 at the median k'
		},
		{
			kFactor: input.lowK,
			wantedRatio: low,
			why: `ITU-R P.530, ${low.toFixed(1)} F1 at the k exceeded for 99.9 % of the time (${
				tropical ? 'tropical, long path' : `${input.climate}, ${input.obstruction} obstruction`
			})`
		}
	];
}

/** Judges a profile by every rule of a school. */
export function judgeClearance(input: {
	profile: TerrainProfile;
	obstacles: readonly Obstacle[];
	antennaAmslM: { A: number; B: number };
	dishM?: { A: number; B: number };
	frequencyGhz: number;
	rules: readonly ClearanceRule[];
	school: ClearanceSchool;
}): ClearanceVerdict {
	const checks = input.rules.map((rule): ClearanceCheck => {
		const clearance = pathClearance({ ...input, kFactor: rule.kFactor });
		const worstRatio = clearance.worst?.ratio ?? Number.POSITIVE_INFINITY;
		// The rule is judged where it is short by most metres, which need not be the least ratio.
		const { missingM: short, beforeDish } = clearance.shortOf(rule.wantedRatio);
		const holds = worstRatio >= rule.wantedRatio - 1e-9 && beforeDish === null;
		const missingM = holds ? 0 : short;
		return { ...rule, clearance, worstRatio, holds, missingM, beforeDish };
	});
	const room = (check: ClearanceCheck): number => check.worstRatio - check.wantedRatio;
	return {
		school: input.school,
		schoolInWords: input.school === 'p530' ? 'ITU-R P.530' : 'common practice',
		checks,
		holds: checks.every((check) => check.holds),
		tightest: checks.reduce((p, q) => (room(q) < room(p) ? q : p))
	};
}
