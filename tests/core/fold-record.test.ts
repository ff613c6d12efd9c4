import { describe, expect, it } from 'vitest';
import { needsFinding, noFindings, type Aim, type Findings } from '#core/record/findings';
import { advanced } from '#core/record/foldRecord';
import {
	currentLockSteps,
	emptyHopState,
	feedReadings,
	feedWasTurned,
	latestVoiding,
	settledDiscriminations,
	stillHolds,
	type EndState,
	type HopState
} from '#core/record/hopState';
import { measuredInput, withDegPerTurn } from '#core/record/adjusters';
import { levelOfReading } from '#core/record/levelOfReading';
import type { RecordPayloads } from '#core/record/records';
import { UNWATCHED, watchAnew, watchReading, type Watch } from '#core/record/unasked';
import { makeLevelCurve } from '#core/radio/levelCurve';
import { adjusterAngleDeg } from '#core/sweep/adjusterScale';
import type { SweepAnalysis } from '#core/sweep/sweepTypes';
import { feed, locksOf, reading, ready, type Made } from './feed';
import { hopInput, soundPlan } from './planFixture';

const input = hopInput();
const plan = soundPlan(input);
const start = emptyHopState(input, plan);
const after = (made: readonly Made[], findings: Findings = noFindings()): HopState =>
	advanced(start, feed(...made), findings);
const own = (...made: Made[]): EndState => after(made).ends.A;
const move = (axis: 'azimuth' | 'tilt', toTurns: number, end: 'A' | 'B' = 'A'): Made => [
	end,
	'move',
	{ axis, toTurns, viaTurns: [], source: 'hand' }
];
const aim = (over: Partial<Aim> = {}): Aim => ({
	onMainLobe: true,
	onPlan: true,
	probability: 0.99,
	sigmaBeamwidths: 0.05,
	expectedGainDb: 0.06,
	...over
});

describe('where the dish stands', () => {
	it('is where the hand turned each nut, in turns and in degrees, each axis for itself', () => {
		const state = own(move('azimuth', 3), move('tilt', -1.5), move('azimuth', 2));
		expect(state.turns).toEqual({ azimuth: 2, tilt: -1.5 });
		expect(state.angleDeg.azimuth).toBeCloseTo(adjusterAngleDeg(input.ends.A.mount.azimuth, 2), 12);
		expect(state.angleDeg.tilt).toBeCloseTo(adjusterAngleDeg(input.ends.A.mount.tilt, -1.5), 12);
		expect(after([move('azimuth', 3)]).ends.B.turns).toEqual({ azimuth: 0, tilt: 0 });
	});

	it('begins anew in azimuth when the mount is turned; turns of the mount add up', () => {
		const turn = (byDeg: number): Made => [
			'A',
			'mount-turn',
			{ byDeg, compassDeg: null, source: 'hand' }
		];
		const state = own(move('azimuth', 3), move('tilt', 1), turn(8), turn(-3));
		expect(state.turns).toEqual({ azimuth: 0, tilt: 1 });
		expect(state.angleDeg.azimuth).toBe(0);
		expect(state.mountTurnedDeg).toBe(5);
	});

	it('is another angle once the turn is measured: for that end and axis, moves before it too', () => {
		const measured: RecordPayloads['calibration'] = {
			axis: 'azimuth',
			degPerTurn: 0.5,
			sigmaDegPerTurn: 0.02,
			sweepId: 's'
		};
		const state = after([move('azimuth', 2), move('tilt', 2), ['A', 'calibration', measured]]);
		const adjuster = withDegPerTurn(input.ends.A.mount.azimuth, 0.5);
		expect(state.ends.A.angleDeg.azimuth).toBeCloseTo(adjusterAngleDeg(adjuster, 2), 12);
		expect(state.ends.A.angleDeg.tilt).toBeCloseTo(
			adjusterAngleDeg(input.ends.A.mount.tilt, 2),
			12
		);
		expect(state.input.ends.B).toBe(input.ends.B);
		expect(state.input).toEqual(measuredInput(input, feed(['A', 'calibration', measured])));
		expect(after([move('azimuth', 2)]).input).toBe(input);
	});
});

