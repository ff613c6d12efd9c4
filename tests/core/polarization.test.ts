import { describe, expect, it } from 'vitest';
import {
	adviseRotation,
	combinedDiscriminationDb,
	discriminationNeed,
	discriminationOfRotationDb,
	judgeDirections,
	rotationOfDiscriminationDeg,
	type DiscriminationReading
} from '#core/polarization/discrimination';
import { findFeedRotation, type RotationReading } from '#core/polarization/feedRotation';
import { chainOf } from '#core/polarization/chain';
import { makeRandomStream, normalDeviate } from '#core/simulate/random';
import { dual, followFeed, need, plan } from './feedFollow';
import { chainsApart, chainState } from '#core/tower/chainState';
import type { HopPlanInput } from '#core/budget/planInput';
import { configured, hopInput, soundPlan } from './planFixture';
import { feed, stateAfter, type Made } from './feed';

const FLOOR_DBM = -92;

describe('discrimination of two feeds turned against each other', () => {
	// 20·log10(tan δ), worked out by hand.
	it.each([
		[1, 35.2],
		[3.2, 25.0],
		[5.7, 20.0]
	])('at %d° is %d dB', (deg, db) => {
		expect(Math.abs(discriminationOfRotationDb(deg) - db)).toBeLessThan(0.06);
		expect(rotationOfDiscriminationDeg(db)).toBeCloseTo(deg, 1);
	});

	it('of two antennas adds their leaks as voltages at worst', () => {
		// Two of 30 dB: 6.02 dB worse.
		expect(combinedDiscriminationDb(30, 30)).toBeCloseTo(23.98, 2);
	});
});

describe('the feed-rotation finder', () => {
	/** Levels at a feed turn, of a pair that is right at `rightDeg`, with a floor out of phase. */
	const at = (feedDeg: number, rightDeg: number, floorDb: number, noise = 0): RotationReading => {
		const tangent = Math.tan(((feedDeg - rightDeg) * Math.PI) / 180);
		const ratio = 10 * Math.log10(tangent * tangent + 10 ** (-floorDb / 10));
		return { feedDeg, coDbm: -45, crossDbm: -45 + ratio + noise };
	};

	it('says from one reading how far, not which way', () => {
		const one = findFeedRotation([at(0, 3, 45)], FLOOR_DBM);
		expect(one.kind).toBe('one-reading');
		if (one.kind === 'one-reading') expect(one.byDeg).toBeCloseTo(3, 1);
	});

	it('finds the place and the floor from three readings', () => {
		const found = findFeedRotation([at(0, 3, 34), at(3.2, 3, 34), at(6, 3, 34)], FLOOR_DBM);
		expect(found.kind).toBe('found');
		if (found.kind !== 'found') return;
		expect(found.feedDeg).toBeCloseTo(3, 1);
		expect(found.floorDb).toBeCloseTo(34, 0);
		expect(found.residualDb).toBeLessThan(0.05);
	});

	it('tells two places that fit, and a reading at the first decides', () => {
		// The minimum lies between the two readings or beyond them: both fit.
		const readings = [at(0, 4, 60), at(2, 4, 60)];
		const two = findFeedRotation(readings, FLOOR_DBM);
		if (two.kind === 'two-places') {
			const next = findFeedRotation([...readings, at(two.tryFeedDeg, 4, 60)], FLOOR_DBM);
			expect(next.kind).toBe('found');
			if (next.kind === 'found') expect(next.feedDeg).toBeCloseTo(4, 1);
		} else {
			expect(two.kind).toBe('found');
			if (two.kind === 'found') expect(two.feedDeg).toBeCloseTo(4, 1);
		}
	});

	it('takes a reading at the receiver’s floor as a bound only', () => {
		const weak = (feedDeg: number): RotationReading => {
			const reading = at(feedDeg, 2, 60);
			return { ...reading, coDbm: -60, crossDbm: Math.max(-92, reading.crossDbm - 15) };
		};
		const found = findFeedRotation([weak(-4), weak(1.5), weak(2.2), weak(7)], FLOOR_DBM);
		expect(found.kind).toBe('found');
		if (found.kind === 'found') expect(Math.abs(found.feedDeg - 2)).toBeLessThan(0.3);
	});

	it('is within 0.3° with noise, and its own sigma covers the error', { timeout: 30_000 }, () => {
		const random = makeRandomStream(5);
		let inside = 0;
		let covered = 0;
		const runs = 120;
		for (let i = 0; i < runs; i++) {
			const right = -4 + 8 * random();
			const floor = 28 + 12 * random();
			const readings: RotationReading[] = [];
			let turn = 0;
			for (let n = 0; n < 4; n++) {
				readings.push(at(turn, right, floor, 0.3 * normalDeviate(random)));
				const found = findFeedRotation(readings, FLOOR_DBM);
				if (found.kind === 'found') turn = found.feedDeg + (n % 2 ? -1.5 : 1.5);
				else if (found.kind !== 'nothing-yet') turn = found.tryFeedDeg;
			}
			const found = findFeedRotation(readings, FLOOR_DBM);
			if (found.kind !== 'found') continue;
			const error = Math.abs(found.feedDeg - right);
			if (error <= 0.3) inside += 1;
			if (error <= 3 * found.sigmaDeg + 0.02) covered += 1;
		}
		expect(inside / runs).toBeGreaterThan(0.95);
		expect(covered / runs).toBeGreaterThan(0.95);
	});

	it('refuses what is no level', () => {
		expect(() => findFeedRotation([{ feedDeg: 0, coDbm: -45, crossDbm: Number.NaN }], -90)).toThrow(
			RangeError
		);
	});
});

