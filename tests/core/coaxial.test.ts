import { describe, expect, it } from 'vitest';
import { planHop } from '#core/budget/hopPlan';
import type { EndPlanInput, HopPlanInput } from '#core/budget/planInput';
import { coaxialLossDb, loopOhmPerKm } from '#core/catalogue/cableFigures';
import { doubtsAbout } from '#core/catalogue/checkPart';
import { dcSupply } from '#core/firstlook/dcSupply';
import { buildSteps, type BuildStep } from '#core/tower/buildSteps';
import { refusedStep } from '#core/tower/judgeStep';
import { makeSiteSheet } from '#core/sheet/siteSheet';
import { partsList } from '#core/tower/partsList';
import { toolLines } from '#core/tower/tools';
import { builtHop } from './endFixture';
import { catalogue, part, soundPlan } from './planFixture';

const cable = part(catalogue.cables, 'CX-10');
const dc = part(catalogue.cables, 'DC-40');

describe('a coaxial cable', () => {
	it('takes more with the root of the frequency, and in proportion to its length', () => {
		const figures = { screenOhmPerKm: 4.6, lossDbPer100M: 6.6, atMhz: 350 };
		expect(coaxialLossDb(figures, 100, 350)).toBeCloseTo(6.6, 12);
		// √(140/350) = 0.63246: 4.174 dB over 100 m.
		expect(coaxialLossDb(figures, 100, 140)).toBeCloseTo(4.1742, 4);
		expect(coaxialLossDb(figures, 25, 1400)).toBeCloseTo(3.3, 12);
		expect(coaxialLossDb(figures, 0, 350)).toBe(0);
		expect(() => coaxialLossDb(figures, -1, 350)).toThrow('lengthM');
		expect(() => coaxialLossDb(figures, 10, 0)).toThrow('mhz');
	});

	it('brings the supply back by its screen, a pair by its other conductor', () => {
		expect(loopOhmPerKm(cable)).toBeCloseTo(3.2 + 4.6, 12);
		expect(loopOhmPerKm(dc)).toBeCloseTo(2 * dc.ohmPerKm, 12);
		const fed = dcSupply(48, 55, cable, 100, 20);
		// R = 0.78 Ω: V = (48 + √(48² − 4·55·0.78))/2.
		expect(fed.kind === 'fed' && fed.voltageAtUnitV).toBeCloseTo(
			(48 + Math.sqrt(48 ** 2 - 4 * 55 * 0.78)) / 2,
			9
		);
	});

	it('is doubted where its wiring and its figures contradict each other', () => {
		const bare = Object.fromEntries(
			Object.entries(cable).filter(([key]) => key !== 'coaxial')
		) as unknown as typeof cable;
		expect(doubtsAbout('cable', bare).map(({ field }) => field)).toContain('coaxial');
		const wiring = { kind: 'dc', conductors: 2, insulationMohm: 20 } as const;
		expect(doubtsAbout('cable', { ...cable, wiring }).map(({ field }) => field)).toContain(
			'wiring.kind'
		);
		expect(doubtsAbout('cable', cable)).toEqual([]);
	});
});

const coaxial = (change: Partial<EndPlanInput> = {}): HopPlanInput => {
	const input = builtHop('single', 'by coaxial cable');
	return { ...input, ends: { ...input.ends, A: { ...input.ends.A, ...change } } };
};
const codesAt = (input: HopPlanInput, field: string): string[] => {
	const result = planHop(input);
	const findings = result.kind === 'plan' ? result.plan.findings : result.findings;
	return findings.filter((found) => found.field === field).map(({ code }) => code);
};

