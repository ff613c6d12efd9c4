import { describe, expect, it } from 'vitest';
import { CAUSES, type Cause } from '#core/diagnose/causes/keys';
import { CAUSE_PAIRS, CAUSE_TABLE } from '#core/diagnose/causes/table';
import { diagnose, outcomeUnder } from '#core/diagnose/diagnosis';
import type { DiagnosisInput } from '#core/diagnose/question';
import { findTest, observationOf, SIGHT_KEYS, SIGHTS, TEST_KEYS } from '#core/diagnose/sights';

const hop: DiagnosisInput = {
	plannedDbm: { A: -43, B: -43.5 },
	measuredDbm: { A: -43, B: -43.5 },
	crossPolarDbm: { A: null, B: null },
	toleranceDb: 2,
	floorDbm: { A: -90, B: -90 },
	firstSideLobeDb: { A: 19, B: 23 },
	crossPolarDiscriminationDb: 31,
	crossedCablesLossDb: { A: 0, B: 0 },
	armDifferenceDb: 5,
	dishSizeStepDb: 3.5,
	maxInputDbm: { A: -20, B: -20 },
	observations: {}
};
const pairNames = new Set(CAUSE_PAIRS.map(([p, q]) => [p, q].sort().join(' + ')));
const paired = (p: Cause, q: Cause): boolean => pairNames.has([p, q].sort().join(' + '));
const singles = CAUSES.filter((cause) => !CAUSE_TABLE[cause].alone);

describe('the table of causes', () => {
	it.each(CAUSES.map((cause) => [cause, CAUSE_TABLE[cause]] as const))(
		'%s has a rarity, chances and losses that can be',
		(_, row) => {
			expect(row.prior).toBeGreaterThan(0);
			expect(row.prior).toBeLessThan(0.2);
			for (const chance of Object.values(row.marks)) {
				expect(chance).toBeGreaterThan(0);
				expect(chance).toBeLessThan(1);
			}
			for (const loss of row.losses(hop)) {
				for (const [mean, sigma] of [loss.common, loss.own.A, loss.own.B]) {
					expect(Number.isFinite(mean)).toBe(true);
					expect(sigma).toBeGreaterThanOrEqual(0);
				}
				expect(Math.hypot(loss.common[1], loss.own.A[1], loss.own.B[1])).toBeGreaterThan(0);
			}
		}
	);

	it.each(CAUSES.filter((cause) => cause !== 'none'))(
		'%s is told from a sound hop by something that can be looked at or read',
		(cause) => {
			const { marks } = CAUSE_TABLE[cause];
			const asked = TEST_KEYS.some((key) => outcomeUnder(key, cause) !== outcomeUnder(key, 'none'));
			const seen = Object.keys(marks).length > 0;
			expect(asked || seen).toBe(true);
		}
	);

	it('pairs every two causes that can stand together, and no others', () => {
		const families: [Cause, Cause][] = [
			['side-lobe-a', 'side-lobe-b'],
			['power-low-a', 'power-low-b'],
			['wrong-curve-a', 'wrong-curve-b']
		];
		for (const [p, q] of families) expect(paired(p, q)).toBe(false);
		const possible = (singles.length * (singles.length - 1)) / 2;
		expect(CAUSE_PAIRS).toHaveLength(possible - families.length);
		expect(pairNames.size).toBe(CAUSE_PAIRS.length);
		// Names that begin alike are no family.
		expect(paired('power-control-on', 'power-low-a')).toBe(true);
		expect(paired('wrong-dish', 'wrong-arm')).toBe(true);
		for (const alone of CAUSES.filter((cause) => CAUSE_TABLE[cause].alone)) {
			expect(CAUSES.some((other) => paired(alone, other))).toBe(false);
		}
	});

	it('strikes the direction that its name says', () => {
		const own = (cause: Cause): [number, number] => {
			const [loss] = CAUSE_TABLE[cause].losses(hop);
			return [Math.hypot(...loss!.own.A), Math.hypot(...loss!.own.B)];
		};
		// What A sends with too little power is short at B; what A reads wrong is wrong at A.
		expect(own('power-low-a')[0]).toBe(0);
		expect(own('power-low-a')[1]).toBeGreaterThan(0);
		expect(own('power-low-b')[1]).toBe(0);
		expect(own('wrong-curve-a')[0]).toBeGreaterThan(0);
		expect(own('wrong-curve-a')[1]).toBe(0);
		expect(CAUSE_TABLE['side-lobe-a'].losses(hop)[0]!.common[0]).toBe(19);
		expect(CAUSE_TABLE['side-lobe-b'].losses(hop)[0]!.common[0]).toBe(23);
		expect(CAUSE_TABLE['side-lobe-both'].losses(hop)[0]!.common[0]).toBe(42);
	});

	it('does not think of arms where there is but one', () => {
		const { causes, nextTest } = diagnose({
			...hop,
			armDifferenceDb: 0,
			measuredDbm: { A: -48, B: -48.5 }
		});
		expect(causes.map(({ cause }) => cause)).not.toContain('wrong-arm');
		expect(nextTest?.key).not.toBe('arm');
	});
});

describe('what can be seen', () => {
	it.each(SIGHT_KEYS)('%s has a usual chance that is neither never nor always', (key) => {
		expect(SIGHTS[key].usual).toBeGreaterThan(0);
		expect(SIGHTS[key].usual).toBeLessThan(1);
	});

	it.each(TEST_KEYS)('an answer to %s is seen as just that answer, and nothing else', (key) => {
		for (const [value, yes] of [
			['yes', true],
			['no', false]
		] as const) {
			const observation = observationOf(key, value)!;
			const seen = SIGHT_KEYS.filter((sight) => SIGHTS[sight].seen(observation) !== undefined);
			expect(seen).toEqual([key]);
			expect(SIGHTS[key].seen(observation)).toBe(yes);
		}
		expect(observationOf(key, 'perhaps')).toBeUndefined();
	});

	it('knows no test by another name', () => {
		expect(findTest('unsteady')).toBeUndefined();
		expect(findTest('sweep')).toBeUndefined();
	});

	it('takes a sweep that nobody made for nothing seen', () => {
		expect(SIGHTS['sweep-a'].seen({ sweep: { A: 'not-swept' } })).toBeUndefined();
		expect(SIGHTS['sweep-b'].seen({ sweep: { A: 'main-lobe' } })).toBeUndefined();
	});
});
