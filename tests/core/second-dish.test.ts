import { describe, expect, it } from 'vitest';
import { judgeAcceptance } from '#core/accept/judgeAcceptance';
import { secondHopsOf } from '#core/budget/secondHop';
import { sendersWhileAligning } from '#core/budget/senders';
import { CONFIGURATIONS } from '#core/budget/configurationKinds';
import { ENDS } from '#core/ends';
import { openQuestions } from '#core/guide/weigh';
import { needsFinding, noFindings } from '#core/record/findings';
import { advanced } from '#core/record/foldRecord';
import { allFixed, emptyHopState, isFixed, stillHolds } from '#core/record/hopState';
import { sayRecord } from '#core/record/kinds';
import { recordNamesOf } from '#core/tower/recordNames';
import { stagesOf, type BayState } from '#core/stage/stages';
import { judgeVisit } from '#core/visit/judgeVisit';
import { visitsOf } from '#core/visit/visits';
import { builtHop } from './endFixture';
import { feed, locksOf, reading, ready, stateAfter } from './feed';
import { soundPlan } from './planFixture';
import { TwoDishes } from './twoDishes';

const diversity = builtHop('space-diversity', 'direct');
const twoBands = builtHop('two-bands', 'direct');

const bay = (bays: readonly BayState[], stage: string): BayState =>
	bays.find((one) => one.stage === stage)!;

/** Both ends ready, the first dishes aligned and fixed. */
function firstDishesDone(hop: TwoDishes): void {
	for (const end of ENDS) hop.add(end, 'alignment-state', ready);
	for (const end of ENDS) hop.read(end, 1);
	expect(hop.align(1).at(-1)).toBe('lock');
	for (const end of ENDS) hop.fix(end, 1);
}

describe('the hop of a second dish', () => {
	it('is there where the configuration has second dishes, and only there', () => {
		for (const kind of CONFIGURATIONS) {
			const input = builtHop(kind, 'direct');
			const state = emptyHopState(input, soundPlan(input));
			expect([kind, state.second !== null]).toEqual([
				kind,
				kind === 'space-diversity' || kind === 'two-bands'
			]);
		}
	});

	it('of a diversity dish looks at the first dish of the far end, each end by itself', () => {
		const plan = soundPlan(diversity);
		const { A, B } = secondHopsOf(diversity, plan)!;
		expect([A.stands, B.stands]).toEqual(['B', 'A']);
		const budget = plan.carriers[1]!.received;
		expect(A.plan.received).toEqual({ A: budget.A, B: plan.received.B });
		expect(B.plan.received).toEqual({ A: plan.received.A, B: budget.B });
		expect(A.input.ends.A.antennaHeightAglM).toBe(
			diversity.ends.A.antennaHeightAglM + diversity.ends.A.secondDishOffsetM
		);
		expect(A.input.ends.B.antennaHeightAglM).toBe(diversity.ends.B.antennaHeightAglM);
		expect(A.plan.pointing.A.tiltDeg).not.toBe(plan.pointing.A.tiltDeg);
		expect(A.plan.pointing.B).toEqual(plan.pointing.B);
	});

	it('of a second band is one hop for both ends, with its own radio, dish, power and frequency', () => {
		const plan = soundPlan(twoBands);
		const { A, B } = secondHopsOf(twoBands, plan)!;
		expect(A).toBe(B);
		expect(A.stands).toBeNull();
		for (const end of ENDS) {
			const own = twoBands.ends[end];
			expect(A.input.ends[end]).toMatchObject({
				radio: own.secondRadio,
				dish: own.secondDish,
				transmitFrequencyGhz: own.secondTransmitFrequencyGhz,
				alignmentPowerDbm: own.secondPowerDbm,
				secondDish: null
			});
			expect(A.plan.dish[end].receiveFrequencyGhz).toBeGreaterThan(17);
		}
		const guided = builtHop('two-bands', 'by waveguide');
		const hop = secondHopsOf(guided, soundPlan(guided))!.A;
		expect(hop.input.ends.A.feeder.kind).toBe('direct');
	});

	it('says who sends', () => {
		expect(sendersWhileAligning(diversity, 'A', 2)).toBe(
			'At B radio 1 sends through the first dish: vertical, 7.346 GHz. Radio 2: only hears, its transmitter off.'
		);
		expect(sendersWhileAligning(twoBands, 'A', 2)).toBe(
			'At B radio 2 sends: vertical, 18.860 GHz. Radio 1: of the other band, not read here.'
		);
	});
});