describe('readings that compare', () => {
	it('stand where the dish stood, singles and sweeps, not those of a sweep under way', () => {
		const state = own(
			['A', 'reading', reading(-60)],
			['A', 'reading', { volts: null, levelDbm: -61, source: 'hand', purpose: 'sweep' }],
			['A', 'reading', reading(null)],
			move('tilt', 2),
			['A', 'reading', reading(-55)]
		);
		expect(state.comparable.map(({ levelDbm, seq }) => [levelDbm, seq])).toEqual([
			[-60, 1],
			[-55, 5]
		]);
		expect(state.comparable[1]!.tiltDeg).toBe(state.angleDeg.tilt);
		expect(state.comparable[0]!.tiltDeg).toBe(0);
	});

	it('of a sweep lie along its axis; a voltage that the port cannot give is left out', () => {
		const samples = [0, 1, 2, 3, 4].map((positionDeg) => ({
			positionDeg,
			levelV: positionDeg === 2 ? 90 : 1.2
		}));
		for (const axis of ['azimuth', 'tilt'] as const) {
			const { comparable, lastVolts, levelIsFresh, lastSweep } = own([
				'A',
				'sweep',
				{ axis, otherAxisDeg: 0.7, source: 'hand', samples }
			]);
			const along = axis === 'azimuth' ? 'azimuthDeg' : 'tiltDeg';
			const across = axis === 'azimuth' ? 'tiltDeg' : 'azimuthDeg';
			expect(comparable.map((read) => read[along])).toEqual([0, 1, 3, 4]);
			expect(comparable.every((read) => read[across] === 0.7)).toBe(true);
			expect([lastVolts, levelIsFresh]).toEqual([1.2, true]);
			// Without a finding it is not said what the sweep ran over.
			expect(lastSweep).toBeNull();
		}
	});
});

describe('before anything is recorded', () => {
	it('nothing stands, is read, is turned or is confirmed at either end', () => {
		for (const end of ['A', 'B'] as const) {
			expect(start.ends[end]).toMatchObject({
				turns: { azimuth: 0, tilt: 0 },
				aim: null,
				aimedAtAimedEnd: false,
				alignmentStateConfirmed: false,
				levelIsFresh: false,
				implausibleReading: false,
				asksForBaton: false,
				asksForLevel: false,
				guidanceRead: false,
				guidanceSeq: 0,
				comparable: [],
				discriminations: [],
				lockSteps: [],
				replaced: []
			});
			expect(start.ends[end].building.receiptSignatures).toEqual([]);
		}
		expect([start.remedies, start.snags, start.visits, start.unasked]).toEqual([[], [], [], null]);
	});
});

describe('what the guide asks to be read', () => {
	const asked = ({ guidanceSeq, guidanceRead }: EndState): unknown[] => [guidanceSeq, guidanceRead];

	it('is asked anew at both ends after a change or a baton, and answered by the first reading', () => {
		const moved = after([move('tilt', 1)]);
		expect([asked(moved.ends.A), asked(moved.ends.B)]).toEqual([
			[1, false],
			[1, false]
		]);
		const read = after([
			move('tilt', 1),
			['A', 'reading', reading(-50)],
			['A', 'reading', reading(-50)]
		]);
		expect([asked(read.ends.A), asked(read.ends.B)]).toEqual([
			[2, true],
			[1, false]
		]);
		const passed = after([
			['A', 'reading', reading(-50)],
			['A', 'baton', { to: 'B', how: 'handed' }]
		]);
		expect([asked(passed.ends.A), asked(passed.ends.B)]).toEqual([
			[2, false],
			[2, false]
		]);
		expect(asked(own(['A', 'reading', reading(-50)], ['A', 'note', { text: 'x' }]))).toEqual([
			1,
			true
		]);
	});
});

