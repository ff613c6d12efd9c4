import { describe, expect, it } from 'vitest';
import { makeLevelCurve, type LevelCurvePoint } from '#core/radio/levelCurve';
import { analyseSweep, type SweepAnalysis, type SweepSample } from '#core/sweep/analyseSweep';
import { between, makeRandomStream, normalDeviate } from '#core/simulate/random';
import { makeSimulatedDish } from '#core/simulate/simulatedDish';
import { sumOfLevelsDb } from '#core/units/decibel';
import { calibrateAdjuster } from '#core/sweep/calibrateAdjuster';
import { withDegPerTurn } from '#core/record/adjusters';
import { adjusterAngleDeg, adjusterTurns } from '#core/sweep/adjusterScale';
import { catalogue, part } from './planFixture';
import { simulatedCut } from './simulatedCut';

const BEAM = 1.372;
const CURVE: LevelCurvePoint[] = [
	[-90, 0.4],
	[-25, 3.65]
];
const curve = makeLevelCurve(CURVE);

interface Bent {
	/** Play of the thread, degrees: the dish lags on the way back. */
	playDeg?: number;
	/** Change of the level over the whole sweep, dB. */
	driftDb?: number;
	/** Change of the level from one moment on, dB. */
	stepDb?: number;
	/** When it steps, as a share of the time. */
	stepAt?: number;
	/** The level is held here by power control, dBm. */
	heldDbm?: number;
	stepV?: number;
	plannedDbm?: number;
	out?: boolean;
	back?: boolean;
}

/** A cut over the main lobe about +0.4° with what is to be found in it. */
function bentCut(seed: number, bent: Bent): { samples: SweepSample[]; centreDeg: number } {
	const random = makeRandomStream(seed * 131);
	const dish = makeSimulatedDish(seed, BEAM);
	const centreDeg = between(random, -0.5, 0.5);
	const n = 50;
	const positions = Array.from({ length: n }, (_, i) => -4 + (8 * i) / (n - 1));
	const passes = [
		...(bent.out === false ? [] : positions.map((p) => [p, 0] as const)),
		...(bent.back ? [...positions].reverse().map((p) => [p, bent.playDeg ?? 0] as const) : [])
	];
	const samples = passes.map(([position, lag], i) => {
		const share = i / (passes.length - 1);
		let level =
			(bent.plannedDbm ?? -40) +
			dish(position + lag - centreDeg + 0.01 * normalDeviate(random), 0.1) +
			(bent.driftDb ?? 0) * share +
			(share > (bent.stepAt ?? 0.62) ? (bent.stepDb ?? 0) : 0) +
			0.15 * normalDeviate(random);
		if (bent.heldDbm !== undefined) level = Math.min(level, bent.heldDbm);
		const volts = curve.voltsAt(sumOfLevelsDb([level, -88]));
		const stepV = bent.stepV ?? 0.001;
		return { elapsedS: i, positionDeg: position, levelV: Math.round(volts / stepV) * stepV };
	});
	return { samples, centreDeg };
}

const read = (samples: SweepSample[], plannedLevelDbm = -40): SweepAnalysis =>
	analyseSweep({
		axis: 'azimuth',
		frequencyGhz: 25.5,
		dishDiameterM: 0.6,
		beamwidthDeg: BEAM,
		plannedLevelDbm,
		levelCurve: CURVE,
		samples
	});
const SEEDS = [1, 2, 3, 4, 5, 6, 7, 8];