describe('on the simulated hop', () => {
	it('whoever follows the advice ends within 0.3° of the least cross-polar signal', () => {
		const runs = Array.from({ length: 60 }, (_, i) => followFeed(100 + i, 0));
		const good = runs.filter((run) => run.last === 'stands' && Math.abs(run.errorDeg) < 0.3);
		// In a few the antennas’ own leaks are as large as a lobe’s, and the pointing is asked about.
		expect(good.length).toBeGreaterThan(55);
		const wrong = runs.filter((run) => run.last === 'stands' && Math.abs(run.errorDeg) > 0.45);
		expect(wrong).toEqual([]);
		expect(Math.max(...runs.map((run) => run.reads))).toBeLessThan(18);
	});

	it('a dish beside its axis is never called a turned feed', () => {
		// Far enough off for a lobe of the cross-polar pattern, near enough for the level to look fair.
		const runs = Array.from({ length: 40 }, (_, i) => followFeed(300 + i, 0.42));
		const told = runs.filter((run) => ['pointing-first', 'not-rotation'].includes(run.last));
		expect(told.length).toBeGreaterThan(38);
		// And where it is not told, no feed was turned away from where it belongs.
		for (const run of runs.filter((other) => other.last === 'stands')) {
			expect(Math.abs(run.errorDeg)).toBeLessThan(0.5);
		}
	});

	it('says pointing first while the dishes are not on their lobes', () => {
		const advice = adviseRotation(plan, need, [], { end: 'A', pointed: false, feedDeg: 0 });
		expect(advice.kind).toBe('pointing-first');
	});
});

describe('what must be shown', () => {
	const reading = (sent: 'vertical' | 'horizontal', db: number): DiscriminationReading => ({
		end: 'A',
		sent,
		turned: 'A',
		feedDeg: 0,
		coDbm: -45,
		crossDbm: -45 - db
	});

	it('is asked in both directions and both polarizations where both carry traffic', () => {
		const judged = judgeDirections(
			need,
			[reading('vertical', 35), reading('horizontal', 12)],
			'vertical'
		);
		expect(judged.map(({ end, sent, verdict }) => `${end} ${sent} ${verdict}`)).toEqual([
			'A vertical reached',
			'A horizontal short',
			'B vertical missing',
			'B horizontal missing'
		]);
		expect(judged[1]!.reason).toContain('14.1°');
	});

	it('of a single polarization is only that a crossed feed would be seen', () => {
		const single = discriminationNeed(hopInput(), soundPlan(hopInput()).dish);
		expect(single).toMatchObject({ dual: false, neededDb: 20 });
	});

	it('is impossible where modulation and canceller ask more than the antennas give', () => {
		const greedy = {
			...dual,
			operatingModulation: '1024 QAM',
			configuration: { ...dual.configuration, cancellerDb: 0 }
		};
		expect(discriminationNeed(greedy, plan.dish).impossible).toBe(true);
		expect(need.impossible).toBe(false);
	});
});

describe('the polarization chain', () => {
	const set = (end: 'A' | 'B', joint: string, shows: 'vertical' | 'horizontal'): Made => [
		end,
		'polarization-set',
		{ joint, shows }
	];
	const asPlanned = (end: 'A' | 'B'): Made[] =>
		chainOf(dual, end).map((joint) => set(end, joint.key, joint.expected));

	it('has every joint from the radios to the dish, and the guide itself', () => {
		expect(chainOf(dual, 'A').map(({ key, expected }) => `${key} ${expected}`)).toEqual([
			'radio-1 vertical',
			'radio-2 horizontal',
			'port-1 vertical',
			'port-2 horizontal',
			'coupling vertical',
			'port-wall-1 vertical',
			'port-wall-2 horizontal'
		]);
	});

	it('agrees when every joint does, and is open until then', () => {
		const records = feed(...asPlanned('A'));
		expect(chainState(stateAfter(dual, records), 'A')).toMatchObject({
			complete: true,
			problems: []
		});
		expect(chainState(stateAfter(dual, records.slice(1)), 'A').complete).toBe(false);
	});

	it('names the one blade that was not turned', () => {
		const single: HopPlanInput = { ...dual, configuration: configured('single') };
		const seen = chainOf(single, 'A').map((joint) => set('A', joint.key, joint.expected));
		const records = feed(...seen, set('A', 'feed', 'horizontal'));
		const { problems } = chainState(stateAfter(single, records), 'A');
		expect(problems).toHaveLength(1);
		expect(problems[0]).toContain('Feed, DP-090-18 at A is set horizontal');
	});

	it('believes the guide over a mark that may be painted over', () => {
		const records = feed(...asPlanned('A'), set('A', 'port-wall-1', 'horizontal'));
		expect(chainState(stateAfter(dual, records), 'A').problems[0]).toContain('painted over');
	});

	it('sees two ends that disagree', () => {
		const records = feed(...asPlanned('A'), ...asPlanned('B'), set('B', 'coupling', 'horizontal'));
		expect(chainsApart(stateAfter(dual, records))).toEqual([
			'Coupling, OT-18: vertical at A, horizontal at B. Both ends must be alike.'
		]);
	});
});