describe('a movement that nobody recorded', () => {
	const swing: Made[] = [-50, -60, -60].map((level): Made => ['A', 'reading', reading(level)]);

	it('stands until its own end does something or the baton passes, not when the far end does', () => {
		expect(after(swing).unasked).toMatchObject({ movedEnd: 'B', seenAt: 'A', sinceSeq: 2 });
		expect(after([...swing, move('tilt', 1, 'B')]).unasked).not.toBeNull();
		expect(after([...swing, move('tilt', 1, 'A')]).unasked).toBeNull();
		expect(after([...swing, ['A', 'note', { text: 'x' }]]).unasked).not.toBeNull();
		const passed = after([...swing, ['A', 'baton', { to: 'B', how: 'handed' }]]);
		expect([passed.unasked, passed.ends.A.watch.found]).toEqual([null, null]);
	});

	it('is told of the end with the baton alone, and takes the readings before it out of comparison', () => {
		const state = after(swing);
		expect(state.ends.A.comparable.map(({ seq }) => seq)).toEqual([2, 3]);
		// Seen while the far end holds the baton and may well be moving, it is no news and drops nothing.
		const away = after([['A', 'baton', { to: 'B', how: 'handed' }], ...swing]);
		expect(away.unasked).toBeNull();
		expect(away.ends.A.comparable).toHaveLength(3);
		// What was found stays found without dropping what came after it.
		const later = after([...swing, ['A', 'reading', reading(-60.5)]]);
		expect(later.ends.A.comparable.map(({ seq }) => seq)).toEqual([2, 3, 4]);
	});
});

describe('a final level', () => {
	it('is one that was read as final and gave a level; a watched one is none', () => {
		expect(own(['A', 'reading', reading(-50)]).finalReading).toBeNull();
		expect(own(['A', 'reading', reading(-50, 'final')]).finalReading).toMatchObject({ seq: 1 });
		const kept = own(['A', 'reading', reading(-50, 'final')], ['A', 'reading', reading(-51)]);
		expect(kept.finalReading).toMatchObject({ levelDbm: -50, seq: 1 });
		expect(own(['A', 'reading', reading(null, 'final')])).toMatchObject({
			finalReading: null,
			implausibleReading: true
		});
	});
});

describe('a sweep in the state', () => {
	const sweep = (positions: readonly number[], lastV = 1.2): Made => [
		'A',
		'sweep',
		{
			axis: 'tilt',
			otherAxisDeg: 0,
			source: 'hand',
			samples: positions.map((positionDeg, i) => ({
				positionDeg,
				levelV: i === positions.length - 1 ? lastV : 1
			}))
		}
	];

	it('says over what it ran, whichever way it went, once something is found out about it', () => {
		const analysis = { lobes: [] } as unknown as SweepAnalysis;
		const findings: Findings = { sweeps: new Map([['r0', analysis]]), aims: new Map() };
		for (const positions of [
			[-2, -1, 0, 3],
			[3, 0, -1, -2]
		]) {
			const { lastSweep, guidanceRead } = after([sweep(positions)], findings).ends.A;
			expect(lastSweep).toMatchObject({ fromDeg: -2, toDeg: 3, axis: 'tilt', recordId: 'r0' });
			expect(guidanceRead).toBe(true);
		}
	});

	it('ends with the level where it ended, or with none that the port can give', () => {
		// The port of this radio falls by 0.02 V a dB, from 1.85 V at −90 dBm.
		const good = own(sweep([0, 1, 2], 1.45));
		expect([good.lastVolts, good.implausibleReading]).toEqual([1.45, false]);
		expect(good.lastLevelDbm).toBeCloseTo(-70, 9);
		const odd = own(sweep([0, 1, 2], 90));
		expect([odd.lastLevelDbm, odd.implausibleReading]).toEqual([null, true]);
	});

	it('and a closed turn count once something was found out about them; nothing else waits for it', () => {
		const [swept, handed, aimed, taken, read] = feed(
			sweep([0, 1]),
			['A', 'baton', { to: 'B', how: 'handed' }],
			['A', 'aimed', {}],
			['A', 'baton', { to: 'A', how: 'taken' }],
			['A', 'reading', reading(-50)]
		);
		const none = noFindings();
		const waits = [swept, handed, aimed, taken, read].map((record) =>
			needsFinding(record!, none, false)
		);
		expect(waits).toEqual([true, true, true, false, false]);
		const found: Findings = {
			sweeps: new Map([['r0', { lobes: [] } as unknown as SweepAnalysis]]),
			aims: new Map([['r1', aim()]])
		};
		expect([needsFinding(swept!, found, false), needsFinding(handed!, found, false)]).toEqual([
			false,
			false
		]);
		expect(needsFinding(aimed!, found, false)).toBe(true);
	});
});

