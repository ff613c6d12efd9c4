import { describe, expect, it } from 'vitest';
import { judgeAcceptance } from '#core/accept/judgeAcceptance';
import type { HopPlanInput } from '#core/budget/planInput';
import type { LiftingGear, PowerSource } from '#core/safety/gear';
import { STOP_CARD_WORDS, stopStateOf } from '#core/safety/stopCards';
import { buildStateOf, type BuildStepState } from '#core/tower/buildState';
import { buildSteps } from '#core/tower/buildSteps';
import { judgeStep, refusedStep } from '#core/tower/judgeStep';
import { builtHop } from './endFixture';
import { feed, stateAfter, type Made } from './feed';
import { catalogue, hopInput, part, soundPlan } from './planFixture';

const big = builtHop('single', 'direct');
const steps = buildSteps(big, soundPlan(big), 'A');
const gearOf = (pulleyRatedKg: number): LiftingGear => ({
	ropeBreakingKg: 3000,
	ropeFactor: 10,
	pulleyRatedKg,
	slingRatedKg: 500
});
const done = (
	step: string,
	value: number | null,
	more: { gear?: LiftingGear; source?: PowerSource } = {}
): Made => ['A', 'build-step', { step, value, note: '', photoIds: [], ...more }];
const skip = (step: string, cause: string, authorisedBy?: string): Made => [
	'A',
	'step-skipped',
	{ step, cause, ...(authorisedBy ? { authorisedBy } : {}) }
];
const stateOf = (key: string, ...made: Made[]): BuildStepState =>
	buildStateOf(stateAfter(big, feed(...made)), 'A').steps.find(({ step }) => step.key === key)!;
const refusal = (
	step: string,
	value: number | null,
	more: { gear?: LiftingGear; source?: PowerSource } = {},
	of = steps
): ReturnType<typeof refusedStep> =>
	refusedStep(of, {
		kind: 'build-step',
		payload: { step, value, note: '', photoIds: [], ...more }
	});

describe('a lift', () => {
	// 49 kg hang from a pulley whose eye carries them twice: 98 kg.
	it('is closed by gear that holds, and by nothing else', () => {
		expect(refusal('hoist', 1, { gear: gearOf(98) })).toBeUndefined();
		expect(refusal('hoist', 1, { gear: gearOf(97) })).toMatchObject({
			field: 'gear',
			message: expect.stringContaining('The pulley allows 49 kg, the load is 49 kg') as string
		});
		expect(refusal('hoist', 1)).toEqual({
			field: 'gear',
			message: 'Needed: what rope, pulley and sling allow.'
		});
		expect(
			refusal('hoist', 1, { gear: { ...gearOf(500), ropeBreakingKg: 480 } })?.message
		).toContain('The rope allows 48 kg');
	});

	it('asks for its tag lines beside', () => {
		const found = judgeStep(
			steps.find(({ key }) => key === 'hoist')!,
			{
				value: 0,
				gear: gearOf(500)
			}
		);
		expect(found).toMatchObject({
			verdict: 'off',
			reason: expect.stringContaining('1 missing') as string
		});
	});

	it('recorded against its gear by an older program stands as trouble', () => {
		expect(stateOf('hoist', done('hoist', 1, { gear: gearOf(75) }))).toMatchObject({
			state: 'trouble',
			reason: expect.stringContaining('take a stronger one') as string
		});
	});

	it('of a run weighs the run', () => {
		const split = builtHop('single', 'by waveguide');
		const own = buildSteps(split, soundPlan(split), 'A');
		// 25.5 m at 0.9 kg/m: 23 kg, twice at the pulley.
		expect(refusal('guide-hoist', 3, { gear: gearOf(46) }, own)).toBeUndefined();
		expect(refusal('guide-hoist', 3, { gear: gearOf(45) }, own)?.field).toBe('gear');
	});

	it('of what no sheet weighs asks for its weight, and is judged by that', () => {
		const split = builtHop('single', 'by waveguide');
		const { feeder } = split.ends.A;
		const installation = structuredClone(feeder.installation!);
		delete installation.weight;
		const unweighed = {
			...split,
			ends: { ...split.ends, A: { ...split.ends.A, feeder: { ...feeder, installation } } }
		};
		const own = buildSteps(unweighed, soundPlan(unweighed), 'A');
		const lifted = (gear?: LiftingGear): string | undefined =>
			refusal('guide-hoist', 3, gear ? { gear } : {}, own)?.message;
		expect(lifted()).toBe('Needed: what rope, pulley and sling allow.');
		expect(lifted(gearOf(500))).toBe('Needed: what the load weighs, by its papers or a scale.');
		expect(lifted({ ...gearOf(60), loadKg: 31 })).toContain('the load is 31 kg');
		expect(lifted({ ...gearOf(62), loadKg: 31 })).toBeUndefined();
	});
});

