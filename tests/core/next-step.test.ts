import { describe, expect, it } from 'vitest';
import { aimOf, guidanceInputOf } from '#core/guide/aim';
import { diagnosisInputOf } from '#core/guide/diagnosisQuestion';
import type { Guidance } from '#core/guide/guidance';
import { nextStep, type NextStep } from '#core/guide/nextStep';
import { polarizationBench } from '#core/guide/polarizationBench';
import { planSearch, type SearchInput } from '#core/guide/searchPlan';
import { makeLevelCurve } from '#core/radio/levelCurve';
import type { HopState } from '#core/record/hopState';
import { feed, locksOf, reading, ready, stateAfter, type Made } from './feed';
import { dual, plan as dualPlan } from './feedFollow';
import { catalogue, configured, hopInput, part, soundPlan } from './planFixture';

const input = hopInput();
const plan = soundPlan(input);
const { plannedLevelDbm, toleranceDb } = plan.received.A;
const beam = plan.dish.A.beamwidthDeg;

const aim = (sigmaBeamwidths = 0.05, onPlan = true): NonNullable<HopState['ends']['A']['aim']> => ({
	onMainLobe: true,
	onPlan,
	probability: 0.99,
	sigmaBeamwidths,
	expectedGainDb: 24 * sigmaBeamwidths ** 2
});
const guidance = (change: Partial<Guidance> = {}): Guidance => ({
	advice: 'lock',
	boresight: { azimuthDeg: 0, tiltDeg: 0, sigmaDeg: 0.05 * beam },
	probabilityOnMainLobe: 0.99,
	reasons: ['Because.', 'And because.'],
	...change
});

/** Both ends in the alignment state with a fresh reading on plan; A holds the baton. */
function standing(
	change: (ends: HopState['ends'], state: HopState) => void,
	...more: Made[]
): HopState {
	const state = stateAfter(
		input,
		feed(
			['A', 'alignment-state', ready],
			['B', 'alignment-state', ready],
			['A', 'reading', reading(plannedLevelDbm)],
			['B', 'reading', reading(plan.received.B.plannedLevelDbm)],
			...more
		)
	);
	change(state.ends, state);
	return state;
}
const nothing = (): void => undefined;
const at = (state: HopState, answer?: Guidance): NextStep => nextStep(state, 'A', answer);

describe('the step before anything moves', () => {
	it('is the alignment state of this end, then of the other', () => {
		expect(at(stateAfter(input))).toEqual({
			kind: 'confirm-state',
			headline: 'Set this end for aligning',
			why: ['No dish moves until both ends are in the alignment state; A has not confirmed it.']
		});
		const one = stateAfter(input, feed(['A', 'alignment-state', ready]));
		expect(at(one)).toMatchObject({ headline: 'Wait for B to be set' });
		expect(at(one).why[0]).toContain('B has not confirmed it');
		expect(nextStep(one, 'B', undefined).headline).toBe('Set this end for aligning');
	});

	it('is a first reading, a plausible one, and a fresh one, in that order', () => {
		const state = standing((ends) => {
			ends.A.lastReadAt = null;
			ends.A.implausibleReading = true;
			ends.A.levelIsFresh = false;
		});
		expect(at(state)).toEqual({
			kind: 'read',
			headline: 'Read the meter',
			why: ['A first reading shows that meter, lead and port are right before anything turns.']
		});
		state.ends.A.lastReadAt = '2027-01-01T00:00:00.000Z';
		expect(at(state)).toMatchObject({ kind: 'check', about: 'meter', headline: 'Check the meter' });
		expect(at(state).why).toHaveLength(2);
		state.ends.A.implausibleReading = false;
		expect(at(state)).toEqual({
			kind: 'read',
			headline: 'Read the meter',
			why: ['The dish has moved or something has changed: read the level as it is now.']
		});
		state.ends.A.levelIsFresh = true;
		expect(at(state)).toEqual({
			kind: 'thinking',
			headline: 'Working it out',
			why: ['The readings are being weighed.']
		});
	});
});

