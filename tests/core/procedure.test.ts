import { describe, expect, it } from 'vitest';
import { guidanceInputOf } from '#core/guide/aim';
import { endReadings } from '#core/guide/endReadings';
import { guide, type Guidance } from '#core/guide/guidance';
import { nextStep } from '#core/guide/nextStep';
import { planSearch } from '#core/guide/searchPlan';
import { measuredInput } from '#core/record/adjusters';
import type { HopState } from '#core/record/hopState';
import type { RecordPayloads } from '#core/record/records';
import { SIMULATED_FAULTS, type SimulatedFault } from '#core/simulate/faults';
import { simulatedHopOf } from '#core/simulate/fromPlan';
import { judgeDrift } from '#core/lock/drift';
import { adjusterAngleDeg, adjusterTurns } from '#core/sweep/adjusterScale';
import { builtHop } from './endFixture';
import { followGuidance } from './closedLoop';
import { feed, reading, ready, stateAfter, type Made } from './feed';
import { hopInput, soundPlan } from './planFixture';

const input = hopInput();
const plan = soundPlan(input);
const planned = plan.received.A.plannedLevelDbm;
const both: Made[] = [
	['A', 'alignment-state', ready],
	['B', 'alignment-state', ready]
];
const moved = (axis: 'azimuth' | 'tilt', toTurns: number): RecordPayloads['move'] => ({
	axis,
	toTurns,
	viaTurns: [],
	source: 'hand'
});
const handed = (to: 'A' | 'B'): RecordPayloads['baton'] => ({ to, how: 'handed' });

/** A state whose ends stand as told, for the procedure alone. */
function standing(change: (state: HopState) => void, ...more: Made[]): HopState {
	const state = stateAfter(
		input,
		feed(...both, ['A', 'reading', reading(planned)], ['B', 'reading', reading(planned)], ...more)
	);
	change(state);
	return state;
}
const aim = (sigmaBeamwidths: number): NonNullable<HopState['ends']['A']['aim']> => ({
	onMainLobe: true,
	onPlan: true,
	probability: 0.99,
	sigmaBeamwidths,
	expectedGainDb: 24 * sigmaBeamwidths ** 2
});
const lockHere: Guidance = {
	advice: 'lock',
	boresight: { azimuthDeg: 0, tiltDeg: 0, sigmaDeg: 0.05 },
	probabilityOnMainLobe: 0.99,
	reasons: ['Stands in the middle.']
};
const shortHere: Guidance = { ...lockHere, advice: 'hand-over', reasons: ['20 dB are missing.'] };