describe('records of a second dish', () => {
	const built = stateAfter(
		diversity,
		feed(
			['A', 'alignment-state', ready],
			['B', 'alignment-state', ready],
			['A', 'reading', reading(-44)],
			['A', 'move', { axis: 'tilt', toTurns: 2, viaTurns: [], source: 'hand', dish: 2 }],
			['A', 'reading', { ...reading(-47), dish: 2 }],
			['B', 'reading', reading(-45)]
		)
	);

	it('move that dish and leave the first alone, and the other way round', () => {
		const { A, B } = built.second!;
		expect(built.ends.A.turns.tilt).toBe(0);
		expect(built.ends.A.lastLevelDbm).toBe(-44);
		expect(A.ends.A.turns.tilt).toBe(2);
		expect(A.ends.A.lastLevelDbm).toBe(-47);
		// The dish of B that both of A look at is one, and B's own second dish saw none of it.
		expect(A.ends.B).toBe(built.ends.B);
		expect(B.ends.B.lastLevelDbm).toBeNull();
		expect(built.ends.A.levelIsFresh).toBe(true);
	});

	it('share baton, alignment state and cards with the first', () => {
		expect(built.second!.A.ends.A.alignmentStateConfirmed).toBe(true);
		const handed = stateAfter(
			diversity,
			feed(
				['A', 'alignment-state', ready],
				['B', 'alignment-state', ready],
				['A', 'baton', { to: 'B', how: 'handed', dish: 2 }]
			)
		);
		expect([handed.baton, handed.second!.A.baton, handed.second!.B.baton]).toEqual(['B', 'B', 'B']);
		// It closed a turn of the second dish, not of the first.
		expect(handed.ends.A.turnsTaken).toBe(0);
		expect(handed.second!.A.ends.A.turnsTaken).toBe(1);
	});

	it('void what a move of the far first dish makes void, and nothing by moves of its own end’s first', () => {
		const moved = (end: 'A' | 'B'): boolean =>
			stateAfter(
				diversity,
				feed(
					['A', 'reading', { ...reading(-47), dish: 2 }],
					[end, 'move', { axis: 'azimuth', toTurns: 1, viaTurns: [], source: 'hand' }]
				)
			).second!.A.ends.A.levelIsFresh;
		expect(moved('A')).toBe(true);
		expect(moved('B')).toBe(false);
	});

	it('of two bands are of one hop: a move at one end makes the level of the other void', () => {
		const state = stateAfter(
			twoBands,
			feed(
				['A', 'reading', { ...reading(-47), dish: 2 }],
				['B', 'move', { axis: 'azimuth', toTurns: 1, viaTurns: [], source: 'hand', dish: 2 }]
			)
		);
		expect(state.second!.A.ends.A.levelIsFresh).toBe(false);
		expect(state.second!.A).toEqual(state.second!.B);
		expect(state.second!.A.ends.B.turns.azimuth).toBe(1);
	});

	it('make the final word of their end void, not its final level elsewhere', () => {
		const worked = stateAfter(
			diversity,
			feed(
				['A', 'reading', reading(-44, 'final')],
				['B', 'reading', reading(-44, 'final')],
				['A', 'crew-signature', { name: 'One of the crew', method: 'typed' }],
				['A', 'lock-step', { ...lock, dish: 2 }]
			)
		);
		const { A, B } = worked.ends;
		expect(stillHolds(worked, 'final-level', 'A', A.finalReading)).toBe(false);
		expect(stillHolds(worked, 'final-level', 'B', B.finalReading)).toBe(true);
		expect(stillHolds(worked, 'crew-signature', 'A', A.crewSignature)).toBe(false);
		// The level of the first dish itself is what it was.
		expect(A.levelIsFresh).toBe(true);
	});

	it('are told from the first’s in words', () => {
		const [record] = feed(['A', 'reading', { ...reading(-47), dish: 2 }]);
		expect(sayRecord(record!, recordNamesOf(built))).toMatch(/^Second dish: Reads −47/);
	});

	it('of a plan that has no second dish any more say nothing and hold nothing up', () => {
		const single = builtHop('single', 'direct');
		const records = feed(
			['A', 'baton', { to: 'B', how: 'handed', dish: 2 }],
			['A', 'reading', { ...reading(-47), dish: 2 }]
		);
		expect(records.map((record) => needsFinding(record, noFindings(), false))).toEqual([
			false,
			false
		]);
		const start = emptyHopState(single, soundPlan(single));
		expect(openQuestions(start, records, noFindings())).toEqual([]);
		const state = advanced(start, records, noFindings());
		expect(state.ends.A.lastLevelDbm).toBeNull();
		expect(state.lastSeq).toBe(2);
	});

	it('set by the level narrow where its own tilt is looked for, not the first’s', () => {
		const levelled = stateAfter(
			diversity,
			feed([
				'A',
				'build-step',
				{ step: 'tilt-preset-second-dish', value: -0.1, note: '', photoIds: [] }
			])
		);
		const { A } = levelled.second!;
		expect(A.ends.A.building.steps['tilt-preset']?.value).toBe(-0.1);
		expect(levelled.ends.A.building.steps['tilt-preset']).toBeUndefined();
	});

	it('that set a fault right say so to every dish, at whichever bench it was found', () => {
		const fresh = (at: 'A' | 'B', dish?: 2): boolean[] => {
			const state = stateAfter(
				diversity,
				feed(
					['A', 'reading', reading(-44)],
					['A', 'reading', { ...reading(-47), dish: 2 }],
					[at, 'remedy', { cause: 'power-control-on', ...(dish ? { dish } : {}) }]
				)
			);
			return [state.ends.A.levelIsFresh, state.second!.A.ends.A.levelIsFresh];
		};
		expect([fresh('A'), fresh('A', 2), fresh('B'), fresh('B', 2)]).toEqual(
			Array.from({ length: 4 }, () => [false, false])
		);
	});

	it('keep a part that was changed to its own dish', () => {
		const changed = (part: string): boolean[] => {
			const state = stateAfter(
				diversity,
				feed(
					['A', 'reading', reading(-44)],
					['A', 'reading', { ...reading(-47), dish: 2 }],
					['A', 'part-replaced', { part, code: 'X', serial: '1', reason: 'dented', photoIds: [] }]
				)
			);
			return [state.ends.A.levelIsFresh, state.second!.A.ends.A.levelIsFresh];
		};
		expect(changed('dish')).toEqual([false, true]);
		expect(changed('second-dish')).toEqual([true, false]);
		expect(changed('radio-1')).toEqual([false, false]);
	});
});

