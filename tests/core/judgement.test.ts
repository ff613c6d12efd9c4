import { describe, expect, it } from 'vitest';
import {
	CLOSING_QUESTIONS,
	judgeErrorTest,
	latestErrorTest,
	openClosingQuestions,
	snagsOf
} from '#core/accept/closing';
import { readErrorLog } from '#core/accept/errorTable';
import {
	judgeAcceptance,
	type AcceptanceJudgement,
	type AcceptanceLine
} from '#core/accept/judgeAcceptance';
import { carrierStates } from '#core/accept/carriers';
import { buildStateOf } from '#core/tower/buildState';
import { makeLevelCurve } from '#core/radio/levelCurve';
import { noFindings } from '#core/record/findings';
import { advanced } from '#core/record/foldRecord';
import { emptyHopState, type HopState } from '#core/record/hopState';
import type { HopPlanInput } from '#core/budget/planInput';
import type { Aim } from '#core/record/findings';
import { levelText } from '#core/units/text';
import { feed, locksOf, reading, ready, stateAfter, type Made } from './feed';
import { dual, need } from './feedFollow';
import { catalogue, configured, hopInput, part, soundPlan } from './planFixture';

const input = hopInput();
const plan = soundPlan(input);
const { plannedLevelDbm, toleranceDb } = plan.received.A;
const stateOf = (...made: Made[]): HopState => stateAfter(input, feed(...made));
const lineIn = (state: HopState, code: string): AcceptanceLine | undefined =>
	judgeAcceptance(state).lines.find((line) => line.code === code);
const line = (code: string, ...made: Made[]): AcceptanceLine | undefined =>
	lineIn(stateOf(...made), code);
const moved: Made = ['A', 'move', { axis: 'azimuth', toTurns: 1, viaTurns: [], source: 'hand' }];
const operating = {
	powerControlAsPlanned: true,
	adaptiveModulationAsPlanned: true,
	licensedPower: true
};
const looked = (change: Record<string, 'yes' | 'no' | 'not-here'> = {}): Made => [
	'A',
	'closing-check',
	{
		answers: {
			...Object.fromEntries(CLOSING_QUESTIONS.map(({ key }) => [key, 'yes' as const])),
			...change
		},
		note: ''
	}
];
const errors = (
	change: Partial<Extract<Made, [unknown, 'error-test', unknown]>[2]> = {},
	end: 'A' | 'B' = 'A'
): Made => [
	end,
	'error-test',
	{ test: 'soak', durationS: 900, erroredSeconds: 0, bitErrorRatio: null, note: '', ...change }
];
const signed = (end: 'A' | 'B', name: string): Made => [
	end,
	'crew-signature',
	{ name, method: 'typed' }
];

const tool = (end: 'A' | 'B', calibratedUntil = '2027-01-01'): Made => [
	end,
	'torque-tool',
	{ serial: `TW-${end}`, calibratedUntil }
];

const aim: Aim = {
	probability: 0.987,
	sigmaBeamwidths: 0.046,
	onMainLobe: true,
	onPlan: true,
	expectedGainDb: 0
};

/** Everything that is asked of a hop, as a crew that forgets nothing leaves it. */
function finished(): HopState {
	const both = (['A', 'B'] as const).flatMap((end): Made[] => [
		[end, 'step-skipped', { step: '*', cause: 'Built in spring' }],
		[end, 'alignment-state', ready]
	]);
	const state = stateOf(
		...both,
		tool('A'),
		...locksOf(input, 'A'),
		tool('B'),
		...locksOf(input, 'B'),
		['A', 'reading', reading(plannedLevelDbm, 'final')],
		['B', 'reading', reading(plan.received.B.plannedLevelDbm, 'final')],
		['A', 'operating-state', operating],
		['B', 'operating-state', operating],
		looked(),
		[
			'B',
			'closing-check',
			{ answers: (looked()[2] as { answers: Record<string, 'yes'> }).answers, note: '' }
		],
		errors(),
		signed('A', 'Ada'),
		signed('B', 'Bo')
	);
	for (const end of ['A', 'B'] as const) {
		state.ends[end] = { ...state.ends[end], roundsDone: 1, aim };
	}
	return state;
}

