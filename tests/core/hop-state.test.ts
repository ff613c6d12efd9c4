import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CLOSING_QUESTIONS } from '#core/accept/closing';
import { judgeAcceptance } from '#core/accept/judgeAcceptance';
import type { End } from '#core/ends';
import { diagnosisInputOf } from '#core/guide/diagnosisQuestion';
import { discriminationOf } from '#core/guide/polarizationBench';
import {
	CHANGE_WORDS,
	CHANGES,
	EVIDENCE,
	VOIDED_BY,
	voids,
	type Evidence
} from '#core/record/changes';
import { noFindings, type Aim, type Findings } from '#core/record/findings';
import { advanced } from '#core/record/foldRecord';
import {
	currentLockSteps,
	emptyHopState,
	isFixed,
	stillHolds,
	voidedAt,
	type HopState
} from '#core/record/hopState';
import { changesOf, KINDS, RECORD_KINDS } from '#core/record/kinds';
import type { FieldRecord, RecordKind, RecordPayloads } from '#core/record/records';
import { feed, locksOf, reading, ready, type Made } from './feed';
import { dual, need } from './feedFollow';
import { soundPlan } from './planFixture';

const plan = soundPlan(dual);
const start = emptyHopState(dual, plan);
/** Random feeds a property; fewer while mutants are hunted, where each runs it again. */
const RUNS = Number(process.env.SKIAXIS_RUNS ?? 1000);
const END: fc.Arbitrary<End> = fc.constantFrom('A', 'B');
const aim: Aim = {
	onMainLobe: true,
	onPlan: true,
	probability: 0.99,
	sigmaBeamwidths: 0.05,
	expectedGainDb: 0.06
};
/** An aim for every record that could close a turn. */
const aimsFor = (records: readonly FieldRecord[]): Findings => ({
	sweeps: new Map(),
	aims: new Map(records.map(({ id }) => [id, aim]))
});

const operating = {
	powerControlAsPlanned: true,
	adaptiveModulationAsPlanned: true,
	licensedPower: true
};
const move = (end: End, axis: 'azimuth' | 'tilt', toTurns = 1): Made => [
	end,
	'move',
	{ axis, toTurns, viaTurns: [], source: 'hand' }
];
const locks = (end: 'A' | 'B'): Made[] => locksOf(dual, end);
const both = (end: End): Made[] =>
	(['vertical', 'horizontal'] as const).map((sent): Made => {
		const coDbm = plan.received[end].plannedLevelDbm;
		const crossDbm = coDbm - need.neededDb - 4;
		return [
			end,
			'discrimination',
			{ sent, turned: end, feedDeg: 0, coDbm, crossDbm, source: 'hand' }
		];
	});
/** A hop with traffic on both polarizations, aligned, fixed, read, closed: ready to be signed. */
const finished: Made[] = [
	['A', 'step-skipped', { step: '*', cause: 'Built before' }],
	['B', 'step-skipped', { step: '*', cause: 'Built before' }],
	['A', 'alignment-state', ready],
	['B', 'alignment-state', ready],
	['A', 'reading', reading(-44)],
	['A', 'baton', { to: 'B', how: 'handed' }],
	['B', 'reading', reading(-44)],
	['B', 'baton', { to: 'A', how: 'handed' }],
	['A', 'torque-tool', { serial: 'TW-1', calibratedUntil: '2027-01-01' }],
	...locks('A'),
	['B', 'torque-tool', { serial: 'TW-2', calibratedUntil: '2027-01-01' }],
	...locks('B'),
	...both('A'),
	...both('B'),
	...(['A', 'B'] as const).flatMap((end): Made[] => [
		['A', 'test-result', { test: 'rain', value: 'no' }],
		[end, 'reading', reading(plan.received[end].plannedLevelDbm, 'final')],
		...plan.carriers.slice(1).map(({ number, received }): Made => {
			const levelDbm = received[end].plannedLevelDbm;
			return [end, 'carrier-level', { carrier: number, levelDbm, source: 'hand' }];
		})
	]),
	[
		'A',
		'error-test',
		{ test: 'errors', durationS: 900, erroredSeconds: 0, bitErrorRatio: 0, note: '' }
	],
	...(['A', 'B'] as const).flatMap((end): Made[] => [
		[end, 'operating-state', operating],
		[
			end,
			'closing-check',
			{
				answers: Object.fromEntries(CLOSING_QUESTIONS.map(({ key }) => [key, 'yes' as const])),
				note: ''
			}
		],
		[end, 'crew-signature', { name: 'Ada', method: 'typed' }]
	])
];
const stateOf = (...made: Made[]): HopState => {
	const records = feed(...made);
	return advanced(start, records, aimsFor(records));
};
const lines = (state: HopState): Map<string, string> =>
	new Map(judgeAcceptance(state).lines.map(({ code, verdict }) => [code, verdict]));