describe('the two-ended procedure', () => {
	it('hands over from an end that stands, while the far end has not been aimed', () => {
		const step = nextStep(
			standing(() => undefined),
			'A',
			lockHere
		);
		expect(step.kind).toBe('hand-over');
	});

	it('asks for one more round at an end that was aimed while this one stood off', () => {
		const state = standing((s) => {
			s.ends.B.aim = aim(0.05);
			s.ends.B.roundsDone = 1;
		});
		expect(nextStep(state, 'A', lockHere).kind).toBe('hand-over');
		state.ends.B.aimedAtAimedEnd = true;
		expect(nextStep(state, 'A', lockHere).kind).toBe('lock');
	});

	it('with one crew drives back only when that gains more than a quarter of a dB', () => {
		const withFarAim = (sigma: number): HopState =>
			standing(
				(s) => {
					s.ends.B.aim = aim(sigma);
				},
				['A', 'crew-mode', { crews: 1 }]
			);
		expect(nextStep(withFarAim(0.06), 'A', lockHere).kind).toBe('lock');
		const again = nextStep(withFarAim(0.2), 'A', lockHere);
		expect(again.headline).toBe('Go to B');
		expect(again.why.join(' ')).toContain('Leave this end sending');
	});

	it('does not lock before the other direction has been read, and not while it is short', () => {
		const closed = (s: HopState): void => {
			s.ends.B.aim = aim(0.05);
			s.ends.B.aimedAtAimedEnd = true;
		};
		const unread = standing((s) => {
			closed(s);
			s.ends.B.levelIsFresh = false;
		});
		expect(nextStep(unread, 'A', lockHere).kind).toBe('ask-far');
		const short = standing((s) => {
			closed(s);
			s.ends.B.lastLevelDbm = plan.received.B.plannedLevelDbm - 9;
		});
		const step = nextStep(short, 'A', lockHere);
		expect(step.kind).toBe('check');
		expect(step.headline).toBe('B reads short');
	});

	it('stops turning when both ends stand and the level is short all the same', () => {
		const state = standing((s) => {
			s.ends.B.aim = aim(0.05);
			s.ends.B.aimedAtAimedEnd = true;
			s.ends.A.roundsDone = 1;
		});
		const step = nextStep(state, 'A', shortHere);
		expect(step).toMatchObject({ kind: 'check', about: 'link' });
	});

	it('works out the step first', () => {
		expect(
			nextStep(
				standing(() => undefined),
				'A',
				undefined
			).kind
		).toBe('thinking');
	});

	it('forgets an aim when its end moves, or when a fault is mended that bent the levels', () => {
		const after = (...more: Made[]): boolean => {
			const records = feed(
				...both,
				['A', 'reading', reading(planned)],
				['A', 'baton', handed('B')],
				['B', 'reading', reading(planned)],
				...more
			);
			const aims = new Map([['r3', aim(0.05)]]);
			return stateAfter(input, records, { sweeps: new Map(), aims }).ends.A.aim !== null;
		};
		expect(after()).toBe(true);
		expect(after(['B', 'move', moved('tilt', 1)])).toBe(true);
		expect(after(['A', 'move', moved('tilt', 1)])).toBe(false);
		expect(after(['A', 'remedy', { cause: 'film-left-in' }])).toBe(true);
		expect(after(['A', 'remedy', { cause: 'power-control-on' }])).toBe(false);
	});
});

describe('the baton', () => {
	it('taken over after a silence is told to the end that lost it', () => {
		const records = feed(...both, ['B', 'baton', { to: 'B', how: 'taken' }]);
		const state = stateAfter(input, records);
		expect(state.baton).toBe('B');
		const step = nextStep(state, 'A', undefined);
		expect(step.kind).toBe('wait');
		expect(step.why[0]).toContain('took the baton over');
	});

	it('asked for is told to the end that has it, until it passes', () => {
		const asked = feed(...both, ['A', 'reading', reading(-80)], ['B', 'baton-request', {}]);
		const state = stateAfter(input, asked);
		expect(nextStep(state, 'A', lockHere).why[0]).toContain('B asks for the baton');
		const passed = feed(
			...both,
			['A', 'reading', reading(-80)],
			['B', 'baton-request', {}],
			['A', 'baton', handed('B')]
		);
		expect(stateAfter(input, passed).ends.B.asksForBaton).toBe(false);
	});
});

describe('movement without the baton', () => {
	const watched = (...levels: number[]): Made[] =>
		levels.map((level) => ['A', 'reading', reading(level)] as Made);

	it('is noticed by the level of the end that holds it, and said at both', () => {
		const records = feed(...both, ...watched(-50, -50.2, -57, -57.3));
		const state = stateAfter(input, records);
		expect(state.unasked).toMatchObject({ movedEnd: 'B', seenAt: 'A', sinceSeq: 5 });
		expect(state.unasked!.changeDb).toBeCloseTo(-7.1, 6);
		expect(nextStep(state, 'A', shortHere).why[0]).toContain('ask B whether');
		expect(nextStep(state, 'B', undefined).why[0]).toContain('if this dish was touched');
		// What was read before no longer compares.
		expect(endReadings(state, 'A').readings).toHaveLength(2);
	});

	it('is not seen in fading, in one stray reading, near the floor, or where this end moved', () => {
		const unasked = (...made: Made[]): unknown => stateAfter(input, feed(...both, ...made)).unasked;
		expect(unasked(...watched(-50, -52, -51, -53))).toBeNull();
		expect(unasked(...watched(-50, -58, -50, -50.1))).toBeNull();
		const floor = plan.received.A.floorDbm;
		expect(unasked(...watched(floor + 7, floor + 1, floor + 1))).toBeNull();
		expect(
			unasked(...watched(-50, -50), ['A', 'move', moved('azimuth', 2)], ...watched(-60, -60))
		).toBeNull();
	});
});