describe('the judgement of a whole hop', () => {
	it('has nothing missing and only the building left out when all is done', () => {
		const judged: AcceptanceJudgement = judgeAcceptance(finished());
		expect(judged.complete).toBe(true);
		expect(judged.deviations).toBe(2);
		expect(
			judged.lines.filter(({ verdict }) => verdict !== 'pass').map(({ code }) => code)
		).toEqual(['build-A', 'build-B']);
	});

	it('counts every deviation and tells each missing line from one that deviates', () => {
		const { lines, complete, deviations } = judgeAcceptance(stateOf());
		expect(complete).toBe(false);
		expect(lines.filter(({ verdict }) => verdict === 'deviation').map(({ code }) => code)).toEqual([
			'build-A',
			'main-lobe-A',
			'build-B',
			'main-lobe-B',
			'error-test'
		]);
		expect(deviations).toBe(5);
	});
});

describe('the line of the torque tool', () => {
	// The records of a feed are from the first day of 1970.
	const locks = locksOf(input, 'A');
	const simulated = locks.map(([end, kind, payload]): Made => [
		...([end, kind, { ...payload, source: 'simulated' }] as Made)
	]);

	it.each<[string, Made[], string | undefined]>([
		['nothing is tightened yet', [], undefined],
		['it is recorded and in calibration', [tool('A', '1970-01-01'), ...locks], undefined],
		['a simulator tightens', simulated, undefined],
		['nobody recorded it', locks, 'not recorded'],
		['it is recorded at the other end', [tool('B'), ...locks], 'not recorded'],
		['its calibration had run out', [tool('A', '1969-12-31'), ...locks], 'TW-A, calibrated until']
	])('where %s', (_, made, measured) => {
		const found = line('torque-tool-A', ...made);
		expect(found?.verdict).toBe(measured && 'deviation');
		if (measured) expect(found!.measured).toContain(measured);
	});
});

describe('the line of the building', () => {
	const total = buildStateOf(stateOf(), 'A').steps.length;
	const first = buildStateOf(stateOf(), 'A').steps.find(({ step }) => step.quantity)!.step;
	const skipped = (step: string, cause: string, authorisedBy?: string): Made => [
		'A',
		'step-skipped',
		{ step, cause, ...(authorisedBy ? { authorisedBy } : {}) }
	];

	it('tells how many steps are not in the record', () => {
		expect(line('build-A', skipped('climb', 'no'))).toMatchObject({
			planned: `${total} steps`,
			verdict: 'deviation'
		});
		expect(line('build-A')).toEqual({
			code: 'build-A',
			end: 'A',
			label: 'Building at A',
			planned: `${total} steps`,
			measured: '0 done',
			verdict: 'deviation',
			reason: `${total} steps of the building are not in this record.`
		});
	});

	it('subtracts what is done and what is left out from what is not in the record', () => {
		const open = buildStateOf(stateOf(), 'A').steps.filter(({ step }) => step.work === 'confirm');
		const [one, two] = open.filter(({ step }) => !step.quantity);
		const made: Made[] = [
			['A', 'build-step', { step: one!.step.key, value: null, note: '', photoIds: [] }],
			skipped(two!.step.key, 'Not ours')
		];
		expect(line('build-A', ...made)).toMatchObject({
			measured: '1 done, 1 left out',
			reason: `${total - 2} steps of the building are not in this record.`
		});
		expect(line('build-A', ...made)).not.toHaveProperty('givenCause');
	});

	it('names each cause of what was left out once, and offers it to who signs', () => {
		const made: Made[] = [
			skipped('*', 'Built in spring', 'Ada Reef'),
			skipped(first.key, 'No tool')
		];
		const found = line('build-A', ...made)!;
		expect(found).toMatchObject({
			verdict: 'deviation',
			measured: `0 done, ${total} left out`
		});
		expect(found.givenCause!.split('; ').sort()).toEqual([
			'Built in spring, on the word of Ada Reef',
			'No tool'
		]);
		// Every step by its name, so that nobody signs for "the building" in one sentence.
		for (const { step } of buildStateOf(stateOf(), 'A').steps) {
			expect(found.reason).toContain(step.title);
		}
		expect(found.reason).toContain(`No tool (${first.title})`);
	});

	it('puts a quantity out of tolerance before everything else, with the crew’s own words', () => {
		const bad = (note: string): Made => [
			'A',
			'build-step',
			{ step: first.key, value: 1e6, note, photoIds: [] }
		];
		const found = line('build-A', bad('The gauge was wrong'), skipped('*', 'Later'))!;
		expect(found.verdict).toBe('deviation');
		expect(found.givenCause).toBe('The gauge was wrong');
		const trouble = buildStateOf(stateOf(bad('x')), 'A').steps.find(
			({ state }) => state === 'trouble'
		)!;
		expect(found.reason).toBe(trouble.reason);
		expect(line('build-A', bad(''))).not.toHaveProperty('givenCause');
	});
});

