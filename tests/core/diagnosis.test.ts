import { describe, expect, it } from 'vitest';
import { CAUSES } from '#core/diagnose/causes/keys';
import { diagnose } from '#core/diagnose/diagnosis';
import { withObservation, type DiagnosisInput } from '#core/diagnose/question';
import { diagnosisInputOf } from '#core/guide/diagnosisQuestion';
import { endReadings } from '#core/guide/endReadings';
import type { FieldRecord } from '#core/record/records';
import { adjusterAngleDeg } from '#core/sweep/adjusterScale';
import { stateAfter } from './feed';
import { hopInput, soundPlan } from './planFixture';
import { faultCase, runTests } from './seededFault';

const sound: DiagnosisInput = {
	plannedDbm: { A: -43, B: -43.5 },
	measuredDbm: { A: -43.4, B: -43.9 },
	crossPolarDbm: { A: null, B: null },
	toleranceDb: 2,
	floorDbm: { A: -90, B: -90 },
	firstSideLobeDb: { A: 20, B: 20 },
	crossPolarDiscriminationDb: 31,
	crossedCablesLossDb: { A: 31, B: 31 },
	armDifferenceDb: 5,
	dishSizeStepDb: 3.5,
	maxInputDbm: { A: -20, B: -20 },
	observations: {}
};
const first = (change: Partial<DiagnosisInput>): string =>
	diagnose({ ...sound, ...change }).causes[0]!.cause;
const probability = (change: Partial<DiagnosisInput>, cause: string): number =>
	diagnose({ ...sound, ...change }).causes.find((c) => c.cause === cause)!.probability;

