import { valueOnCurve } from '../units/curve';
import { itemAt, lastOf } from '../units/lists';

/** One point of a level port's curve: level in dBm, port voltage in V. */
export type LevelCurvePoint = readonly [levelDbm: number, volts: number];

export type LevelCurveDirection = 'rising' | 'falling';

export type LevelReading =
	| { kind: 'level'; levelDbm: number; resolutionDb: number }
	| { kind: 'at-limit'; levelDbm: number; limit: 'lowest' | 'highest' }
	| { kind: 'implausible'; reason: 'above-range' | 'below-range' | 'not-a-number' };

export type LevelCurveProblem =
	'too-few-points' | 'not-finite' | 'levels-not-increasing' | 'volts-not-monotonic';

/**
 * A radio's level port: a strictly monotonic curve from dBm to volts, read both ways.
 * Made by {@link makeLevelCurve}; between points it is linear.
 */
export interface LevelCurve {
	direction: LevelCurveDirection;
	points: readonly LevelCurvePoint[];
	lowestLevelDbm: number;
	highestLevelDbm: number;
	lowestVolts: number;
	highestVolts: number;
	/** Port voltage at a level; clamped to the ends of the curve, as the port itself does. */
	voltsAt(levelDbm: number): number;
	/** What a voltage says. `resolutionV` is the meter's last digit, default 1 mV. */
	read(volts: number, resolutionV?: number): LevelReading;
}

/** Finds what is wrong with a list of points, or undefined when a curve can be made of it. */
export function findLevelCurveProblem(
	points: readonly LevelCurvePoint[]
): LevelCurveProblem | undefined {
	if (points.length < 2) return 'too-few-points';
	if (points.some(([level, volts]) => !Number.isFinite(level) || !Number.isFinite(volts))) {
		return 'not-finite';
	}
	const sorted = sortedByLevel(points);
	const direction = Math.sign(itemAt(sorted, 1)[1] - itemAt(sorted, 0)[1]);
	for (let i = 1; i < sorted.length; i++) {
		if (!(itemAt(sorted, i)[0] > itemAt(sorted, i - 1)[0])) return 'levels-not-increasing';
		const step = Math.sign(itemAt(sorted, i)[1] - itemAt(sorted, i - 1)[1]);
		if (step === 0 || step !== direction) return 'volts-not-monotonic';
	}
	return undefined;
}

/**
 * Share of the voltage span by which a reading may lie outside the curve and still be the port's:
 * the last digit of the meter and the spread of parts. Beyond it the voltage is something else.
 */
const OUTSIDE_SHARE = 0.04;

/**
 * Builds a level curve from two or more points in any order.
 *
 * Interpolation is linear between the points: the curve is read the way a crew reads the table of
 * a radio's sheet, it never overshoots, and its inverse is exact.
 *
 * @throws TypeError if {@link findLevelCurveProblem} finds a problem
 */
export function makeLevelCurve(points: readonly LevelCurvePoint[]): LevelCurve {
	const problem = findLevelCurveProblem(points);
	if (problem) throw new TypeError(`level curve: ${problem}`);
	const sorted = sortedByLevel(points);
	const first = itemAt(sorted, 0);
	const last = lastOf(sorted);
	const direction: LevelCurveDirection = last[1] > first[1] ? 'rising' : 'falling';
	const lowestVolts = Math.min(first[1], last[1]);
	const highestVolts = Math.max(first[1], last[1]);
	const marginV = OUTSIDE_SHARE * (highestVolts - lowestVolts);

	const voltsAt = (levelDbm: number): number =>
		valueOnCurve(
			sorted,
			levelDbm,
			([level]) => level,
			([, volts]) => volts
		);

	const byVolts = direction === 'rising' ? sorted : [...sorted].reverse();
	const levelAt = (volts: number): number =>
		valueOnCurve(
			byVolts,
			volts,
			([, v]) => v,
			([level]) => level
		);

	const read = (volts: number, resolutionV = 0.001): LevelReading => {
		if (!Number.isFinite(volts)) return { kind: 'implausible', reason: 'not-a-number' };
		if (volts > highestVolts + marginV + resolutionV) {
			return { kind: 'implausible', reason: 'above-range' };
		}
		if (volts < lowestVolts - marginV - resolutionV) {
			return { kind: 'implausible', reason: 'below-range' };
		}
		if (volts >= highestVolts || volts <= lowestVolts) {
			const atTop = volts >= highestVolts === (direction === 'rising');
			return {
				kind: 'at-limit',
				levelDbm: atTop ? last[0] : first[0],
				limit: atTop ? 'highest' : 'lowest'
			};
		}
		const levelDbm = levelAt(volts);
		const above = levelAt(Math.min(highestVolts, volts + resolutionV / 2));
		const below = levelAt(Math.max(lowestVolts, volts - resolutionV / 2));
		return { kind: 'level', levelDbm, resolutionDb: Math.abs(above - below) / 2 };
	};

	return {
		direction,
		points: sorted,
		lowestLevelDbm: first[0],
		highestLevelDbm: last[0],
		lowestVolts,
		highestVolts,
		voltsAt,
		read
	};
}

function sortedByLevel(points: readonly LevelCurvePoint[]): LevelCurvePoint[] {
	return [...points].sort((p, q) => p[0] - q[0]);
}

/** The level of a reading where it has one, else undefined. */
export function readingLevelDbm(reading: LevelReading): number | undefined {
	return reading.kind === 'implausible' ? undefined : reading.levelDbm;
}