describe('a hop that is finished', () => {
	it('may be signed; only the building was left out with a cause', () => {
		const { lines: judged, complete } = judgeAcceptance(stateOf(...finished));
		expect(complete).toBe(true);
		expect(judged.filter(({ verdict }) => verdict !== 'pass').map(({ code }) => code)).toEqual([
			'build-A',
			'build-B'
		]);
	});
});

/** One record of each kind at A that could come after everything was finished. */
const SAMPLES: { [K in RecordKind]: RecordPayloads[K] } = {
	reading: reading(-50),
	move: { axis: 'azimuth', toTurns: 1, viaTurns: [], source: 'hand' },
	sweep: {
		axis: 'tilt',
		otherAxisDeg: 0,
		source: 'hand',
		samples: [0, 1, 2, 3, 4].map((positionDeg) => ({ positionDeg, levelV: 1.4 }))
	},
	baton: { to: 'B', how: 'handed' },
	'baton-request': {},
	'level-request': {},
	aimed: {},
	advice: { step: 'move', headline: 'x', why: [], probabilityOnMainLobe: null, boresight: null },
	'mount-turn': { byDeg: 4, compassDeg: null, source: 'hand' },
	calibration: { axis: 'tilt', degPerTurn: 0.5, sigmaDegPerTurn: 0.01, sweepId: 'x' },
	'crew-mode': { crews: 1 },
	'sent-back': { reason: 'The label of the cable is missing.' },
	remedy: { cause: 'film-left-in' },
	'alignment-state': ready,
	'lock-step': {
		fastenerIndex: 0,
		fastener: dual.ends.A.mount.fasteners[0]!.name,
		locks: dual.ends.A.mount.fasteners[0]!.locks,
		torqueNm: dual.ends.A.mount.fasteners[0]!.torqueNm,
		beforeDbm: -43,
		afterDbm: -43,
		source: 'hand'
	},
	'operating-state': operating,
	loosen: { reason: 'drifted' },
	'test-result': { test: 'films', value: 'no' },
	note: { text: 'x' },
	message: { phrase: 'ready', text: '' },
	'stop-card': { card: 'climb', answers: {}, note: '' },
	'packing-list': { source: 'csv', lines: [] },
	received: { code: 'Q', name: '', found: 1, condition: 'good', note: '', photoIds: [] },
	'part-label': {
		part: 'mount',
		code: 'Q',
		bandFromGhz: 1,
		bandToGhz: 2,
		subBandUnit: '',
		flange: '',
		serial: 'S'
	},
	parties: { present: [{ name: 'Ada', party: 'Crew' }], absent: [] },
	'receipt-signature': { name: 'Ada', party: 'Crew', method: 'typed' },
	'polarization-set': { joint: 'nothing', shows: 'vertical' },
	'build-step': { step: 'nothing', value: null, note: '', photoIds: [] },
	'step-skipped': { step: 'nothing', cause: 'x' },
	'step-reopened': { step: 'nothing', reason: 'x' },
	photo: { photoId: 'p', about: 'x', caption: '' },
	'feed-turn': { toDeg: 2, source: 'hand' },
	discrimination: {
		sent: 'vertical',
		turned: 'A',
		feedDeg: 0,
		coDbm: -43,
		crossDbm: -43 - need.neededDb - 3,
		source: 'hand'
	},
	'carrier-level': {
		carrier: 2,
		levelDbm: plan.carriers[1]!.received.A.plannedLevelDbm,
		source: 'hand'
	},
	'torque-tool': { serial: 'TW', calibratedUntil: '2027-01-01' },
	'error-test': {
		test: 'soak',
		durationS: 3600,
		erroredSeconds: 0,
		bitErrorRatio: null,
		note: ''
	},
	'crew-signature': { name: 'Bo', method: 'typed' },
	'closing-check': {
		answers: Object.fromEntries(CLOSING_QUESTIONS.map(({ key }) => [key, 'yes' as const])),
		note: ''
	},
	'service-check': { answers: { 'service-1': 'yes' }, note: '' },
	snag: { snagId: 's', text: 'x', owner: 'y', due: '2027-01-01', photoIds: [] },
	'snag-closed': { snagId: 's', note: 'x' },
	'visit-opened': { visitId: 'v', purpose: 'repair', why: 'x', people: ['Ada'] },
	'visit-closed': { visitId: 'v', found: 'x', name: 'Ada', method: 'typed' },
	'part-replaced': { part: 'radio-1', code: 'Q', serial: 'S', reason: 'x', photoIds: [] }
};