describe('the step of the end without the baton', () => {
	const b = (state: HopState): NextStep => nextStep(state, 'B', guidance());

	it('is to keep its hands off, and to watch while its level is fresh', () => {
		expect(b(standing(nothing))).toEqual({
			kind: 'wait',
			headline: 'Hands off the dish',
			why: ['A holds the baton and is moving. Watch the meter; do not touch this dish.']
		});
		const stale = standing((ends) => (ends.B.levelIsFresh = false));
		expect(b(stale).why).toEqual([
			'A holds the baton. Do not touch this dish; read the meter when A has come to rest.'
		]);
	});

	it('says who took the baton and what the other saw', () => {
		const state = standing((_, s) => {
			s.batonPassed = { at: '', how: 'taken', by: 'x' };
			s.unasked = { movedEnd: 'B', seenAt: 'A', changeDb: -4.2, sinceSeq: 3 };
		});
		expect(b(state).why.slice(0, 2)).toEqual([
			'A saw its level change by −4.2 dB without moving: if this dish was touched, say so.',
			'A took the baton over after a silence. Hands off until you have spoken.'
		]);
		state.batonPassed = { at: '', how: 'handed', by: 'x' };
		state.unasked = { ...state.unasked!, movedEnd: 'A' };
		expect(b(state).why).toHaveLength(1);
	});

	it('with one crew is that the work is elsewhere', () => {
		expect(b(standing(nothing, ['A', 'crew-mode', { crews: 1 }]))).toEqual({
			kind: 'wait',
			headline: 'The crew is at A',
			why: ['Leave this end sending and its dish as it stands; the work is at A.']
		});
	});
});

describe('the step that the guidance gives', () => {
	it('is its sweep', () => {
		const sweep = { axis: 'tilt', fromDeg: -1, toDeg: 2, stepDeg: 0.1 } as const;
		expect(at(standing(nothing), guidance({ advice: 'sweep', sweep }))).toEqual({
			kind: 'sweep',
			...sweep,
			headline: 'Sweep tilt',
			why: ['Because.', 'And because.']
		});
	});

	it('moves the axis that is farther off first; the other follows where it is worth it', () => {
		const to = (azimuthDeg: number, tiltDeg: number): NextStep =>
			at(standing(nothing), guidance({ advice: 'move', target: { azimuthDeg, tiltDeg } }));
		expect(to(2, -1)).toEqual({
			kind: 'move',
			axis: 'azimuth',
			targetDeg: 2,
			then: { axis: 'tilt', targetDeg: -1 },
			headline: 'Move azimuth',
			why: ['Because.', 'And because.']
		});
		expect(to(1, -2)).toMatchObject({
			axis: 'tilt',
			targetDeg: -2,
			then: { axis: 'azimuth', targetDeg: 1 },
			headline: 'Move tilt'
		});
		expect(to(2, 0.02 * beam)).toMatchObject({ axis: 'azimuth', then: null });
		expect(to(2, 0.04 * beam)).toMatchObject({ then: { axis: 'tilt' } });
		expect(to(1, 1)).toMatchObject({ axis: 'azimuth' });
		// Away from where the adjusters stand, not from their centre.
		const turned = standing((ends) => (ends.A.angleDeg = { azimuth: 2, tilt: 0 }));
		const step = at(turned, guidance({ advice: 'move', target: { azimuthDeg: 2, tiltDeg: 0.5 } }));
		expect(step).toMatchObject({ axis: 'tilt', targetDeg: 0.5, then: null });
	});

	it('turns the whole mount where azimuth does not reach, and looks into what else is wrong', () => {
		const beyond = (axis: 'azimuth' | 'tilt', byDeg: number): Guidance =>
			guidance({ advice: 'check', beyond: { axis, byDeg } });
		const state = standing((ends) => (ends.A.mountTurnedDeg = 5));
		const right = at(state, beyond('azimuth', 9));
		expect(right).toMatchObject({
			kind: 'turn-mount',
			byDeg: 9,
			headline: 'Turn the whole mount right'
		});
		expect(right.why[0]).toBe('Because.');
		expect(right.why).toHaveLength(2);
		if (right.kind !== 'turn-mount') throw new Error(right.kind);
		expect(right.compassDeg).toBeCloseTo((plan.pointing.A.azimuthCompassDeg + 14) % 360, 6);
		expect(at(state, beyond('azimuth', -9)).headline).toBe('Turn the whole mount left');
		for (const answer of [beyond('tilt', 9), guidance({ advice: 'check' })]) {
			expect(at(state, answer)).toEqual({
				kind: 'check',
				about: 'link',
				headline: 'Look into this first',
				why: ['Because.', 'And because.']
			});
		}
	});

	it('lets the far end search when nothing is heard, and looks for another cause once the search is spent', () => {
		const silent = guidance({ advice: 'hand-over', boresight: null });
		expect(at(standing(nothing), silent)).toEqual({
			kind: 'hand-over',
			headline: 'Hand over to B',
			why: ['Because.', 'And because.']
		});
		expect(
			at(standing(nothing), guidance({ advice: 'check', boresight: null, spent: true }))
		).toEqual({
			kind: 'check',
			about: 'search',
			headline: 'Nothing heard anywhere',
			why: ['Because.', 'And because.']
		});
		const alone = at(standing(nothing, ['A', 'crew-mode', { crews: 1 }]), silent);
		expect(alone).toMatchObject({ kind: 'hand-over', headline: 'Go to B' });
		expect(alone.why.at(-1)).toBe(
			'Leave this end sending, its dish as it stands, nuts finger-tight.'
		);
	});

	it('is preceded by what the holder of the baton must know', () => {
		const state = standing((ends, s) => {
			ends.B.asksForBaton = true;
			s.unasked = { movedEnd: 'B', seenAt: 'A', changeDb: 3, sinceSeq: 3 };
		});
		const { why } = at(state, guidance());
		expect(why[0]).toBe('B asks for the baton.');
		expect(why[1]).toBe(
			'The level changed by +3.0 dB while nothing moved here: ask B whether its dish was touched. Readings before it no longer count.'
		);
		expect(why[2]).toBe('Because.');
		state.unasked = { ...state.unasked!, seenAt: 'B' };
		state.ends.B.asksForBaton = false;
		expect(at(state, guidance()).why[0]).toBe('Because.');
	});
});

