import { describe, expect, it } from 'vitest';
import { inventoryOf, itemsOf, type InventoryItem } from '#core/budget/inventory';
import type { HopPlanInput } from '#core/budget/planInput';
import { chainOf } from '#core/polarization/chain';
import type { BuildStep, Duty } from '#core/tower/buildStep';
import { ORDER_FACTS } from '#core/tower/buildOrder';
import { buildSteps } from '#core/tower/buildSteps';
import { toolLines, torquesOf, wrenchesFor } from '#core/tower/tools';
import { builtHop, EVERY_HOP } from './endFixture';
import { catalogue, hopInput, part, soundPlan } from './planFixture';

const made = new Map<HopPlanInput, readonly BuildStep[]>();
function stepsOf(input: HopPlanInput): readonly BuildStep[] {
	const steps = made.get(input) ?? buildSteps(input, soundPlan(input), 'A');
	made.set(input, steps);
	return steps;
}
const whole = (input: HopPlanInput): HopPlanInput => ({
	...input,
	building: { ...input.building, lift: 'whole' }
});
/** Every configuration and build, lifted in either way. */
const EVERY_WORK = EVERY_HOP.flatMap(({ name, input, kind, build }) => [
	{ name: `${name}, piece by piece`, input, kind, build },
	{ name: `${name}, as one`, input: whole(input), kind, build }
]);

/** What every part of an inventory is owed. */
const OWED: Record<InventoryItem['kind'], readonly Duty[]> = {
	radio: ['configure', 'receive', 'mount', 'earth', 'connect', 'power', 'torque'],
	dish: ['receive', 'mount', 'torque'],
	mount: ['receive', 'torque'],
	coupling: ['receive', 'mount', 'torque'],
	run: ['receive', 'mount', 'earth', 'connect', 'torque'],
	cable: ['receive', 'mount', 'earth', 'connect'],
	'indoor-unit': ['receive', 'mount', 'earth', 'connect', 'power'],
	'power-source': ['receive', 'mount', 'earth', 'connect', 'power']
};

describe.each(EVERY_WORK)('the work of $name', ({ input }) => {
	const steps = stepsOf(input);
	const inventory = inventoryOf(input, 'A');
	const items = itemsOf(inventory);

	it('does for every part what it is owed', () => {
		const missing = items.flatMap((item) =>
			OWED[item.kind]
				.filter(
					(duty) =>
						!steps.some((step) => step.duties.includes(duty) && step.items.includes(item.key))
				)
				.map((duty) => `${item.key}: ${duty}`)
		);
		expect(missing).toEqual([]);
	});

	it('names no part that is not there', () => {
		const keys = new Set(items.map(({ key }) => key));
		for (const step of steps) {
			for (const item of step.items) expect(keys).toContain(item);
			if (step.radio !== null) expect(inventory.radios[step.radio - 1]).toBeDefined();
			if (step.dish) expect(inventory.dishes[step.dish - 1]).toBeDefined();
		}
		const words = steps.map(({ title, why, lines }) => [title, why, ...lines].join(' ')).join(' ');
		if (inventory.dishes.length === 1) expect(words).not.toMatch(/second dish/i);
		if (inventory.runs.length === 0) expect(words).not.toMatch(/\b(the runs?|hangers?)\b/i);
		if (!inventory.coupling) expect(words).not.toMatch(/coupling|transducer/i);
		for (let number = inventory.radios.length + 1; number <= 4; number++) {
			expect(words).not.toMatch(new RegExp(`radio ${number}\\b`, 'i'));
		}
		expect(words).not.toMatch(/undefined|NaN|null/);
	});

	it('looks at every joint of the plane once', () => {
		const looked = steps.flatMap(({ joints }) => joints);
		expect([...looked].sort()).toEqual(
			chainOf(input, 'A')
				.map(({ key }) => key)
				.sort()
		);
	});

	it('stands in the order of every fact, and has names of its own', () => {
		const keys = steps.map(({ key }) => key);
		expect(new Set(keys).size).toBe(keys.length);
		for (const key of keys) expect(key).toMatch(/^[a-z0-9-]{1,40}$/);
		const place = new Map(keys.map((key, i) => [key, i]));
		for (const step of steps) {
			for (const { key, reason } of step.after) {
				expect([step.key, key, place.get(key)! < place.get(step.key)!]).toEqual([
					step.key,
					key,
					true
				]);
				expect(reason).not.toBe('');
			}
		}
	});

	it('is done by people, with tools that were counted, and every torque by a wrench that gives it', () => {
		const packed = toolLines(input, 'A', steps);
		for (const { people } of steps) expect(people).toBeGreaterThanOrEqual(1);
		const wrenches = wrenchesFor(torquesOf(input, 'A', steps));
		for (const torqueNm of torquesOf(input, 'A', steps)) {
			expect(wrenches.some(({ fromNm, toNm }) => fromNm <= torqueNm && torqueNm <= toNm)).toBe(
				true
			);
		}
		expect(packed.filter(({ code }) => code.startsWith('TL-T'))).toHaveLength(wrenches.length);
		for (const step of steps) {
			if (step.gate?.kind === 'lift') expect(step.tools).toContain('lifting-gear');
			if (step.torquesNm.length)
				expect(step.title + step.why + (step.quantity?.label ?? '')).toMatch(/N·m/);
		}
	});

	it('says caution where the work can hurt', () => {
		const careful =
			/^(hoist|guide-hoist|voltage|indoor-power|gland|earth-leads|flanges|mount-radio|pipe$)/;
		for (const step of steps.filter(({ base }) => careful.test(base))) {
			expect([step.key, step.caution ?? '']).not.toEqual([step.key, '']);
		}
	});
});

