import { describe, expect, it } from 'vitest';
import { noFindings } from '#core/record/findings';
import { emptyHopState } from '#core/record/hopState';
import { isOfPart, partOfWork, RECORD_KINDS, sayRecord, WORK_PARTS } from '#core/record/kinds';
import type { FieldRecord } from '#core/record/records';
import { recordNamesOf } from '#core/tower/recordNames';
import { compareVisits, visitsOf, type Visit } from '#core/visit/visits';
import { builtHop } from './endFixture';
import { feed, reading, ready, stateAfter, type Made } from './feed';
import { hopInput, soundPlan } from './planFixture';

const input = hopInput();
const plan = soundPlan(input);
const start = emptyHopState(input, plan);
const HOUR_MS = 3_600_000;

/** Two days of records: what was made on the second is dated a day later. */
function twoDays(first: Made[], second: Made[]): FieldRecord[] {
	return feed(...first, ...second).map((record, i) => ({
		...record,
		recordedAt: new Date(i * 60_000 + (i < first.length ? 0 : 24 * HOUR_MS)).toISOString(),
		recordedBy: i < first.length ? 'Ada' : 'Bo'
	}));
}
const move = (axis: 'azimuth' | 'tilt', toTurns: number): Made => [
	'A',
	'move',
	{ axis, toTurns, viaTurns: [], source: 'hand' }
];
const begun: Made[] = [
	['A', 'alignment-state', ready],
	['B', 'alignment-state', ready],
	move('azimuth', 2),
	['A', 'reading', reading(-44)],
	['B', 'reading', reading(-44.5)]
];
const visits = (second: Made[]): Visit[] => visitsOf(start, twoDays(begun, second), noFindings());

describe('visits', () => {
	it('are runs of records without a long pause, with who was there and how the ends were left', () => {
		const [first, second, ...more] = visits([['A', 'reading', reading(-47)]]);
		expect(more).toEqual([]);
		expect(first).toMatchObject({ fromSeq: 1, toSeq: 5, people: ['Ada'] });
		expect(second).toMatchObject({ fromSeq: 6, toSeq: 6, people: ['Bo'] });
		expect(first!.ends.A).toMatchObject({
			azimuthTurns: 2,
			lastLevelDbm: -44,
			moves: 1,
			readings: 1
		});
		expect(first!.ends.A.belowPlanDb).toBeCloseTo(plan.received.A.plannedLevelDbm + 44, 9);
		// Nothing was moved on the second day: the nuts stand where the first left them.
		expect(second!.ends.A).toMatchObject({ azimuthTurns: 2, lastLevelDbm: -47, moves: 0 });
		expect(second!.ends.B.lastLevelDbm).toBeNull();
	});

	it('one day is one visit, and nothing is none', () => {
		expect(visitsOf(start, feed(...begun), noFindings())).toHaveLength(1);
		expect(visitsOf(start, [], noFindings())).toEqual([]);
	});

	it.each([
		['lower, nuts untouched', [['A', 'reading', reading(-47)]], /shifted/],
		['higher, nuts untouched', [['A', 'reading', reading(-41)]], /other end, power or the air/],
		['turned and better', [move('tilt', 1), ['A', 'reading', reading(-41)]], /better for it/],
		['turned and worse', [move('tilt', 1), ['A', 'reading', reading(-48)]], /worse for it/],
		['turned to the same', [move('tilt', 1), ['A', 'reading', reading(-44.2)]], /same level/],
		['the same', [['A', 'reading', reading(-44.3)]], /^As it was\.$/]
	] as [string, Made[], RegExp][])('compared: %s', (_, second, meaning) => {
		const [first, later] = visits(second);
		const change = compareVisits(first!, later!).find(({ end }) => end === 'A')!;
		expect(change.meaning).toMatch(meaning);
	});

	it('without a level at one of them say nothing of a change', () => {
		const [first, later] = visits([['A', 'note', { text: 'Looked only.' }]]);
		expect(compareVisits(first!, later!).map((change) => change.levelDb)).toEqual([null, null]);
	});
});

