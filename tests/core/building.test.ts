import { describe, expect, it } from 'vitest';
import { readErrorLog } from '#core/accept/errorTable';
import { judgeErrorTest, snagsOf } from '#core/accept/closing';
import { buildStateOf, type BuildStepState } from '#core/tower/buildState';
import { buildSteps } from '#core/tower/buildSteps';
import { filmsOf } from '#core/tower/films';
import { expectedText, judgeQuantity, measured, counted } from '#core/tower/quantity';
import { discrepancies, judgeLabels, judgeReceived, packingListOf } from '#core/tower/receiving';
import { partsToLabel } from '#core/tower/labels';
import { stopStateOf, STOP_CARD_WORDS } from '#core/safety/stopCards';
import {
	bendPlan,
	clampPlan,
	glandFor,
	judgeLift,
	matchPower,
	serviceSlackM,
	tapeNeed
} from '#core/tower/towerArithmetic';
import type { HopPlanInput } from '#core/budget/planInput';
import type { FieldRecord, RecordPayloads } from '#core/record/records';
import { chainOf } from '#core/polarization/chain';
import { feed, stateAfter, type Made } from './feed';
import { dual } from './feedFollow';
import { catalogue, hopInput, part, soundPlan } from './planFixture';

const single = hopInput();
const guided = hopInput(
	{},
	Object.fromEntries(
		(['A', 'B'] as const).map((end) => [
			end,
			{
				radio: part(catalogue.radios, 'RU-07'),
				dish: part(catalogue.dishes, 'DP-120-07'),
				mount: part(catalogue.mounts, 'MB-M'),
				feeder: part(catalogue.feeders, 'WE-07'),
				feederLengthM: 25.5,
				bendEPlaneMm: 300,
				bendHPlaneMm: 800,
				transmitFrequencyGhz: end === 'A' ? 7.15 : 7.346,
				subBandUnit: end === 'A' ? '1L' : '1H'
			}
		])
	)
);

const label = (
	input: HopPlanInput,
	end: 'A' | 'B',
	name: string,
	change: Partial<RecordPayloads['part-label']> = {}
): Made => {
	const expected = partsToLabel(input, end).find((one) => one.part === name)!;
	return [
		end,
		'part-label',
		{
			part: name,
			code: expected.code,
			bandFromGhz: Math.min(...expected.frequenciesGhz) - 0.5,
			bandToGhz: Math.max(...expected.frequenciesGhz) + 0.5,
			subBandUnit: expected.subBandUnit ?? '',
			flange: expected.flange ?? '',
			serial: `${end}-${name}`,
			...change
		}
	];
};
const received = (code: string, found: number): Made => [
	'A',
	'received',
	{ code, name: '', found, condition: 'good', note: '', photoIds: [] }
];
const done = (step: string, value: number | null = null): Made => [
	'A',
	'build-step',
	{ step, value, note: '', photoIds: [] }
];
const stepOf = (input: HopPlanInput, records: FieldRecord[], key: string): BuildStepState =>
	buildStateOf(stateAfter(input, records), 'A').steps.find((s) => s.step.key === key)!;