describe('the step of an end that stands on its main lobe', () => {
	const short = guidance({ advice: 'hand-over' });

	it('is to hand over to a far end that was never aimed, up to seven turns', () => {
		expect(at(standing(nothing), guidance())).toMatchObject({
			kind: 'hand-over',
			why: ['Because.', 'And because.']
		});
		const tried = (turnsTaken: number): NextStep =>
			at(
				standing((ends) => (ends.A.turnsTaken = turnsTaken)),
				guidance()
			);
		expect(tried(6).kind).toBe('hand-over');
		expect(tried(7)).toMatchObject({ kind: 'check', headline: 'Something else is short' });
	});

	const far = (
		change: Partial<HopState['ends']['B']> = {},
		own: Partial<HopState['ends']['A']> = {},
		...more: Made[]
	): HopState =>
		standing(
			(ends) => {
				ends.B = { ...ends.B, aim: aim(), ...change };
				ends.A = { ...ends.A, ...own };
			},
			...more
		);

	it('asks a far end that was aimed while this one stood off for a short round', () => {
		expect(at(far(), guidance())).toEqual({
			kind: 'hand-over',
			headline: 'Hand over to B',
			why: [
				'Because.',
				'B was aimed while this end stood off its lobe: a short round there may still gain something.'
			]
		});
		expect(at(far(), short).why).toEqual(['Because.', 'And because.']);
	});

	it('is done once the far end was aimed at an aimed end, or four rounds were made', () => {
		expect(at(far({ aimedAtAimedEnd: true }), guidance()).kind).toBe('lock');
		expect(at(far({ roundsDone: 4 }), guidance()).kind).toBe('lock');
		expect(at(far({ roundsDone: 3 }), guidance()).kind).toBe('hand-over');
		expect(at(far({ aimedAtAimedEnd: true }), guidance())).toEqual({
			kind: 'lock',
			headline: 'Fix this dish',
			why: [
				'Both ends stand in the middle of their main lobe on both axes.',
				'Tighten one end at a time with the meter connected.'
			]
		});
	});

	it('with one crew is done where driving back would gain a quarter of a decibel at most', () => {
		const alone: Made = ['A', 'crew-mode', { crews: 1 }];
		const gain = (expectedGainDb: number): NextStep =>
			at(far({ aim: { ...aim(), expectedGainDb } }, {}, alone), guidance());
		expect(gain(0.25).kind).toBe('lock');
		expect(gain(0.26).kind).toBe('hand-over');
		// Two crews are both there: nobody drives.
		expect(at(far({ aim: { ...aim(), expectedGainDb: 0.1 } }), guidance()).kind).toBe('hand-over');
		// The other direction is not read by the same crew at the same time.
		expect(at(far({ aim: aim(), levelIsFresh: false }, {}, alone), guidance()).kind).toBe('lock');
	});

	it('is to look elsewhere once both were aimed and it is short all the same', () => {
		const level = plannedLevelDbm - 9.3;
		const done = { aimedAtAimedEnd: true };
		expect(at(far(done, { roundsDone: 1, lastLevelDbm: level }), short)).toEqual({
			kind: 'check',
			about: 'link',
			headline: 'Something else is short',
			why: [
				'Both ends stand on their main lobe, yet 9.3 dB are missing: more turning will not help.',
				'Make the tests below, cheapest first, and set right what they find.'
			]
		});
		expect(
			at(far(done, { roundsDone: 1, lastLevelDbm: plannedLevelDbm + 4 }), short).why[0]
		).toContain('yet 4.0 dB are too much');
		expect(at(far(done, { roundsDone: 1, lastLevelDbm: null }), short).why[0]).toContain(
			'yet the level is not what was planned'
		);
		expect(at(far({ ...done, roundsDone: 2 }), short).kind).toBe('check');
		expect(at(far({ ...done, roundsDone: 1 }), short).kind).toBe('hand-over');
		expect(at(far({ roundsDone: 2 }, { roundsDone: 1 }), short).kind).toBe('hand-over');
	});

	it('asks the far end for its own direction before anything is fixed', () => {
		const done = { aimedAtAimedEnd: true };
		const ask = at(far({ ...done, levelIsFresh: false }), guidance());
		expect(ask).toMatchObject({ kind: 'ask-far', headline: 'Ask B for its level' });
		expect(at(far({ ...done, lastLevelDbm: null }), guidance()).kind).toBe('ask-far');
		const planned = plan.received.B.plannedLevelDbm;
		const tolerance = plan.received.B.toleranceDb;
		const read = (offDb: number): NextStep =>
			at(far({ ...done, lastLevelDbm: planned + offDb }), guidance());
		expect(read(-tolerance + 0.01).kind).toBe('lock');
		expect(read(tolerance - 0.01).kind).toBe('lock');
		expect(read(-tolerance - 1)).toMatchObject({
			kind: 'check',
			about: 'link',
			headline: 'B reads short'
		});
		expect(read(-tolerance - 1).why).toEqual([
			`Both ends stand on their main lobe and this one reads as planned, yet B is ${(tolerance + 1).toFixed(1)} dB below the plan: one direction only.`,
			'Look at this end’s transmitter, and at the receiver and meter of B.'
		]);
		expect(read(tolerance + 1).headline).toBe('B reads high');
		expect(read(tolerance + 1).why[0]).toContain('above the plan');
	});
});

