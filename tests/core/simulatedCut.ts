import { makeLevelCurve, type LevelCurvePoint } from '#core/radio/levelCurve';
import { halfPowerBeamwidthDeg } from '#core/antenna/gain';
import { between, makeRandomStream, normalDeviate } from '#core/simulate/random';
import { makeSimulatedDish } from '#core/simulate/simulatedDish';
import type { SweepInput } from '#core/sweep/analyseSweep';
import { sumOfLevelsDb } from '#core/units/decibel';

const CURVES: LevelCurvePoint[][] = [
	[
		[-90, 0.4],
		[-20, 3.55]
	],
	[
		[-90, 1.85],
		[-20, 0.45]
	],
	[
		[-95, 0.3],
		[-75, 0.62],
		[-55, 1.3],
		[-35, 2.2],
		[-20, 2.44]
	]
];
const DISHES: [number, number][] = [
	[7.4, 1.8],
	[8.2, 1.2],
	[13, 0.9],
	[15.2, 0.6],
	[26.1, 0.3],
	[38.4, 0.6],
	[74.5, 0.3],
	[82, 0.6]
];

export interface SimulatedCut {
	input: SweepInput;
	kind: 'on-axis' | 'near-axis' | 'off-axis' | 'far-end-off' | 'crossed';
	onMainLobe: boolean;
	centreDeg: number;
	beamwidthDeg: number;
}

const KINDS = ['on-axis', 'near-axis', 'off-axis', 'far-end-off', 'crossed'] as const;

/** A cut with known answer: uneven dish, noise, sway, slow fade, floor, either direction of sweep. */
export function simulatedCut(seed: number): SimulatedCut {
	const random = makeRandomStream(seed * 7919 + 13);
	const kind = KINDS[seed % KINDS.length]!;
	const [frequencyGhz, dishDiameterM] = DISHES[Math.floor(random() * DISHES.length)]!;
	const levelCurve = CURVES[Math.floor(random() * CURVES.length)]!;
	const beamwidthDeg = halfPowerBeamwidthDeg(frequencyGhz, dishDiameterM);
	const dish = makeSimulatedDish(seed, beamwidthDeg * between(random, 0.93, 1.03));
	const plannedLevelDbm = between(random, -48, -32);
	const floorDbm = between(random, -92, -82);
	const offset =
		kind === 'off-axis'
			? between(random, 1.3, 1.85)
			: kind === 'near-axis'
				? between(random, 0.4, 0.62)
				: between(random, 0, 0.22);
	const tiltOffset = offset * beamwidthDeg * (random() < 0.5 ? -1 : 1);
	const commonLoss =
		kind === 'far-end-off'
			? between(random, 16, 24)
			: kind === 'crossed'
				? between(random, 26, 32)
				: 0;
	const centreDeg = between(random, -0.7, 0.7) * beamwidthDeg;
	const reach = between(random, 3, 4.8) * beamwidthDeg;
	const count = Math.round(between(random, 60, 125));
	const curve = makeLevelCurve(levelCurve);
	const fadePhase = random() * 6;
	const backwards = random() < 0.5;
	const samples = Array.from({ length: count }, (_, i) => {
		const share = i / (count - 1);
		const position =
			(backwards ? 1 - 2 * share : 2 * share - 1) * reach +
			0.02 * normalDeviate(random) * beamwidthDeg;
		const sway = 0.02 * beamwidthDeg * normalDeviate(random);
		const signal =
			plannedLevelDbm -
			commonLoss +
			dish(position - centreDeg + sway, tiltOffset) +
			0.5 * Math.sin(i / 25 + fadePhase) +
			0.3 * normalDeviate(random);
		const levelDbm = sumOfLevelsDb([signal, floorDbm]);
		return {
			elapsedS: i,
			positionDeg: Number(position.toFixed(4)),
			levelV: Number(curve.voltsAt(levelDbm).toFixed(3))
		};
	});
	return {
		input: { axis: 'azimuth', frequencyGhz, dishDiameterM, plannedLevelDbm, levelCurve, samples },
		kind,
		onMainLobe: kind !== 'off-axis',
		centreDeg,
		beamwidthDeg
	};
}