describe('the steps of a building', () => {
	const keysOf = (input: HopPlanInput): string[] =>
		buildSteps(input, soundPlan(input), 'A').map((step) => step.key);

	it('follow the configuration, the feeder and the parts', () => {
		expect(keysOf(single)).not.toContain('guide-hoist');
		expect(keysOf(guided)).toEqual(
			expect.arrayContaining(['guide-mark', 'hangers-up', 'guide-hoist', 'bend-e', 'guide-dry'])
		);
		const leads = (input: HopPlanInput): number =>
			buildSteps(input, soundPlan(input), 'A').find((s) => s.key === 'earth-leads')!.quantity!
				.expected!;
		expect([leads(single), leads(dual)]).toEqual([1, 2]);
	});

	it('have names of their own, and name only steps that are there', () => {
		for (const input of [single, dual, guided]) {
			const steps = buildSteps(input, soundPlan(input), 'A');
			const keys = steps.map((step) => step.key);
			expect(new Set(keys).size).toBe(keys.length);
			for (const { after } of steps) for (const { key } of after) expect(keys).toContain(key);
		}
	});

	it('take their quantities from plan and sheets', () => {
		const steps = buildSteps(guided, soundPlan(guided), 'A');
		const expected = (key: string): string =>
			expectedText(steps.find((step) => step.key === key)!.quantity!);
		expect(expected('centre-azimuth')).toBe('88 ± 2 mm');
		expect(expected('height')).toBe('24.0 ± 0.5 m');
		expect(expected('bend-h')).toBe('at least 710 mm');
		// 25.5 m, the first 0.4 m from either end, 1 m apart at most: 24.7 m in 25 steps.
		expect(expected('hangers-up')).toBe('at least 26');
		// Dish three, run two, radio two: each where it is mated.
		expect(filmsOf(guided, 'A')).toHaveLength(7);
		expect([expected('films'), expected('guide-caps'), expected('films-foot')]).toEqual([
			'3',
			'2',
			'2'
		]);
	});

	it('count the films of every part: two radios, a transducer with three ports, the dish', () => {
		expect(filmsOf(dual, 'A')).toHaveLength(3 + 2 * 2 + 3);
	});

	it('work on plans older than the figures of installation', () => {
		const bare = structuredClone(dual);
		for (const end of ['A', 'B'] as const) {
			for (const key of ['radio', 'dish', 'mount', 'coupling', 'cable'] as const) {
				delete (bare.ends[end][key] as { installation?: object }).installation;
			}
		}
		expect(keysOf(bare)).toContain('before-lift');
		expect(chainOf(bare, 'A').map((joint) => joint.key)).toEqual([
			'port-1',
			'port-2',
			'port-wall-1',
			'port-wall-2'
		]);
	});
});

describe('the parts list and the steps', () => {
	it.each([
		['single', single],
		['dual-polarized', dual],
		['by waveguide', guided]
	])('of a %s hop count the same: what a step asks for was packed', (_, input) => {
		const packed = (code: string): number =>
			packingListOf(stateAfter(input), 'A').find((line) => line.code === code)?.count ?? 0;
		const steps = buildSteps(input, soundPlan(input), 'A');
		const asked = (key: string): number =>
			steps.find((step) => step.key === key)?.quantity?.expected ?? 0;
		expect(packed('CL-C')).toBe(asked('clamps'));
		expect(packed('CL-W')).toBe(asked('hangers-up'));
		expect(packed('EK-R')).toBe(asked('earth-leads'));
		expect(packed('EK-C')).toBe(asked('earth-screens'));
		expect(packed('EK-F')).toBe(asked('guide-earth'));
		expect(asked('clamps')).toBeGreaterThan(0);
		expect(packed('CO-C')).toBeGreaterThan(0);
	});
});

