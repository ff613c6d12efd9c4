import { describe, expect, it } from 'vitest';
import { judgeAcceptance, type AcceptanceLine } from '#core/accept/judgeAcceptance';
import type { EndPlanInput, HopPlanInput, PlannedService } from '#core/budget/planInput';
import {
	hopCapacityMbitS,
	radioCapacityMbitS,
	serviceLine,
	serviceQuestion
} from '#core/budget/services';
import { ENDS } from '#core/ends';
import { makeSiteSheet } from '#core/sheet/siteSheet';
import { buildSteps } from '#core/tower/buildSteps';
import { builtHop } from './endFixture';
import { feed, stateAfter, type Made } from './feed';
import { catalogue, part, soundPlan } from './planFixture';

const service = (change: Partial<PlannedService> = {}): PlannedService => ({
	...{ name: 'Harbour exchange', mbitS: 40, radio: 2 },
	...{ slotA: 4, portA: 1, slotB: 4, portB: 2, ...change }
});
/** A dual-polarized hop with a chassis at A and B. */
function hop(services: PlannedService[], own: Partial<EndPlanInput> = {}): HopPlanInput {
	const input = builtHop('dual-polarized', 'by coaxial cable', { services });
	const end = (at: 'A' | 'B'): EndPlanInput => ({
		...input.ends[at],
		indoorUnit: part(catalogue.indoorUnits, 'IU-C7'),
		...own
	});
	return { ...input, ends: { A: end('A'), B: end('B') } };
}
const findingsOf = (input: HopPlanInput): string[] => {
	return soundPlan(input)
		.findings.filter(({ code }) => /^(service|rack)/.test(code))
		.map(({ severity, code, field }) => `${severity} ${code} ${field}`);
};

describe('the services of a plan', () => {
	it('are quiet where each has a port of its own and a radio that carries it', () => {
		expect(
			findingsOf(hop([service(), service({ name: 'B', radio: 1, portA: 2, portB: 1 })]))
		).toEqual([]);
	});

	it.each<[string, PlannedService[], string[]]>([
		['a slot without a board', [service({ slotA: 5 })], ['error service-port services.0.slotA']],
		['a radio board', [service({ slotB: 2 })], ['error service-port services.0.slotB']],
		[
			'a port the board does not have',
			[service({ portA: 5 })],
			['error service-port services.0.slotA']
		],
		[
			'one port for two',
			[service(), service({ name: 'B', portB: 3 })],
			['error service-port-twice services.1.portA']
		],
		[
			'one name for two',
			[service(), service({ portA: 2, portB: 3 })],
			['error service-name-twice services.1.name']
		],
		['a radio that is not there', [service({ radio: 3 })], ['error service-radio services.0.radio']]
	])('are refused at their field: %s', (_, services, expected) => {
		expect(findingsOf(hop(services))).toEqual(expected);
	});

	it('carry no more than their radio, all of them no more than the hop', () => {
		const input = hop([]);
		const one = radioCapacityMbitS(input, 1)!;
		expect(hopCapacityMbitS(input)).toBeCloseTo(2 * one, 6);
		const full = [
			service({ mbitS: one * 0.6 }),
			service({ name: 'B', mbitS: one * 0.41, portA: 2, portB: 3 })
		];
		expect(findingsOf(hop(full))).toEqual(['warning service-load services.0.mbitS']);
		expect(findingsOf(hop(full.map((each) => ({ ...each, radio: 0 }))))).toEqual([]);
		const over = full.map((each) => ({ ...each, radio: 0, mbitS: each.mbitS * 2 }));
		expect(findingsOf(hop(over))).toEqual(['warning service-load services.0.mbitS']);
	});

	it('have no slot on a closed unit, and no radio of their own on one that stands by', () => {
		const closed = { indoorUnit: part(catalogue.indoorUnits, 'IU-8') };
		expect(findingsOf(hop([service({ slotA: 0 })], closed))).toEqual([
			'error service-port services.0.slotB'
		]);
		const standby = builtHop('hot-standby', 'direct', {
			services: [service({ slotA: 0, slotB: 0 })]
		});
		expect(findingsOf(standby)).toEqual(['error service-radio services.0.radio']);
	});

	it('are led from port to radio and plane in the steps of each end, and labelled', () => {
		const input = hop([service()]);
		const at = { A: 'Slot 4, port 1', B: 'Slot 4, port 2' };
		for (const end of ENDS) {
			const plane = input.ends[end].polarization === 'vertical' ? 'horizontal' : 'vertical';
			const line = `${at[end]}: Harbour exchange, 40 Mbit/s; by slot 3, port 1 to radio 2, ${plane}`;
			expect(serviceLine(input, end, service())).toBe(line);
			const step = buildSteps(input, soundPlan(input), end).find(
				({ base }) => base === 'service-cables'
			)!;
			expect(step.lines).toEqual([line]);
			const sheet = makeSiteSheet(input, soundPlan(input), end, 1);
			const ports = sheet.sections.find(({ title }) => title === 'Ports indoors')!;
			expect(ports.rows).toHaveLength(3);
			expect(ports.rows[1]!.note).toBe(`label “${end} · radio 2 · H · slot 3, port 1”`);
			expect(ports.rows[2]).toMatchObject({
				label: `Service, ${at[end].toLowerCase()}`,
				value: line.slice(line.indexOf(': ') + 2)
			});
			expect(step.quantity).toMatchObject({ unit: '', label: 'Labels' });
		}
		const none = hop([]);
		const bases = buildSteps(none, soundPlan(none), 'A').map(({ base }) => base);
		expect(bases).not.toContain('service-cables');
	});
});

