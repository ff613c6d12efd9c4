import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { analyseSweep, type SweepInput } from '#core/sweep/analyseSweep';
import { findLobes } from '#core/sweep/lobes';
import { simulatedCut } from './simulatedCut';

describe('simulated cuts with known answers', { timeout: 60_000 }, () => {
	const cuts = Array.from({ length: 90 }, (_, seed) => simulatedCut(seed + 1));

	it.each(['on-axis', 'near-axis', 'off-axis', 'far-end-off', 'crossed'] as const)(
		'%s: every verdict right, every centre within a quarter of the beam',
		(kind) => {
			const ofKind = cuts.filter((cut) => cut.kind === kind);
			expect(ofKind.length).toBe(18);
			for (const cut of ofKind) {
				const analysis = analyseSweep(cut.input);
				expect(analysis.verdict).toBe(cut.onMainLobe ? 'main-lobe' : 'beside-main-lobe');
				const error = Math.abs(analysis.centreDeg! - cut.centreDeg) / cut.beamwidthDeg;
				expect(error).toBeLessThan(0.25);
			}
		}
	);

	it('gives the same answer backwards, shuffled, and with every sample twice', () => {
		const { input } = cuts[2]!;
		const first = analyseSweep(input);
		const variants = [
			[...input.samples].reverse(),
			[...input.samples].sort(
				(p, q) => Math.sin(p.positionDeg * 99) - Math.sin(q.positionDeg * 99)
			),
			[...input.samples, ...input.samples]
		];
		for (const samples of variants) {
			const again = analyseSweep({ ...input, samples });
			expect(again.verdict).toBe(first.verdict);
			expect(again.centreDeg).toBeCloseTo(first.centreDeg!, 2);
		}
	});

	it('moves its centre with the positions', () => {
		const { input } = cuts[0]!;
		const shifted = {
			...input,
			samples: input.samples.map((s) => ({ ...s, positionDeg: s.positionDeg + 3 }))
		};
		expect(analyseSweep(shifted).centreDeg).toBeCloseTo(analyseSweep(input).centreDeg! + 3, 1);
	});

	it('mirrors its centre when the sweep is mirrored', () => {
		const { input } = cuts[7]!;
		const mirrored = {
			...input,
			samples: input.samples.map((s) => ({ ...s, positionDeg: -s.positionDeg }))
		};
		expect(analyseSweep(mirrored).centreDeg).toBeCloseTo(-analyseSweep(input).centreDeg!, 1);
	});

	it('for a cut beside the main lobe points to the middle, not to the higher hump', () => {
		const cut = cuts.find(
			(candidate) =>
				candidate.kind === 'off-axis' &&
				Math.abs(analyseSweep(candidate.input).peakPositionDeg! - candidate.centreDeg) >
					0.3 * candidate.beamwidthDeg
		)!;
		const analysis = analyseSweep(cut.input);
		expect(Math.abs(analysis.centreDeg! - cut.centreDeg)).toBeLessThan(0.1 * cut.beamwidthDeg);
		expect(analysis.reasons.join(' ')).toContain('Do not go to the highest hump');
	});
});

describe('readings that are no sweep of a far end', () => {
	const base: SweepInput = {
		axis: 'tilt',
		frequencyGhz: 26,
		dishDiameterM: 0.6,
		plannedLevelDbm: -43,
		levelCurve: [
			[-90, 0.4],
			[-20, 3.55]
		],
		samples: []
	};
	const at = (volts: (i: number) => number): SweepInput => ({
		...base,
		samples: Array.from({ length: 60 }, (_, i) => ({
			positionDeg: -5 + i / 6,
			levelV: volts(i)
		}))
	});

	it('volts above the port are pick-up', () => {
		const analysis = analyseSweep(at((i) => 4.4 + 0.2 * Math.sin(i)));
		expect(analysis.verdict).toBe('implausible-reading');
		expect(analysis.centreDeg).toBeNull();
		expect(analysis.reasons.join(' ')).toContain('shadow');
		expect(analysis.excludedSamples).toBe(60);
	});

	it('a few wild readings are left out and counted', () => {
		const { input } = simulatedCut(1);
		const wild = input.samples.map((s, i) => (i % 20 === 3 ? { ...s, levelV: 9 } : s));
		const analysis = analyseSweep({ ...input, samples: wild });
		expect(analysis.verdict).toBe('main-lobe');
		expect(analysis.excludedSamples).toBeGreaterThan(2);
		expect(analysis.reasons.join(' ')).toContain('left out');
	});

	it('the receiver floor alone is no signal', () => {
		expect(analyseSweep(at((i) => 0.58 + 0.004 * Math.sin(i * 3))).verdict).toBe('no-signal');
	});

	it('a level that does not follow the dish is not taken for a lobe', () => {
		const analysis = analyseSweep(at((i) => 2.6 + 0.01 * Math.sin(i * 2)));
		expect(analysis.verdict).toBe('implausible-reading');
		expect(analysis.reasons.join(' ')).toContain('ATPC');
	});

	it('fewer than five samples are refused', () => {
		expect(() => analyseSweep({ ...base, samples: at(() => 1).samples.slice(0, 4) })).toThrow(
			RangeError
		);
	});
});

describe('lobes', () => {
	const samples = Array.from({ length: 400 }, (_, i) => {
		const x = -4 + i / 50;
		// Two bells of known place, width and height over a floor.
		const levelDbm = Math.max(-90, -60 - 12 * (x - 1) ** 2, -66 - 12 * (x + 1.5) ** 2);
		return { positionDeg: x, levelDbm };
	});

	it('are found where they are, as high and as wide as they are', () => {
		const lobes = findLobes(samples, 1, -90);
		expect(lobes).toHaveLength(2);
		expect(lobes[0]!.positionDeg).toBeCloseTo(-1.5, 1);
		expect(lobes[1]!.positionDeg).toBeCloseTo(1, 1);
		expect(lobes[1]!.levelDbm).toBeCloseTo(-60, 0);
		// 12·x² = 3 dB at x = 0.5 either side.
		expect(lobes[1]!.widthDeg).toBeCloseTo(1, 1);
	});

	it('of a single point or of nothing are none', () => {
		expect(findLobes([], 1, -90)).toEqual([]);
		expect(findLobes([{ positionDeg: 0, levelDbm: -50 }], 1, -90)).toEqual([]);
	});
});

it('a sweep of whatever readings is answered, never broken off', () => {
	const { input } = simulatedCut(1);
	const sample = fc.record({
		elapsedS: fc.constantFrom(0, 1, 2, 3, 7, 20),
		positionDeg: fc.constantFrom(-3, -1, 0, 0, 0.2, 0.5, 1, 3),
		levelV: fc.constantFrom(0, 0.3, 1, 1, 2, 2.5, 99)
	});
	fc.assert(
		fc.property(fc.array(sample, { minLength: 7, maxLength: 24 }), (samples) => {
			expect(analyseSweep({ ...input, samples }).reasons.length).toBeGreaterThan(0);
		}),
		{ numRuns: 600 }
	);
});