describe('the state of a building', () => {
	it('holds an order where it matters, with its reason, and leaves it free elsewhere', () => {
		expect(stepOf(single, [], 'tight')).toMatchObject({ state: 'blocked' });
		expect(stepOf(single, [], 'tight').reason).toContain('no longer turns once it is tight');
		expect(stepOf(single, [], 'strip').state).toBe('open');
		const seen = chainOf(single, 'A').map(({ key, expected }): Made => [
			'A',
			'polarization-set',
			{ joint: key, shows: expected }
		]);
		const records = feed(...seen, done('dish-bolts', 4));
		expect(stepOf(single, records, 'tight').state).toBe('open');
	});

	it('finds a film that was not counted off, and blocks what would seal it in', () => {
		const films = filmsOf(dual, 'A').length;
		const records = feed(done('films', films - 1));
		expect(stepOf(dual, records, 'films')).toMatchObject({ state: 'trouble' });
		expect(stepOf(dual, records, 'films').reason).toContain('1 missing');
		expect(stepOf(dual, records, 'mount-radio').reason).toContain('film left in');
		const found = feed(done('films', films - 1), done('films', films));
		expect(stepOf(dual, found, 'films').state).toBe('done');
	});

	it('takes a step left out with its cause, and asks for it again when it is reopened', () => {
		const skip: Made = ['A', 'step-skipped', { step: 'pipe-lean', cause: 'Measured last week' }];
		expect(stepOf(single, feed(skip), 'pipe-lean')).toMatchObject({
			state: 'skipped',
			reason: 'Measured last week'
		});
		const again: Made = ['A', 'step-reopened', { step: 'pipe-lean', reason: 'Pipe was changed' }];
		expect(stepOf(single, feed(skip, again), 'pipe-lean').state).toBe('open');
	});

	it('leaves out all that remains with one cause, and nothing that was done', () => {
		const records = feed(done('centre-azimuth', 62), [
			'A',
			'step-skipped',
			{ step: '*', cause: 'Built before', authorisedBy: 'Ada Reef' }
		]);
		const state = buildStateOf(stateAfter(single, records), 'A');
		expect(state.complete).toBe(true);
		expect([state.done, state.skipped]).toEqual([1, state.steps.length - 1]);
	});

	it('of one end says nothing of the other', () => {
		const records = feed(done('centre-azimuth', 62));
		expect(buildStateOf(stateAfter(single, records), 'B').begun).toBe(false);
	});
});

describe('a quantity', () => {
	it('is judged as it is read, to its own digits', () => {
		const height = measured('Height', 'm', 24, 0.5, 'plan');
		expect(judgeQuantity(height, 24.54).verdict).toBe('good');
		expect(judgeQuantity(height, 24.56).verdict).toBe('off');
		expect(judgeQuantity(height, 23).reason).toContain('24.0 ± 0.5 m');
		expect(judgeQuantity(counted('Films', 4, 'sheet'), 6).reason).toContain('2 too many');
	});
});

describe('receiving', () => {
	it('counts by number: short, surplus, unlisted', () => {
		const records = feed(received('RU-26', 0), received('CL-C', 60), received('XX-1', 2));
		const verdict = (code: string): string =>
			judgeReceived(stateAfter(single, records), 'A').find((line) => line.code === code)!.verdict;
		expect([verdict('RU-26'), verdict('CL-C'), verdict('XX-1'), verdict('DP-060-26')]).toEqual([
			'short',
			'surplus',
			'surplus',
			'open'
		]);
		expect(
			discrepancies(stateAfter(single, records)).map((row) => `${row.code} ${row.kind}`)
		).toEqual(['RU-26 short', 'CL-C surplus', 'XX-1 surplus']);
	});

	it('finds a short packing at the step where it is counted', () => {
		const records = feed(
			...packingListOf(stateAfter(single), 'A').map(({ code, count }) =>
				received(code, code === 'CL-C' ? count - 3 : count)
			)
		);
		expect(stepOf(single, records, 'packing')).toMatchObject({ state: 'trouble' });
		expect(stepOf(single, records, 'packing').reason).toContain('3 piece short');
	});

	it('goes by a list that was taken in', () => {
		const records = feed([
			'A',
			'packing-list',
			{ source: 'csv', lines: [{ code: 'Q', name: 'Q', count: 5, unit: 'piece' }] }
		]);
		expect(packingListOf(stateAfter(single, records), 'A').map((line) => line.code)).toEqual(['Q']);
	});

	it('finds swapped sub-band units, and says where this one belongs', () => {
		const [state] = judgeLabels(
			stateAfter(single, feed(label(single, 'A', 'radio-1', { subBandUnit: '2L' }))),
			'A'
		);
		expect(state!.problems[0]).toContain('this one belongs to B');
		expect(
			stepOf(single, feed(label(single, 'A', 'radio-1', { subBandUnit: '2L' })), 'labels').state
		).toBe('trouble');
	});

	it('finds a part for another band, another flange, a serial read twice, and no pair', () => {
		const problems = (...made: Made[]): string =>
			judgeLabels(stateAfter(single, feed(...made)), 'A')
				.flatMap((state) => state.problems)
				.join(' ');
		expect(problems(label(single, 'A', 'dish', { bandFromGhz: 21, bandToGhz: 23.6 }))).toContain(
			'another band'
		);
		expect(problems(label(single, 'A', 'dish', { flange: 'other' }))).toContain('Flange');
		expect(
			problems(
				label(single, 'A', 'dish', { serial: 'S1' }),
				label(single, 'B', 'dish', { serial: 'S1' })
			)
		).toContain('another part too');
		const unsaid = structuredClone(single);
		unsaid.ends.A.subBandUnit = '';
		unsaid.ends.B.subBandUnit = '';
		const pair = judgeLabels(
			stateAfter(
				unsaid,
				feed(
					label(unsaid, 'A', 'radio-1', { subBandUnit: '2H' }),
					label(unsaid, 'B', 'radio-1', { subBandUnit: '1L' })
				)
			),
			'A'
		);
		expect(pair[0]!.problems[0]).toContain('no pair');
		expect(problems(label(single, 'A', 'radio-1'), label(single, 'B', 'radio-1'))).toBe('');
	});
});

