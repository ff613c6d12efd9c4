import { describe, expect, it } from 'vitest';
import {
	judgeAcceptance,
	type AcceptanceJudgement,
	type AcceptanceLine
} from '#core/accept/judgeAcceptance';
import { guidanceInputOf } from '#core/guide/aim';
import { guide } from '#core/guide/guidance';
import { nextStep } from '#core/guide/nextStep';
import { judgeDrift, type LockStep } from '#core/lock/drift';
import type { FieldRecord, RecordPayloads } from '#core/record/records';
import { turnNut } from '#core/simulate/mechanics';
import { replayMoves } from '#core/simulate/replay';
import { simulatedHopOf } from '#core/simulate/fromPlan';
import { stagesOf } from '#core/stage/stages';
import { followGuidance } from './closedLoop';
import { feed, reading, ready, stateAfter } from './feed';
import { catalogue, configured, hopInput, part, soundPlan } from './planFixture';

const input = hopInput();
const plan = soundPlan(input);
const operating = {
	powerControlAsPlanned: true,
	adaptiveModulationAsPlanned: true,
	licensedPower: true
};

const stepAfter = (records: FieldRecord[], end: 'A' | 'B'): ReturnType<typeof nextStep> =>
	nextStep(
		stateAfter(input, records),
		end,
		guide(guidanceInputOf(stateAfter(input, records), end))
	);

describe('guidance', () => {
	it('moves no dish before both ends are in the alignment state', () => {
		expect(stepAfter([], 'A').kind).toBe('confirm-state');
		expect(stepAfter(feed(['A', 'alignment-state', ready]), 'A').headline).toContain('Wait for B');
		const left = feed(
			['A', 'alignment-state', ready],
			['B', 'alignment-state', ready],
			['B', 'alignment-state', { ...ready, transmitterOn: false }]
		);
		expect(stepAfter(left, 'A').kind).toBe('confirm-state');
	});

	const both = [
		['A', 'alignment-state', ready],
		['B', 'alignment-state', ready]
	] as const;

	it('tells the end without the baton to keep its hands off', () => {
		const records = feed(...both.map((r) => [...r] as ['A', 'alignment-state', typeof ready]));
		expect(stepAfter(records, 'B').kind).toBe('wait');
		expect(stepAfter(records, 'A').kind).toBe('read');
	});

	it('asks to check the meter when it shows what the port cannot give', () => {
		const records = feed(
			['A', 'alignment-state', ready],
			['B', 'alignment-state', ready],
			['A', 'reading', reading(null)]
		);
		const step = stepAfter(records, 'A');
		expect(step.kind).toBe('check');
		expect(step.why.join(' ')).toContain('pick-up');
	});

	it('begins with azimuth over the window of the first heading', () => {
		const records = feed(
			['A', 'alignment-state', ready],
			['B', 'alignment-state', ready],
			['A', 'reading', reading(-90)]
		);
		const step = stepAfter(records, 'A');
		expect(step).toMatchObject({ kind: 'sweep', axis: 'azimuth' });
		// The compass errs by 3° (one sigma): the window holds the far end nineteen times in twenty.
		if (step.kind !== 'sweep') throw new Error('unreachable');
		expect(step.fromDeg).toBeLessThan(-1.6 * 3);
		expect(step.toDeg).toBeCloseTo(-step.fromDeg, 6);
	});

	it(
		'when followed to the letter ends on both main lobes, in several bands',
		{ timeout: 60_000 },
		() => {
			const set = (
				radio: string,
				dish: string,
				mount: string,
				a: number,
				b: number
			): typeof input => {
				const ends = {
					radio: part(catalogue.radios, radio),
					dish: part(catalogue.dishes, dish),
					mount: part(catalogue.mounts, mount),
					alignmentPowerDbm: 13,
					transmitPowerDbm: 10
				};
				return hopInput(
					{ channelWidthMhz: radio === 'RU-80' ? 250 : 28, operatingModulation: '64 QAM' },
					{ A: { ...ends, transmitFrequencyGhz: a }, B: { ...ends, transmitFrequencyGhz: b } }
				);
			};
			for (const hop of [
				input,
				set('RU-13', 'DP-120-13', 'MB-M', 12.8, 13.04),
				set('RU-80', 'DP-060-80', 'MB-N', 72, 82)
			]) {
				for (const seed of [3, 5, 8]) {
					const result = followGuidance(hop, soundPlan(hop), seed);
					expect(result.stoppedAt).toContain('Fix this dish');
					expect(result.remainingDb).toBeLessThan(0.5);
					expect(Math.max(...Object.values(result.offAxisBeamwidths))).toBeLessThan(0.25);
				}
			}
		}
	);
});

