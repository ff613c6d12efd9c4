import { describe, expect, it } from 'vitest';
import { planHop } from '#core/budget/hopPlan';
import { levelDiagram } from '#core/budget/levelDiagram';
import { ENDS, farEnd } from '#core/ends';
import { EVERY_HOP } from './endFixture';
import { hopInput } from './planFixture';

describe('the level diagram', () => {
	it.each(EVERY_HOP)('of $name leads from what is sent to what is planned', ({ input }) => {
		const result = planHop(input);
		if (result.kind !== 'plan') throw new Error('no plan');
		for (const end of ENDS) {
			const diagram = levelDiagram(input, result.plan, end);
			expect(diagram.transmitDbm).toBeCloseTo(input.ends[farEnd(end)].alignmentPowerDbm, 9);
			expect(diagram.steps.at(-1)!.levelDbm).toBeCloseTo(
				result.plan.received[end].plannedLevelDbm,
				9
			);
			expect(diagram.overloadDbm).toBe(input.ends[end].radio.maxInputDbm);
			// Of what is not there nothing is drawn.
			expect(diagram.steps.every(({ changeDb }) => Math.abs(changeDb) >= 0.005)).toBe(true);
		}
	});

	it('puts what is lost before the path at the far end, and after it at this one', () => {
		const input = hopInput();
		const result = planHop(input);
		if (result.kind !== 'plan') throw new Error('no plan');
		const names = levelDiagram(input, result.plan, 'A').steps.map(({ name }) => name);
		const path = names.indexOf('free space');
		expect(names.indexOf('antenna at B')).toBeLessThan(path);
		expect(names.indexOf('antenna at A')).toBeGreaterThan(path);
		const { steps } = levelDiagram(input, result.plan, 'A');
		const { gain, loss } = Object.fromEntries([
			['gain', steps.find(({ name }) => name === 'antenna at A')!.changeDb],
			['loss', steps.find(({ name }) => name === 'free space')!.changeDb]
		]);
		expect(gain).toBeCloseTo(result.plan.received.A.receiveGainDbi, 9);
		expect(loss).toBeCloseTo(-result.plan.received.A.freeSpaceLossDb, 9);
	});
});