describe('a supply', () => {
	it('that is reversed or too high closes nothing; one that is too low is kept as trouble', () => {
		expect(refusal('voltage', 49.2)).toBeUndefined();
		expect(refusal('voltage', -49.2)).toMatchObject({
			field: 'value',
			message: expect.stringContaining('reversed, plus and minus are changed over') as string
		});
		expect(refusal('voltage', 61)?.message).toContain('too much');
		expect(refusal('voltage', 41)).toBeUndefined();
		// 49.2 V are computed at the end of 40 m from 50 V: 41 V is no match for it, though the unit would run.
		expect(stateOf('voltage', done('voltage', 41))).toMatchObject({
			state: 'trouble',
			reason: expect.stringContaining('too little') as string
		});
		expect(stateOf('voltage', done('voltage', 48)).state).toBe('done');
		expect(refusal('indoor-power', -50)?.field).toBe('value');
	});

	it.each([
		['a passive injector', { kind: 'poe-passive', voltageV: 48, powerW: 90 }, 'may be destroyed'],
		['too high a voltage', { kind: 'dc', voltageV: 72, powerW: 300 }, 'above the 60 V'],
		[
			'a standard port, which only gives nothing',
			{ kind: 'poe-standard', voltageV: 54, powerW: 90 },
			undefined
		],
		['its own kind', { kind: 'dc', voltageV: 50, powerW: 300 }, undefined]
	] as const)('from %s', (_, source, message) => {
		const found = refusal('gland', null, { source });
		if (message === undefined) expect(found).toBeUndefined();
		else
			expect(found).toMatchObject({
				field: 'source',
				message: expect.stringContaining(message) as string
			});
	});

	it('from a port that gives nothing is trouble, not done', () => {
		const standard = { kind: 'poe-standard', voltageV: 54, powerW: 90 } as const;
		expect(stateOf('gland', done('gland', null, { source: standard })).state).toBe('trouble');
	});
});

it('what was not measured closes no gate', () => {
	for (const key of ['pipe', 'voltage', 'indoor-power']) {
		expect(refusal(key, null)).toMatchObject({ field: 'value' });
	}
	expect(refusal('gland', null)).toEqual({
		field: 'source',
		message: 'Needed: what feeds the unit.'
	});
	// A step without a gate is its crew's own business.
	expect(refusal('height', null)).toBeUndefined();
});

it('a pipe outside its clamps closes nothing', () => {
	expect(refusal('pipe', 89)).toBeUndefined();
	expect(refusal('pipe', 60)).toMatchObject({ field: 'value' });
});

it('a loop that reads nothing at all is a short, however short the cable', () => {
	for (const cableLengthM of [0.5, 5, 40]) {
		const end = { cableLengthM };
		const short = hopInput({}, { A: end, B: end });
		const step = buildSteps(short, soundPlan(short), 'A').find(({ key }) => key === 'continuity')!;
		expect(judgeStep(step, { value: 0 }).verdict).toBe('off');
		const ohm = (2 * part(catalogue.cables, 'DC-25').ohmPerKm * cableLengthM) / 1000;
		expect(judgeStep(step, { value: Number((ohm + 0.05).toFixed(2)) }).verdict).toBe('good');
	}
});