describe('fasteners', () => {
	const [first, second] = locksOf(input, 'A');
	const again = (made: Made, afterDbm: number): Made => [
		made[0],
		'lock-step',
		{ ...(made[2] as RecordPayloads['lock-step']), afterDbm }
	];
	const listed = (...made: Made[]): unknown[] =>
		own(...made).lockSteps.map(({ fastenerIndex, afterDbm, seq }) => [
			fastenerIndex,
			afterDbm,
			seq
		]);

	it('keep their order, and one that is tightened again its place', () => {
		expect(listed(first!, second!, again(first!, -44))).toEqual([
			[0, -44, 3],
			[1, -43, 2]
		]);
		expect(listed(second!, first!, again(first!, -44))).toEqual([
			[1, -43, 1],
			[0, -44, 3]
		]);
	});

	it('begin a new list once they were loosened', () => {
		expect(listed(first!, second!, ['A', 'loosen', { reason: 'drift' }])).toEqual([]);
		expect(listed(first!, ['A', 'loosen', { reason: 'drift' }], second!)).toEqual([[1, -43, 3]]);
		// The other end's stay.
		expect(listed(first!, ['B', 'loosen', { reason: 'drift' }])).toHaveLength(1);
	});
});

describe('an adjuster measured on the spot', () => {
	it('keeps its travel in turns, and no dish tilts beyond 60°', () => {
		const planned = input.ends.A.mount.tilt;
		const perTurnDeg = (Math.atan(planned.threadPitchMm / planned.armMm) * 180) / Math.PI;
		const turns = planned.travelDeg / perTurnDeg;
		for (const factor of [0.5, 1, 1.5]) {
			const measured = withDegPerTurn(planned, perTurnDeg * factor);
			expect(measured.travelDeg / (perTurnDeg * factor)).toBeCloseTo(turns, 9);
		}
		const wide = withDegPerTurn(planned, (perTurnDeg * 90) / planned.travelDeg);
		expect(wide.travelDeg).toBe(60);
	});
});

describe('a closed turn', () => {
	const handed: Made = ['A', 'baton', { to: 'B', how: 'handed' }];
	const found = (id: string, over: Partial<Aim> = {}): Findings => ({
		sweeps: new Map(),
		aims: new Map([[id, aim(over)]])
	});

	it('that ended on the main lobe is an aim and a round; another is only a turn', () => {
		const good = after([handed], found('r0')).ends.A;
		expect([good.aim?.onMainLobe, good.roundsDone, good.turnsTaken]).toEqual([true, 1, 1]);
		const poor = after([handed], found('r0', { onMainLobe: false })).ends.A;
		expect([poor.aim, poor.roundsDone, poor.turnsTaken]).toEqual([null, 0, 1]);
		const unsaid = after([handed]).ends.A;
		expect([unsaid.aim, unsaid.roundsDone, unsaid.turnsTaken]).toEqual([null, 0, 0]);
	});

	it('counts as silent only while nothing is heard, in a row', () => {
		const silent = aim({ onMainLobe: false, sigmaBeamwidths: null });
		const turns = (...aims: Aim[]): number =>
			after(
				aims.map(() => handed),
				{ sweeps: new Map(), aims: new Map(aims.map((one, i) => [`r${i}`, one])) }
			).ends.A.silentTurns;
		expect(turns(silent)).toBe(1);
		expect(turns(silent, silent)).toBe(2);
		expect(turns(silent, silent, aim({ onMainLobe: false }))).toBe(0);
		expect(turns(silent, aim(), silent)).toBe(1);
	});

	it('keeps where the lobe was found while the adjusters say the same', () => {
		const place = { azimuthDeg: 1.2, tiltDeg: -0.4 };
		const at = (more: readonly Made[] = []): unknown =>
			after([handed, ...more], found('r0', { place, sigmaBeamwidths: 0.05 })).ends.A.foundAt;
		const kept = {
			...place,
			sigmaDeg: expect.closeTo(0.05 * start.plan.dish.A.beamwidthDeg, 9) as number
		};
		expect(at()).toEqual(kept);
		expect(at([move('azimuth', 3)])).toEqual(kept);
		const turned: Made = ['A', 'mount-turn', { byDeg: 4, compassDeg: null, source: 'hand' }];
		expect(at([turned])).toBeNull();
		expect(after([handed], found('r0')).ends.A.foundAt).toBeNull();
	});

	it('knows whether the far end stood on its lobe', () => {
		const both: Findings = {
			sweeps: new Map(),
			aims: new Map([
				['r0', aim()],
				['r1', aim()]
			])
		};
		const { ends } = after([handed, ['B', 'aimed', {}]], both);
		expect([ends.A.aimedAtAimedEnd, ends.B.aimedAtAimedEnd]).toEqual([false, true]);
	});

	it('is none where the baton was taken', () => {
		const taken: Made = ['B', 'baton', { to: 'B', how: 'taken' }];
		const state = after([taken], found('r0'));
		expect([state.ends.B.turnsTaken, state.ends.A.turnsTaken]).toEqual([0, 0]);
		expect(state.batonPassed).toEqual({ at: new Date(0).toISOString(), how: 'taken', by: 'test' });
		expect(state.baton).toBe('B');
	});

	it('is forgotten, not counted down, when a fault is mended', () => {
		const mended = after([handed, ['B', 'remedy', { cause: 'rain' }]], found('r0')).ends.A;
		expect([mended.turnsTaken, mended.roundsDone, mended.aim !== null]).toEqual([0, 1, true]);
	});
});