describe('a rack', () => {
	it('takes what it has room for; nobody having looked, nothing is said', () => {
		const of = (rackFreeUnits: number | null): string[] => findingsOf(hop([], { rackFreeUnits }));
		expect(of(1)).toEqual([
			'error rack-full ends.A.rackFreeUnits',
			'error rack-full ends.B.rackFreeUnits'
		]);
		expect(of(2)).toEqual([]);
		expect(of(null)).toEqual([]);
	});

	it('is measured where the unit goes in', () => {
		const input = hop([]);
		const step = buildSteps(input, soundPlan(input), 'A').find(
			({ base }) => base === 'indoor-mount'
		)!;
		expect(step.quantity).toMatchObject({ label: 'Free height units found', unit: 'U' });
	});
});

describe('services in the acceptance', () => {
	const input = hop([service(), service({ name: 'Quay', radio: 0, portA: 2, portB: 3 })]);
	const lineOf = (...made: Made[]): AcceptanceLine | undefined =>
		judgeAcceptance(stateAfter(input, feed(...made))).lines.find(
			({ code }) => code === 'services-A'
		);
	const FIRST = 'Harbour exchange, slot 4, port 1, radio 2';
	const SECOND = 'Quay, slot 4, port 2, radio 0';
	const check = (answers: Record<string, 'yes' | 'no'>): Made => [
		'A',
		'service-check',
		{ answers, note: '' }
	];

	it('are proved one by one, and hold the signature up until then', () => {
		expect(lineOf()).toMatchObject({ verdict: 'missing', planned: '2 on their way' });
		expect(lineOf(check({ [FIRST]: 'yes' }))).toMatchObject({
			...{ verdict: 'missing', measured: '1 of 2', reason: 'Not proved: Quay.' }
		});
		const both = check({ [FIRST]: 'yes', [SECOND]: 'yes' });
		expect(lineOf(both)).toMatchObject({ verdict: 'pass', measured: '2 of 2' });
		expect(lineOf(check({ [FIRST]: 'yes', [SECOND]: 'no' }))).toMatchObject({
			...{ verdict: 'deviation', reason: expect.stringContaining('Quay') as string }
		});
		const changed: Made = [
			'A',
			'part-replaced',
			{ part: 'radio-2', code: 'RU-07C', serial: 'S', reason: 'Dead', photoIds: [] }
		];
		expect(lineOf(both, changed)).toMatchObject({ verdict: 'missing' });
		// Moved to another port by a later plan, a service is proved anew; what stands in its place inherits nothing.
		const [first, second] = input.services;
		const later = { ...input, services: [{ ...second!, portA: 1 }, first!] };
		const line = judgeAcceptance(stateAfter(later, feed(both))).lines.find(
			({ code }) => code === 'services-A'
		);
		expect(line).toMatchObject({ verdict: 'missing', reason: 'Not proved: Quay.' });
	});

	it('are none where the plan names none', () => {
		const state = stateAfter(hop([]), feed());
		expect(judgeAcceptance(state).lines.some(({ code }) => code.startsWith('services'))).toBe(
			false
		);
	});

	it('are asked by the one cheap test: a radio of the far end muted, or the plug out', () => {
		expect(serviceQuestion('A', service())).toBe(
			'Harbour exchange on slot 4, port 1: falls while radio 2 of B is muted, and comes back'
		);
		expect(serviceQuestion('B', service({ radio: 0 }))).toBe(
			'Harbour exchange on slot 4, port 2: falls at A while its plug is out here, and nothing else does'
		);
	});
});