describe('the arithmetic on the tower', () => {
	it('finds the weakest part of a lift; a pulley’s eye carries the load twice', () => {
		const gear = { ropeBreakingKg: 2400, pulleyRatedKg: 300, slingRatedKg: 500, ropeFactor: 10 };
		expect(judgeLift(117, gear)).toMatchObject({ holds: true, weakest: 'pulley', allowedKg: 150 });
		expect(judgeLift(117, { ...gear, ropeBreakingKg: 2000, ropeFactor: 20 })).toMatchObject({
			holds: false,
			weakest: 'rope',
			allowedKg: 100
		});
		expect(() => judgeLift(Number.NaN, gear)).toThrow(RangeError);
	});

	it.each([
		[40, 0.3, 0.8, 51],
		[25.5, 0.4, 1, 26],
		[0.2, 0.3, 0.8, 1]
	])('%d m, the first at %d m, %d m apart at most: %d clamps', (length, first, every, count) => {
		const plan = clampPlan(length, first, every);
		expect(plan.count).toBe(count);
		const gaps = plan.positionsM.slice(1).map((at, i) => at - plan.positionsM[i]!);
		for (const gap of gaps) expect(gap).toBeLessThanOrEqual(every + 1e-9);
	});

	it('leaves slack for the swing of both adjusters and a loop', () => {
		// 0.4 m about 24° is 0.168 m; a loop of 80 mm radius is 0.503 m.
		const slack = serviceSlackM({ travelDeg: 12 }, { travelDeg: 12 }, 0.4, 80);
		expect(slack.swingM).toBeCloseTo(0.168, 3);
		expect(slack.dripLoopM).toBeCloseTo(0.503, 3);
	});

	it('counts rolls by the school, none for sleeves', () => {
		const connector = part(catalogue.cables, 'DC-25').installation!.connector;
		expect(tapeNeed('sleeve', connector, 6)).toEqual([]);
		const schools = (['compound-under-tape', 'layered-tape'] as const).map((kind) =>
			tapeNeed(kind, connector, 6).map((tape) => tape.tape)
		);
		expect(schools).toEqual([
			['insulating tape', 'sealing compound'],
			['insulating tape', 'waterproof tape']
		]);
		// One layer on 22 mm over 190 mm: 20 turns of 69 mm are 1.38 m a joint; two more on 29 and 30 mm.
		expect(tapeNeed('compound-under-tape', connector, 1)[0]!.lengthM).toBeCloseTo(5.09, 1);
	});

	it('takes the gland by the cable’s diameter, or says that none fits', () => {
		const { glands } = part(catalogue.cables, 'DC-25').installation!;
		expect(glandFor(10.4, glands)?.name).toBe('grey insert');
		expect(glandFor(20, glands)).toBeNull();
	});

	it('tells a source that destroys from one that gives nothing', () => {
		const unit = {
			consumptionW: 40,
			supplyMinV: 42,
			power: { kind: 'poe-standard', maxV: 57 }
		} as const;
		const of = (kind: 'dc' | 'poe-standard' | 'poe-passive', voltageV = 50, m = 40): string =>
			matchPower({ kind, voltageV, powerW: 60 }, unit, m).verdict;
		expect(of('poe-standard')).toBe('match');
		expect(of('poe-passive')).toBe('destroys');
		expect(of('poe-standard', 50, 120)).toBe('no-power');
		expect(of('poe-standard', 60)).toBe('destroys');
		const dc = { ...unit, power: { kind: 'dc', maxV: 60 } } as const;
		expect(matchPower({ kind: 'poe-standard', voltageV: 50, powerW: 60 }, dc, 40).verdict).toBe(
			'no-power'
		);
	});

	it('bends a guide in small steps', () => {
		expect(bendPlan(90, 260)).toMatchObject({ steps: 6 });
		expect(bendPlan(90, 260).lengthM).toBeCloseTo(0.408, 3);
	});
});