describe('a level read before a dish moved', () => {
	it('grows stale with a move of either end and fresh with a reading of its own', () => {
		const moved = { axis: 'tilt', toTurns: 1, viaTurns: [], source: 'hand' } as const;
		const fresh = (records: FieldRecord[]): boolean[] => {
			const { ends } = stateAfter(input, records);
			return [ends.A.levelIsFresh, ends.B.levelIsFresh];
		};
		const first = feed(['A', 'reading', reading(-50)], ['B', 'reading', reading(-50)]);
		expect(fresh(first)).toEqual([true, true]);
		const later = feed(
			['A', 'reading', reading(-50)],
			['B', 'reading', reading(-50)],
			['B', 'move', { ...moved, viaTurns: [] }],
			['B', 'reading', reading(-48)]
		);
		expect(fresh(later)).toEqual([false, true]);
	});
});

describe('locking', () => {
	const step = (
		fastener: string,
		beforeDbm: number,
		afterDbm: number,
		fastenerIndex = 0
	): LockStep => ({
		fastenerIndex,
		fastener,
		locks: 'azimuth',
		beforeDbm,
		afterDbm
	});

	it('names the fastener that cost the level', () => {
		const verdict = judgeDrift([step('upper', -43, -43.1), step('lower', -43.1, -44)]);
		expect(verdict.kind).toBe('step-drift');
		expect(verdict.culprit?.fastener).toBe('lower');
		expect(verdict.advice).toContain('azimuth');
		expect(verdict.advice).not.toContain('out of the order');
	});

	it('names the end, the way back, and an order that was not the sheet’s', () => {
		const verdict = judgeDrift(
			[step('upper', -43, -43.1, 0), step('lower', -43.1, -44, 3), step('left', -44, -44, 1)],
			'B'
		);
		expect(verdict.advice).toMatch(/^At B: the azimuth moved by 0\.9 dB at the lower\./);
		expect(verdict.advice).toContain('out of the order');
		expect(verdict.advice).toContain('-43.1 dBm again');
	});

	it('adds up small losses and mistrusts a rise', () => {
		const creeping = [0, 1, 2].map((i) => step(`n${i}`, -43 - i * 0.4, -43.4 - i * 0.4));
		expect(judgeDrift(creeping).kind).toBe('total-drift');
		expect(judgeDrift([step('upper', -44, -43)]).kind).toBe('suspicious-rise');
		expect(judgeDrift([step('upper', -43, -43.2)]).kind).toBe('held');
		expect(judgeDrift([]).kind).toBe('nothing-yet');
	});
});

