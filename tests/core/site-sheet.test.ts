import { describe, expect, it } from 'vitest';
import { makeSiteSheet, type SheetRow, type SiteSheet } from '#core/sheet/siteSheet';
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
		expect(row(sheet, 'Radio')!.note).toBe('sub-band unit 1L');
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