describe('the baton in the state', () => {
	it('begins where the plan says, passes, and takes the asking with it', () => {
		expect(start.baton).toBe(input.firstToMove);
		const asked = after([['B', 'baton-request', {}]]);
		expect([asked.ends.A.asksForBaton, asked.ends.B.asksForBaton]).toEqual([false, true]);
		// Who holds it has nothing to ask for.
		expect(after([['A', 'baton-request', {}]]).ends.A.asksForBaton).toBe(false);
		const passed = after([
			['B', 'baton-request', {}],
			['A', 'baton', { to: 'B', how: 'handed' }]
		]);
		expect([passed.baton, passed.ends.B.asksForBaton]).toEqual(['B', false]);
		const wanted = after([['B', 'level-request', {}]]);
		expect([wanted.ends.A.asksForLevel, wanted.ends.B.asksForLevel]).toEqual([false, true]);
		// What is read at the end that asks is no answer; what is read at the other one is.
		const own = after([
			['B', 'level-request', {}],
			['B', 'reading', reading(-60)]
		]);
		expect(own.ends.B.asksForLevel).toBe(true);
		const told = after([
			['B', 'level-request', {}],
			['A', 'reading', reading(-60)]
		]);
		expect(told.ends.B.asksForLevel).toBe(false);
		expect(after([['A', 'crew-mode', { crews: 1 }]]).crews).toBe(1);
		expect(start.crews).toBe(2);
	});
});

describe('the state of the radios', () => {
	const restored = {
		powerControlAsPlanned: true,
		adaptiveModulationAsPlanned: true,
		licensedPower: true
	};
	const confirmed = (...made: Made[]): boolean => own(...made).alignmentStateConfirmed;

	it('is entered with all four, left with any missing, and left for operation', () => {
		const enter: Made = ['A', 'alignment-state', ready];
		expect(confirmed(enter)).toBe(true);
		expect(confirmed(['A', 'alignment-state', { ...ready, fixedPower: false }])).toBe(false);
		expect(confirmed(enter, ['A', 'alignment-state', { ...ready, transmitterOn: false }])).toBe(
			false
		);
		expect(confirmed(enter, ['A', 'operating-state', restored])).toBe(false);
		expect(confirmed(enter, ['B', 'operating-state', restored])).toBe(true);
		expect(confirmed(enter, ['A', 'operating-state', { ...restored, licensedPower: false }])).toBe(
			true
		);
	});

	it('in operation holds until the alignment state is entered again', () => {
		const state = (...made: Made[]): boolean => {
			const hop = after([['A', 'operating-state', restored], ...made]);
			return stillHolds(hop, 'operating-state', 'A', hop.ends.A.operatingState);
		};
		expect(state()).toBe(true);
		expect(state(['B', 'alignment-state', ready])).toBe(true);
		expect(state(['A', 'alignment-state', ready])).toBe(false);
	});
});