const FACT_WORK = EVERY_WORK.flatMap(({ input, kind }) =>
	kind === 'single' ? [input, ethernet(input)] : [input]
);

describe('every fact of order', () => {
	it.each(ORDER_FACTS)('“$name” holds somewhere, and is said to who waits', (fact) => {
		const held = FACT_WORK.filter((input) => {
			const steps = stepsOf(input);
			const first = steps.filter(({ base }) => fact.first.includes(base)).map(({ key }) => key);
			return steps.some(
				({ base, after }) =>
					fact.then.includes(base) &&
					after.some(({ key, reason }) => first.includes(key) && reason === fact.reason)
			);
		});
		expect(held.length).toBeGreaterThan(0);
	});

	// The order that the people who do the work give, by name.
	it.each([
		['warm-up', 'packing'],
		['parties', 'packing'],
		['configure', 'hoist'],
		['chain', 'tight'],
		['tight', 'hoist'],
		['hoist', 'films'],
		['films', 'flanges'],
		['foot-films', 'foot-radio'],
		['foot-radio', 'foot-flanges'],
		['flanges', 'guide-dry'],
		['guide-hoist', 'guide-caps'],
		['guide-caps', 'flanges'],
		['earth-leads', 'voltage'],
		['indoor-power', 'voltage'],
		['gland', 'boot']
	])('%s comes before %s', (first, then) => {
		const steps = stepsOf(builtHop('dual-polarized', 'by waveguide')).map(({ base }) => base);
		const plain = stepsOf(builtHop('single', 'by waveguide')).map(({ base }) => base);
		const order = steps.includes(first) ? steps : plain;
		expect(order).toContain(first);
		expect(order.indexOf(first)).toBeLessThan(order.indexOf(then));
	});
});

/** The same end fed over pairs. */
function ethernet(input: HopPlanInput): HopPlanInput {
	const fed = structuredClone(input);
	for (const end of ['A', 'B'] as const) {
		fed.ends[end].cable = part(catalogue.cables, 'ET-08');
	}
	return fed;
}