/**
 * What a record of each kind at A makes void once all is finished: lines of the acceptance that no
 * longer pass, and facts of guide, discrimination and lock. Kinds that are not named void nothing.
 */
const LEVELS = ['level-A', 'level-B', 'carrier-A-b', 'carrier-B-b'];
const POLAR = [
	'discrimination-A-vertical',
	'discrimination-A-horizontal',
	'discrimination-B-vertical',
	'discrimination-B-horizontal'
];
const VOIDS: Partial<Record<RecordKind, { lines: string[]; facts: string[] }>> = {
	move: {
		lines: [...LEVELS, 'main-lobe-A', 'lock-A', 'closing-A', ...POLAR, 'error-test'],
		facts: ['aim A', 'comparable B', 'fixed A', 'fresh A', 'fresh B', 'settled']
	},
	sweep: {
		lines: [...LEVELS, 'main-lobe-A', 'lock-A', 'closing-A', ...POLAR, 'error-test'],
		facts: ['aim A', 'comparable B', 'fixed A', 'fresh B', 'settled']
	},
	'mount-turn': {
		lines: [...LEVELS, 'main-lobe-A', 'lock-A', 'closing-A', ...POLAR, 'error-test'],
		facts: ['aim A', 'comparable A', 'comparable B', 'fixed A', 'fresh A', 'fresh B', 'settled']
	},
	calibration: { lines: [], facts: ['comparable A'] },
	remedy: {
		lines: [...LEVELS, ...POLAR, 'error-test'],
		facts: ['comparable A', 'comparable B', 'fresh A', 'fresh B', 'settled', 'tests']
	},
	'lock-step': {
		lines: [...LEVELS, 'closing-A', ...POLAR, 'error-test'],
		facts: ['comparable B', 'fresh A', 'fresh B', 'settled']
	},
	loosen: {
		lines: [...LEVELS, 'lock-A', 'closing-A', ...POLAR, 'error-test'],
		facts: ['comparable B', 'fixed A', 'fresh A', 'fresh B', 'settled']
	},
	'feed-turn': {
		lines: [...LEVELS, 'closing-A', ...POLAR, 'error-test'],
		facts: ['comparable A', 'comparable B', 'fresh A', 'fresh B', 'settled']
	},
	'alignment-state': { lines: ['operating-A'], facts: [] },
	'part-replaced': {
		lines: [...LEVELS, 'operating-A', 'closing-A', ...POLAR, 'error-test'],
		facts: ['comparable A', 'comparable B', 'fresh A', 'fresh B', 'settled']
	},
	snag: { lines: ['snags-A'], facts: [] }
};

/** What guide, discrimination, lock and diagnosis read of a state. */
const factsOf = (state: HopState): Record<string, boolean> => ({
	...Object.fromEntries(
		(['A', 'B'] as const).flatMap((end) => [
			[`aim ${end}`, state.ends[end].aim !== null],
			[`comparable ${end}`, state.ends[end].comparable.some(({ seq }) => seq <= finished.length)],
			[`fixed ${end}`, isFixed(state, end)],
			[`fresh ${end}`, state.ends[end].levelIsFresh]
		])
	),
	settled: discriminationOf(state).directions.every(({ verdict }) => verdict === 'reached'),
	tests: diagnosisInputOf(state).observations.raining !== undefined
});