describe('what was last said of each thing', () => {
	it('is kept with its place, time and author', () => {
		const state = own(
			['A', 'torque-tool', { serial: 'T1', calibratedUntil: '2027-01-01' }],
			['A', 'torque-tool', { serial: 'T2', calibratedUntil: '2027-02-01' }],
			['A', 'crew-signature', { name: 'Ada', method: 'typed' }]
		);
		expect(state.torqueTool).toEqual({
			serial: 'T2',
			calibratedUntil: '2027-02-01',
			seq: 2,
			end: 'A',
			at: new Date(1000).toISOString(),
			by: 'test'
		});
		expect(state.crewSignature).toMatchObject({ name: 'Ada', seq: 3 });
		expect(state.lastRecordAt).toBe(new Date(2000).toISOString());
	});

	it('of the building is the latest of each part, step and joint', () => {
		const label = (serial: string): Made => [
			'A',
			'part-label',
			{
				part: 'dish',
				code: 'D',
				bandFromGhz: 1,
				bandToGhz: 2,
				subBandUnit: '',
				flange: '',
				serial
			}
		];
		const step = (value: number): Made => [
			'A',
			'build-step',
			{ step: 'films', value, note: '', photoIds: [] }
		];
		const { building } = own(
			label('S1'),
			label('S2'),
			step(3),
			['A', 'step-reopened', { step: 'films', reason: 'again' }],
			['A', 'polarization-set', { joint: 'feed', shows: 'vertical' }],
			['A', 'polarization-set', { joint: 'feed', shows: 'horizontal' }],
			['A', 'packing-list', { source: 'csv', lines: [] }],
			['A', 'step-skipped', { step: 'pipe', cause: 'Measured' }]
		);
		expect(building.labels.dish!.serial).toBe('S2');
		expect(building.steps).toEqual({});
		expect(building.reopenedAt).toEqual({ films: 4 });
		expect(building.joints).toEqual({ feed: 'horizontal' });
		expect(building.packingList).toEqual([]);
		expect(building.skips.map(({ cause, seq }) => [cause, seq])).toEqual([['Measured', 8]]);
		expect(building.begun).toBe(true);
	});

	it('says that a building was begun by its own records alone', () => {
		const begun = (made: Made): boolean => own(made).building.begun;
		expect(begun(['A', 'note', { text: 'x' }])).toBe(false);
		expect(begun(['A', 'receipt-signature', { name: 'a', party: 'b', method: 'typed' }])).toBe(
			false
		);
		expect(begun(['A', 'parties', { present: [{ name: 'a', party: 'b' }], absent: [] }])).toBe(
			true
		);
	});

	it('of building and receiving adds up, each thing by its own name', () => {
		const step = (name: string): Made => [
			'A',
			'build-step',
			{ step: name, value: 1, note: '', photoIds: [] }
		];
		const signed = (name: string): Made => [
			'A',
			'receipt-signature',
			{ name, party: 'crew', method: 'typed' }
		];
		const state = after([
			step('pipe'),
			step('films'),
			['A', 'step-reopened', { step: 'films', reason: 'again' }],
			signed('Ada'),
			signed('Bo'),
			['A', 'stop-card', { card: 'climb', answers: { anchor: 'yes' }, note: '' }],
			['A', 'remedy', { cause: 'rain' }],
			['B', 'remedy', { cause: 'rain' }]
		] as Made[]);
		const { building, stopCards } = state.ends.A;
		expect(Object.keys(building.steps)).toEqual(['pipe']);
		expect(building.receiptSignatures.map(({ name }) => name)).toEqual(['Ada', 'Bo']);
		expect(stopCards.climb).toEqual({
			answers: { anchor: 'yes' },
			answeredAt: new Date(5000).toISOString()
		});
		expect(state.remedies.map(({ end }) => end)).toEqual(['A', 'B']);
		expect(state.ends.B.stopCards).toEqual({});
	});

	it('of snags, tests and visits goes by their ids', () => {
		const snag = (snagId: string, text: string): Made => [
			'A',
			'snag',
			{ snagId, text, owner: 'o', due: '2027-01-01', photoIds: [] }
		];
		const state = after([
			snag('1', 'first'),
			snag('2', 'second'),
			snag('1', 'first, better said'),
			['B', 'snag-closed', { snagId: '2', note: 'done' }],
			['A', 'test-result', { test: 'rain', value: 'yes' }],
			['B', 'test-result', { test: 'rain', value: 'no' }],
			['A', 'visit-opened', { visitId: 'v', purpose: 'repair', why: 'w', people: ['p'] }],
			['A', 'visit-closed', { visitId: 'other', found: 'f', name: 'n', method: 'typed' }]
		]);
		expect(state.snags.map(({ opened, closed }) => [opened.text, closed?.note])).toEqual([
			['first, better said', undefined],
			['second', 'done']
		]);
		expect(state.testResults.map(({ value }) => value)).toEqual(['no']);
		expect(state.visits).toHaveLength(1);
		expect(state.visits[0]!.closed).toBeNull();
	});
});

