import { describe, expect, it } from 'vitest';
import { makeSiteSheet, type SheetRow, type SiteSheet } from '#core/sheet/siteSheet';
import { inventoryOf } from '#core/budget/inventory';
import { chainOf } from '#core/polarization/chain';
import { builtHop, EVERY_HOP } from './endFixture';
import { KNOWN_CONDITIONS, catalogue, configured, hopInput, part, soundPlan } from './planFixture';

function sheetOf(...change: Parameters<typeof hopInput>): SiteSheet {
	const input = hopInput(...change);
	return makeSiteSheet(input, soundPlan(input), 'A', 4);
}

const row = (sheet: SiteSheet, label: string): SheetRow | undefined =>
	sheet.sections.flatMap((section) => section.rows).find((candidate) => candidate.label === label);

describe('the site sheet', () => {
	it('tells what the place is like and where to keep clear', () => {
		const sheet = sheetOf(
			{},
			{ A: { conditions: { ...KNOWN_CONDITIONS, hazards: 'Bulls in the lower field' } } }
		);
		expect(row(sheet, 'Hazards')!.value).toBe('Bulls in the lower field');
		expect(row(sheet, 'Access')!.value).toBe('Track');
		expect(row(sheet, 'Keep clear')!.note).toContain('local rules');
		expect(row(sheetOf(), 'Hazards')).toBeUndefined();
	});

	it('has the bearing on the grid only where one is used', () => {
		expect(row(sheetOf(), 'Bearing on the grid')).toBeUndefined();
		const grid = sheetOf(
			{},
			{ A: { conditions: { ...KNOWN_CONDITIONS, gridCentralMeridianDeg: -117 } } }
		);
		expect(row(grid, 'Bearing on the grid')!.note).toContain('convergence');
	});

	it('names landmarks near the line and how far to search', () => {
		const sheet = sheetOf({
			landmarks: [{ name: 'Cairn', latitudeDeg: -46.222, longitudeDeg: -118.3428 }]
		});
		expect(row(sheet, 'Cairn')!.value).toMatch(/° right of the line/);
		expect(row(sheet, 'Search, azimuth')!.value).toContain('turns across');
		const far = sheetOf({ search: { compassSigmaDeg: 12, levelSigmaDeg: 0.5 } });
		expect(row(far, 'Search, azimuth')!.note).toContain('turns short');
	});

	it('says which unit, which coupling, and the level of every carrier', () => {
		const both = {
			radio: part(catalogue.radios, 'RU-18'),
			dish: part(catalogue.dishes, 'DP-090-18'),
			coupling: part(catalogue.couplings, 'OT-18'),
			transmitPowerDbm: 14,
			alignmentPowerDbm: 14
		};
		const sheet = sheetOf(
			{ configuration: configured('dual-polarized', 20) },
			{
				A: { ...both, transmitFrequencyGhz: 17.85, subBandUnit: '1L' },
				B: { ...both, transmitFrequencyGhz: 18.86, subBandUnit: '1H' }
			}
		);
		expect(row(sheet, 'Radio 1')!.note).toBe('sub-band unit 1L, on straight port of the coupling');
		expect(row(sheet, 'Sends / receives, radio 2')!.note).toContain('horizontal');
		expect(row(sheet, 'Coupling')!.value).toContain('OT-18');
		expect(row(sheet, 'Configuration')!.value).toContain('both polarizations');
		expect(row(sheet, 'Other polarization')!.note).toContain('horizontal');
		expect(row(sheetOf(), 'Coupling')).toBeUndefined();
	});

	it('warns of what a side lobe would read, so that nobody locks on one', () => {
		const sheet = sheetOf();
		const plan = soundPlan(hopInput());
		const lobe = plan.received.A.plannedLevelDbm - plan.dish.A.firstSideLobeDb;
		expect(row(sheet, 'On a side lobe here')!.value).toContain(Math.abs(lobe).toFixed(1));
	});
});

describe('the sheet of every configuration', () => {
	it.each(EVERY_HOP)(
		'of $name names every dish, radio and frequency, and nothing else',
		({ input }) => {
			const sheet = makeSiteSheet(input, soundPlan(input), 'A', 1);
			const { radios, dishes, coupling, runs } = inventoryOf(input, 'A');
			for (const radio of radios) {
				const of = radios.length > 1 ? `, radio ${radio.number}` : '';
				const equipment = sheet.sections.find(({ title }) => title === 'Equipment')!;
				expect(equipment.rows.find(({ label }) => label === radio.name)!.value).toContain(
					radio.part.code
				);
				if (radio.role === 'diversity') {
					expect(row(sheet, `Receives${of}`)!.value).toBe(
						`${radio.receiveFrequencyGhz.toFixed(3)} GHz`
					);
					expect(row(sheet, `Power${of}`)).toBeUndefined();
					continue;
				}
				expect(row(sheet, `Sends / receives${of}`)!.value).toBe(
					`${radio.transmitFrequencyGhz.toFixed(3)} / ${radio.receiveFrequencyGhz.toFixed(3)} GHz`
				);
				expect(row(sheet, `Power${of}`)!.value).toContain(`${radio.alignmentPowerDbm} dBm`);
			}
			for (const dish of dishes) expect(row(sheet, dish.name)!.value).toContain(dish.part.code);
			expect(row(sheet, 'Tilt, second dish') !== undefined).toBe(dishes.length === 2);
			expect(row(sheet, 'Coupling') !== undefined).toBe(coupling !== null);
			if (runs.length > 1) expect(row(sheet, 'Feeders')!.value).toContain(`${runs.length} × WE-07`);
			// The same joints, set alike, as the building looks at.
			for (const joint of chainOf(input, 'A').filter(({ proves }) => proves === null)) {
				expect(row(sheet, joint.part)!.value).toBe(joint.shows[joint.expected]);
			}
			const text = JSON.stringify(sheet);
			expect(text).not.toMatch(/undefined|NaN/);
			expect(text.includes('standby unit')).toBe(input.configuration.kind === 'hot-standby');
			expect(text.includes('second dish by itself')).toBe(
				input.configuration.kind === 'space-diversity'
			);
		}
	);

	it('says who is needed, what they bring and how both crews are reached', () => {
		const input = builtHop('single', 'direct');
		input.ends.A.crewContact = 'Bram and Ilse, channel 7';
		input.ends.B.crewContact = 'Suvi, channel 7';
		const sheet = makeSiteSheet(input, soundPlan(input), 'A', 1);
		expect(row(sheet, 'Crew at A')!.value).toBe('Bram and Ilse, channel 7');
		expect(row(sheet, 'Crew at B')!.value).toBe('Suvi, channel 7');
		expect(row(sheet, 'Tools')!.value).toContain('Torque wrench');
		expect(row(sheet, 'People')!.value).toBe('3 at most at once');
		expect(row(sheetOf(), 'Crew at A')).toBeUndefined();
	});

	it('sets a feed on the sheet as the building does', () => {
		const blade = builtHop('single', 'direct');
		expect(row(makeSiteSheet(blade, soundPlan(blade), 'A', 1), 'Feed, DP-120-07')).toMatchObject({
			value: 'blade level, across the short wall',
			note: 'blade in the throat of the feed'
		});
	});
});