describe('acceptance', () => {
	const locks = (end: 'A' | 'B'): ['A', 'lock-step', RecordPayloads['lock-step']][] =>
		input.ends[end].mount.fasteners.map(
			(fastener, fastenerIndex) =>
				[
					end,
					'lock-step',
					{
						fastenerIndex,
						fastener: fastener.name,
						locks: fastener.locks,
						torqueNm: fastener.torqueNm,
						beforeDbm: -43,
						afterDbm: -43.1,
						source: 'hand'
					}
				] as ['A', 'lock-step', RecordPayloads['lock-step']]
		);
	const judged = (records: FieldRecord[]): AcceptanceJudgement =>
		judgeAcceptance(stateAfter(input, records));
	const line = (records: FieldRecord[], code: string): AcceptanceLine =>
		judged(records).lines.find((candidate) => candidate.code === code)!;

	it('misses everything on an empty record', () => {
		const { complete, lines } = judged([]);
		expect(complete).toBe(false);
		expect(lines.filter((l) => l.verdict === 'missing')).toHaveLength(9);
	});

	it('passes a level inside the window, and finds one too high as suspect as one too low', () => {
		const planned = plan.received.A.plannedLevelDbm;
		expect(line(feed(['A', 'reading', reading(planned - 1.9, 'final')]), 'level-A').verdict).toBe(
			'pass'
		);
		expect(line(feed(['A', 'reading', reading(planned - 2.1, 'final')]), 'level-A').verdict).toBe(
			'deviation'
		);
		const high = line(feed(['A', 'reading', reading(planned + 2.5, 'final')]), 'level-A');
		expect(high.verdict).toBe('deviation');
		expect(high.reason).toContain('too high');
	});

	it('does not count a final reading taken before the last nut was turned', () => {
		const records = feed(['A', 'reading', reading(-43.9, 'final')], ...locks('A'));
		expect(line(records, 'level-A')).toMatchObject({ verdict: 'missing' });
	});

	it('takes the level of a standby unit against its own plan, and not from before a dish moved', () => {
		const standby = hopInput(
			{ configuration: configured('hot-standby') },
			{
				A: { coupling: part(catalogue.couplings, 'CU-26') },
				B: { coupling: part(catalogue.couplings, 'CU-26') }
			}
		);
		const standbyPlan = soundPlan(standby);
		const level = standbyPlan.carriers[1]!.received.A.plannedLevelDbm;
		const verdict = (records: FieldRecord[]): string =>
			judgeAcceptance(stateAfter(standby, records)).lines.find(
				(candidate) => candidate.code === 'carrier-A-b'
			)!.verdict;
		const read = (offDb: number): Parameters<typeof feed>[number] => [
			'A',
			'carrier-level',
			{ carrier: 2, levelDbm: level + offDb, source: 'hand' }
		];
		const moved: Parameters<typeof feed>[number] = [
			'B',
			'move',
			{ axis: 'tilt', toTurns: 1, viaTurns: [], source: 'hand' }
		];
		expect(verdict(feed(read(-1)))).toBe('pass');
		expect(verdict(feed(read(-4)))).toBe('deviation');
		expect(verdict(feed(read(-1), moved))).toBe('deviation');
		expect(verdict(feed(read(-1), moved, read(-0.5)))).toBe('pass');
	});

	it('finds the operating state that was not restored', () => {
		const forgotten = feed([
			'B',
			'operating-state',
			{ ...operating, powerControlAsPlanned: false }
		]);
		expect(line(forgotten, 'operating-B').verdict).toBe('deviation');
		expect(line(feed(['B', 'operating-state', operating]), 'operating-B').verdict).toBe('pass');
	});

	it('forgets the lock steps before a loosening', () => {
		const records = feed(...locks('A'), ['A', 'loosen', { reason: 'drifted' }]);
		expect(line(records, 'lock-A').verdict).toBe('missing');
	});
});