const lock = {
	fastenerIndex: 0,
	fastener: 'a',
	locks: 'azimuth',
	torqueNm: 40,
	beforeDbm: -44,
	afterDbm: -44,
	source: 'hand'
} as const;

describe('two crews who do what the steps say', () => {
	it.each([1, 2, 3, 4])('align a diversity dish at either end, hop %i', (seed) => {
		const hop = new TwoDishes(diversity, seed);
		firstDishesDone(hop);
		for (const end of ENDS) {
			if (hop.state.baton !== end) hop.add(hop.state.baton, 'baton', { to: end, how: 'handed' });
			hop.read(end, 2);
			const kinds = hop.align(2, end);
			expect(kinds.at(-1)).toBe('lock');
			expect(kinds).not.toContain('hand-over');
			expect(hop.offAxis(end, 2)).toBeLessThan(0.2);
			hop.fix(end, 2);
			expect(isFixed(hop.hop(end, 2), end)).toBe(true);
		}
		expect(ENDS.map((end) => allFixed(hop.state, end))).toEqual([true, true]);
	});

	it.each([1, 2])('align a second band between them, hop %i', (seed) => {
		const hop = new TwoDishes(twoBands, seed);
		firstDishesDone(hop);
		for (const end of ENDS) hop.read(end, 2);
		const kinds = hop.align(2);
		expect(kinds.at(-1)).toBe('lock');
		expect(kinds).toContain('hand-over');
		for (const end of ENDS) expect(hop.offAxis(end, 2)).toBeLessThan(0.2);
	});

	it('find a diversity dish on a side lobe at that dish', () => {
		const hop = new TwoDishes(diversity, 5);
		firstDishesDone(hop);
		const end = hop.state.baton;
		hop.read(end, 2);
		hop.align(2, end);
		const { turns } = hop.hop(end, 2).ends[end];
		const beamDeg = hop.hop(end, 2).plan.dish[end].beamwidthDeg;
		const { azimuth } = hop.hop(end, 2).input.ends[end].mount;
		const lobeDeg = Math.atan((turns.azimuth * azimuth.threadPitchMm) / azimuth.armMm);
		hop.turn(end, 2, 'azimuth', (lobeDeg * 180) / Math.PI + 1.6 * beamDeg);
		hop.read(end, 2);
		expect(hop.offAxis(end, 2)).toBeGreaterThan(1.2);
		expect(hop.state.ends[end].aim).not.toBeNull();
		expect(hop.hop(end, 2).ends[end].aim).toBeNull();
		// The way back is shown from what was read there.
		expect(hop.align(2, end).at(-1)).toBe('lock');
		expect(hop.offAxis(end, 2)).toBeLessThan(0.2);
	});

	it('wait with the second dish until the far first one stands', () => {
		const hop = new TwoDishes(diversity, 6);
		for (const end of ENDS) hop.add(end, 'alignment-state', ready);
		hop.read('A', 2);
		const step = hop.step('A', 2);
		expect([step.kind, step.headline]).toEqual(['wait', 'The first dishes come first']);
	});
});