describe('naming the fault', () => {
	it('finds nothing wrong where nothing is; only two faults at once let the sum exceed one', () => {
		const { causes } = diagnose(sound);
		expect(causes[0]!.cause).toBe('none');
		const sum = causes.reduce((total, cause) => total + cause.probability, 0);
		expect(sum).toBeGreaterThan(1 - 1e-9);
		expect(sum).toBeLessThan(1.1);
		expect(Math.max(...causes.map((cause) => cause.probability))).toBeLessThanOrEqual(1 + 1e-9);
		expect(causes).toHaveLength(CAUSES.length);
	});

	it('names two faults at once when one alone does not explain what is seen', () => {
		const { causes } = diagnose({
			...sound,
			measuredDbm: { A: sound.plannedDbm.A - 7, B: sound.plannedDbm.B - 16 },
			observations: { filmsCounted: false, powerAsPlanned: { A: false } }
		});
		expect(
			causes
				.slice(0, 2)
				.map((cause) => cause.cause)
				.sort()
		).toEqual(['film-left-in', 'power-low-a']);
		expect(causes[1]!.probability).toBeGreaterThan(0.8);
	});

	it('sets right what is certain before anything else is opened', () => {
		let certain = 0;
		let open = 0;
		for (const powerControlOn of [true, false, undefined]) {
			for (const followsPointing of [true, false, undefined]) {
				for (const filmsCounted of [true, false, undefined]) {
					for (const shortDb of [0, 3, 7, 12, 20]) {
						const observations = Object.fromEntries(
							Object.entries({ powerControlOn, followsPointing, filmsCounted }).filter(
								([, value]) => value !== undefined
							)
						);
						const { causes, nextTest } = diagnose({
							...sound,
							measuredDbm: { A: sound.plannedDbm.A - shortDb, B: sound.plannedDbm.B - shortDb },
							observations
						});
						if (causes[0]!.probability > 0.97) {
							certain += 1;
							expect(nextTest).toBeNull();
						} else if (nextTest) open += 1;
					}
				}
			}
		}
		expect(certain).toBeGreaterThan(10);
		expect(open).toBeGreaterThan(10);
	});

	it.each([
		[
			'one direction short is one transmitter, receiver or meter',
			{ measuredDbm: { A: -53, B: -43.6 } },
			/power-low-b|wrong-curve-a|power-control-on/
		],
		[
			'both short by a side lobe is a side lobe',
			{ measuredDbm: { A: -63.2, B: -63.5 } },
			/side-lobe/
		],
		[
			'a port that cannot give the volts is pick-up',
			{ measuredDbm: { A: null, B: -43.6 }, observations: { implausibleVoltage: 'A' } },
			/pick-up/
		],
		[
			'a receiver at its maximum is overloaded',
			{
				plannedDbm: { A: -30, B: -43.5 },
				measuredDbm: { A: -20.2, B: -43.6 },
				observations: { followsPointing: false, meterAgrees: { A: true } }
			},
			/overload/
		],
		[
			'both silent whatever the pointing is a unit',
			{ measuredDbm: { A: -89.8, B: -90.1 }, observations: { followsPointing: false } },
			/wrong-sub-band/
		],
		[
			'the other polarization stronger is crossed',
			{ measuredDbm: { A: -74, B: -74.4 }, crossPolarDbm: { A: -44, B: -44.2 } },
			/crossed/
		]
	] as const)('%s', (_, change, wanted) =>
		expect(first(change as Partial<DiagnosisInput>)).toMatch(wanted)
	);

	it('both ends on side lobes and crossed polarization are told apart by a sweep, not guessed', () => {
		const short = { measuredDbm: { A: -77, B: -77.4 } };
		const before = diagnose({ ...sound, ...short });
		expect(before.causes[0]!.probability).toBeLessThan(0.9);
		expect(before.nextTest).not.toBeNull();
		const beside = {
			...short,
			observations: { sweep: { A: 'beside-main-lobe' } }
		} as Partial<DiagnosisInput>;
		expect(probability(beside, 'crossed-polarization')).toBeLessThan(0.1);
		const over = {
			...short,
			observations: { sweep: { A: 'main-lobe', B: 'main-lobe' } }
		} as Partial<DiagnosisInput>;
		expect(first(over)).toBe('crossed-polarization');
	});

	it('gives what each cause predicts, and the evidence for it', () => {
		const raining = diagnose({
			...sound,
			measuredDbm: { A: -51, B: -51.5 },
			observations: { raining: true }
		});
		const rain = raining.causes.find((cause) => cause.cause === 'rain')!;
		expect(rain.evidence).toEqual(['it rains on the path']);
		expect(rain.predicts).toContain('gone with the rain');
		expect(raining.causes[0]!.cause).toBe('rain');
		expect(raining.reasons.join(' ')).toContain('off alike');
	});

	it('asks a cheap question first, and never one that was answered', () => {
		let input: DiagnosisInput = { ...sound, measuredDbm: { A: -50, B: -50.4 } };
		const asked: string[] = [];
		for (let i = 0; i < 12; i++) {
			const { nextTest } = diagnose(input);
			if (!nextTest) break;
			asked.push(nextTest.key);
			input = {
				...input,
				observations: withObservation(input.observations, nextTest.outcomes[0]!.observation)
			};
		}
		expect(new Set(asked).size).toBe(asked.length);
		expect(asked[0]).not.toBe('feeder');
	});

	it('keeps what is known of one end when the other is told', () => {
		const merged = withObservation(
			{ powerAsPlanned: { A: true } },
			{ powerAsPlanned: { B: false } }
		);
		expect(merged.powerAsPlanned).toEqual({ A: true, B: false });
	});
});