describe('the step once both ends are aimed at each other', () => {
	const closed = (own: Partial<HopState['ends']['A']> = {}, ...more: Made[]): HopState =>
		standing(
			(ends) => {
				ends.A = { ...ends.A, aim: aim(), aimedAtAimedEnd: true, ...own };
				ends.B = { ...ends.B, aim: aim(), aimedAtAimedEnd: true };
			},
			...more
		);

	it('is the same for who holds the baton and who does not, and asks for no guidance', () => {
		expect(at(closed()).kind).toBe('lock');
		expect(nextStep(closed(), 'B', undefined).kind).toBe('lock');
	});

	it('is not reached while one of them was aimed at an end that stood off', () => {
		expect(at(closed({ aimedAtAimedEnd: false })).kind).toBe('thinking');
		expect(at(closed({ aim: null })).kind).toBe('thinking');
		const alone = closed({ aimedAtAimedEnd: false }, ['A', 'crew-mode', { crews: 1 }]);
		expect(at(alone).kind).toBe('lock');
		const doubtful = closed({ aimedAtAimedEnd: false, aim: aim(0.2) }, [
			'A',
			'crew-mode',
			{ crews: 1 }
		]);
		expect(at(doubtful).kind).toBe('thinking');
	});

	it('is to read again, and to look into what is missing or too much', () => {
		expect(at(closed({ levelIsFresh: false }))).toEqual({
			kind: 'read',
			headline: 'Read the meter',
			why: ['A dish has moved since the last reading here: read the level as it is now.']
		});
		const read = (offDb: number): NextStep => at(closed({ lastLevelDbm: plannedLevelDbm + offDb }));
		expect(read(-toleranceDb + 0.01).kind).toBe('lock');
		expect(read(toleranceDb - 0.01).kind).toBe('lock');
		expect(at(closed({ lastLevelDbm: null })).kind).toBe('lock');
		expect(read(-6)).toEqual({
			kind: 'check',
			about: 'link',
			headline: 'Something else is short',
			why: [
				'Both ends stand on their main lobe, yet the level is 6.0 dB below the plan.',
				'Compare power, channel and feeder of both ends with the plan; look for a film left in the waveguide.'
			]
		});
		expect(read(-15.1).why[1]).toContain('crossed polarization');
		expect(read(-14.9).why[1]).toContain('Compare power');
		expect(read(5)).toMatchObject({ headline: 'Higher than planned' });
		expect(read(5).why[0]).toContain('5.0 dB above the plan');
	});
});

