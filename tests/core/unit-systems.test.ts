import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ENDS } from '#core/ends';
import { makeSiteSheet } from '#core/sheet/siteSheet';
import { buildSteps } from '#core/tower/buildSteps';
import { fromSystem, spokenIn, toSystem, unitIn, type Quantity } from '#core/units/systems';
import { numberText } from '#core/units/text';
import { EVERY_HOP } from './endFixture';
import { soundPlan } from './planFixture';

const QUANTITIES = ['m', 'km', 'mm', 'm/s', 'kg', 'N·m'] as const;

describe('a quantity in another system', () => {
	// Exact by the definitions of 1959: 1 ft = 0.3048 m, 1 mi = 1609.344 m, 1 in = 25.4 mm, 1 lb = 0.45359237 kg.
	it.each<[Quantity, number, string, number]>([
		['m', 0.3048, 'ft', 1],
		['km', 1.609344, 'mi', 1],
		['mm', 25.4, 'in', 1],
		['m/s', 0.44704, 'mph', 1],
		['kg', 0.45359237, 'lb', 1],
		['N·m', 0.3048 * 0.45359237 * 9.80665, 'lbf·ft', 1]
	])('%s', (quantity, metric, unit, theirs) => {
		expect(unitIn('imperial', quantity)).toBe(unit);
		expect(toSystem('imperial', metric, quantity)).toBeCloseTo(theirs, 12);
		expect(unitIn('metric', quantity)).toBe(quantity);
		expect(toSystem('metric', metric, quantity)).toBe(metric);
	});

	it('comes back as it was', () => {
		fc.assert(
			fc.property(
				fc.double({ min: -1e6, max: 1e6, noNaN: true }),
				fc.constantFrom(...QUANTITIES),
				(value, quantity) => {
					const back = fromSystem('imperial', toSystem('imperial', value, quantity), quantity);
					expect(back).toBeCloseTo(value, 6);
				}
			)
		);
	});
});

describe('a text as somebody reads it', () => {
	it.each<[string, string]>([
		['30.0 m above ground', '98.4 ft (30.0 m) above ground'],
		['14.43 km, 7.616 GHz', '8.97 mi (14.43 km), 7.616 GHz'],
		['62 N·m', '46 lbf·ft (62 N·m)'],
		['strip 12 mm', 'strip 0.47 in (12 mm)'],
		['10 to 30 m', '33 to 98 ft (10 to 30 m)'],
		['1200 × 600 mm', '47.24 × 23.62 in (1200 × 600 mm)'],
		['stop above 12 m/s', 'stop above 27 mph (12 m/s)'],
		['−0.5 m', '−1.6 ft (−0.5 m)'],
		['weighs 18.5 kg, hoisted by 2', 'weighs 40.8 lb (18.5 kg), hoisted by 2'],
		// No quantity of ours: powers, levels, rates, areas, names and times.
		['−45.3 dBm in 28 MHz', '−45.3 dBm in 28 MHz'],
		['32 mm/h of rain', '32 mm/h of rain'],
		['4 m² of wind area', '4 m² of wind area'],
		['DP-120-07 meets 3 mast legs', 'DP-120-07 meets 3 mast legs'],
		['0.5 MΩ at 500 V, 10 min', '0.5 MΩ at 500 V, 10 min']
	])('%s', (metric, imperial) => {
		expect(spokenIn('imperial', metric)).toBe(imperial);
		expect(spokenIn('metric', metric)).toBe(metric);
	});

	it('keeps every number that it puts into other units', () => {
		fc.assert(
			fc.property(
				fc.double({ min: 0, max: 5000, noNaN: true }),
				fc.integer({ min: 0, max: 2 }),
				fc.constantFrom(...QUANTITIES),
				(value, digits, quantity) => {
					const said = `${numberText(value, digits)} ${quantity}`;
					const [, theirs] = /^(\S+) /.exec(spokenIn('imperial', said))!;
					const shown = toSystem('imperial', Number(said.split(' ')[0]), quantity);
					expect(Math.abs(Number(theirs) - shown)).toBeLessThanOrEqual(0.5 * 10 ** -digits + 1e-9);
					expect(spokenIn('imperial', said)).toContain(`(${said})`);
				}
			)
		);
	});
});

/** A metric quantity that stands by itself, not behind the other figure. */
const ALONE = /(?<![\w.])\d+(\.\d+)? (km|mm|m|kg|N·m)(?![\w/·²³])/;

describe.each(EVERY_HOP)('sheet and steps of $name', ({ input }) => {
	it('leave no length, weight or torque in metric alone', () => {
		const plan = soundPlan(input);
		for (const end of ENDS) {
			const sheet = makeSiteSheet(input, plan, end, 1);
			const texts = [
				...sheet.sections.flatMap(({ rows }) =>
					rows.flatMap(({ value, note }) => [value, note ?? ''])
				),
				...sheet.steps,
				...sheet.cautions,
				...buildSteps(input, plan, end).flatMap(({ title, why, lines, caution }) => [
					title,
					why,
					...lines,
					caution ?? ''
				])
			];
			expect(texts.some((text) => ALONE.test(text))).toBe(true);
			for (const text of texts) {
				const bare = spokenIn('imperial', text).replace(/\([^()]*\)/g, '');
				expect(bare).not.toMatch(ALONE);
			}
		}
	});
});