describe('the line of the level', () => {
	it('says how far from the plan, on which side, and whether the window holds it', () => {
		const read = (offDb: number): AcceptanceLine =>
			line('level-A', ['A', 'reading', reading(plannedLevelDbm + offDb, 'final')])!;
		expect(read(0.5)).toEqual({
			code: 'level-A',
			end: 'A',
			label: 'Level received at A from B',
			planned: `${levelText(plannedLevelDbm)} ± ${toleranceDb.toFixed(1)} dB`,
			measured: levelText(plannedLevelDbm + 0.5),
			verdict: 'pass',
			reason: '0.5 dB above the plan, inside the window.'
		});
		expect(read(-0.5).reason).toBe('0.5 dB below the plan, inside the window.');
		expect(read(-toleranceDb - 1)).toMatchObject({
			verdict: 'deviation',
			reason: `${(toleranceDb + 1).toFixed(1)} dB below the plan, outside the window.`
		});
		expect(read(toleranceDb + 1)).toMatchObject({
			verdict: 'deviation',
			reason: `${(toleranceDb + 1).toFixed(1)} dB above the plan, outside the window: too high is as suspect as too low.`
		});
	});

	it('counts the edge of the window as inside', () => {
		const state = stateOf(['A', 'reading', reading(-40, 'final')]);
		state.plan.received.A = { ...state.plan.received.A, plannedLevelDbm: -42, toleranceDb: 2 };
		expect(lineIn(state, 'level-A')!.verdict).toBe('pass');
		state.plan.received.A = { ...state.plan.received.A, plannedLevelDbm: -40 };
		expect(lineIn(state, 'level-A')!.reason).toBe('0.0 dB above the plan, inside the window.');
	});

	it('is missing without a final reading, and says which voltage contradicts which level', () => {
		expect(line('level-A')).toMatchObject({
			measured: '',
			verdict: 'missing',
			reason: 'No final reading at this end yet.'
		});
		const curve = makeLevelCurve(input.ends.A.radio.levelPort.curve);
		const volts = curve.voltsAt(-60);
		const both = line('level-A', [
			'A',
			'reading',
			{ volts, levelDbm: -40, source: 'hand', purpose: 'final' }
		])!;
		expect(both).toMatchObject({ measured: '−40.0 dBm', verdict: 'missing' });
		expect(both.reason).toBe(
			`${volts.toFixed(3)} V is −60.0 dBm by this port's curve, not −40.0 dBm: read the final level again.`
		);
		expect(
			line('level-A', [
				'A',
				'reading',
				{ volts: 99, levelDbm: -40, source: 'hand', purpose: 'final' }
			])
		).toMatchObject({
			measured: '−40.0 dBm',
			verdict: 'missing',
			reason: 'This port cannot give the voltage that was read: read the final level again.'
		});
	});

	it('says what happened since, and where, when it no longer holds', () => {
		const final: Made = ['A', 'reading', reading(plannedLevelDbm, 'final')];
		expect(line('level-A', final, moved)).toMatchObject({
			measured: levelText(plannedLevelDbm),
			verdict: 'missing',
			reason: 'The azimuth was moved at A since. Read the final level again.'
		});
		const far: Made = ['B', 'loosen', { reason: 'x' }];
		expect(line('level-A', final, far)!.reason).toBe(
			'A fastener was loosened at B since. Read the final level again.'
		);
	});
});

