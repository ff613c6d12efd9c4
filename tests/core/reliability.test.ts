import { describe, expect, it } from 'vitest';
import dishes from '../../catalog/dishes.json';
import { locate, type Location } from '#core/locate/locator';
import { ALONG_A_CUT, OVER_THE_MAP } from '#core/sweep/readingModel';
import { reliabilityCase, type Read, type Situation } from './reliabilityCase';

const BANDS = dishes.flatMap((dish) =>
	dish.bands.map((band) => ({ diameterM: dish.diameterM, ...band }))
);

interface Told {
	stated: number;
	found: boolean;
	lead: number;
	/** Error of either axis over what was stated of it. */
	sigmas: number[];
}

function told(situation: Situation, read: Read, count: number): Told[] {
	return Array.from({ length: count }, (_, i) => i + 1).flatMap((seed) => {
		const band = BANDS[seed % BANDS.length]!;
		const { input, truth } = reliabilityCase(seed, band, situation, read);
		const { boresight, probability, lead }: Location = locate(input);
		if (!boresight) return [];
		const off = [
			boresight.azimuthDeg - truth.azimuthDeg,
			boresight.tiltDeg - truth.tiltDeg
		] as const;
		return {
			...{ stated: probability, lead },
			found: Math.hypot(...off) <= 0.9 * band.beamwidthDeg,
			sigmas: [
				Math.abs(off[0]) / boresight.told.azimuthDeg,
				Math.abs(off[1]) / boresight.told.tiltDeg
			]
		};
	});
}

const mean = (values: readonly number[]): number =>
	values.reduce((sum, value) => sum + value, 0) / values.length;
const share = (lines: readonly Told[]): number => mean(lines.map(({ found }) => (found ? 1 : 0)));

describe('what the map states of a place', () => {
	const few = [...told('as it comes', '1 reading', 130), ...told('as it comes', '3 readings', 130)];

	it('after few readings is found as often as it says', () => {
		expect(few.length).toBeGreaterThan(150);
		for (const [from, to] of [
			[0, 0.5],
			[0.5, 0.9],
			[0.9, 1]
		] as const) {
			const bin = few.filter(({ stated }) => stated >= from && stated <= to);
			expect(bin.length).toBeGreaterThan(30);
			expect(Math.abs(share(bin) - mean(bin.map(({ stated }) => stated)))).toBeLessThan(0.16);
		}
	});

	it('is nothing that the likeliest place alone could say', () => {
		// The share among the likeliest places leads a search; stated it would be wrong half the time.
		const sure = few.filter(({ lead }) => lead >= 0.8 && lead < 0.99);
		expect(mean(sure.map(({ lead }) => lead)) - share(sure)).toBeGreaterThan(0.15);
	});

	it('after two sweeps is all but certain, and right', () => {
		const swept = told('as it comes', 'two sweeps', 60);
		expect(mean(swept.map(({ stated }) => stated))).toBeGreaterThan(0.97);
		expect(share(swept)).toBeGreaterThan(0.97);
		const sigmas = swept.filter(({ found }) => found).flatMap((line) => line.sigmas);
		const within = (limit: number): number =>
			sigmas.filter((value) => value <= limit).length / sigmas.length;
		expect(within(1)).toBeGreaterThan(0.58);
		expect(within(1.96)).toBeGreaterThan(0.87);
	});

	it('is less sharp where the mast is restless', () => {
		const coverage = (situation: Situation): number => {
			const lines = told(situation, 'two sweeps', 60).filter(({ found }) => found);
			const sigmas = lines.flatMap((line) => line.sigmas);
			return sigmas.filter((value) => value <= 1.96).length / sigmas.length;
		};
		expect(coverage('strong sway')).toBeGreaterThan(0.8);
	});
});

describe('the common level', () => {
	it.each([
		['of a cut', ALONG_A_CUT],
		['over the map', OVER_THE_MAP]
	])('%s is integrated as sums do it', (_, { logPriorOfLevel, integrals }) => {
		const step = 0.005;
		const sum = (of: (x: number) => number, to: number): number => {
			let total = 0;
			for (let x = -90 + step / 2; x < to; x += step) total += of(x) * step;
			return Math.log(total);
		};
		const prior = (x: number): number => Math.exp(logPriorOfLevel(x));
		for (const at of [-34, -21, -9, 0, 2]) {
			expect(integrals.logUpTo(at)).toBeCloseTo(sum(prior, at), 2);
			for (const sigma of [0.2, 1, 3]) {
				const around = sum((x) => prior(x) * Math.exp(-0.5 * ((x - at) / sigma) ** 2), 20);
				expect(Math.abs(integrals.logAround(at, sigma) - around)).toBeLessThan(0.05);
			}
		}
	});
});