describe('the question from plan and record', () => {
	const input = hopInput();
	const plan = soundPlan(input);

	it('holds the levels of both ends, what sweeps saw, and every test that was answered', () => {
		const records = [
			['A', 'rain', 'no'],
			['B', 'power-b', 'no'],
			['A', 'rain', 'yes']
		].map(([end, test, value], i) => ({
			id: String(i),
			seq: i + 1,
			end,
			kind: 'test-result',
			payload: { test, value },
			revisionNumber: 1,
			recordedAt: '2026-05-04T09:00:00.000Z',
			recordedBy: 'x'
		})) as FieldRecord[];
		const state = stateAfter(input, records);
		state.ends.A = { ...state.ends.A, lastLevelDbm: -60, levelIsFresh: true };
		state.ends.B = { ...state.ends.B, implausibleReading: true };
		const asked = diagnosisInputOf(state);
		expect(asked.measuredDbm).toEqual({ A: -60, B: null });
		expect(asked.plannedDbm.A).toBe(plan.received.A.plannedLevelDbm);
		expect(asked.observations).toMatchObject({
			raining: true,
			powerAsPlanned: { B: false },
			implausibleVoltage: 'B'
		});
		expect(asked.armDifferenceDb).toBe(0);
	});

	it('takes no level that was read before a dish moved', () => {
		const state = stateAfter(input);
		state.ends.A = { ...state.ends.A, lastLevelDbm: -60, levelIsFresh: false };
		const asked = diagnosisInputOf(state);
		expect(asked.measuredDbm.A).toBeNull();
		expect(diagnose(asked).reasons[0]).toContain('A has no reading of the present pointing');
	});
});

describe('readings that still say something', () => {
	const input = hopInput();
	const at = (seq: number, end: 'A' | 'B', kind: string, payload: object): FieldRecord =>
		({
			id: String(seq),
			seq,
			end,
			kind,
			payload,
			revisionNumber: 1,
			recordedAt: '',
			recordedBy: ''
		}) as unknown as FieldRecord;
	const reading = (levelDbm: number): object => ({
		volts: null,
		levelDbm,
		source: 'hand',
		purpose: 'watch'
	});

	it('are those since the far end last moved, where the dish then stood', () => {
		const move = { axis: 'tilt', toTurns: 2, viaTurns: [], source: 'hand' };
		const records = [
			at(1, 'A', 'reading', reading(-70)),
			at(2, 'B', 'move', move),
			at(3, 'A', 'move', move),
			at(4, 'A', 'reading', reading(-60)),
			at(5, 'B', 'reading', reading(-61))
		];
		const { readings, tiltDeg } = endReadings(stateAfter(input, records), 'A');
		expect(readings).toEqual([{ azimuthDeg: 0, tiltDeg, levelDbm: -60, seq: 4 }]);
		expect(tiltDeg).toBeCloseTo(adjusterAngleDeg(input.ends.A.mount.tilt, 2), 9);
	});

	it('of a sweep lie along its axis at the place of the other', () => {
		const samples = [0, 1, 2, 3, 4].map((positionDeg) => ({
			positionDeg,
			levelV: 1 + positionDeg / 10
		}));
		const records = [
			at(1, 'A', 'sweep', { axis: 'tilt', otherAxisDeg: 1.5, source: 'hand', samples })
		];
		expect(
			endReadings(stateAfter(input, records), 'A').readings.map((r) => [r.azimuthDeg, r.tiltDeg])
		).toEqual(samples.map((s) => [1.5, s.positionDeg]));
	});
});

describe('seeded faults', { timeout: 60_000 }, () => {
	it('are named first in nineteen of twenty, after the tests that the tool asks for', () => {
		const runs = Array.from({ length: 300 }, (_, i) => {
			const fault = faultCase(i + 1);
			return { fault, run: runTests(fault) };
		});
		const named = runs.filter(({ fault, run }) => run.ranked[0] === fault.truth).length;
		const two = runs.filter(({ fault, run }) =>
			run.ranked.slice(0, 2).includes(fault.truth)
		).length;
		expect(named / runs.length).toBeGreaterThanOrEqual(0.95);
		expect(two / runs.length).toBeGreaterThanOrEqual(0.98);
		expect(runs.reduce((sum, { run }) => sum + run.tests, 0) / runs.length).toBeLessThan(6);
	});
});