describe('what a guidance says of how an end stands', () => {
	it('is aimed only where it locks or hands over with a place', () => {
		const of = (change: Partial<Guidance>): [boolean, boolean] => {
			const { onMainLobe, onPlan } = aimOf(guidance(change), beam);
			return [onMainLobe, onPlan];
		};
		expect(of({})).toEqual([true, true]);
		expect(of({ advice: 'hand-over' })).toEqual([true, false]);
		expect(of({ advice: 'hand-over', boresight: null })).toEqual([false, false]);
		expect(of({ advice: 'move' })).toEqual([false, false]);
		expect(of({ advice: 'check' })).toEqual([false, false]);
	});

	it('says in beams how well the place is known, and what a round may gain', () => {
		const known = aimOf(guidance({ boresight: { azimuthDeg: 1, tiltDeg: 1, sigmaDeg: 0.2 } }), 2);
		expect(known.sigmaBeamwidths).toBeCloseTo(0.1, 9);
		expect(known.expectedGainDb).toBeCloseTo(0.24, 9);
		expect(known.probability).toBe(0.99);
		expect(aimOf(guidance({ boresight: null }), 2)).toMatchObject({
			sigmaBeamwidths: null,
			expectedGainDb: Infinity
		});
	});

	it('is asked with the plan, the adjusters’ travel both ways and the higher of the two floors', () => {
		const state = standing(
			(ends) => (ends.A.comparable = [{ azimuthDeg: 1, tiltDeg: 2, levelDbm: -50, seq: 3 }])
		);
		const question = guidanceInputOf(state, 'A');
		const { mount, radio, dish } = input.ends.A;
		expect(question).toMatchObject({
			dishDiameterM: dish.diameterM,
			beamwidthDeg: beam,
			plannedLevelDbm,
			toleranceDb,
			travel: {
				azimuthDeg: [-mount.azimuth.travelDeg, mount.azimuth.travelDeg],
				tiltDeg: [-mount.tilt.travelDeg, mount.tilt.travelDeg]
			},
			prior: {
				azimuthSigmaDeg: input.search.compassSigmaDeg,
				tiltSigmaDeg: input.search.levelSigmaDeg
			},
			readings: [{ azimuthDeg: 1, tiltDeg: 2, levelDbm: -50 }]
		});
		const lowest = makeLevelCurve(radio.levelPort.curve).lowestLevelDbm;
		expect(question.floorDbm).toBe(Math.max(plan.received.A.floorDbm, lowest));
		state.plan.received.A = { ...state.plan.received.A, floorDbm: -30 };
		expect(guidanceInputOf(state, 'A').floorDbm).toBe(-30);
	});
});