describe('the line of another carrier', () => {
	const standby: HopPlanInput = hopInput(
		{ configuration: configured('hot-standby') },
		{
			A: { coupling: part(catalogue.couplings, 'CU-26') },
			B: { coupling: part(catalogue.couplings, 'CU-26') }
		}
	);
	const carrier = soundPlan(standby).carriers[1]!;
	const planned = carrier.received.A;
	const after = (...made: Made[]): HopState => stateAfter(standby, feed(...made));
	const read = (offDb: number): Made => [
		'A',
		'carrier-level',
		{ carrier: 2, levelDbm: planned.plannedLevelDbm + offDb, source: 'hand' }
	];

	it('is read against its own plan', () => {
		expect(lineIn(after(read(-0.5)), 'carrier-A-b')).toEqual({
			code: 'carrier-A-b',
			end: 'A',
			label: `${carrier.name} at A`,
			planned: `${levelText(planned.plannedLevelDbm)} ± ${planned.toleranceDb.toFixed(1)} dB, the far main unit sending`,
			measured: levelText(planned.plannedLevelDbm - 0.5),
			verdict: 'pass',
			reason: '0.5 dB below the plan, inside the window.'
		});
		const off = planned.toleranceDb + 1;
		expect(lineIn(after(read(off)), 'carrier-A-b')).toMatchObject({
			verdict: 'deviation',
			reason: `${off.toFixed(1)} dB above the plan, outside the window.`
		});
	});

	it('says whether it was never read, or not since something changed', () => {
		expect(lineIn(after(), 'carrier-A-b')).toMatchObject({
			measured: '',
			verdict: 'deviation',
			reason: 'Its level was not read.'
		});
		expect(lineIn(after(read(0), moved), 'carrier-A-b')).toMatchObject({
			measured: '',
			verdict: 'deviation',
			reason: 'The azimuth was moved at A since. Read it again.'
		});
		expect(carrierStates(after(read(0), moved), 'A')).toMatchObject([
			{ levelDbm: null, shortDb: null, verdict: 'not-read' }
		]);
	});
});

describe('the line of the main lobe', () => {
	it('says how sure and how close, and never more than 99 %', () => {
		expect(lineIn(finished(), 'main-lobe-A')).toMatchObject({
			measured: '98 % sure, to 0.05 beam',
			verdict: 'pass',
			reason:
				'The readings of one round place the dish in the middle of its main lobe on both axes.'
		});
		const state = finished();
		state.ends.A = {
			...state.ends.A,
			roundsDone: 3,
			aim: { ...aim, probability: 0.9999, sigmaBeamwidths: null }
		};
		expect(lineIn(state, 'main-lobe-A')).toMatchObject({ measured: '99 % sure, to 0.00 beam' });
		expect(lineIn(state, 'main-lobe-A')!.reason).toContain('readings of 3 rounds place');
	});

	it('is not shown where nothing shows it', () => {
		expect(line('main-lobe-A')).toMatchObject({ measured: 'not shown', verdict: 'deviation' });
		expect(line('main-lobe-A')!.reason).toContain('a side lobe is not excluded');
	});
});

describe('the line of the lock', () => {
	const locks = locksOf(input, 'A');
	const names = input.ends.A.mount.fasteners.map(({ name }) => name.toLowerCase());

	it('is missing until every fastener stands, and names those that do not', () => {
		expect(line('lock-A')).toMatchObject({
			measured: '',
			verdict: 'missing',
			reason: 'No fastener of this end has been recorded.'
		});
		expect(names.length).toBeGreaterThan(2);
		expect(line('lock-A', locks[0]!, locks[2]!)).toMatchObject({
			measured: 'no change',
			verdict: 'missing',
			reason: `Not at torque, or moved since: ${names.filter((_, i) => i !== 0 && i !== 2).join(', ')}.`
		});
	});

	it('passes where the level held, and deviates with the way back where it did not', () => {
		expect(line('lock-A', ...locks)).toMatchObject({ verdict: 'pass', measured: 'no change' });
		const last = locks.at(-1)![2] as Extract<Made, [unknown, 'lock-step', unknown]>[2];
		const risen = line('lock-A', ...locks.slice(0, -1), [
			'A',
			'lock-step',
			{ ...last, afterDbm: last.beforeDbm + 1 }
		]);
		expect(risen).toMatchObject({ verdict: 'deviation', measured: '+1.0 dB' });
		expect(risen!.reason).toContain('At A: the level rose by 1.0 dB');
	});
});

describe('the line of the torque', () => {
	const locks = locksOf(input, 'A');
	const given = (factor: number): Made[] =>
		locks.map((made, i): Made => {
			const step = made[2] as Extract<Made, [unknown, 'lock-step', unknown]>[2];
			return i === 1 ? ['A', 'lock-step', { ...step, torqueNm: factor * step.torqueNm }] : made;
		});

	it('is there only where a fastener was not given what its sheet asks for', () => {
		const { name, torqueNm } = input.ends.A.mount.fasteners[1]!;
		expect(line('torque-A', ...locks)).toBeUndefined();
		expect(line('torque-A', ...given(1.04))).toBeUndefined();
		for (const factor of [0.9, 1.1]) {
			expect(line('torque-A', ...given(factor))).toMatchObject({
				verdict: 'deviation',
				measured: '1 off',
				reason: `${name}: ${(factor * torqueNm).toFixed(1)} N·m instead of ${torqueNm.toFixed(1)} N·m.`
			});
		}
		expect(line('torque-B', ...given(0.9))).toBeUndefined();
	});
});