describe('what else has left its mark in a sweep', { timeout: 60_000 }, () => {
	it('nothing is seen where there is nothing, in a sweep out and back and in ninety others', () => {
		for (const seed of SEEDS) {
			expect(read(bentCut(seed, { back: true }).samples).marks).toEqual([]);
		}
		const seen = Array.from({ length: 90 }, (_, seed) =>
			analyseSweep(simulatedCut(seed + 1).input)
		);
		expect(seen.flatMap((analysis) => analysis.marks.map((mark) => mark.kind))).toEqual([]);
	});

	it.each([0.1, 0.2, 0.35])(
		'play of %f° is measured from out and back, and the centre is that of the way out',
		(playDeg) => {
			for (const seed of SEEDS) {
				const { samples, centreDeg } = bentCut(seed, { playDeg, back: true });
				const analysis = read(samples);
				const play = analysis.marks.find((mark) => mark.kind === 'play');
				expect(Math.abs(play!.value - playDeg)).toBeLessThan(0.06);
				expect(Math.abs(analysis.centreDeg! - centreDeg)).toBeLessThan(0.06);
			}
		}
	);

	it('a slow fade is measured from positions read twice, and taken off', () => {
		for (const seed of SEEDS) {
			const { samples, centreDeg } = bentCut(seed, { driftDb: -5, back: true });
			const analysis = read(samples);
			const fade = analysis.marks.find((mark) => mark.kind === 'slow-fade');
			expect(Math.abs(fade!.value + 5)).toBeLessThan(1);
			expect(analysis.verdict).toBe('main-lobe');
			expect(Math.abs(analysis.centreDeg! - centreDeg)).toBeLessThan(0.08);
		}
	});

	it('a far end that moved is told from a fade by its step, out and back or in one pass', () => {
		for (const seed of SEEDS) {
			const { samples } = bentCut(seed, { stepDb: -9, back: true });
			const moved = read(samples).marks.find((mark) => mark.kind === 'far-end-moved');
			expect(Math.abs(moved!.value + 9)).toBeLessThan(2.5);
			const once = read(bentCut(seed, { stepDb: -9, stepAt: 0.5 }).samples);
			expect(once.marks.map((mark) => mark.kind)).toContain('far-end-moved');
		}
	});

	it('a top held flat is not a dish’s: power control below the port’s end, saturation at it', () => {
		for (const seed of SEEDS) {
			const held = bentCut(seed, { heldDbm: -50 });
			const analysis = read(held.samples);
			expect(analysis.marks.map((mark) => mark.kind)).toContain('held-flat');
			expect(Math.abs(analysis.centreDeg! - held.centreDeg)).toBeLessThan(0.25 * BEAM);
			const strong = bentCut(seed, { plannedDbm: -12 });
			const saturated = read(strong.samples, -12);
			expect(saturated.marks.map((mark) => mark.kind)).toContain('saturated');
			expect(Math.abs(saturated.centreDeg! - strong.centreDeg)).toBeLessThan(0.25 * BEAM);
		}
	});

	it('a coarse meter is named, and its middle is still within a tenth of a beam', () => {
		for (const seed of SEEDS) {
			const { samples, centreDeg } = bentCut(seed, { stepV: 0.1 });
			const analysis = read(samples);
			const coarse = analysis.marks.find((mark) => mark.kind === 'coarse-meter');
			expect(coarse!.value).toBeCloseTo(2, 1);
			expect(Math.abs(analysis.centreDeg! - centreDeg)).toBeLessThan(0.1 * BEAM);
		}
	});

	it('what needs times is left unsaid without them', () => {
		const { samples } = bentCut(3, { playDeg: 0.35, back: true });
		const timeless = samples.map(({ positionDeg, levelV }) => ({ positionDeg, levelV }));
		expect(read(timeless).marks).toEqual([]);
	});

	it('puts its words among the reasons', () => {
		const analysis = read(bentCut(2, { playDeg: 0.3, back: true }).samples);
		expect(analysis.reasons.join(' ')).toContain('play of the thread');
	});
});

describe('an adjuster measured by the beam', () => {
	const planned = part(catalogue.mounts, 'MB-S').azimuth;

	it.each([0.5, 0.8, 1.3])('whose thread does %f times what the plan says', (share) => {
		const truth = withDegPerTurn(planned, share * adjusterAngleDeg(planned, 1));
		for (const seed of SEEDS) {
			// Swept in turns; the plan's scale puts the readings at other degrees than the dish stood at.
			const { samples } = bentCut(seed, {});
			const shifted = samples.map((sample) => ({
				...sample,
				positionDeg: adjusterAngleDeg(planned, adjusterTurns(truth, sample.positionDeg))
			}));
			const levels = shifted.map(({ positionDeg, levelV }) => ({
				positionDeg,
				levelDbm: (curve.read(levelV) as { levelDbm: number }).levelDbm
			}));
			const found = calibrateAdjuster(
				planned,
				levels,
				{ verdict: 'main-lobe', peakPositionDeg: 0, peakLevelDbm: -40 },
				BEAM
			);
			if (found.kind !== 'measured') throw new Error(found.reason);
			const error = found.degPerTurn / adjusterAngleDeg(truth, 1) - 1;
			expect(Math.abs(error)).toBeLessThan(0.08);
			expect(Math.abs(error * found.degPerTurn)).toBeLessThan(3 * found.sigmaDegPerTurn);
		}
	});

	it('not by a cut beside the main lobe, nor by one that ends on a flank', () => {
		const levels = bentCut(1, {}).samples.map(({ positionDeg, levelV }) => ({
			positionDeg,
			levelDbm: (curve.read(levelV) as { levelDbm: number }).levelDbm
		}));
		const analysis = { peakPositionDeg: 0, peakLevelDbm: -40 };
		expect(
			calibrateAdjuster(planned, levels, { ...analysis, verdict: 'beside-main-lobe' }, BEAM).kind
		).toBe('unusable');
		const cutOff = levels.filter((sample) => sample.positionDeg < 0.4);
		expect(
			calibrateAdjuster(planned, cutOff, { ...analysis, verdict: 'main-lobe' }, BEAM).kind
		).toBe('unusable');
	});
});
