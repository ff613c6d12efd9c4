import { ENDS, farEnd, type End, type PerEnd } from '../ends';
import { inverseGeodesic } from '../geodesy/geodesic';
import { requiredHeightAtA, requiredHeightAtB } from '../path/antennaHeights';
import {
	clearanceRules,
	judgeClearance,
	type ClearanceCheck,
	type ClearanceVerdict
} from '../path/clearanceSchool';
import { obstructionLoss, type ObstructionLoss } from '../path/obstructionLoss';
import type { Carrier } from './configuration';
import { antennaHeights } from './directionBudget';
import { antennaAmslM, type HopPlanInput } from './planInput';
import { isProfileBetween } from '../path/samplePath';
import { itemAt } from '../units/lists';

/** The path of a plan with every point, for the chart and the words beside it. */
export interface PathFigures {
	verdict: ClearanceVerdict;
	/** Frequency that was judged: the lower one, whose Fresnel zone is the larger, GHz. */
	frequencyGhz: number;
	/** Loss at the first k that was judged. */
	loss: ObstructionLoss;
	/** Height above ground that an end alone would need with the other as planned, m. */
	neededAglM: PerEnd<number>;
}

/** Values of k outside of which nothing is judged. */
const K_RANGE = { least: 0.3, most: 10 };

/** The lower frequency of a hop has the larger Fresnel zone. */
function judgedFrequencyGhz({ ends }: HopPlanInput): number {
	return Math.min(ends.A.transmitFrequencyGhz, ends.B.transmitFrequencyGhz);
}

/**
 * The whole clearance verdict with every point, for charts; undefined without a profile.
 *
 * @param pathKm length of the path, above 0
 */
export function clearanceOf(input: HopPlanInput, pathKm: number): ClearanceVerdict | undefined {
	const { profile, obstacles, school, obstruction } = input.path;
	if (!profile) return undefined;
	return judgeClearance({
		profile,
		obstacles,
		antennaAmslM: { A: antennaAmslM(input.ends.A), B: antennaAmslM(input.ends.B) },
		dishM: { A: input.ends.A.dish.diameterM, B: input.ends.B.dish.diameterM },
		frequencyGhz: judgedFrequencyGhz(input),
		rules: clearanceRules({
			school,
			pathKm,
			medianK: input.kFactor,
			lowK: input.climate.lowK,
			climate: input.climate.kind,
			obstruction
		}),
		school
	});
}

/** The path between one antenna and another that is not the main pair, judged for itself. */
export interface SecondPath {
	carrier: Carrier;
	/** The end whose second dish hears; null where both ends have their second dish on this path. */
	end: End | null;
	check: ClearanceCheck;
}

/** Clearance wanted at the median k under a diversity dish, in Fresnel radii. Source: ITU-R P.530-18, §2.2.2.2. */
const DIVERSITY_RATIO = { isolated: 0.3, extended: 0.6 };

/** Every path of a second dish; none without a profile. */
export function secondPathsOf(input: HopPlanInput, carriers: readonly Carrier[]): SecondPath[] {
	const { profile, obstacles, obstruction, school } = input.path;
	if (!profile) return [];
	const judge = (carrier: Carrier, end: End, wantedRatio: number, why: string): ClearanceCheck => {
		const far = farEnd(end);
		const verdict = judgeClearance({
			...{ profile, obstacles, school },
			antennaAmslM: antennaHeights(input, carrier, end),
			dishM: per((at) =>
				at === end ? carrier.receiveDish[end].diameterM : carrier.transmitDish[far].diameterM
			),
			frequencyGhz: carrier.transmitFrequencyGhz[far],
			rules: [{ kFactor: input.kFactor, wantedRatio, why }]
		});
		return itemAt(verdict.checks, 0);
	};
	return carriers.flatMap((carrier): SecondPath[] => {
		if (carrier.role === 'second-band') {
			return [{ carrier, end: null, check: judge(carrier, 'A', 0.6, '0.6 F1 at the median k') }];
		}
		if (carrier.role !== 'diversity') return [];
		const ratio = DIVERSITY_RATIO[obstruction];
		const why = `ITU-R P.530, ${ratio} F1 at the median k under a diversity dish, ${obstruction} obstruction`;
		return ENDS.map((end) => ({ carrier, end, check: judge(carrier, end, ratio, why) }));
	});
}

const per = <T>(of: (end: End) => T): PerEnd<T> => ({ A: of('A'), B: of('B') });

/** What a planner sees of the path; undefined without a profile, or with a k that means nothing. */
export function pathFiguresOf(input: HopPlanInput): PathFigures | undefined {
	const frequencyGhz = judgedFrequencyGhz(input);
	const { kFactor, ends } = input;
	if (!(kFactor >= K_RANGE.least && kFactor <= K_RANGE.most) || !(frequencyGhz >= 0.1)) {
		return undefined;
	}
	const pathKm = inverseGeodesic(ends.A.position, ends.B.position).lengthM / 1000;
	const verdict = clearanceOf(input, pathKm);
	if (!verdict) return undefined;
	return {
		verdict,
		frequencyGhz,
		loss: obstructionLoss(itemAt(verdict.checks, 0).clearance, frequencyGhz),
		neededAglM: {
			A: requiredHeightAtA(verdict, antennaAmslM(ends.B)) - ends.A.groundAmslM,
			B: requiredHeightAtB(verdict, antennaAmslM(ends.A)) - ends.B.groundAmslM
		}
	};
}

/** Whether the profile of a plan was taken between other places than its sites. */
export function isStaleProfile({ path: { profile }, ends }: HopPlanInput): boolean {
	return profile !== null && !isProfileBetween(profile, ends.A.position, ends.B.position);
}