describe('an adjuster measured on the spot', () => {
	const calibration = {
		axis: 'azimuth',
		degPerTurn: 0.5,
		sigmaDegPerTurn: 0.02,
		sweepId: 's'
	} as const;

	it('counts from then on for its end and axis alone, and is the same when applied twice', () => {
		const records = feed(...both, ['A', 'calibration', calibration]);
		const measured = measuredInput(input, records);
		expect(adjusterAngleDeg(measured.ends.A.mount.azimuth, 1)).toBeCloseTo(0.5, 9);
		expect(measured.ends.A.mount.tilt).toEqual(input.ends.A.mount.tilt);
		expect(measured.ends.B.mount).toEqual(input.ends.B.mount);
		const { pitch, travel } = (({ threadPitchMm, travelDeg }) => ({
			pitch: threadPitchMm,
			travel: travelDeg
		}))(measuredInput(measured, records).ends.A.mount.azimuth);
		expect(pitch).toBeCloseTo(measured.ends.A.mount.azimuth.threadPitchMm, 12);
		expect(travel).toBeCloseTo(measured.ends.A.mount.azimuth.travelDeg, 9);
		expect(measuredInput(input, feed(...both))).toBe(input);
	});

	it('begins a new frame: earlier readings are in the old scale', () => {
		const records = feed(
			...both,
			['A', 'reading', reading(-60)],
			['A', 'calibration', calibration],
			['A', 'reading', reading(-61)]
		);
		expect(guidanceInputOf(stateAfter(input, records), 'A').readings).toHaveLength(1);
	});
});

describe('a far end beyond the adjuster', () => {
	it('is reached by turning the whole mount, to a compass heading', () => {
		const readings = Array.from({ length: 25 }, (_, i) => {
			const azimuthDeg = 5 + i * 0.28;
			const off = (azimuthDeg - 13.2) / plan.dish.A.beamwidthDeg;
			return { azimuthDeg, tiltDeg: 0, levelDbm: Math.max(-88, planned - 12 * off * off) };
		});
		const question = guidanceInputOf(stateAfter(input), 'A');
		const guidance = guide({ ...question, readings });
		expect(guidance.beyond?.axis).toBe('azimuth');
		// Near enough for the adjuster, which is centred again, to find it.
		expect(Math.abs(guidance.beyond!.byDeg - 13.2)).toBeLessThan(1);
		const step = nextStep(
			standing(() => undefined),
			'A',
			guidance
		);
		if (step.kind !== 'turn-mount') throw new Error(step.kind);
		expect(step.compassDeg).toBeCloseTo(
			(plan.pointing.A.azimuthCompassDeg + step.byDeg + 360) % 360,
			6
		);
	});

	it('is begun anew in the mount’s new frame, as the simulated mount stands', () => {
		const sim = simulatedHopOf(input, plan, 9);
		const turned = sim.turnMount(sim.turn(sim.start, 'A', 'azimuth', 5), 'A', 8);
		expect(turned.A.azimuth.knobTurns).toBe(0);
		expect(Math.abs(turned.A.mountDeg - 8)).toBeLessThan(0.5);
		const records = feed(
			...both,
			['A', 'reading', reading(-60)],
			['A', 'mount-turn', { byDeg: 8, compassDeg: null, source: 'hand' }],
			['A', 'reading', reading(-61)]
		);
		expect(endReadings(stateAfter(input, records), 'A')).toMatchObject({
			azimuthDeg: 0,
			readings: [{ azimuthDeg: 0, levelDbm: -61 }]
		});
		expect(stateAfter(input, records).ends.A.mountTurnedDeg).toBe(8);
	});
});