describe('bays of the masts', () => {
	const statesOf = (records: FieldRecord[], end: 'A' | 'B'): string[] =>
		stagesOf({
			issued: stateAfter(input, records),
			revisionNumber: 1,
			accepted: null
		})[end].map((bay) => bay.state);

	it('begin with the plan', () => {
		expect(
			stagesOf({ issued: undefined, revisionNumber: 0, accepted: null }).A.map((bay) => bay.state)
		).toEqual(['open', ...Array.from({ length: 6 }, () => 'later')]);
	});

	it('ask for no step of a building that was accepted as it stood, but for those of a new plan', () => {
		const built = (accepted: number | null, revisionNumber = 1): unknown =>
			stagesOf({
				issued: stateAfter(input, feed()),
				revisionNumber,
				accepted: accepted === null ? null : { revisionNumber: accepted, lastSeq: 0 }
			}).A.find(({ stage }) => stage === 'build');
		expect(built(null)).toMatchObject({ state: 'open' });
		expect(built(1)).toMatchObject({ state: 'done', note: 'Accepted as it was recorded.' });
		expect(built(1, 2)).toMatchObject({ state: 'open' });
	});

	it('wait for the other end where a gate stands', () => {
		const one = feed(['A', 'alignment-state', ready]);
		expect(statesOf(one, 'A')).toEqual([
			'done',
			'open',
			'done',
			'waiting',
			'later',
			'later',
			'later'
		]);
		const two = feed(['A', 'alignment-state', ready], ['B', 'alignment-state', ready]);
		expect(statesOf(two, 'A')[3]).toBe('open');
		expect(statesOf(two, 'B')[3]).toBe('waiting');
	});

	it('show trouble with the meter', () => {
		const records = feed(
			['A', 'alignment-state', ready],
			['B', 'alignment-state', ready],
			['A', 'reading', reading(null)]
		);
		expect(statesOf(records, 'A')[3]).toBe('trouble');
	});
});

describe('simulated hop', () => {
	const sim = simulatedHopOf(input, plan, 42);

	it('is the same from the same seed and another from another', () => {
		const again = simulatedHopOf(input, plan, 42);
		expect(again.meterVolts(again.start, 'A', 12, 3)).toBe(sim.meterVolts(sim.start, 'A', 12, 3));
		expect(again.boresightDeg).toEqual(sim.boresightDeg);
		expect(simulatedHopOf(input, plan, 43).boresightDeg).not.toEqual(sim.boresightDeg);
	});

	it('gives the planned level on axis and never less than the floor off it', () => {
		const onAxis = (['A', 'B'] as const).reduce(
			(position, end) =>
				(['azimuth', 'tilt'] as const).reduce((p, axis) => {
					const turns = sim.boresightDeg[end][axis];
					const adjuster = input.ends[end].mount[axis];
					const to = (Math.tan((turns * Math.PI) / 180) * adjuster.armMm) / adjuster.threadPitchMm;
					return sim.turn(sim.turn(p, end, axis, to - 1), end, axis, to + 0.06);
				}, position),
			sim.start
		);
		expect(sim.levelDbm(onAxis, 'A', 0)).toBeCloseTo(plan.received.A.plannedLevelDbm, 0);
		expect(sim.levelDbm(sim.start, 'A', 0)).toBeGreaterThanOrEqual(plan.received.A.floorDbm);
	});

	it('leaves the position it was given as it was', () => {
		const before = JSON.stringify(sim.start);
		sim.turn(sim.start, 'A', 'tilt', 4);
		sim.tighten(sim.start, 'B', 'azimuth', 1);
		expect(JSON.stringify(sim.start)).toBe(before);
	});

	it('has play in its threads: there and back leaves the dish aside', () => {
		const up = turnNut({ knobTurns: 0, dishTurns: 0 }, 2, 0.2, 10);
		expect(up.dishTurns).toBeCloseTo(1.9, 9);
		expect(turnNut(up, 0, 0.2, 10).dishTurns).toBeCloseTo(0.1, 9);
		expect(turnNut(up, 99, 0.2, 10).knobTurns).toBe(10);
	});

	it('is brought to the same place by replaying its records', () => {
		const records = feed(
			['A', 'move', { axis: 'azimuth', toTurns: 3, viaTurns: [2.5], source: 'simulated' }],
			['B', 'move', { axis: 'tilt', toTurns: -1, viaTurns: [], source: 'simulated' }],
			['B', 'move', { axis: 'tilt', toTurns: 5, viaTurns: [], source: 'hand' }]
		);
		const live = sim.turn(
			sim.turn(sim.turn(sim.start, 'A', 'azimuth', 2.5), 'A', 'azimuth', 3),
			'B',
			'tilt',
			-1
		);
		expect(replayMoves(sim, records)).toEqual(live);
		expect(replayMoves(sim, records.slice(1), replayMoves(sim, records.slice(0, 1)))).toEqual(live);
	});
});
