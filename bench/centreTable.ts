import { relativeGainDb } from '../src/core/antenna/taperedAperture';
import { makeLevelCurve, type LevelCurvePoint } from '../src/core/radio/levelCurve';
import { between, makeRandomStream, normalDeviate } from '../src/core/simulate/random';
import { makeSimulatedDish, type SimulatedDish } from '../src/core/simulate/simulatedDish';
import { analyseSweep } from '../src/core/sweep/analyseSweep';
import { sumOfLevelsDb } from '../src/core/units/decibel';

const BEAM_DEG = 1.372;
const PLANNED_DBM = -40;
const FLOOR_DBM = -88;
const NOISE_DB = 0.3;
const SWAY_BEAMWIDTHS = 0.012;
const CURVE: LevelCurvePoint[] = [
	[-95, 0.1],
	[-20, 3.85]
];
const curve = makeLevelCurve(CURVE);

interface Setting {
	name: string;
	reachBeamwidths: number;
	perBeamwidth: number;
	offsetBeamwidths: number;
	dish: (seed: number) => SimulatedDish;
}

const round: SimulatedDish = (azimuthDeg, tiltDeg) =>
	relativeGainDb(Math.hypot(azimuthDeg, tiltDeg) / BEAM_DEG);
const uneven = (seed: number): SimulatedDish => makeSimulatedDish(seed, BEAM_DEG);

const SETTINGS: readonly Setting[] = [
	[0.8, 5, 0.05],
	[1.3, 9, 0.05],
	[3, 9, 0.05],
	[3, 9, 0.5],
	[3, 18, 0.05]
].flatMap(([reach, per, offset]) =>
	(['round', 'uneven'] as const).map((kind) => ({
		name: `±${reach} beams, ${per} a beam, ${offset} beam aside, ${kind} dish`,
		reachBeamwidths: reach!,
		perBeamwidth: per!,
		offsetBeamwidths: offset!,
		dish: kind === 'round' ? () => round : uneven
	}))
);

/** Level of the cut without noise, dBm. */
const levelAt = (dish: SimulatedDish, x: number, y: number, axisDbm: number): number =>
	sumOfLevelsDb([axisDbm + dish(x, y), FLOOR_DBM]);

/**
 * Cramér–Rao bound of the centre, degrees: square root of its element of the inverse of the Fisher
 * information of (centre, level on axis, distance of the cut from the axis), the pattern being known.
 * Each sample has the meter's noise and the sway turned into dB by the slope there.
 */
function boundDeg(
	dish: SimulatedDish,
	positions: readonly number[],
	centreDeg: number,
	asideDeg: number
): number {
	const step = 0.002 * BEAM_DEG;
	const info = [0, 0, 0].map(() => [0, 0, 0]);
	for (const position of positions) {
		const x = position - centreDeg;
		const slope = (dx: number, dy: number, dz: number): number =>
			(levelAt(dish, x + dx, asideDeg + dy, PLANNED_DBM + dz) -
				levelAt(dish, x - dx, asideDeg - dy, PLANNED_DBM - dz)) /
			2;
		const gradient = [
			-slope(step, 0, 0) / step,
			slope(0, 0, 0.01) / 0.01,
			slope(0, step, 0) / step
		];
		const variance = NOISE_DB ** 2 + (gradient[0]! * SWAY_BEAMWIDTHS * BEAM_DEG) ** 2;
		for (let i = 0; i < 3; i++) {
			for (let j = 0; j < 3; j++) info[i]![j]! += (gradient[i]! * gradient[j]!) / variance;
		}
	}
	const [[a, b, c], [, d, e], [, , f]] = info as [number[], number[], number[]] as [
		[number, number, number],
		[number, number, number],
		[number, number, number]
	];
	const determinant = a * (d * f - e * e) - b * (b * f - e * c) + c * (b * e - d * c);
	return Math.sqrt((d * f - e * e) / determinant);
}

/** For each way of sweeping: error of the estimate, the bound, and their ratio. */
export function centreTable(cuts: number): string {
	const lines = [
		`${cuts} cuts each; noise ${NOISE_DB} dB, sway ${SWAY_BEAMWIDTHS} beam; errors in thousandths of a beam`,
		'',
		`${''.padEnd(52)} error   bound   ratio   worst`
	];
	for (const setting of SETTINGS) {
		let square = 0;
		let bound = 0;
		let worst = 0;
		for (let seed = 1; seed <= cuts; seed++) {
			const random = makeRandomStream(seed * 977 + 3);
			const dish = setting.dish(seed);
			const centreDeg = between(random, -0.4, 0.4) * BEAM_DEG;
			const asideDeg = setting.offsetBeamwidths * BEAM_DEG;
			const count = Math.round(2 * setting.reachBeamwidths * setting.perBeamwidth) + 1;
			const positions = Array.from(
				{ length: count },
				(_, i) => setting.reachBeamwidths * BEAM_DEG * ((2 * i) / (count - 1) - 1)
			);
			const samples = positions.map((positionDeg, i) => {
				const sway = SWAY_BEAMWIDTHS * BEAM_DEG * normalDeviate(random);
				const level =
					levelAt(dish, positionDeg - centreDeg + sway, asideDeg, PLANNED_DBM) +
					NOISE_DB * normalDeviate(random);
				return { elapsedS: i, positionDeg, levelV: curve.voltsAt(level) };
			});
			const { centreDeg: found } = analyseSweep({
				axis: 'azimuth',
				frequencyGhz: 25.5,
				dishDiameterM: 0.6,
				beamwidthDeg: BEAM_DEG,
				plannedLevelDbm: PLANNED_DBM,
				levelCurve: CURVE,
				samples
			});
			const error = found === null ? BEAM_DEG : found - centreDeg;
			square += error * error;
			worst = Math.max(worst, Math.abs(error));
			bound += boundDeg(dish, positions, centreDeg, asideDeg) ** 2;
		}
		const rms = Math.sqrt(square / cuts);
		const least = Math.sqrt(bound / cuts);
		const thousandths = (deg: number): string => ((1000 * deg) / BEAM_DEG).toFixed(1).padStart(7);
		lines.push(
			`${setting.name.padEnd(52)}${thousandths(rms)} ${thousandths(least)} ${(rms / least).toFixed(2).padStart(7)} ${thousandths(worst)}`
		);
	}
	return lines.join('\n');
}