describe('a search when nothing is heard', () => {
	const question = {
		frequencyGhz: 78,
		dishDiameterM: 0.6,
		beamwidthDeg: 0.45,
		plannedLevelDbm: -42,
		floorDbm: -82,
		prior: { azimuthSigmaDeg: 3, tiltSigmaDeg: 0.5 }
	};

	it('steps no wider than the beam allows and says how long it takes and how likely it finds', () => {
		const search = planSearch(question);
		expect(search.stepDeg).toBeLessThan(0.45);
		const sorted = [...search.lines.map((line) => line.tiltDeg)].sort((p, q) => p - q);
		for (let i = 1; i < sorted.length; i++) {
			expect(sorted[i]! - sorted[i - 1]!).toBeLessThan(0.45);
		}
		expect(search.probabilityOneEnd).toBeGreaterThan(0.95);
		expect(search.probabilityBothEnds).toBeLessThan(search.probabilityOneEnd);
		expect(search.secondsByHand).toBeGreaterThan(3 * search.secondsByMeter);
	});

	it('hears less far with less to spare, and is then less likely to meet a far end that is off', () => {
		const poor = planSearch({ ...question, plannedLevelDbm: -66 });
		const rich = planSearch(question);
		expect(poor.hearingRadiusDeg).toBeLessThan(rich.hearingRadiusDeg);
		expect(poor.probabilityBothEnds).toBeLessThan(rich.probabilityBothEnds);
	});

	it('parks in another place each time, each within hearing of the next, the plan first', () => {
		const { parks, hearingRadiusDeg } = planSearch(question);
		expect(Math.hypot(parks[0]!.azimuthDeg, parks[0]!.tiltDeg)).toBeLessThan(0.45);
		// Told from a dish that nobody has parked.
		expect(parks[0]!.azimuthDeg).toBeGreaterThan(0.1);
		expect(new Set(parks.map((park) => `${park.azimuthDeg} ${park.tiltDeg}`)).size).toBe(
			parks.length
		);
		const silent = (at: number): Guidance => {
			const stood = parks[at]!;
			const lines = planSearch(question, false).lines.map((line) => line.tiltDeg);
			const readings = [
				{ ...stood, levelDbm: -82 },
				...lines.flatMap((tiltDeg) =>
					Array.from({ length: 94 }, (_, i) => ({
						azimuthDeg: -11.2 + i * 0.24,
						tiltDeg,
						levelDbm: -82
					}))
				)
			];
			return guide({
				...question,
				toleranceDb: 2,
				travel: { azimuthDeg: [-12, 12], tiltDeg: [-12, 12] },
				readings
			});
		};
		for (const at of [0, 1, 4]) {
			expect(silent(at).advice).toBe('move');
			expect(silent(at).target!.azimuthDeg).toBeCloseTo(parks[at + 1]!.azimuthDeg, 6);
		}
		expect(hearingRadiusDeg).toBeGreaterThan(0.3);
	});
});

