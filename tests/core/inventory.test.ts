import { describe, expect, it } from 'vitest';
import { inventoryOf, itemsOf, liftedPieces, type Inventory } from '#core/budget/inventory';
import { planHop } from '#core/budget/hopPlan';
import type { ConfigurationKind } from '#core/budget/configurationKinds';
import { filmsOf } from '#core/tower/films';
import { partsToLabel } from '#core/tower/labels';
import { partsList } from '#core/tower/partsList';
import { builtHop, EVERY_HOP, type Build } from './endFixture';
import { soundPlan } from './planFixture';

const at = (kind: ConfigurationKind, build: Build = 'direct'): Inventory =>
	inventoryOf(builtHop(kind, build), 'A');

describe('the inventory of an end', () => {
	// Radios, dishes, runs of guide, and whether a coupling stands at the dish or at the foot: worked out by hand.
	it.each([
		['single', 'direct', 1, 1, 0, null],
		['single', 'by waveguide', 1, 1, 1, null],
		['hot-standby', 'direct', 2, 1, 0, 'dish'],
		// An even or uneven coupler keeps one plane: one run, and the coupler below.
		['hot-standby', 'by waveguide', 2, 1, 1, 'foot'],
		['frequency-diversity', 'direct', 2, 1, 0, 'dish'],
		['frequency-diversity', 'by waveguide', 2, 1, 1, 'foot'],
		['space-diversity', 'direct', 2, 2, 0, null],
		['space-diversity', 'by waveguide', 2, 2, 2, null],
		['dual-polarized', 'direct', 2, 1, 0, 'dish'],
		// A guide carries one plane: a run for every port of what joins both.
		['dual-polarized', 'by waveguide', 2, 1, 2, 'dish'],
		['four-radios', 'direct', 4, 1, 0, 'dish'],
		['four-radios', 'by waveguide', 4, 1, 4, 'dish'],
		['two-bands', 'direct', 2, 2, 0, null],
		// The guide of 7 GHz carries no 18 GHz: that radio sits on its own dish.
		['two-bands', 'by waveguide', 2, 2, 1, null]
	] as const)('of %s, %s', (kind, build, radios, dishes, runs, coupling) => {
		const found = at(kind, build);
		expect({
			radios: found.radios.length,
			dishes: found.dishes.length,
			runs: found.runs.length,
			coupling: found.coupling?.place ?? null
		}).toEqual({ radios, dishes, runs, coupling });
		expect(found.cables).toHaveLength(radios);
		const keys = itemsOf(found).map(({ key }) => key);
		expect(new Set(keys).size).toBe(keys.length);
	});

	it('gives every radio its own frequencies, unit, plane and seat', () => {
		expect(at('single').radios[0]).toMatchObject({
			name: 'Radio',
			seat: 'on the dish',
			transmitFrequencyGhz: 7.15,
			receiveFrequencyGhz: 7.346,
			subBandUnit: '1L'
		});
		const four = at('four-radios').radios;
		expect(
			four.map(({ seat, polarization, transmitFrequencyGhz }) => [
				seat,
				polarization,
				transmitFrequencyGhz
			])
		).toEqual([
			['on port 1 of the coupling', 'vertical', 7.15],
			['on port 2 of the coupling', 'vertical', 7.206],
			['on port 3 of the coupling', 'horizontal', 7.15],
			['on port 4 of the coupling', 'horizontal', 7.206]
		]);
		const bands = at('two-bands').radios;
		expect(
			bands.map(({ part, dish, transmitFrequencyGhz, subBandUnit }) => [
				part.code,
				dish,
				transmitFrequencyGhz,
				subBandUnit
			])
		).toEqual([
			['RU-07', 1, 7.15, '1L'],
			['RU-18', 2, 17.85, '1L']
		]);
		expect(at('two-bands', 'by waveguide').radios.map(({ seat }) => seat)).toEqual([
			'at the foot of the run to the dish',
			'on the second dish'
		]);
		expect(at('hot-standby').radios.map(({ role }) => role)).toEqual(['main', 'standby']);
		expect(at('space-diversity').radios.map(({ role, dish }) => [role, dish])).toEqual([
			['main', 1],
			['diversity', 2]
		]);
	});

	it('says of every dish where it stands and looks', () => {
		const input = builtHop('space-diversity', 'direct');
		const plan = soundPlan(input);
		const [first, second] = inventoryOf(input, 'A').dishes;
		expect(first!.tiltDeg).toBeCloseTo(plan.pointing.A.tiltDeg, 9);
		expect(second!.heightAglM).toBe(first!.heightAglM - 10);
		// Ten metres lower, to the same far dish 8.8 km off: 10/8830 rad more.
		expect(second!.tiltDeg - first!.tiltDeg).toBeCloseTo(
			((10 / (plan.pathKm * 1000)) * 180) / Math.PI,
			3
		);
		// Two bands look from the second to the second: both are lower, the tilt is the first one's.
		const bands = inventoryOf(builtHop('two-bands', 'direct'), 'A').dishes;
		expect(bands[1]!.tiltDeg).toBeCloseTo(bands[0]!.tiltDeg, 2);
		expect(bands.map(({ frequenciesGhz }) => frequenciesGhz)).toEqual([
			[7.15, 7.346],
			[17.85, 18.86]
		]);
		// A diversity dish only hears.
		expect(second!.frequenciesGhz).toEqual([7.346]);
		expect(bands[1]!.beamwidthDeg!).toBeLessThan(bands[0]!.beamwidthDeg!);
	});

	it('weighs what goes up, piece by piece or in one, and no radio that stays below', () => {
		const input = builtHop('dual-polarized', 'direct');
		const pieces = liftedPieces(input, inventoryOf(input, 'A'));
		// Dish 38 and mount 11; transducer 2.6; two radios of 4.8.
		expect(pieces.map(({ kg }) => kg)).toEqual([49, 2.6, 4.8, 4.8]);
		const whole = { ...input, building: { ...input.building, lift: 'whole' as const } };
		expect(
			liftedPieces(whole, inventoryOf(whole, 'A')).map(({ kg }) => Number(kg.toFixed(6)))
		).toEqual([61.2]);
		const split = builtHop('dual-polarized', 'by waveguide');
		expect(liftedPieces(split, inventoryOf(split, 'A')).map(({ kg }) => kg)).toEqual([49, 2.6]);
		// Two runs of 25.5 m at 0.9 kg/m go up too.
		expect(soundPlan(split).firstLook.A.hoist.totalKg).toBeCloseTo(49 + 2.6 + 2 * 22.95, 6);
	});

	it('is whole enough to be read while parts are still missing', () => {
		for (const { input, kind } of EVERY_HOP) {
			const bare = structuredClone(input);
			for (const end of ['A', 'B'] as const) {
				bare.ends[end].secondDish = null;
				bare.ends[end].secondRadio = null;
				bare.ends[end].coupling = null;
				bare.ends[end].cable = null;
				bare.ends[end].indoorUnit = null;
			}
			const found = inventoryOf(bare, 'A');
			expect([kind, found.dishes.length, found.coupling, found.cables.length]).toEqual([
				kind,
				1,
				null,
				0
			]);
			expect(found.radios.every(({ dish }) => dish === 1)).toBe(true);
		}
	});
});