describe('the line of operation', () => {
	it.each(Object.keys(operating))('deviates where %s was not brought back', (key) => {
		expect(line('operating-A', ['A', 'operating-state', { ...operating, [key]: false }])).toEqual({
			code: 'operating-A',
			end: 'A',
			label: 'Operating state restored at A',
			planned: 'ATPC, ACM and power as planned',
			measured: 'not as planned',
			verdict: 'deviation',
			reason: 'Left in the alignment state or not as planned: the classic forgotten step.'
		});
	});

	it('is asked for again once the radio went back into the alignment state', () => {
		const restored: Made = ['A', 'operating-state', operating];
		expect(line('operating-A')!.reason).toBe('Nobody has confirmed it yet.');
		expect(line('operating-A', restored)).toMatchObject({
			measured: 'confirmed',
			verdict: 'pass',
			reason: 'Confirmed by the crew.'
		});
		expect(line('operating-A', restored, ['A', 'alignment-state', ready])).toMatchObject({
			measured: '',
			verdict: 'missing',
			reason:
				'The radio went into the alignment state at A since. Bring it back and confirm it again.'
		});
	});
});

describe('the final look', () => {
	it('is missing, open or done', () => {
		expect(line('closing-A')).toMatchObject({
			measured: '',
			verdict: 'missing',
			reason: 'The final look at A is missing.'
		});
		expect(line('closing-A', looked())).toMatchObject({
			measured: 'done',
			verdict: 'pass',
			reason: 'Nothing left open.'
		});
		expect(line('closing-A', looked({ tools: 'no', lamps: 'not-here' }))).toMatchObject({
			measured: '2 open',
			verdict: 'deviation',
			reason:
				'Lamps as the unit’s sheet has them in operation; Tools counted: as many down as went up'
		});
	});

	it.each(CLOSING_QUESTIONS)('lets $key be not here only where it may be', ({ key, optional }) => {
		expect(openClosingQuestions(stateOf(looked({ [key]: 'not-here' })), 'A')).toHaveLength(
			optional ? 0 : 1
		);
		expect(openClosingQuestions(stateOf(looked({ [key]: 'no' })), 'A')).toHaveLength(1);
		const answers = { ...(looked()[2] as { answers: Record<string, 'yes'> }).answers };
		delete answers[key];
		expect(
			openClosingQuestions(stateOf(['A', 'closing-check', { answers, note: '' }]), 'A')
		).toHaveLength(1);
	});

	it('is void once the end was worked on again', () => {
		expect(openClosingQuestions(stateOf(looked(), moved), 'A')).toBeNull();
		expect(openClosingQuestions(stateOf(looked()), 'B')).toBeNull();
	});
});

describe('the line of discrimination', () => {
	const read = (sent: 'vertical' | 'horizontal', byDb: number): Made => [
		'A',
		'discrimination',
		{ sent, turned: 'A', feedDeg: 0, coDbm: -40, crossDbm: -40 - byDb, source: 'hand' }
	];
	const short = need.neededDb - 3;

	it('is asked of every direction where both polarizations carry traffic', () => {
		const lines = judgeAcceptance(stateAfter(dual, feed())).lines.filter(({ code }) =>
			code.startsWith('discrimination-')
		);
		expect(lines.map(({ code }) => code).sort()).toEqual([
			'discrimination-A-horizontal',
			'discrimination-A-vertical',
			'discrimination-B-horizontal',
			'discrimination-B-vertical'
		]);
		for (const { verdict, measured, planned } of lines) {
			expect({ verdict, measured }).toEqual({ verdict: 'missing', measured: '' });
			expect(planned).toBe(`at least ${need.neededDb.toFixed(1)} dB`);
		}
	});

	it('is reached, short, or void since something changed', () => {
		const after = (...made: Made[]): AcceptanceLine =>
			lineIn(stateAfter(dual, feed(...made)), 'discrimination-A-vertical')!;
		expect(after(read('vertical', need.neededDb + 1))).toMatchObject({
			label: 'XPD at A, vertical sent',
			measured: `${(need.neededDb + 1).toFixed(1)} dB`,
			verdict: 'pass'
		});
		expect(after(read('vertical', short))).toMatchObject({
			measured: `${short.toFixed(1)} dB`,
			verdict: 'deviation'
		});
		const gone = after(read('vertical', short), moved);
		expect(gone).toMatchObject({ measured: '', verdict: 'missing' });
		expect(gone.reason).toMatch(/^The azimuth was moved at A since\. /);
	});

	it('is shown of a single polarization only where somebody measured it, and never missed', () => {
		const shown = (...made: Made[]): string[] =>
			judgeAcceptance(stateOf(...made))
				.lines.map(({ code }) => code)
				.filter((code) => code.startsWith('discrimination-'));
		expect(shown()).toEqual([]);
		expect(shown(read('vertical', 40))).toEqual(['discrimination-A-vertical']);
		expect(shown(read('vertical', 40), moved)).toEqual([]);
	});
});