describe('what can hurt or destroy', () => {
	const gated = steps.filter(({ gate }) => gate);

	it('is every lift, every pipe and every supply', () => {
		expect(gated.map(({ key }) => key)).toEqual([
			'pipe',
			'hoist',
			'indoor-power',
			'gland',
			'voltage'
		]);
	});

	it('is left out only by the word of a named person', () => {
		for (const { key } of gated) {
			const without = { step: key, cause: 'No time' };
			expect(refusedStep(steps, { kind: 'step-skipped', payload: without })?.field).toBe(
				'authorisedBy'
			);
			expect(
				refusedStep(steps, {
					kind: 'step-skipped',
					payload: { ...without, authorisedBy: 'Ada Reef' }
				})
			).toBeUndefined();
			expect(stateOf(key, skip(key, 'No time')).state).not.toBe('skipped');
			expect(stateOf(key, skip(key, 'Crane firm lifted it', 'Ada Reef'))).toMatchObject({
				state: 'skipped',
				reason: 'Crane firm lifted it, on the word of Ada Reef'
			});
		}
		expect(
			refusedStep(steps, { kind: 'step-skipped', payload: { step: 'height', cause: 'x' } })
		).toBeUndefined();
		expect(refusal('no-such-step', 1)).toBeUndefined();
	});

	it('is not left out with all the rest unless somebody takes it on', () => {
		const all = (name?: string): BuildStepState[] =>
			buildStateOf(stateAfter(big, feed(skip('*', 'Built in spring', name))), 'A').steps;
		expect(
			all()
				.filter(({ state }) => state !== 'skipped')
				.map(({ step }) => step.key)
		).toEqual(gated.map(({ key }) => key));
		expect(all('Ada Reef').every(({ state }) => state === 'skipped')).toBe(true);
	});

	it('stands in the acceptance with its name, step or card', () => {
		const answers = Object.fromEntries(
			STOP_CARD_WORDS.climb.questions.map(({ key }) => [key, 'yes'])
		) as Record<string, 'yes' | 'no'>;
		const made: Made[] = [
			skip('hoist', 'Crane firm lifted it', 'Ada Reef'),
			[
				'A',
				'stop-card',
				{
					card: 'climb',
					answers: { ...answers, light: 'no' },
					note: '',
					override: { name: 'Ola Brand', why: 'Floodlit by the crane' }
				}
			]
		];
		const lines = judgeAcceptance(stateAfter(big, feed(...made))).lines;
		const line = lines.find(({ code }) => code === 'overrides-A')!;
		expect(line).toMatchObject({ verdict: 'deviation', measured: '2' });
		expect(line.reason).toContain('Ada Reef, Crane firm lifted it');
		expect(line.reason).toContain(
			'Light enough until everyone is down: Ola Brand, Floodlit by the crane'
		);
		expect(lines.some(({ code }) => code === 'overrides-B')).toBe(false);
	});
});

describe('a card that is answered with no', () => {
	const answers = (light: 'yes' | 'no'): Record<string, 'yes' | 'no'> =>
		Object.fromEntries(
			STOP_CARD_WORDS.climb.questions.map(({ key }) => [key, key === 'light' ? light : 'yes'])
		);
	const at = '2026-11-28T08:00:00.000Z';
	const now = Date.parse(at) + 60_000;

	it('stops, until somebody takes it on by name, and no longer than any other answer', () => {
		const no = { answers: answers('no'), answeredAt: at };
		expect(stopStateOf('climb', no, now).kind).toBe('stop');
		const override = { name: 'Ola Brand', why: 'Floodlit' };
		expect(stopStateOf('climb', { ...no, override }, now)).toEqual({
			kind: 'go',
			answeredAt: at,
			override: { ...override, asks: ['Light enough until everyone is down'] }
		});
		expect(stopStateOf('climb', { ...no, override }, now + 7 * 3_600_000).kind).toBe('out-of-date');
		expect(
			stopStateOf('climb', { answers: answers('yes'), answeredAt: at, override }, now)
		).toEqual({
			kind: 'go',
			answeredAt: at
		});
	});
});

it('steps of a plan without figures of installation have gates too', () => {
	const bare: HopPlanInput = structuredClone(big);
	for (const end of ['A', 'B'] as const) delete bare.ends[end].radio.installation;
	const own = buildSteps(bare, soundPlan(bare), 'A');
	expect(refusal('voltage', -48, {}, own)?.field).toBe('value');
	expect(refusal('hoist', 1, {}, own)?.field).toBe('gear');
});