describe('the words of a step', () => {
	const of = (input: HopPlanInput, key: string): BuildStep => {
		const found = stepsOf(input).find((step) => step.key === key);
		if (!found) throw new Error(`no step ${key}`);
		return found;
	};
	const crossed = (input: HopPlanInput): HopPlanInput => {
		const turned = structuredClone(input);
		for (const end of ['A', 'B'] as const) turned.ends[end].polarization = 'horizontal';
		return turned;
	};

	it('say of a radio what its own sheet shows for its own plane', () => {
		expect(of(hopInput(), 'mount-radio').why).toContain('Handle up (vertical).');
		expect(of(crossed(hopInput()), 'mount-radio').why).toContain(
			'Handle to the right, seen from behind (horizontal).'
		);
	});

	it('ask no blade level of a feed that both planes pass', () => {
		const dual = builtHop('dual-polarized', 'direct');
		const keys = chainOf(dual, 'A').map(({ key }) => key);
		expect(keys).not.toContain('feed');
		expect(keys).not.toContain('wall');
		expect(of(dual, 'both-planes').why).toContain('Blade taken out of the throat');
		expect(of(builtHop('single', 'direct'), 'chain').joints).toEqual(['feed', 'wall']);
	});

	it('leave a feed that turns as it was delivered, whatever the plane: the transducer sets it', () => {
		const turned = crossed(
			hopInput(
				{ configuration: { ...hopInput().configuration, kind: 'dual-polarized' } },
				{
					A: { coupling: part(catalogue.couplings, 'OT-26') },
					B: { coupling: part(catalogue.couplings, 'OT-26') }
				}
			)
		);
		const feed = chainOf(turned, 'A').find(({ key }) => key === 'feed');
		expect(feed).toMatchObject({ expected: 'vertical', delivered: 'vertical' });
		const walls = chainOf(turned, 'A').filter(({ key }) => key.startsWith('port-wall'));
		expect(walls.map(({ expected, proves }) => [expected, proves])).toEqual([
			['horizontal', 'coupling'],
			['vertical', 'coupling']
		]);
	});

	it('turn nothing at the foot of a guide by the plane of the hop', () => {
		expect(chainOf(builtHop('hot-standby', 'by waveguide'), 'A').map(({ key }) => key)).toEqual([
			'feed',
			'wall'
		]);
	});

	it('hear and send each radio’s own frequencies on the desk', () => {
		const lines = of(builtHop('two-bands', 'direct'), 'configure-radio-2').lines;
		expect(lines[0]).toBe('Sends 17.8500 GHz, hears 18.8600 GHz');
		expect(of(builtHop('space-diversity', 'direct'), 'configure-radio-2').lines).toEqual([
			'Only hears 7.3460 GHz: its transmitter off',
			'Channel 28.0 MHz',
			'Fixed modulation 4 QAM',
			'ACM off'
		]);
	});

	it('count O-rings, films and earth for every dish and radio', () => {
		const two = builtHop('space-diversity', 'direct');
		expect(of(two, 'o-rings-second-dish').quantity?.expected).toBe(1);
		expect(of(two, 'films').quantity?.expected).toBe(5);
		expect(of(two, 'earth-leads').quantity?.expected).toBe(2);
		expect(of(builtHop('four-radios', 'direct'), 'earth-leads').quantity?.expected).toBe(4);
	});

	it('ask for the conductor that the local code asks for, and say where nobody has typed it', () => {
		const coded = hopInput({ building: { lift: 'separately', joints: 'as-part', earthMm2: 16 } });
		expect(of(coded, 'earth-conductor').quantity).toMatchObject({ low: 16 });
		expect(of(hopInput(), 'earth-conductor').quantity).toMatchObject({
			low: 2.5,
			from: 'supply conductor 2.5 mm²; nobody has typed what the local code asks: ask'
		});
	});

	it('ask which port feeds which radio where two can be changed over', () => {
		const four = of(builtHop('four-radios', 'direct'), 'port-check');
		expect(four.quantity?.expected).toBe(4);
		expect(four.lines[2]).toBe(
			'Port 3: radio 3, RU-07, on port 3 of the coupling; horizontal, 7.346 GHz received'
		);
		const bases = stepsOf(builtHop('single', 'direct')).map(({ base }) => base);
		expect(bases).not.toContain('port-check');
	});

	it('test a cable by what it is made of', () => {
		const bases = (input: HopPlanInput): string[] => stepsOf(input).map(({ base }) => base);
		expect(bases(hopInput())).toEqual(expect.arrayContaining(['continuity', 'insulation']));
		expect(bases(hopInput())).not.toContain('wire-map');
		expect(bases(ethernet(hopInput()))).toContain('wire-map');
		expect(bases(ethernet(hopInput()))).not.toContain('continuity');
	});
});

describe('torque wrenches', () => {
	it('reach the greatest torque and are as few as give every one', () => {
		expect(wrenchesFor([90, 18, 24])).toEqual([{ fromNm: 18, toNm: 90 }]);
		expect(wrenchesFor([90, 17, 4])).toEqual([
			{ fromNm: 90, toNm: 90 },
			{ fromNm: 4, toNm: 17 }
		]);
		expect(wrenchesFor([])).toEqual([]);
	});
});