describe.each(RECORD_KINDS)('a record of the kind %s after all was finished', (kind) => {
	const before = stateOf(...finished);
	// The signature and the closing look of B still stand; the crew has signed at both ends.
	const after = stateOf(...finished, ['A', kind, SAMPLES[kind]] as Made);
	const lost = VOIDS[kind] ?? { lines: [], facts: [] };

	it('voids just what it disturbs in the acceptance', () => {
		const was = lines(before);
		const worse = [...lines(after)].filter(
			([code, verdict]) => verdict !== 'pass' && (was.get(code) ?? 'pass') === 'pass'
		);
		expect(worse.map(([code]) => code).sort()).toEqual([...lost.lines].sort());
	});

	it('voids just what it disturbs in guide, discrimination, lock and diagnosis', () => {
		const was = factsOf(before);
		const is = factsOf(after);
		const gone = Object.keys(was).filter((fact) => was[fact] && !is[fact]);
		expect(gone.sort()).toEqual([...lost.facts].sort());
	});
});

describe('a mended fault that bent the levels', () => {
	it('takes the aims of both ends with it, another one does not', () => {
		const after = (cause: 'power-control-on' | 'film-left-in'): boolean[] => {
			const { ends } = stateOf(...finished, ['A', 'remedy', { cause }]);
			return [ends.A.aim !== null, ends.B.aim !== null];
		};
		expect(after('power-control-on')).toEqual([false, false]);
		expect(after('film-left-in')).toEqual([true, true]);
	});
});

describe('a lock', () => {
	it('of one axis survives a move of the other, and not one of its own', () => {
		const axes = (state: HopState): string[] => [
			...new Set(currentLockSteps(state, 'A').map(({ locks: axis }) => axis))
		];
		expect(axes(stateOf(...finished, move('A', 'azimuth')))).toEqual(['tilt']);
		expect(axes(stateOf(...finished, move('A', 'tilt')))).toEqual(['azimuth']);
		expect(isFixed(stateOf(...finished, move('B', 'tilt')), 'A')).toBe(true);
	});

	it('counts the latest tightening of a fastener, in the order of the first', () => {
		const [first, second] = locks('A') as [Made, Made];
		const tighter = { ...(first[2] as RecordPayloads['lock-step']), afterDbm: -43.4 };
		const state = stateOf(first, second, ['A', 'lock-step', tighter]);
		expect(
			currentLockSteps(state, 'A').map(({ fastenerIndex, afterDbm }) => [fastenerIndex, afterDbm])
		).toEqual([
			[0, -43.4],
			[1, -43]
		]);
	});
});

describe('a reading whose volts and level contradict each other', () => {
	const { levelPort } = dual.ends.A.radio;
	const planned = plan.received.A.plannedLevelDbm;
	const points = [...levelPort.curve].sort((p, q) => p[0] - q[0]);
	const [weak, strong] = [points[0]!, points.at(-1)!];
	const final = (volts: number | null, levelDbm: number): Made => [
		'A',
		'reading',
		{ volts, levelDbm, source: 'hand', purpose: 'final' }
	];
	const level = (...made: Made[]): { verdict: string; reason: string } =>
		judgeAcceptance(stateOf(...made)).lines.find(({ code }) => code === 'level-A')!;

	it('is no pass, says what the curve makes of the volts, and is no level to the guide', () => {
		const odd = final(weak[1] + 0.2 * (strong[1] - weak[1]), planned);
		expect(level(odd)).toMatchObject({ verdict: 'missing' });
		expect(level(odd).reason).toContain('by this port');
		expect(stateOf(odd).ends.A).toMatchObject({ lastLevelDbm: null, implausibleReading: true });
		expect(stateOf(odd).ends.A.comparable).toHaveLength(0);
	});

	it('with volts that the port cannot give is none either', () => {
		expect(level(final(strong[1] + Math.sign(strong[1] - weak[1]) * 9, planned))).toMatchObject({
			verdict: 'missing'
		});
	});

	it('passes where they agree, where only one is there, and at the end of the curve', () => {
		expect(level(final(null, planned)).verdict).toBe('pass');
		const beyond = stateOf(final(strong[1], strong[0] + 6));
		expect(beyond.ends.A.implausibleReading).toBe(false);
	});
});