describe('the test of the hop', () => {
	it('is the later one of either end', () => {
		expect(latestErrorTest(stateOf())).toBeNull();
		expect(latestErrorTest(stateOf(errors(), errors({}, 'B')))!.end).toBe('B');
		expect(latestErrorTest(stateOf(errors({}, 'B'), errors()))!.end).toBe('A');
		expect(latestErrorTest(stateOf(errors({}, 'B')))!.end).toBe('B');
		expect(line('error-test', errors({}, 'B'))!.end).toBe('B');
		expect(line('error-test')).toMatchObject({
			end: 'A',
			measured: '',
			verdict: 'deviation',
			reason: 'No error, traffic or soak test was recorded.'
		});
	});

	it('tells minutes, errored seconds and the ratio where there is one', () => {
		const measured = (change: Parameters<typeof errors>[0]): string =>
			judgeErrorTest(stateOf(errors(change))).measured;
		expect(measured({})).toBe('15 min, 0 errored seconds');
		expect(measured({ bitErrorRatio: 0 })).toBe('15 min, 0 errored seconds, no bit wrong');
		expect(measured({ bitErrorRatio: 3.2e-7 })).toBe('15 min, 0 errored seconds, ratio 3.2e-7');
	});

	it('passes free of errors for a minute, not shorter', () => {
		expect(judgeErrorTest(stateOf(errors({ durationS: 60 })))).toMatchObject({
			verdict: 'pass',
			reason: 'Free of errors.'
		});
		expect(judgeErrorTest(stateOf(errors({ durationS: 59 })))).toMatchObject({
			verdict: 'deviation',
			reason: 'Too short to say anything.'
		});
		expect(judgeErrorTest(stateOf(errors({ erroredSeconds: 1 })))).toMatchObject({
			verdict: 'deviation',
			reason: '1 errored seconds in clear air: look at RSL, XPD and interference.'
		});
	});

	it('is run again after a change of either end', () => {
		expect(judgeErrorTest(stateOf(errors(), moved))).toMatchObject({
			verdict: 'deviation',
			measured: '15 min, 0 errored seconds',
			reason: 'Run it again: the azimuth was moved at A since.'
		});
	});
});

describe('the word of the crew', () => {
	it('is every name once, of the end that signed last', () => {
		expect(line('crew-signature')).toMatchObject({
			end: 'A',
			measured: '',
			verdict: 'missing',
			reason: 'The crew has not signed its record yet.'
		});
		expect(line('crew-signature', signed('A', 'Ada'), signed('B', 'Bo'))).toMatchObject({
			end: 'B',
			measured: 'Ada, Bo',
			verdict: 'pass'
		});
		expect(line('crew-signature', signed('A', 'Ada'), signed('B', 'Ada'))!.measured).toBe('Ada');
		expect(line('crew-signature', signed('A', 'Ada'))!.end).toBe('A');
	});

	it('does not stand for work done after it', () => {
		expect(line('crew-signature', signed('A', 'Ada'), signed('B', 'Bo'), moved)).toMatchObject({
			end: 'B',
			measured: 'Bo',
			verdict: 'pass'
		});
		expect(line('crew-signature', signed('A', 'Ada'), moved)).toMatchObject({
			measured: '',
			verdict: 'missing',
			reason: 'The azimuth was moved at A since. The crew signs again what it stands for.'
		});
	});
});

