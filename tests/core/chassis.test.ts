import { describe, expect, it } from 'vitest';
import { planHop } from '#core/budget/hopPlan';
import type { EndPlanInput, HopPlanInput } from '#core/budget/planInput';
import {
	boardsInOrder,
	emptySlots,
	indoorConsumptionW,
	radioPorts,
	serviceCapacityMbitS,
	supplyFeeds
} from '#core/catalogue/chassis';
import { doubtsAbout } from '#core/catalogue/checkPart';
import type { BoardData, ChassisData, IndoorUnitPart } from '#core/catalogue/parts';
import { buildSteps, type BuildStep } from '#core/tower/buildSteps';
import { partsList } from '#core/tower/partsList';
import { builtHop } from './endFixture';
import { catalogue, part, soundPlan } from './planFixture';

const unit = part(catalogue.indoorUnits, 'IU-C7');
const closed = part(catalogue.indoorUnits, 'IU-8');
const chassis = unit.chassis!;
const withChassis = (change: Partial<ChassisData>): IndoorUnitPart => ({
	...unit,
	chassis: { ...chassis, ...change }
});
const changed = (slot: number, change: Partial<BoardData>): IndoorUnitPart =>
	withChassis({
		boards: chassis.boards.map((board) => (board.slot === slot ? { ...board, ...change } : board))
	});

describe('a chassis', () => {
	it('takes what its boards take, carries what its services carry, and says which slots are empty', () => {
		expect(indoorConsumptionW(unit)).toBe(6 + 22 + 14 + 14 + 9 + 3 + 8);
		expect(serviceCapacityMbitS(unit)).toBe(4000);
		expect(emptySlots(unit)).toEqual([5]);
		expect(supplyFeeds(unit)).toBe(2);
		expect(radioPorts(unit)).toEqual(['Slot 2, port 1', 'Slot 3, port 1']);
		const shuffled = withChassis({ boards: [...chassis.boards].reverse() });
		expect(boardsInOrder(shuffled)).toEqual(chassis.boards);
		expect(radioPorts(shuffled)).toEqual(radioPorts(unit));
	});

	it('is asked for nothing of where the unit is closed', () => {
		expect(indoorConsumptionW(closed)).toBe(closed.consumptionW);
		expect(serviceCapacityMbitS(closed)).toBeNull();
		expect([emptySlots(closed), supplyFeeds(closed)]).toEqual([[], 1]);
		expect(radioPorts(closed)).toHaveLength(closed.radioPorts);
		expect(radioPorts(closed)[7]).toBe('Port 8');
	});

	it.each([
		['a slot that is not there', changed(7, { slot: 9 }), 'chassis.boards.5.slot'],
		['a radio board without a port', changed(2, { ports: 0 }), 'chassis.boards.1.ports'],
		[
			'services that carry nothing',
			changed(4, { capacityMbitS: 0 }),
			'chassis.boards.3.capacityMbitS'
		],
		['nothing that controls it', changed(1, { kind: 'auxiliary' }), 'chassis.boards'],
		['another number of radio ports than it states', changed(2, { ports: 3 }), 'radioPorts']
	])('is doubted with %s', (_, doubtful, field) => {
		expect(doubtsAbout('indoor-unit', unit)).toEqual([]);
		expect(doubtsAbout('indoor-unit', doubtful).map((doubt) => doubt.field)).toContain(field);
	});
});

const hop = (change: Partial<EndPlanInput>): HopPlanInput => {
	const input = builtHop('dual-polarized', 'by coaxial cable');
	return { ...input, ends: { ...input.ends, A: { ...input.ends.A, ...change } } };
};
const codes = (input: HopPlanInput): string[] => {
	const result = planHop(input);
	const findings = result.kind === 'plan' ? result.plan.findings : result.findings;
	return findings.filter(({ field }) => field.startsWith('ends.A.')).map(({ code }) => code);
};

describe('the plan of an end with a chassis', () => {
	it('counts the boards in what the source must give', () => {
		const source = part(catalogue.powerSources, 'PS-48');
		const radios = 2 * part(catalogue.radios, 'RU-07C').consumptionW;
		const gives = (powerW: number): string[] => codes(hop({ powerSource: { ...source, powerW } }));
		expect(gives(radios + 76)).not.toContain('supply-power');
		expect(gives(radios + 75)).toContain('supply-power');
	});

	it('warns where its services carry less than the hop', () => {
		expect(codes(hop({}))).not.toContain('indoor-capacity');
		expect(codes(hop({ indoorUnit: changed(4, { capacityMbitS: 100 }) }))).toContain(
			'indoor-capacity'
		);
	});
});

describe('the building of a chassis', () => {
	const input = hop({});
	const steps = buildSteps(input, soundPlan(input), 'A');
	const step = (key: string): BuildStep => steps.find((one) => one.key === key)!;

	it('puts every board into its slot, closes the empty ones, and plugs after that', () => {
		expect(step('boards').quantity?.expected).toBe(6);
		expect(step('boards').lines).toHaveLength(6);
		expect(step('boards').lines[0]).toBe(
			'Slot 1: control and switching, switching board, 10 Gbit/s; levers in together'
		);
		expect(step('boards').caution).toMatch(/Static/);
		expect(step('fillers').why).toContain('Slot 5.');
		expect(step('fillers').quantity?.expected).toBe(1);
		expect(step('optics').why).toContain('30 mm');
		expect(step('optics').caution).toMatch(/Never look/);
		const places = ['indoor-earth', 'boards', 'fillers', 'indoor-power', 'boot'].map((key) =>
			steps.findIndex((one) => one.key === key)
		);
		expect(places).toEqual([...places].sort((p, q) => p - q));
		expect(step('indoor-power').title).toContain('each of its 2 feeds');
	});

	it('says each radio by slot and port, as it is then proved port by port', () => {
		expect(step('indoor-ports').lines[0]).toMatch(/^Slot 2, port 1: radio 1, .*vertical/);
		expect(step('indoor-ports').lines[1]).toMatch(/^Slot 3, port 1: radio 2, .*horizontal/);
		const { lines } = step('indoor-ports');
		expect(lines.map((line) => /; label “(.+)”$/.exec(line)![1])).toEqual([
			'A · radio 1 · V · slot 2, port 1',
			'A · radio 2 · H · slot 3, port 1'
		]);
		expect(step('port-check').lines).toEqual(lines.map((line) => line.replace(/; label .+$/, '')));
	});

	it('has every board, filler and module on the list', () => {
		const codes = partsList(input, 'A').map(({ code, count }) => `${code} ${count}`);
		for (const line of ['IU-C7 1', 'IU-C7-1 1', 'IU-C7-7 1', 'IU-C7-F 1', 'IU-C7-O 2']) {
			expect(codes).toContain(line);
		}
		expect(codes).not.toContain('IU-C7-5 1');
	});

	it('asks no board of a closed unit, and no filler where none is empty', () => {
		const keysOf = (indoorUnit: IndoorUnitPart): string[] => {
			const other = hop({ indoorUnit });
			return buildSteps(other, soundPlan(other), 'A').map(({ key }) => key);
		};
		for (const key of ['boards', 'fillers', 'optics', 'management']) {
			expect(keysOf(closed)).not.toContain(key);
		}
		expect(
			keysOf(
				withChassis({ slots: 6, boards: chassis.boards.map((b, i) => ({ ...b, slot: i + 1 })) })
			)
		).not.toContain('fillers');
	});
});