describe('stop cards', () => {
	const answered = (no?: string): Made => [
		'A',
		'stop-card',
		{
			card: 'lift',
			answers: Object.fromEntries(
				STOP_CARD_WORDS.lift.questions.map(({ key }) => [key, key === no ? 'no' : 'yes'])
			),
			note: ''
		}
	];
	it('go, stop on one no, and grow old', () => {
		const state = (records: FieldRecord[], hours: number): string =>
			stopStateOf('lift', stateAfter(single, records).ends.A.stopCards.lift, hours * 3_600_000)
				.kind;
		expect(state([], 0)).toBe('unanswered');
		expect(state(feed(answered()), 1)).toBe('go');
		expect(state(feed(answered()), 7)).toBe('out-of-date');
		expect(state(feed(answered(), answered('beneath')), 1)).toBe('stop');
		expect(
			stopStateOf('lift', stateAfter(single, feed(answered())).ends.B.stopCards.lift, 0).kind
		).toBe('unanswered');
	});
});

describe('closing', () => {
	it('sums an error log and says what is wrong with one', () => {
		const rows = Array.from({ length: 60 }, (_, i) => ({
			elapsed_s: String(i),
			bit_errors: i === 7 ? '3' : '0',
			bits: '1000000'
		}));
		expect(readErrorLog(rows)).toEqual({
			kind: 'log',
			log: { durationS: 60, erroredSeconds: 1, bitErrorRatio: 5e-8 }
		});
		expect(readErrorLog([{ elapsed_s: '0' }])).toMatchObject({ kind: 'unreadable', line: 1 });
		expect(readErrorLog([rows[0]!, { ...rows[1]!, bit_errors: 'x' }])).toMatchObject({ line: 3 });
		expect(readErrorLog([rows[1]!, rows[0]!])).toMatchObject({ line: 3 });
	});

	it('passes a test free of errors, not one of a few seconds', () => {
		const test = (durationS: number, erroredSeconds: number): string =>
			judgeErrorTest(
				stateAfter(
					single,
					feed([
						'A',
						'error-test',
						{ test: 'soak', durationS, erroredSeconds, bitErrorRatio: null, note: '' }
					])
				)
			).verdict;
		expect([test(3600, 0), test(3600, 2), test(10, 0)]).toEqual(['pass', 'deviation', 'deviation']);
	});

	it('keeps snags until somebody closes them, the open ones first', () => {
		const snag = (snagId: string, due: string): Made => [
			'A',
			'snag',
			{ snagId, text: 'left', owner: 'crew', due, photoIds: [] }
		];
		const records = feed(
			snag('1', '2026-12-09'),
			snag('2', '2026-12-01'),
			snag('3', '2026-12-05'),
			['B', 'snag-closed', { snagId: '2', note: 'done' }]
		);
		expect(snagsOf(stateAfter(single, records)).map((one) => one.snagId)).toEqual(['3', '1', '2']);
		expect(snagsOf(stateAfter(single, records))[2]!.closed?.note).toBe('done');
	});
});