describe('the question to the diagnosis', () => {
	it('is plan and levels of both ends, and nothing that is out of date', () => {
		const state = standing((ends) => (ends.B.levelIsFresh = false));
		const question = diagnosisInputOf(state);
		expect(question).toMatchObject({
			plannedDbm: { A: plannedLevelDbm, B: plan.received.B.plannedLevelDbm },
			measuredDbm: { A: plannedLevelDbm, B: null },
			crossPolarDbm: { A: null, B: null },
			toleranceDb: input.toleranceDb,
			floorDbm: { A: plan.received.A.floorDbm, B: plan.received.B.floorDbm },
			armDifferenceDb: 0,
			// The port shows no more than −20 dBm, whatever more the radio bears.
			maxInputDbm: { A: -20, B: -20 },
			observations: { fellWhileLocking: false, setRight: [] }
		});
		expect(input.ends.A.radio.maxInputDbm).toBe(-18);
		expect(question.dishSizeStepDb).toBeCloseTo(3.52, 2);
	});

	it('holds the other polarization as it was last read at each end, with the planned one sent', () => {
		const read = (
			sent: 'vertical' | 'horizontal',
			crossDbm: number,
			end: 'A' | 'B' = 'A'
		): Made => [
			end,
			'discrimination',
			{ sent, turned: end, feedDeg: 0, coDbm: -40, crossDbm, source: 'hand' }
		];
		const state = standing(
			nothing,
			read('vertical', -70),
			read('vertical', -72),
			read('horizontal', -60),
			read('vertical', -66, 'B')
		);
		expect(diagnosisInputOf(state).crossPolarDbm).toEqual({ A: -72, B: -66 });
	});

	it('tells apart what was tightened, what was set right and what was seen before that', () => {
		const tightened = standing(nothing, locksOf(input, 'B')[0]!);
		expect(diagnosisInputOf(tightened).observations).not.toHaveProperty('fellWhileLocking');
		const test: Made = ['A', 'test-result', { test: 'rain', value: 'no' }];
		const mended: Made = ['A', 'remedy', { cause: 'film-left-in' }];
		const seen = (...made: Made[]): object =>
			diagnosisInputOf(standing(nothing, ...made)).observations;
		expect(seen(mended)).toMatchObject({ setRight: ['film-left-in'] });
		expect(seen(test)).toMatchObject({ raining: false });
		expect(seen(test, mended)).not.toHaveProperty('raining');
		expect(seen(mended, test)).toMatchObject({ raining: false, setRight: ['film-left-in'] });
	});

	it('knows which port gave a voltage that it cannot give', () => {
		const seen = (end?: 'A' | 'B'): unknown =>
			diagnosisInputOf(
				standing((ends) => {
					if (end) ends[end].implausibleReading = true;
				})
			).observations.implausibleVoltage;
		expect([seen(), seen('A'), seen('B')]).toEqual([undefined, 'A', 'B']);
	});

	it('knows the difference of a coupling’s arms where one is in use', () => {
		const uneven = part(catalogue.couplings, 'CU-26');
		const losses = uneven.arms.map((arm) => arm.lossDb);
		const difference = Math.max(...losses) - Math.min(...losses);
		expect(difference).toBeGreaterThan(1);
		const ends = { A: { coupling: uneven }, B: { coupling: uneven } };
		const standby = hopInput({ configuration: configured('hot-standby') }, ends);
		expect(diagnosisInputOf(stateAfter(standby)).armDifferenceDb).toBeCloseTo(difference, 9);
		// It lies in the store: one radio sits on the dish.
		expect(diagnosisInputOf(stateAfter(hopInput({}, ends))).armDifferenceDb).toBe(0);
	});
});