describe('what a hop with two dishes an end is judged by', () => {
	const hop = new TwoDishes(diversity, 7);
	firstDishesDone(hop);
	const bays = (end: 'A' | 'B'): BayState[] =>
		stagesOf({ issued: hop.state, revisionNumber: 1, accepted: null })[end];
	const before = { align: bay(bays('A'), 'align'), fix: bay(bays('A'), 'fix') };
	for (const end of [hop.state.baton, hop.state.baton === 'A' ? 'B' : 'A'] as const) {
		if (hop.state.baton !== end) hop.add(hop.state.baton, 'baton', { to: end, how: 'handed' });
		hop.read(end, 2);
		hop.align(2, end);
		hop.fix(end, 2);
	}
	for (const end of ENDS) for (const dish of [1, 2] as const) hop.read(end, dish, 'final');

	it('its bays: the second dish is next once the first are fixed, then both are done', () => {
		expect(['open', 'waiting']).toContain(before.align.state);
		expect(before.align.note).toMatch(/second dish/i);
		expect([before.fix.state, before.fix.note]).toEqual([
			'later',
			'First dish fixed; the second after it is aligned.'
		]);
		expect(bay(bays('A'), 'align')).toMatchObject({ state: 'done' });
		expect(bay(bays('B'), 'fix')).toMatchObject({ state: 'done' });
		expect(bay(bays('A'), 'accept')).toMatchObject({ state: 'open' });
	});

	it('its lines: level, lobe, drift of each dish, and the first that stood still beside the second', () => {
		const { lines } = judgeAcceptance(hop.state);
		const verdictOf = (code: string): string | undefined =>
			lines.find((line) => line.code === code)?.verdict;
		for (const end of ENDS) {
			for (const code of ['level', 'main-lobe', 'lock']) {
				expect([code, verdictOf(`${code}-${end}`), verdictOf(`${code}-${end}-second`)]).toEqual([
					code,
					'pass',
					'pass'
				]);
			}
			expect(verdictOf(`beside-${end}`)).toBe('pass');
		}
		// What comes through the second dish is that dish's own level, and asked for once.
		expect(lines.some((line) => line.code.startsWith('carrier-'))).toBe(false);
		expect(lines.every(({ code }) => /^[a-zA-Z-]{1,40}$/.test(code))).toBe(true);
	});

	it('a first dish that was pushed meanwhile, by its final level', () => {
		const read = hop.state.ends.A.finalReading!.levelDbm!;
		const pushed = feed(['A', 'reading', reading(read - 1.6, 'final')]).map((record) => ({
			...record,
			id: 'pushed',
			seq: hop.records.length + 1
		}));
		const line = judgeAcceptance(advanced(hop.state, pushed, noFindings())).lines.find(
			({ code }) => code === 'beside-A'
		)!;
		expect([line.verdict, line.reason]).toEqual([
			'deviation',
			expect.stringContaining('somebody may have pushed it')
		]);
	});

	it('misses what was not done at the second dish', () => {
		const half = stateAfter(diversity, feed(...locksOf(diversity, 'A')));
		const { lines } = judgeAcceptance(half);
		const missing = lines.filter(({ verdict }) => verdict === 'missing').map(({ code }) => code);
		expect(missing).toEqual(expect.arrayContaining(['level-A-second', 'lock-A-second']));
		expect(missing).not.toContain('lock-A');
	});

	it('a visit that moved the second dish: not closed while it is loose or unread', () => {
		const seq = hop.records.length + 1;
		const opened = feed(
			['A', 'visit-opened', { visitId: 'v', purpose: 'repair', why: 'a look', people: [] }],
			['A', 'move', { axis: 'tilt', toTurns: 0.4, viaTurns: [], source: 'hand', dish: 2 }]
		).map((record, i) => ({ ...record, id: `v${i}`, seq: seq + i }));
		const records = [...hop.records, ...opened];
		const now = advanced(hop.state, opened, noFindings());
		const start = emptyHopState(diversity, soundPlan(diversity));
		const visit = visitsOf(start, records, noFindings()).at(-1)!;
		const judged = judgeVisit(hop.state, now, visit);
		expect(judged.mayClose).toBe(false);
		const trouble = judged.lines.filter(({ verdict }) => verdict === 'trouble');
		expect(trouble.map(({ code }) => code)).toEqual([
			'visit-level-A-second',
			'visit-lock-A-second'
		]);
		expect(judged.lines.some(({ code }) => code === 'visit-lock-A')).toBe(false);
		expect(judged.needsAcceptance).toBe(true);
	});
});