describe('the plan of a split system', () => {
	it('holds with its cable and its indoor unit', () => {
		const { findings } = soundPlan(coaxial());
		for (const code of ['cable-coaxial', 'cable-not-coaxial', 'modem-missing', 'cable-loss']) {
			expect(findings.map((found) => found.code)).not.toContain(code);
		}
	});

	it('says what does not go together, at the field where it is mended', () => {
		expect(codesAt(coaxial({ cable: dc }), 'ends.A.cableCode')).toContain('cable-not-coaxial');
		const whole = builtHop('single', 'direct');
		const wrong = { ...whole, ends: { ...whole.ends, A: { ...whole.ends.A, cable } } };
		expect(codesAt(wrong, 'ends.A.cableCode')).toContain('cable-coaxial');
		expect(codesAt(coaxial({ indoorUnit: null }), 'ends.A.indoorUnitCode')).toContain(
			'modem-missing'
		);
	});

	it('lets a cable be as long as the radio bears, and no longer', () => {
		// 18 dB at 350 MHz and 6.6 dB per 100 m: 272.7 m.
		expect(codesAt(coaxial({ cableLengthM: 272 }), 'ends.A.cableLengthM')).not.toContain(
			'cable-loss'
		);
		expect(codesAt(coaxial({ cableLengthM: 274 }), 'ends.A.cableLengthM')).toContain('cable-loss');
	});
});

describe('the building of a split system', () => {
	const input = coaxial({ cableLengthM: 60 });
	const steps = buildSteps(input, soundPlan(input), 'A');
	const step = (key: string): BuildStep => steps.find((one) => one.key === key)!;

	it('makes a plug at either end, goes through an entry, and is tested before it is fed', () => {
		expect(step('strip').quantity).toMatchObject({ expected: 2 });
		expect(step('entry').quantity).toMatchObject({ expected: 1 });
		const order = ['entry', 'continuity', 'insulation', 'cable-loss', 'voltage', 'boot'];
		const places = order.map((key) => steps.findIndex((one) => one.key === key));
		expect(places).toEqual([...places].sort((p, q) => p - q));
		expect(Math.min(...places)).toBeGreaterThan(-1);
		expect(steps.some(({ key }) => key === 'wire-map')).toBe(false);
		expect(toolLines(input, 'A', steps).map(({ code }) => code)).toContain('TL-X');
		expect(step('continuity').why).toContain('Inner conductor to screen');
		expect(step('surge').why).toContain('passes supply and intermediate frequency');
	});

	it('is judged by its own figures: loop, loss at the higher frequency, voltage without load', () => {
		// 60 m of 7.8 Ω/km: 0.47 Ω there and back.
		const loop = step('continuity').quantity!;
		expect(loop.low).toBeLessThan(0.47);
		expect(loop.high).toBeGreaterThan(0.47);
		const loss = step('cable-loss').quantity!;
		const lossDb = 0.6 * 6.6;
		expect(loss.label).toBe('Loss at 350 MHz');
		expect(loss.low).toBeCloseTo(lossDb * 0.85 - 1, 9);
		expect(loss.high).toBeCloseTo(lossDb * 1.15 + 1, 9);
		expect(step('voltage').title).toContain('before the plug is screwed on');
		expect(step('voltage').why).toMatch(/Under load 4[0-9.]+ V are computed there/);
	});

	it('lets nobody screw a plug on that is reversed or too high', () => {
		const done = (value: number): unknown =>
			refusedStep(steps, {
				kind: 'build-step',
				payload: { step: 'voltage', value, note: '', photoIds: [] }
			});
		expect(done(-48)).toBeDefined();
		expect(done(75)).toBeDefined();
		expect(done(step('voltage').quantity!.low + 0.1)).toBeUndefined();
	});

	it('has its plugs, its boot and a protector that passes both on the list', () => {
		const counts = new Map(partsList(input, 'A').map(({ code, count }) => [code, count]));
		expect(['PL-X', 'EN-B', 'SP-IF', 'SP-DC'].map((code) => counts.get(code))).toEqual([
			2,
			1,
			1,
			undefined
		]);
	});

	it('says on its sheet what the cable takes', () => {
		const rows = makeSiteSheet(input, soundPlan(input), 'A', 1).sections.flatMap(
			({ rows }) => rows
		);
		expect(rows.some(({ note }) => note?.includes('60 m, 4.0 dB at 350 MHz; 55 W'))).toBe(true);
	});

	it('never lets more through than the radio bears', () => {
		const long = coaxial({ cableLengthM: 260 });
		const tested = buildSteps(long, soundPlan(long), 'A').find(({ key }) => key === 'cable-loss')!;
		expect(tested.quantity!.high).toBe(18);
	});
});
