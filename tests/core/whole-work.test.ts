import { describe, expect, it } from 'vitest';
import { judgeAcceptance, type AcceptanceLine } from '#core/accept/judgeAcceptance';
import { inventoryOf } from '#core/budget/inventory';
import { sendersWhileAligning } from '#core/budget/senders';
import { ENDS, type End } from '#core/ends';
import { nextStep } from '#core/guide/nextStep';
import { polarizationBench } from '#core/guide/polarizationBench';
import { hopsAt, type HopState } from '#core/record/hopState';
import { radiosProblem, wholeAlignment, wholeOperation } from '#core/record/radioStates';
import { dishSuffix } from '#core/record/secondDish';
import { STAGES, stagesOf } from '#core/stage/stages';
import { ALL_REMAINING } from '#core/tower/buildState';
import { builtHop, EVERY_HOP } from './endFixture';
import { feed, stateAfter, type Made } from './feed';
import { catalogue, part, soundPlan } from './planFixture';

it('of two bands the narrower beam is to be the first, at either end', () => {
	const said = (atA: string): string[] => {
		const input = builtHop('two-bands', 'direct');
		const A = { ...input.ends.A, dish: part(catalogue.dishes, atA) };
		return soundPlan({ ...input, ends: { ...input.ends, A } })
			.findings.filter(({ code }) => code === 'wider-beam-first')
			.map(({ severity, field }) => `${severity} ${field}`);
	};
	// Beside 1.87° of the second band: 2.33° of 1.2 m at 7 GHz, 1.55° of 1.8 m.
	const atB = 'warning ends.B.secondDishCode';
	expect(said('DP-120-07')).toEqual(['warning ends.A.secondDishCode', atB]);
	expect(said('DP-180-07')).toEqual([atB]);
});

const STARTS = ['level', 'main-lobe', 'lock'] as const;

describe.each(EVERY_HOP)('after the building of $name', ({ input }) => {
	const keys = (end: End): string[] => inventoryOf(input, end).radios.map(({ key }) => key);
	const ready: Made[] = ENDS.flatMap((end): Made[] => [
		[end, 'step-skipped', { step: ALL_REMAINING, cause: 'Built before', authorisedBy: 'Ada Reef' }],
		[end, 'alignment-state', wholeAlignment(keys(end))]
	]);
	const state: HopState = stateAfter(input, feed(...ready));
	const lines = judgeAcceptance(state).lines;
	const lineOf = (code: string): AcceptanceLine | undefined =>
		lines.find((line) => line.code === code);

	it('every radio has a state of its own, and every dish a bench that says what is next', () => {
		for (const end of ENDS) {
			const { radios, dishes } = inventoryOf(input, end);
			const whole = { kind: 'alignment-state', payload: wholeAlignment(keys(end)) } as const;
			expect(radiosProblem(keys(end), whole)).toBeUndefined();
			expect(state.ends[end].alignmentStateConfirmed).toBe(true);
			if (radios.length > 1) expect(Object.keys(state.ends[end].radiosIn)).toEqual(keys(end));
			const benches = hopsAt(state, end);
			expect(benches.map(({ dish }) => dish)).toEqual(dishes.map(({ number }) => number));
			for (const { dish, hop } of benches) {
				const step = nextStep(hop, hop.baton, undefined);
				expect(step.kind).not.toBe('confirm-state');
				// Which transmitter is heard at it is said by number, of radios that are there.
				const told = sendersWhileAligning(input, end, dish);
				const numbers = [...told.matchAll(/radio (\d)/gi)].map(([, number]) => Number(number));
				if (radios.length > 1) expect(numbers).toHaveLength(radios.length);
				expect(numbers.every((number) => number <= radios.length)).toBe(true);
			}
		}
	});

	it('every dish is owed level, lobe, lock and torque, every radio its level, before anybody signs', () => {
		for (const end of ENDS) {
			const { radios, dishes, coupling } = inventoryOf(input, end);
			for (const { number } of dishes) {
				for (const start of STARTS) {
					const line = lineOf(`${start}-${end}${dishSuffix(number)}`);
					expect(['missing', 'deviation']).toContain(line?.verdict);
				}
			}
			// What comes in through a dish of its own has that dish's level; the others are read beside the first.
			const beside = radios.slice(1).filter(({ dish }) => dish === 1);
			for (const { number } of radios.slice(1)) {
				const carrier = lineOf(`carrier-${end}-${String.fromCharCode(96 + number)}`);
				expect(carrier !== undefined).toBe(beside.some((radio) => radio.number === number));
				if (carrier) expect(carrier.verdict).not.toBe('pass');
			}
			const { need } = polarizationBench(state, end);
			const asked = lines.filter(({ code }) => code.startsWith(`discrimination-${end}`));
			expect(asked).toHaveLength(need.dual ? 2 * need.pairs.length : 0);
			expect(need.dual).toBe(coupling?.bothPlanes === true);
		}
		expect(judgeAcceptance(state).complete).toBe(false);
	});

	it('names no part that is not there', () => {
		for (const end of ENDS) {
			const { radios, dishes } = inventoryOf(input, end);
			const own = lines.filter((line) => line.end === end);
			const text = own
				.map(({ label, planned, reason }) => `${label} ${planned} ${reason}`)
				.join(' ');
			const numbers = [...text.matchAll(/radio (\d)/gi)].map(([, number]) => Number(number));
			expect(numbers.every((number) => number <= radios.length)).toBe(true);
			if (dishes.length === 1) expect(text).not.toMatch(/second dish/i);
			else expect(text).toMatch(/second dish/i);
		}
	});

	it('goes from the foot of the mast to its top, and back into operation radio by radio', () => {
		const bays = stagesOf({ issued: state, revisionNumber: 1, accepted: null });
		for (const end of ENDS) {
			expect(bays[end].map(({ stage }) => stage)).toEqual([...STAGES]);
			const at = (stage: (typeof STAGES)[number]): string =>
				bays[end].find((bay) => bay.stage === stage)!.state;
			expect([at('power'), at('align'), at('accept')]).toEqual([
				'done',
				end === state.baton ? 'open' : 'waiting',
				'later'
			]);
			const own = lines.filter((line) => line.end === end).map(({ code }) => code);
			const order = [`level-${end}`, `lock-${end}`, `operating-${end}`, `closing-${end}`];
			expect(order.map((code) => own.indexOf(code))).toEqual(
				order.map((code) => own.indexOf(code)).sort((p, q) => p - q)
			);
		}
		const back = stateAfter(
			input,
			feed(
				...ready,
				...ENDS.map((end): Made => [end, 'operating-state', wholeOperation(keys(end))])
			)
		);
		for (const end of ENDS) {
			expect(back.ends[end].alignmentStateConfirmed).toBe(false);
			const line = judgeAcceptance(back).lines.find(({ code }) => code === `operating-${end}`);
			expect(line?.verdict).toBe('pass');
		}
	});
});