describe('a hop with a fault, followed by a script that only does what it is told', () => {
	/** What a hop of one radio can have, and what shows while it is aligned. */
	const elsewhere: readonly SimulatedFault[] = [
		'adaptive-modulation-on',
		'wrong-arm',
		'crossed-cables',
		'moved-while-locking',
		'side-lobe-a',
		'side-lobe-b',
		'side-lobe-both'
	];
	const reached = SIMULATED_FAULTS.filter((fault) => !elsewhere.includes(fault));

	it.each(reached)(
		'%s: named, set right, both ends on the main lobe',
		{ timeout: 60_000 },
		(fault) => {
			for (const seed of [2, 5]) {
				const result = followGuidance(input, plan, seed, [fault]);
				expect(result.stoppedAt).toContain('Fix this dish');
				expect(result.remedied).toContain(fault);
				expect(result.remainingDb).toBeLessThan(0.6);
			}
		}
	);

	it.each([
		['power-control-on', 'A'],
		['power-control-on', 'B'],
		['pick-up', 'A'],
		['pick-up', 'B'],
		['wrong-dish', 'A'],
		['overload', 'B']
	] as const)('%s at %s alone: named, set right', { timeout: 60_000 }, (fault, end) => {
		const result = followGuidance(input, plan, 4, [{ fault, end }]);
		expect(result.stoppedAt).toContain('Fix this dish');
		expect(result.remedied).toContain(fault);
		expect(result.remainingDb).toBeLessThan(0.6);
	});

	it.each([
		['power-low-a', 'film-left-in'],
		['wrong-curve-b', 'rain'],
		['crossed-polarization', 'power-low-b']
	] as const)(
		'%s and %s at once: both named, both set right',
		{ timeout: 60_000 },
		(one, other) => {
			const result = followGuidance(input, plan, 6, [one, other]);
			expect(result.stoppedAt).toContain('Fix this dish');
			expect(result.remedied).toEqual(expect.arrayContaining([one, other]));
			expect(result.remainingDb).toBeLessThan(0.6);
		}
	);

	it.each(['side-lobe-a', 'side-lobe-b', 'side-lobe-both'] as const)(
		'%s at the start: both ends are led to their main lobe',
		{ timeout: 60_000 },
		(fault) => {
			const sim = simulatedHopOf(input, plan, 2, [{ fault, end: null }]);
			const begins = (end: 'A' | 'B'): number => sim.offAxisBeamwidths(sim.start, end);
			if (fault !== 'side-lobe-b') expect(begins('A')).toBeCloseTo(1.6, 6);
			if (fault !== 'side-lobe-a') expect(begins('B')).toBeCloseTo(1.6, 6);
			const result = followGuidance(input, plan, 2, [fault]);
			expect(result.stoppedAt).toContain('Fix this dish');
			expect(result.remainingDb).toBeLessThan(0.6);
		}
	);

	it.each(['A', 'B'] as const)(
		'indoor cables crossed at %s: the far end reads short, one cheap test finds it',
		{ timeout: 60_000 },
		(end) => {
			const dual = builtHop('dual-polarized', 'direct');
			const sound = soundPlan(dual);
			const result = followGuidance(dual, sound, 3, [{ fault: 'crossed-cables', end }]);
			expect(result.stoppedAt).toContain('Fix this dish');
			expect(result.remedied).toEqual(['crossed-cables']);
			expect(result.remainingDb).toBeLessThan(0.6);
		}
	);

	it('the wrong arm of an uneven coupler: named, set right', { timeout: 60_000 }, () => {
		const standby = builtHop('hot-standby', 'direct');
		const arms = standby.ends.A.coupling!.arms.map(({ lossDb }) => lossDb);
		expect(Math.max(...arms) - Math.min(...arms)).toBeGreaterThan(3);
		const result = followGuidance(standby, soundPlan(standby), 3, [
			{ fault: 'wrong-arm', end: 'A' }
		]);
		expect(result.stoppedAt).toContain('Fix this dish');
		expect(result.remedied).toContain('wrong-arm');
	});

	it('a dish that moves while it is locked: the fastener is named, and anew it holds', () => {
		const sim = simulatedHopOf(input, plan, 2, [{ fault: 'moved-while-locking', end: 'A' }]);
		const { fasteners } = input.ends.A.mount;
		const onAxis = (['azimuth', 'tilt'] as const).reduce(
			(at, axis) =>
				sim.turn(at, 'A', axis, adjusterTurns(input.ends.A.mount[axis], sim.boresightDeg.A[axis])),
			sim.start
		);
		const drifts = (from: typeof sim.start, end: 'A' | 'B'): string => {
			let at = from;
			const steps = fasteners.map(({ name, locks }, fastenerIndex) => {
				const beforeDbm = sim.levelDbm(at, 'A', 0);
				at = sim.tighten(at, end, locks, fastenerIndex);
				const afterDbm = sim.levelDbm(at, 'A', 0);
				return { fastenerIndex, fastener: name, locks, beforeDbm, afterDbm };
			});
			return judgeDrift(steps, 'A').culprit?.fastener ?? judgeDrift(steps, 'A').kind;
		};
		expect(sim.faultsOf(onAxis)).toEqual([]);
		expect(drifts(onAxis, 'A')).toBe(fasteners[1]!.name);
		const tightened = sim.tighten(onAxis, 'A', 'azimuth', 0);
		expect(sim.faultsOf(tightened).map(({ fault }) => fault)).toEqual(['moved-while-locking']);
		expect(sim.faultsOf(sim.loosen(tightened, 'A'))).toEqual([]);
		expect(drifts({ ...onAxis, loosened: ['A'] }, 'A')).toBe('held');
	});

	it('ACM left on neither misleads nor shows: the aim is right all the same', () => {
		const result = followGuidance(input, plan, 3, ['adaptive-modulation-on']);
		expect(result.stoppedAt).toContain('Fix this dish');
		expect(result.remainingDb).toBeLessThan(0.6);
	});
});