describe('what is counted and read', () => {
	it.each(EVERY_HOP)('of $name names every part of it and nothing else', ({ input }) => {
		const inventory = inventoryOf(input, 'A');
		const list = partsList(input, 'A');
		const counted = (code: string): number => list.find((line) => line.code === code)?.count ?? 0;
		for (const code of new Set(inventory.radios.map(({ part }) => part.code))) {
			expect(counted(code)).toBe(inventory.radios.filter(({ part }) => part.code === code).length);
		}
		for (const { part } of inventory.dishes) {
			expect(counted(part.code)).toBe(
				inventory.dishes.filter((dish) => dish.part.code === part.code).length
			);
		}
		expect(counted('MB-M')).toBe(inventory.dishes.length);
		expect(counted('WE-07')).toBe(26 * inventory.runs.length);
		expect(counted('EK-R')).toBe(inventory.radios.length);
		const keys = new Set(itemsOf(inventory).map(({ key }) => key));
		for (const { item } of filmsOf(input, 'A')) expect(keys).toContain(item);
		for (const { part } of partsToLabel(input, 'A')) expect(keys).toContain(part);
	});

	it('reads each radio against its own frequencies', () => {
		const labels = partsToLabel(builtHop('frequency-diversity', 'direct'), 'A');
		expect(labels.find(({ part }) => part === 'radio-2')!.frequenciesGhz).toEqual([7.206, 7.402]);
		const bands = partsToLabel(builtHop('two-bands', 'direct'), 'B');
		expect(bands.map(({ part, frequenciesGhz }) => [part, frequenciesGhz])).toEqual([
			['radio-1', [7.346, 7.15]],
			['radio-2', [18.86, 17.85]],
			['dish', [7.346, 7.15]],
			['second-dish', [18.86, 17.85]]
		]);
	});

	it('counts tape for every joint outdoors, by the school of the hop where it names one', () => {
		const rolls = (
			change: Parameters<typeof builtHop>[2],
			build: Build = 'direct'
		): Record<string, number> =>
			Object.fromEntries(
				partsList(builtHop('single', build, change), 'A')
					.filter(({ unit }) => unit === 'roll')
					.map(({ code, count }) => [code, count])
			);
		const joints = (
			school: 'layered-tape' | 'compound-under-tape'
		): Pick<ReturnType<typeof builtHop>, 'building'> => ({
			building: { lift: 'separately' as const, joints: school, earthMm2: null }
		});
		expect(Object.keys(rolls(joints('compound-under-tape')))).toContain('CO-C');
		expect(Object.keys(rolls(joints('layered-tape')))).not.toContain('CO-C');
		const sum = (counts: Record<string, number>): number =>
			Object.values(counts).reduce((all, n) => all + n, 0);
		expect(sum(rolls(joints('layered-tape'), 'by waveguide'))).toBeGreaterThan(
			sum(rolls(joints('layered-tape')))
		);
	});
});

it('a second band that the run does not carry loses nothing in it', () => {
	const split = planHop(builtHop('two-bands', 'by waveguide'));
	if (split.kind !== 'plan') throw new Error('not planned');
	const [main, second] = split.plan.carriers;
	expect(main!.received.A.receiveFeederLossDb).toBeGreaterThan(1);
	expect(second!.received.A.receiveFeederLossDb).toBe(0);
});
