import { describe, expect, it } from 'vitest';
import { acceptanceDue } from '#core/accept/acceptanceDue';
import { noFindings } from '#core/record/findings';
import { advanced } from '#core/record/foldRecord';
import { emptyHopState, openVisit, type HopState } from '#core/record/hopState';
import type { FieldRecord } from '#core/record/records';
import { judgeVisit, type VisitJudgement } from '#core/visit/judgeVisit';
import { visitsOf, type Visit } from '#core/visit/visits';
import { feed, reading, ready, type Made, locksOf } from './feed';
import { hopInput, soundPlan } from './planFixture';

const input = hopInput();
const plan = soundPlan(input);
const start = emptyHopState(input, plan);
const restored = {
	powerControlAsPlanned: true,
	adaptiveModulationAsPlanned: true,
	licensedPower: true
};
const locks = (end: 'A' | 'B'): Made[] => locksOf(input, end);
/** The hop as it was accepted. */
const installed: Made[] = [
	['A', 'alignment-state', ready],
	['B', 'alignment-state', ready],
	...locks('A'),
	...locks('B'),
	['A', 'reading', reading(-43, 'final')],
	['B', 'reading', reading(-43.5, 'final')],
	['A', 'operating-state', restored],
	['B', 'operating-state', restored],
	['A', 'snag', { snagId: 's1', text: 'Label', owner: 'Ada', due: '2027-01-01', photoIds: [] }]
];
const opened: Made = [
	'A',
	'visit-opened',
	{ visitId: 'v1', purpose: 'storm-check', why: 'Gale on Tuesday', people: ['Bo'] }
];
const closed: Made = [
	'A',
	'visit-closed',
	{ visitId: 'v1', found: 'All sound', name: 'Bo', method: 'typed' }
];
const accepted = { revisionNumber: 1, lastSeq: installed.length };

function after(...made: Made[]): {
	state: HopState;
	visits: Visit[];
	judged: () => VisitJudgement;
	records: FieldRecord[];
} {
	const records = feed(...installed, ...made);
	const state = advanced(start, records, noFindings());
	const visits = visitsOf(start, records, noFindings());
	const baseline = advanced(start, records.slice(0, installed.length), noFindings());
	return { state, visits, judged: () => judgeVisit(baseline, state, visits.at(-1)!), records };
}
const line = (judgement: VisitJudgement, code: string): VisitJudgement['lines'][number] =>
	judgement.lines.find((one) => one.code === code)!;

