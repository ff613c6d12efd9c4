import { describe, expect, it } from 'vitest';
import { noFindings, type Aim, type Findings } from '#core/record/findings';
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
import { feed, reading, ready, type Made } from './feed';
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
			move('azimuth', 2),
			['A', 'feed-turn', { toDeg: 3, source: 'hand' }],
			['A', 'baton', { to: 'B', how: 'handed' }]
		];
		const findings: Findings = { sweeps: new Map(), aims: new Map([['r2', aim()]]) };
		const changed = (part: string): EndState =>
			after(
				[
					...before,
					['A', 'part-replaced', { part, code: 'C', serial: 'S', reason: 'r', photoIds: [] }]
				],
				findings
			).ends.A;
		for (const part of ['dish', 'mount', 'second-dish']) {
			const dish = changed(part);
			expect([dish.turns.azimuth, dish.feedDeg, dish.aim]).toEqual([0, 0, null]);
		}
		const radio = changed('radio-1');
		expect([radio.turns.azimuth, radio.feedDeg, radio.aim !== null]).toEqual([2, 3, true]);
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