describe('snags', () => {
	const snag = (snagId: string, due: string, end: 'A' | 'B' = 'A'): Made => [
		end,
		'snag',
		{ snagId, text: `Label ${snagId}`, owner: 'Ada', due, photoIds: [] }
	];
	const shut = (snagId: string): Made => [
		'A',
		'snag-closed',
		{ snagId, note: 'Done', closedBy: 'Bo', photoIds: ['p'] }
	];

	it('make a line of their end, open or all closed', () => {
		expect(line('snags-A', snag('1', '2027-02-01', 'B'))).toBeUndefined();
		const made = [snag('1', '2027-02-01'), snag('2', '2027-01-01'), snag('3', '2027-03-01')];
		expect(line('snags-A', ...made, shut('3'))).toMatchObject({
			end: 'A',
			measured: '2 open of 3',
			verdict: 'deviation',
			reason: 'Label 2 (Ada, by 2027-01-01); Label 1 (Ada, by 2027-02-01)',
			givenCause: 'Label 2: Ada, by 2027-01-01; Label 1: Ada, by 2027-02-01'
		});
		const closed = line('snags-A', snag('1', '2027-02-01'), shut('1'))!;
		expect(closed).toMatchObject({
			measured: '0 open of 1',
			verdict: 'pass',
			reason: 'All closed.'
		});
		expect(closed).not.toHaveProperty('givenCause');
	});

	it('tell who closed them, also where an older record does not name anybody', () => {
		const [one] = snagsOf(stateOf(snag('1', '2027-02-01'), shut('1')));
		expect(one!.closed).toMatchObject({ note: 'Done', by: 'Bo', photoIds: ['p'] });
		const old: Made = ['A', 'snag-closed', { snagId: '1', note: 'Done' }];
		const [other] = snagsOf(stateOf(snag('1', '2027-02-01'), old));
		expect(other!.closed).toMatchObject({ by: 'test', photoIds: [] });
	});
});

describe('an error log', () => {
	const row = (elapsed: number | string, wrong: number | string): Record<string, string> => ({
		elapsed_s: String(elapsed),
		bit_errors: String(wrong)
	});

	it('is summed, with a ratio where the bits are known', () => {
		const rows = [row(10, 0), row(11, 3), row(12, 1), row(15, 0)];
		expect(readErrorLog(rows)).toEqual({
			kind: 'log',
			log: { durationS: 6, erroredSeconds: 2, bitErrorRatio: null }
		});
		const counted = rows.map((one) => ({ ...one, bits: '1000' }));
		expect(readErrorLog(counted)).toMatchObject({ log: { bitErrorRatio: 4 / 4000 } });
		expect(readErrorLog([{ ...row(0, 0), bits: 'x' }])).toMatchObject({
			log: { durationS: 1, bitErrorRatio: null }
		});
	});

	it.each([
		['an empty file', [], 1, 'The file is empty.'],
		['no times', [{ bit_errors: '0' }], 1, 'The column elapsed_s is missing.'],
		['no errors', [{ elapsed_s: '0' }], 1, 'The column bit_errors is missing.'],
		['a blank time', [row(0, 0), row(' ', 0)], 3, '“elapsed_s” is no number.'],
		['a time in words', [row('soon', 0)], 2, '“elapsed_s” is no number.'],
		['a blank count', [row(0, ' ')], 2, '“bit_errors” is no number of errors.'],
		['a count in words', [row(0, 'few')], 2, '“bit_errors” is no number of errors.'],
		['a count below none', [row(0, -1)], 2, '“bit_errors” is no number of errors.'],
		['a time twice', [row(0, 0), row(0, 0)], 3, 'Times must rise from row to row.'],
		['a time back', [row(5, 0), row(4, 0)], 3, 'Times must rise from row to row.']
	])('is refused at the line with %s', (_, rows, at, reason) => {
		expect(readErrorLog(rows)).toEqual({
			kind: 'unreadable',
			line: at,
			reason
		});
	});
});

it('a state folded without what the guidance found shows no main lobe', () => {
	const state = advanced(
		emptyHopState(input, plan),
		feed(['A', 'reading', reading(plannedLevelDbm, 'final')]),
		noFindings()
	);
	expect(lineIn(state, 'main-lobe-A')!.verdict).toBe('deviation');
});
