import { describe, expect, it } from 'vitest';
import { CLOSING_QUESTIONS } from '#core/accept/closing';
import { closingStepsOf, nextClosingStep, type ClosingStep } from '#core/accept/closingSteps';
import { judgeAcceptance } from '#core/accept/judgeAcceptance';
import { serviceKey } from '#core/budget/services';
import { inventoryOf } from '#core/budget/inventory';
import type { HopPlanInput } from '#core/budget/planInput';
import { ENDS, farEnd, type End } from '#core/ends';
import { hopsAt, type HopState } from '#core/record/hopState';
import { operatingStateOf, wholeAlignment } from '#core/record/radioStates';
import { ALL_REMAINING } from '#core/tower/buildState';
import { builtHop, EVERY_HOP } from './endFixture';
import { feed, reading, stateAfter, type Made } from './feed';
import { soundPlan } from './planFixture';

const readyAt = (input: HopPlanInput): Made[] =>
	ENDS.flatMap((end): Made[] => [
		[end, 'step-skipped', { step: ALL_REMAINING, cause: 'Built before', authorisedBy: 'Ada Reef' }],
		[end, 'alignment-state', wholeAlignment(inventoryOf(input, end).radios.map(({ key }) => key))]
	]);

/** What a crew that does the step as the plan has it records for it. */
function doing(input: HopPlanInput, end: End, { kind, dish }: ClosingStep): Made {
	const planned = stateAfter(input);
	const hop = hopsAt(planned, end).find((one) => one.dish === dish)!.hop;
	const yes = (keys: string[]): Record<string, 'yes'> =>
		Object.fromEntries(keys.map((key) => [key, 'yes']));
	switch (kind) {
		case 'final-level': {
			const level = reading(hop.plan.received[end].plannedLevelDbm, 'final');
			return [end, 'reading', dish === 2 ? { ...level, dish } : level];
		}
		case 'operating':
			return [
				end,
				'operating-state',
				operatingStateOf(
					inventoryOf(input, end).radios.map(({ key }) => ({
						radio: key,
						...{ powerControlAsPlanned: true, adaptiveModulationAsPlanned: true },
						licensedPower: true
					}))
				)
			];
		case 'services':
			return [
				end,
				'service-check',
				{ answers: yes(input.services.map((one) => serviceKey(end, one))), note: '' }
			];
		case 'look':
			return [
				end,
				'closing-check',
				{ answers: yes(CLOSING_QUESTIONS.map(({ key }) => key)), note: '' }
			];
		case 'test':
			return [
				end,
				'error-test',
				{ test: 'soak', durationS: 900, erroredSeconds: 0, bitErrorRatio: null, note: '' }
			];
		case 'signature':
			return [end, 'crew-signature', { name: `Crew of ${end}`, method: 'typed' }];
	}
}

const stepsOf = (state: HopState, end: End): ClosingStep[] =>
	closingStepsOf(state, end, judgeAcceptance(state));

describe.each(EVERY_HOP)('the closing of $name', ({ input }) => {
	it('leads each end from the first level to its name, every step done by what it asks for', () => {
		const made = readyAt(input);
		for (const end of ENDS) {
			const order: string[] = [];
			for (let i = 0; i < 12; i++) {
				const state = stateAfter(input, feed(...made));
				const next = nextClosingStep(stepsOf(state, end));
				if (!next) break;
				order.push(next.key);
				made.push(doing(input, end, next));
			}
			const dishes = inventoryOf(input, end).dishes.length;
			expect(order).toEqual([
				'final-level',
				...(dishes > 1 ? ['final-level-second'] : []),
				'operating',
				...(input.services.length ? ['services'] : []),
				'look',
				// One test of the hop is enough: whoever is first runs it.
				...(end === 'A' ? ['test'] : []),
				'signature'
			]);
			const state = stateAfter(input, feed(...made));
			expect(stepsOf(state, end).map((step) => [step.key, step.state])).toEqual(
				stepsOf(state, end).map(({ key }) => [key, 'done'])
			);
		}
		// Nothing of the closing is missing then; what else is, was never done in this record.
		const missing = judgeAcceptance(stateAfter(input, feed(...made))).lines.filter(
			({ verdict, code }) =>
				verdict === 'missing' && /^(level|operating|services|closing|crew)/.test(code)
		);
		expect(missing).toEqual([]);
	});
});

describe('a step of the closing', () => {
	const input = builtHop('single', 'direct');
	const plan = soundPlan(input);
	const state = (...made: Made[]): HopState => stateAfter(input, feed(...readyAt(input), ...made));
	const step = (of: HopState, key: string, end: End = 'A'): ClosingStep =>
		stepsOf(of, end).find((one) => one.key === key)!;

	it('says what stands, and that it is not as the plan has it', () => {
		const level = plan.received.A.plannedLevelDbm;
		const on = step(state(['A', 'reading', reading(level, 'final')]), 'final-level');
		expect(on.state).toBe('done');
		expect(on.said).toContain('inside the window');
		const off = step(state(['A', 'reading', reading(level - 9, 'final')]), 'final-level');
		expect(off.state).toBe('off');
		expect(off.said).toContain('9.0 dB below the plan');
		expect(step(state(), 'final-level')).toMatchObject({ state: 'open', mayWait: false });
	});

	it('only what an acceptance can do without is put off', () => {
		const bare = state();
		const steps = stepsOf(bare, 'A');
		const keys = steps.map(({ key }) => key);
		expect(nextClosingStep(steps, keys)?.key).toBe('final-level');
		expect(steps.filter(({ mayWait }) => mayWait).map(({ key }) => key)).toEqual(['test']);
		const far = farEnd('A');
		const signed = state([far, 'crew-signature', { name: 'Bo', method: 'typed' }]);
		expect(step(signed, 'signature').mayWait).toBe(true);
		expect(step(signed, 'signature', far)).toMatchObject({ state: 'done', said: 'Bo' });
	});

	it('is owed again after something that voids it, and says so', () => {
		const soak = doing(input, 'A', step(state(), 'test'));
		const name = doing(input, 'A', step(state(), 'signature'));
		const moved: Made = [
			'A',
			'move',
			{ axis: 'azimuth', toTurns: 1, viaTurns: [], source: 'hand' }
		];
		expect(step(state(soak, name), 'test').state).toBe('done');
		const after = state(soak, name, moved);
		expect(step(after, 'test').state).toBe('open');
		expect(step(after, 'test').said).toContain('Run it again');
		expect(step(after, 'signature').state).toBe('open');
		expect(step(after, 'signature').said).toContain('signs again');
	});
});