describe('a dish that was changed', () => {
	it('hangs as delivered: nothing turned, its aim, lock and readings gone; a radio leaves the aim', () => {
		const before: Made[] = [
			['A', 'mount-turn', { byDeg: 4, compassDeg: null, source: 'hand' }],
			move('azimuth', 2),
			['A', 'feed-turn', { toDeg: 3, source: 'hand' }],
			['A', 'baton', { to: 'B', how: 'handed' }]
		];
		const findings: Findings = { sweeps: new Map(), aims: new Map([['r3', aim()]]) };
		const changed = (part: string): EndState =>
			after(
				[
					...before,
					['A', 'part-replaced', { part, code: 'C', serial: 'S', reason: 'r', photoIds: [] }]
				],
				findings
			).ends.A;
		for (const part of ['dish', 'mount']) {
			const dish = changed(part);
			expect([dish.turns.azimuth, dish.feedDeg, dish.aim, dish.mountTurnedDeg]).toEqual([
				0,
				0,
				null,
				0
			]);
		}
		// A second dish hangs by itself: the nuts of the one that is aligned stand where they stood.
		for (const part of ['radio-1', 'second-dish']) {
			const other = changed(part);
			expect([other.turns.azimuth, other.feedDeg, other.aim !== null]).toEqual([2, 3, true]);
			expect(other.mountTurnedDeg).toBe(4);
		}
		const radio = changed('radio-1');
		expect(radio.replaced.map(({ part }) => part)).toEqual(['radio-1']);
	});
});

describe('both polarizations', () => {
	const both = (end: 'A' | 'B', turned: 'A' | 'B', feedDeg = 0): Made => [
		end,
		'discrimination',
		{ sent: 'vertical', turned, feedDeg, coDbm: -45, crossDbm: -75, source: 'hand' }
	];
	const turn = (end: 'A' | 'B', toDeg: number): Made => [
		end,
		'feed-turn',
		{ toDeg, source: 'hand' }
	];

	it('as they stand now are those since the last turn of either feed', () => {
		const state = after([both('A', 'A'), both('B', 'B'), turn('A', 2), both('A', 'A', 2)]);
		expect(settledDiscriminations(state).map(({ seq }) => seq)).toEqual([4]);
		expect(state.ends.A.feedDeg).toBe(2);
	});

	it('are in the order in which they were read, whichever end read first', () => {
		const state = after([both('B', 'A'), both('A', 'A'), both('B', 'A')]);
		expect(settledDiscriminations(state).map(({ seq }) => seq)).toEqual([1, 2, 3]);
		expect(feedReadings(state, 'A').map(({ seq }) => seq)).toEqual([1, 2, 3]);
	});

	it('that tell of one feed outlast its own turns and not those of the other', () => {
		const made = [both('A', 'A'), turn('A', 2), both('A', 'A', 2), both('B', 'B')];
		expect(feedReadings(after(made), 'A').map(({ seq }) => seq)).toEqual([1, 3]);
		expect(feedReadings(after([...made, turn('B', 1)]), 'A')).toEqual([]);
		expect(feedReadings(after([...made, turn('A', 4)]), 'B')).toEqual([]);
	});

	it('know whether a feed was turned since the dishes were pointed', () => {
		expect(feedWasTurned(after([]), 'A')).toBe(false);
		expect(feedWasTurned(after([turn('A', 2)]), 'A')).toBe(true);
		expect(feedWasTurned(after([turn('A', 2)]), 'B')).toBe(false);
		expect(feedWasTurned(after([turn('A', 2), move('tilt', 1)]), 'A')).toBe(false);
	});
});

describe('why something is void', () => {
	it('names the latest change and its end', () => {
		const state = after([
			move('tilt', 1, 'B'),
			['A', 'loosen', { reason: 'drift' }],
			['A', 'reading', reading(-50)]
		]);
		expect(latestVoiding(state, 'final-level', 'A')).toEqual({
			change: 'loosened',
			end: 'A',
			seq: 2
		});
		expect(latestVoiding(state, 'tilt-lock', 'B')).toEqual({
			change: 'tilt-moved',
			end: 'B',
			seq: 1
		});
		expect(latestVoiding(state, 'alignment-state', 'A')).toBeUndefined();
		expect(stillHolds(state, 'final-level', 'A', null)).toBe(false);
		expect(currentLockSteps(state, 'A')).toEqual([]);
	});
});