describe('a record in words', () => {
	const made: Made[] = [
		['A', 'reading', { volts: 1.25, levelDbm: -57.6, source: 'hand', purpose: 'final' }],
		move('tilt', -1.5),
		[
			'A',
			'sweep',
			{
				axis: 'tilt',
				otherAxisDeg: 0,
				source: 'hand',
				samples: [0, 1, 2, 3, 4].map((positionDeg) => ({ positionDeg, levelV: 1 }))
			}
		],
		['A', 'baton', { to: 'B', how: 'handed' }],
		['B', 'baton-request', {}],
		['B', 'level-request', {}],
		['A', 'aimed', {}],
		[
			'A',
			'advice',
			{ step: 'move', headline: 'Move tilt', why: [], probabilityOnMainLobe: 0.9, boresight: null }
		],
		['A', 'mount-turn', { byDeg: 7.4, compassDeg: 120, source: 'hand' }],
		['A', 'calibration', { axis: 'tilt', degPerTurn: 0.25, sigmaDegPerTurn: 0.01, sweepId: 'x' }],
		['A', 'crew-mode', { crews: 1 }],
		['A', 'remedy', { cause: 'film-left-in' }],
		['A', 'alignment-state', ready],
		[
			'A',
			'lock-step',
			{
				fastenerIndex: 0,
				fastener: 'Upper clamp',
				locks: 'tilt',
				torqueNm: 24,
				beforeDbm: -44,
				afterDbm: -44,
				source: 'hand'
			}
		],
		[
			'A',
			'operating-state',
			{ powerControlAsPlanned: true, adaptiveModulationAsPlanned: false, licensedPower: true }
		],
		['A', 'loosen', { reason: 'drifted' }],
		['A', 'test-result', { test: 'rain', value: 'no' }],
		['A', 'note', { text: 'Gusty.' }],
		['A', 'stop-card', { card: 'lift', answers: { beneath: 'no' }, note: '' }],
		[
			'A',
			'packing-list',
			{ source: 'csv', lines: [{ code: 'Q', name: '', count: 1, unit: 'piece' }] }
		],
		[
			'A',
			'received',
			{ code: 'CL-C', name: '', found: 3, condition: 'damaged', note: '', photoIds: [] }
		],
		[
			'A',
			'part-label',
			{
				part: 'radio-1',
				code: 'RU-18',
				bandFromGhz: 17,
				bandToGhz: 20,
				subBandUnit: '2L',
				flange: '',
				serial: 'S-7'
			}
		],
		['A', 'parties', { present: [{ name: 'Ada', party: 'Crew' }], absent: [] }],
		['A', 'receipt-signature', { name: 'Ada', party: 'Crew', method: 'typed' }],
		['A', 'polarization-set', { joint: 'feed', shows: 'horizontal' }],
		['A', 'build-step', { step: 'films', value: 7, note: '', photoIds: [] }],
		['A', 'step-skipped', { step: '*', cause: 'Built before' }],
		['A', 'step-reopened', { step: 'films', reason: 'One was found' }],
		['A', 'photo', { photoId: 'p', about: 'films', caption: 'Seven films' }],
		['A', 'feed-turn', { toDeg: -2.4, source: 'hand' }],
		[
			'A',
			'discrimination',
			{ sent: 'vertical', turned: 'A', feedDeg: 0, coDbm: -45, crossDbm: -76, source: 'hand' }
		],
		['A', 'carrier-level', { carrier: 2, levelDbm: -47.2, source: 'hand' }],
		['A', 'torque-tool', { serial: 'TW-1', calibratedUntil: '2027-01-31' }],
		[
			'A',
			'error-test',
			{ test: 'soak', durationS: 3600, erroredSeconds: 2, bitErrorRatio: null, note: '' }
		],
		['A', 'message', { phrase: 'coming-down', text: '' }],
		['A', 'crew-signature', { name: 'Ada', method: 'typed' }],
		['A', 'closing-check', { answers: {}, note: '' }],
		['A', 'service-check', { answers: { 'service-1': 'yes', 'service-2': 'no' }, note: '' }],
		[
			'A',
			'snag',
			{ snagId: 's', text: 'Label missing', owner: 'Ada', due: '2027-01-31', photoIds: [] }
		],
		['A', 'snag-closed', { snagId: 's', note: 'Glued on', closedBy: 'Bo' }],
		['A', 'sent-back', { reason: 'The cable is not labelled.' }],
		['B', 'visit-opened', { visitId: 'v', purpose: 'storm-check', why: 'Gale', people: ['Bo'] }],
		['B', 'visit-closed', { visitId: 'v', found: 'Sound', name: 'Bo', method: 'typed' }],
		[
			'B',
			'part-replaced',
			{ part: 'radio-1', code: 'RU-26', serial: 'S-9', reason: 'Burnt', photoIds: [] }
		]
	];
	const names = recordNamesOf(stateAfter(input, feed(...made)));
	const say = (record: FieldRecord): string => sayRecord(record, names);

	it('tells every kind there is, and tells them apart', () => {
		const words = feed(...made).map(say);
		expect(new Set(feed(...made).map((record) => record.kind)).size).toBe(RECORD_KINDS.length);
		expect(new Set(words).size).toBe(words.length);
		expect(words).toMatchInlineSnapshot(`
			[
			  "Reads −57.6 dBm (1.250 V), final",
			  "Tilt to −1.50 turns",
			  "Sweep of tilt, 5 readings",
			  "Baton handed to B",
			  "Asks for the baton",
			  "Asks for a level at A",
			  "Alignment closed",
			  "Advised: Move tilt",
			  "Whole mount turned by +7.4°",
			  "One turn of tilt measured as 0.250°",
			  "One crew for both ends",
			  "Set right: a protective film or cap is left in the waveguide",
			  "In the alignment state",
			  "Upper clamp to 24 N·m",
			  "Not in the operating state",
			  "Loosened: drifted",
			  "Test: Ask both ends whether it rains on the path. It is dry",
			  "Gusty.",
			  "Before anything is lifted: stop",
			  "Packing list of 1 lines loaded",
			  "Counted CL-C: 3, damaged",
			  "Label of Radio 1, RU-26: RU-18, 2L, S-7",
			  "Present: Ada",
			  "Receipt signed by Ada, Crew",
			  "Feed, DP-060-26 seen set horizontal",
			  "Films and caps off, counted: done, 7",
			  "All remaining steps: left out, Built before",
			  "Films and caps off, counted: to be done again, One was found",
			  "Photo: Seven films",
			  "Feed turned to −2.4°",
			  "XPD, vertical sent: 31.0 dB",
			  "Carrier 2 reads −47.2 dBm",
			  "Torque tool TW-1, calibrated until 2027-01-31",
			  "Soak, 60 min: 2 errored seconds",
			  "To B: Coming down",
			  "Signed for the crew: Ada",
			  "Final look: nothing left open",
			  "Services proved: 1 of 2",
			  "Snag: Label missing (Ada)",
			  "Snag closed, Label missing: Glued on (Bo)",
			  "Sent back by the acceptor: The cable is not labelled.",
			  "Visit begun, check after a storm: Gale",
			  "Visit closed by Bo: Sound",
			  "Radio 1, RU-26 changed for RU-26, serial S-9: Burnt",
			]
		`);
	});

	it('says a baton taken over as such', () => {
		const [taken] = feed(['B', 'baton', { to: 'B', how: 'taken' }]);
		expect(say(taken!)).toBe('B takes the baton over');
	});
});