describe('a visit to an accepted hop', () => {
	it('is one visit from its opening to its closing, however long the pauses', () => {
		const { records } = after(opened, ['A', 'reading', reading(-43.2)], closed);
		const spread = records.map((record, i) => ({
			...record,
			recordedAt: new Date(i < installed.length ? i * 1000 : i * 8 * 3_600_000).toISOString()
		}));
		const visits = visitsOf(start, spread, noFindings());
		expect(visits).toHaveLength(2);
		expect(visits[0]).toMatchObject({ purpose: 'installation', visitId: null, closed: null });
		expect(visits[1]).toMatchObject({
			purpose: 'storm-check',
			why: 'Gale on Tuesday',
			visitId: 'v1',
			people: ['test', 'Bo'],
			closed: { found: 'All sound', name: 'Bo' }
		});
	});

	it('is a new day of the installation after six hours without a record, not sooner', () => {
		const days = (pauseMs: number): number =>
			visitsOf(
				start,
				feed(...installed).map((record, i) => ({
					...record,
					recordedAt: new Date(i < 5 ? 0 : pauseMs).toISOString()
				})),
				noFindings()
			).length;
		expect(days(6 * 3_600_000)).toBe(1);
		expect(days(6 * 3_600_000 + 1)).toBe(2);
	});

	it('is open until it is closed', () => {
		expect(openVisit(after().state)).toBeUndefined();
		expect(openVisit(after(opened).state)?.visitId).toBe('v1');
		expect(openVisit(after(opened, closed).state)).toBeUndefined();
	});

	it('never says as it was of an end that nobody read', () => {
		const judged = after(opened, ['A', 'reading', reading(-43.4)]).judged();
		expect(line(judged, 'visit-level-A')).toMatchObject({ verdict: 'as-accepted' });
		expect(line(judged, 'visit-level-A').reason).toMatch(/^As it was\. Read in operation/);
		expect(line(judged, 'visit-level-B')).toMatchObject({ verdict: 'not-read', now: '' });
		expect(line(judged, 'visit-level-B').reason).toContain('Not read in this visit');
		expect(judged).toMatchObject({ mayClose: true, needsAcceptance: false });
	});

	it('compares with what was accepted, and says what a loss may mean', () => {
		const judged = after(
			opened,
			['A', 'alignment-state', ready],
			['B', 'alignment-state', ready],
			['A', 'reading', reading(-49)]
		).judged();
		const level = line(judged, 'visit-level-A');
		expect(level).toMatchObject({ verdict: 'changed', then: '−43.0 dBm', now: '−49.0 dBm' });
		expect(level.reason).toContain('a dish or mount has shifted');
		expect(level.reason).not.toContain('Read in operation');
	});

	it('may not be closed with a dish loose, moved and not read, or with a fastener not at torque', () => {
		const moved: Made = [
			'A',
			'move',
			{ axis: 'azimuth', toTurns: 1, viaTurns: [], source: 'hand' }
		];
		const left = after(opened, moved).judged();
		expect(left.mayClose).toBe(false);
		expect(line(left, 'visit-level-A').verdict).toBe('trouble');
		expect(line(left, 'visit-lock-A').verdict).toBe('trouble');
		expect(line(left, 'visit-turns-A')).toMatchObject({ verdict: 'changed' });
		const done = after(opened, moved, ...locks('A'), ['A', 'reading', reading(-43)]).judged();
		expect(done).toMatchObject({ mayClose: true, needsAcceptance: true });
		expect(line(done, 'visit-level-A').reason).toContain('to the same level');
	});

	it('may not be closed with a feed turned and its level unread; what it tightened is signed for anew', () => {
		const turn: Made = ['A', 'feed-turn', { toDeg: 2, source: 'hand' }];
		expect(line(after(opened, turn).judged(), 'visit-level-A').verdict).toBe('trouble');
		const read = after(opened, turn, ['A', 'reading', reading(-43)]);
		expect(read.judged()).toMatchObject({ mayClose: true, needsAcceptance: true });
		const tightened = after(opened, locks('B')[0]!);
		expect(tightened.judged().needsAcceptance).toBe(true);
		// The visit and the hop say the same of it.
		const accepted = { revisionNumber: 1, lastSeq: installed.length };
		expect(acceptanceDue(after(opened, locks('B')[0]!, closed).state, 1, accepted).kind).toBe(
			'again'
		);
	});

	it('shows the snags it found open and what it did of them', () => {
		expect(line(after(opened).judged(), 'visit-snag-s1')).toMatchObject({
			verdict: 'open',
			then: 'open',
			now: 'open'
		});
		const done: Made = [
			'A',
			'snag-closed',
			{ snagId: 's1', note: 'Glued on', closedBy: 'Bo Tarn', photoIds: ['p'] }
		];
		expect(line(after(opened, done).judged(), 'visit-snag-s1')).toMatchObject({
			verdict: 'changed',
			now: 'closed',
			reason: 'Glued on (Bo Tarn)'
		});
		// Closed in an earlier visit, it is no line of this one.
		const again = after(opened, done, closed, [
			'B',
			'visit-opened',
			{ visitId: 'v2', purpose: 'repair', why: 'x', people: ['Bo'] }
		]);
		expect(line(again.judged(), 'visit-snag-s1')).toBeUndefined();
	});

	it('names the parts it changed', () => {
		const judged = after(opened, [
			'B',
			'part-replaced',
			{ part: 'radio-1', code: 'RU-26', serial: 'S-9', reason: 'Burnt', photoIds: [] }
		]).judged();
		expect(judged.needsAcceptance).toBe(true);
		const { label } = judged.lines.find(({ code }) => code.startsWith('visit-part-B'))!;
		expect(label).toMatch(/^Changed at B: /);
		expect(label).not.toContain('radio-1');
		expect(judged.lines.find(({ code }) => code.startsWith('visit-part-B'))).toMatchObject({
			now: 'RU-26, serial S-9',
			reason: 'Burnt'
		});
	});
});

describe('another acceptance', () => {
	it('is due for a first time, and not while all stands as accepted', () => {
		expect(acceptanceDue(after().state, 1, null)).toEqual({ kind: 'first' });
		expect(acceptanceDue(after().state, 1, accepted)).toEqual({ kind: 'stands' });
		const looked = after(opened, ['A', 'reading', reading(-43)], closed).state;
		expect(acceptanceDue(looked, 1, accepted)).toEqual({ kind: 'stands' });
	});

	it('is due after a new revision, or after a visit that changed what hangs there', () => {
		expect(acceptanceDue(after().state, 2, accepted)).toMatchObject({ kind: 'again' });
		const changed = after(
			opened,
			['B', 'loosen', { reason: 'To look' }],
			...locks('B'),
			closed
		).state;
		const due = acceptanceDue(changed, 1, accepted);
		expect(due).toEqual({ kind: 'again', why: ['At B a fastener was tightened since.'] });
	});

	it('waits for the visit to be closed', () => {
		expect(acceptanceDue(after(opened).state, 2, accepted)).toEqual({ kind: 'in-visit' });
	});
});