describe('a level against its volts', () => {
	// 0.05 V a dB, from −90 dBm at 0.5 V to −20 dBm at 4 V; and the same falling.
	const rising = makeLevelCurve([
		[-90, 0.5],
		[-20, 4]
	]);
	const falling = makeLevelCurve([
		[-90, 4],
		[-20, 0.5]
	]);

	it.each([
		['agrees', 2.5, -50, 'level'],
		['agrees within a dB', 2.5, -50.9, 'level'],
		['contradicts beyond it', 2.5, -51.2, 'contradiction'],
		['contradicts the other way', 2.5, -48.8, 'contradiction'],
		['may lie beyond the upper end', 4, -12, 'level'],
		['may lie below the lower end', 0.5, -99, 'level'],
		['may not lie far above at the lower end', 0.5, -60, 'contradiction'],
		['may not lie far below at the upper end', 4, -50, 'contradiction'],
		['agrees within a dB at the upper end', 4, -20.5, 'level'],
		['is none with volts that cannot be', 9, -50, 'contradiction']
	] as const)('%s', (_, volts, levelDbm, kind) => {
		expect(levelOfReading({ volts, levelDbm }, rising).kind).toBe(kind);
		const mirrored = volts === 9 ? 9 : 4.5 - volts;
		expect(levelOfReading({ volts: mirrored, levelDbm }, falling).kind).toBe(kind);
	});

	it('says what the curve makes of the volts', () => {
		expect(levelOfReading({ volts: 2.5, levelDbm: -40 }, rising)).toEqual({
			kind: 'contradiction',
			levelDbm: -40,
			curveDbm: expect.closeTo(-50, 9) as number
		});
		expect(levelOfReading({ volts: 9, levelDbm: -40 }, rising)).toMatchObject({ curveDbm: null });
	});

	it('is the level where only one is there, and none where there is none', () => {
		expect(levelOfReading({ volts: null, levelDbm: -40 }, rising)).toEqual({
			kind: 'level',
			levelDbm: -40
		});
		expect(levelOfReading({ volts: 1, levelDbm: null }, rising).kind).toBe('implausible');
	});

	it('allows a coarse meter its last digit', () => {
		const coarse = { volts: 2.5, levelDbm: -53 };
		expect(levelOfReading(coarse, rising).kind).toBe('contradiction');
		expect(levelOfReading(coarse, rising, 0.3).kind).toBe('level');
	});
});

describe('watching for movement that nobody recorded', () => {
	const FLOOR = -90;
	const after4 = (...levels: number[]): Watch =>
		levels.reduce(
			(watch, levelDbm, i) => watchReading(watch, 'A', { seq: i + 1, levelDbm }, FLOOR),
			UNWATCHED
		);

	it('needs two readings that agree with each other and not with what was', () => {
		expect(after4(-50, -54.1).found).toBeNull();
		expect(after4(-50, -54.1, -54).found).toEqual({
			movedEnd: 'B',
			seenAt: 'A',
			changeDb: expect.closeTo(-4, 9) as number,
			sinceSeq: 2
		});
		expect(after4(-50, -53.9, -53.9).found).toBeNull();
		// Two strays that do not agree with each other are noise; the second may still be borne out.
		expect(after4(-50, -60, -70).found).toBeNull();
		expect(after4(-50, -60, -63).found).toBeNull();
		expect(after4(-50, -60, -70, -70.5).found).toMatchObject({ sinceSeq: 3 });
		expect(after4(-50, -60, -50).stray).toBeNull();
	});

	it('means nothing near the floor', () => {
		expect(after4(-83, -89, -89).found).toBeNull();
		expect(after4(-81.9, -89, -89).found).not.toBeNull();
	});

	it('begins anew after a change, and forgets what is explained', () => {
		const seen = after4(-50, -60, -60);
		expect(watchAnew(seen, false)).toEqual({ steadyDbm: null, stray: null, found: seen.found });
		expect(watchAnew(seen, true).found).toBeNull();
	});
});