const record: fc.Arbitrary<Made> = fc
	.tuple(END, fc.constantFrom(...RECORD_KINDS), fc.integer({ min: -40, max: 40 }), fc.boolean())
	.map(([end, kind, n, flip]) => {
		const axis = flip ? 'azimuth' : 'tilt';
		const payload = {
			...SAMPLES[kind],
			...('axis' in SAMPLES[kind] ? { axis } : {}),
			...('locks' in SAMPLES[kind] ? { locks: axis, fastenerIndex: Math.abs(n) % 4 } : {}),
			...('toTurns' in SAMPLES[kind] ? { toTurns: n / 4 } : {}),
			...(kind === 'reading' ? { levelDbm: -60 + n / 2, purpose: flip ? 'final' : 'watch' } : {}),
			...(kind === 'baton' ? { to: flip ? 'A' : 'B' } : {}),
			...(kind === 'part-replaced' ? { part: flip ? 'dish' : 'radio-1' } : {}),
			...(kind === 'remedy' ? { cause: flip ? 'pick-up' : 'film-left-in' } : {}),
			...(kind === 'alignment-state' ? { transmitterOn: flip } : {}),
			...(kind === 'operating-state' ? { licensedPower: flip } : {})
		};
		return [end, kind, payload] as Made;
	});
const feeds = fc.array(record, { minLength: 1, maxLength: 40 });

/** Written into by nobody: a state handed out earlier stays as it was. */
function frozen<T>(value: T): T {
	if (typeof value === 'object' && value !== null && !Object.isFrozen(value)) {
		Object.freeze(value);
		Object.values(value).forEach(frozen);
	}
	return value;
}

describe('the state of any feed', { timeout: 60_000 }, () => {
	it('is the same folded at once and record by record, and changes nothing it was given', () => {
		fc.assert(
			fc.property(feeds, fc.nat(), (made, cut) => {
				const records = feed(...made);
				const findings = aimsFor(records);
				const whole = advanced(start, records, findings);
				const at = cut % (records.length + 1);
				const part = frozen(advanced(start, records.slice(0, at), findings));
				expect(advanced(part, records.slice(at), findings)).toEqual(whole);
			}),
			{ numRuns: RUNS }
		);
	});

	it('holds evidence just as long as nothing in the feed makes it void', () => {
		fc.assert(
			fc.property(feeds, fc.constantFrom(...EVIDENCE), END, (made, evidence, end) => {
				const records = feed(...made);
				const state = advanced(start, records, noFindings());
				const voiding = records.findLast((one) =>
					changesOf(one).some((change) => voids(change, evidence, one.end === end ? 'own' : 'far'))
				);
				expect(voidedAt(state, evidence, end)).toBe(voiding?.seq ?? 0);
				for (const { seq } of records) {
					expect(stillHolds(state, evidence, end, { seq })).toBe(seq >= (voiding?.seq ?? 0));
				}
			}),
			{ numRuns: Math.ceil(RUNS / 3) }
		);
	});
});

describe('the table of changes', () => {
	it('names every change in words, and lets each make something void or begin something', () => {
		for (const change of CHANGES) {
			expect(CHANGE_WORDS[change].length).toBeGreaterThan(8);
			const used = EVIDENCE.some(
				(evidence: Evidence) => voids(change, evidence, 'own') || voids(change, evidence, 'far')
			);
			expect(used, change).toBe(true);
		}
		expect(Object.keys(VOIDED_BY).sort()).toEqual([...EVIDENCE].sort());
	});

	it('needs the baton for all that moves, tightens or turns at an end', () => {
		const withBaton = RECORD_KINDS.filter((kind) => KINDS[kind].needsBaton);
		expect(withBaton.sort()).toEqual(
			['aimed', 'feed-turn', 'lock-step', 'loosen', 'mount-turn', 'move', 'sweep'].sort()
		);
	});
});