describe('a record is read with one part of the work', () => {
	const isOf = (made: Made): string[] =>
		WORK_PARTS.filter((part) => isOfPart({ kind: made[1], payload: made[2] }, part));

	it.each<[string, Made, string[]]>([
		['a watched level', ['A', 'reading', reading(-50)], ['alignment']],
		['a final level', ['A', 'reading', reading(-50, 'final')], ['closing']],
		['a counted part', begunPart(), ['building']],
		['a hand-over', ['A', 'baton', { to: 'B', how: 'handed' }], ['alignment']],
		['a note', ['A', 'note', { text: 'Gusty.' }], [...WORK_PARTS]]
	])('%s', (_, made, parts) => {
		expect(isOf(made)).toEqual(parts);
		// Only what is said at any time stands with every part, and belongs to none.
		const own = partOfWork({ kind: made[1], payload: made[2] });
		expect(own).toBe(parts.length > 1 ? 'any' : parts[0]);
	});
});

function begunPart(): Made {
	return [
		'A',
		'received',
		{ code: 'CL-C', name: '', found: 3, condition: 'good', note: '', photoIds: [] }
	];
}

describe('two visits of a hop with two dishes', () => {
	it('are compared dish by dish, the first before the second', () => {
		const twoInput = builtHop('space-diversity', 'direct');
		const hop = emptyHopState(twoInput, soundPlan(twoInput));
		const at = (levelDbm: number, dish?: 2): Made => [
			'A',
			'reading',
			dish ? { ...reading(levelDbm), dish } : reading(levelDbm)
		];
		const all = twoDays([at(-44), at(-50, 2)], [at(-44.2), at(-56, 2)]);
		const [first, later] = visitsOf(hop, all, noFindings());
		const said = compareVisits(first!, later!).map(({ end, dish, thenDbm, nowDbm, verdict }) => [
			`${end}${dish}`,
			thenDbm,
			nowDbm,
			verdict
		]);
		expect(said).toEqual([
			['A1', -44, -44.2, 'as-it-was'],
			['B1', null, null, 'not-read'],
			['A2', -50, -56, 'changed'],
			['B2', null, null, 'not-read']
		]);
	});
});