describe('the bench of the polarization', () => {
	it('is aligned, fixed and asked for by the hop’s own state', () => {
		const state = stateAfter(dual);
		expect(polarizationBench(state, 'A').step.kind).toBe('align-first');
		for (const end of ['A', 'B'] as const) state.ends[end] = { ...state.ends[end], aim: aim() };
		const bench = polarizationBench(state, 'A');
		expect(bench).toMatchObject({ feedDeg: 0, need: { dual: true } });
		expect(bench.directions).toHaveLength(4);
		expect(bench.step).toMatchObject({ kind: 'read', sent: 'vertical' });
		state.ends.B = { ...state.ends.B, aim: null };
		expect(polarizationBench(state, 'A').step.kind).toBe('align-first');
		expect(dualPlan.dish.A.crossPolarDiscriminationDb).toBeGreaterThan(20);
	});
});

describe('the plan of a search', () => {
	const question: SearchInput = {
		frequencyGhz: 26,
		dishDiameterM: 0.6,
		beamwidthDeg: 1.4,
		plannedLevelDbm: -43,
		floorDbm: -88,
		prior: { azimuthSigmaDeg: 3, tiltSigmaDeg: 0.5 }
	};

	it('has as many lines as the tilt is doubtful, the plan first, then above and below in turn', () => {
		expect(planSearch(question).lines.map((line) => line.tiltDeg)).toEqual([0]);
		const wide = { ...question, prior: { azimuthSigmaDeg: 3, tiltSigmaDeg: 2 } };
		const lines = planSearch(wide).lines.map((line) => line.tiltDeg);
		expect(lines.slice(0, 3).map((deg) => Number(deg.toFixed(6)))).toEqual([0, 1.12, -1.12]);
		// 1.3 sigmas at first, 2.5 after that; a line may lie a third of a step beyond.
		expect(Math.max(...lines)).toBeCloseTo(2.24, 6);
		const later = planSearch(wide, false);
		expect(Math.max(...later.lines.map((line) => line.tiltDeg))).toBeCloseTo(4.48, 6);
		expect([planSearch(wide).first, later.first]).toEqual([true, false]);
	});

	it('reaches 2.6 sigmas and half a beam at first, 3.6 after, in steps that no beam falls through', () => {
		const first = planSearch(question);
		expect(first.reachDeg).toBeCloseTo(2.6 * 3 + 0.7, 9);
		expect(planSearch(question, false).reachDeg).toBeCloseTo(3.6 * 3 + 0.7, 9);
		expect(first.stepDeg).toBeCloseTo(0.62 * 1.4, 9);
		// The very first line reaches 1.9 sigmas, and so many readings are promised.
		expect(first.samples).toBe(Math.round((2 * 6.4) / 0.868) + 1);
		const wide = planSearch({ ...question, prior: { azimuthSigmaDeg: 3, tiltSigmaDeg: 2 } });
		const others = wide.lines.slice(1);
		expect(wide.samples).toBe(first.samples + others.length * (Math.round((2 * 8.5) / 0.868) + 1));
		expect(first.secondsByMeter).toBeCloseTo(2 * first.samples, 9);
		expect(first.secondsByHand).toBeCloseTo(7.5 * first.samples, 9);
	});

	it('promises the readings that the adjusters reach, and leaves out lines that the tilt does not', () => {
		const wide = { ...question, prior: { azimuthSigmaDeg: 3, tiltSigmaDeg: 2 } };
		const held = planSearch({ ...wide, travel: { azimuthDeg: [-3, 2], tiltDeg: [-1.5, 9] } });
		expect(held.lines.map(({ tiltDeg }) => tiltDeg.toFixed(2))).toEqual([
			'0.00',
			'1.12',
			'-1.12',
			'2.24'
		]);
		for (const line of held.lines) {
			expect([line.fromDeg, line.toDeg]).toEqual([-3, 2]);
			expect(line.samples).toBe(Math.round(5 / 0.868) + 1);
		}
		expect(held.probabilityOneEnd).toBeLessThan(planSearch(wide).probabilityOneEnd);
	});

	it('has as many turns as nearly all places of the far end take, three at least', () => {
		expect(planSearch(question)).toMatchObject({ turns: 3, met: expect.closeTo(1, 1) as number });
		const narrow = planSearch({ ...question, beamwidthDeg: 0.45, plannedLevelDbm: -80 });
		// Twelve places are not enough for so narrow a beam, and no more is claimed.
		expect(narrow.turns).toBe(12);
		expect(narrow.met).toBeLessThan(0.97);
		expect(narrow.met).toBeGreaterThan(0.2);
		const turns = [1, 2, 4, 8].map(
			(azimuthSigmaDeg) =>
				planSearch({
					...question,
					plannedLevelDbm: -78,
					prior: { azimuthSigmaDeg, tiltSigmaDeg: 0.5 }
				}).turns
		);
		turns.slice(1).forEach((more, i) => expect(more).toBeGreaterThanOrEqual(turns[i]!));
		expect(turns[3]).toBeGreaterThan(turns[0]!);
	});

	it('hears less far the less there is to spare, and never less than a third of a beam', () => {
		const heard = (plannedLevelDbm: number): number =>
			planSearch({ ...question, plannedLevelDbm }).hearingRadiusDeg / question.beamwidthDeg;
		const radii = [-55, -62, -69, -76, -82].map(heard);
		radii.slice(1).forEach((radius, i) => expect(radius).toBeLessThan(radii[i]!));
		expect(heard(-83)).toBeCloseTo(0.3, 6);
		expect(heard(-90)).toBeCloseTo(0.3, 6);
		expect(heard(60)).toBeCloseTo(8, 6);
		// 3 dB more than what is heard at all reach to half the beam.
		expect(heard(-88 + 5 + 3.1)).toBeGreaterThan(0.44);
		expect(heard(-88 + 5 + 3.1)).toBeLessThan(0.56);
	});

	it('finds the far end as often as a normal error says', () => {
		const { probabilityOneEnd, probabilityBothEnds, hearingRadiusDeg, lines } = planSearch({
			...question,
			plannedLevelDbm: -78
		});
		// One line, 1.9 sigmas and half a beam each way.
		const reachDeg = 1.9 * 3 + 0.7;
		expect(lines.map(({ fromDeg, toDeg }) => [fromDeg, toDeg])).toEqual([[-reachDeg, reachDeg]]);
		/** Share of a normal distribution within ±x, summed. */
		const within = (x: number, sigma: number): number => {
			let sum = 0;
			const step = x / 20_000;
			for (let t = step / 2; t < x; t += step)
				sum += Math.exp((-t * t) / (2 * sigma * sigma)) * step;
			return (2 * sum) / (sigma * Math.sqrt(2 * Math.PI));
		};
		const one =
			within(reachDeg + 0.5 * hearingRadiusDeg, 3) *
			within(Math.max(...lines.map((line) => line.tiltDeg)) + hearingRadiusDeg, 0.5);
		expect(probabilityOneEnd).toBeCloseTo(one, 5);
		expect(probabilityBothEnds).toBeCloseTo(
			one * within(hearingRadiusDeg, 3) * within(hearingRadiusDeg, 0.5),
			5
		);
	});

	it('parks likeliest first, on tiles of what is heard, finer ones after, twenty-four at most', () => {
		const { parks, hearingRadiusDeg } = planSearch({ ...question, plannedLevelDbm: -70 });
		expect(parks[0]).toEqual({ azimuthDeg: 0.4 * 1.4, tiltDeg: 0 });
		const tile = Math.max(1.2 * 1.4, 1.2 * hearingRadiusDeg);
		expect(parks[1]).toEqual({ azimuthDeg: expect.closeTo(tile, 6) as number, tiltDeg: 0 });
		expect(parks[2]).toEqual({ azimuthDeg: expect.closeTo(-tile, 6) as number, tiltDeg: 0 });
		// So weak a link hears only beams that overlap: there is no finer round.
		const wide = planSearch({
			...question,
			plannedLevelDbm: -80,
			prior: { azimuthSigmaDeg: 12, tiltSigmaDeg: 6 }
		});
		expect(wide.parks).toHaveLength(24);
		const rank = (park: { azimuthDeg: number; tiltDeg: number }): number =>
			(park.azimuthDeg / 12) ** 2 + (park.tiltDeg / 6) ** 2;
		const ranks = wide.parks.slice(1).map(rank);
		ranks.slice(1).forEach((one, i) => expect(one).toBeGreaterThanOrEqual(ranks[i]! - 1e-9));
	});
});
