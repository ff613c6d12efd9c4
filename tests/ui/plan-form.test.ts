import { describe, expect, it } from 'vitest';
import { HOP_DEFAULTS, UNKNOWN_CONDITIONS } from '#core/budget/planDefaults';
import { UNSAID_CLIMATE } from '#core/budget/climate';
import { computeLivePlan } from '$lib/ui/plan/compute';
import {
	draftValuesOf,
	emptyHopForm,
	hopFormOf,
	hopInputOf,
	type PickedSite,
	type SavedHop
} from '$lib/ui/plan/planForm';
import { readObstacles, readProfile, type CsvTable } from '$lib/ui/plan/profileCsv';
import { SHEETS, sheetOf } from '$lib/ui/plan/sheets';
import { validate } from '$lib/server/schemas/joi';
import { hopSchema } from '$lib/server/schemas/inputs';
import type { HopInput } from '$lib/server/services/hops';
import Papa from 'papaparse';
import { catalogue } from '../core/planFixture';

const site = (name: string, longitudeDeg: number): PickedSite => ({
	id: '11111111-1111-4111-8111-11111111111' + (longitudeDeg < -118.3 ? '1' : '2'),
	name,
	latitudeDeg: -46.2,
	longitudeDeg,
	groundAmslM: 120,
	climate: UNSAID_CLIMATE,
	conditions: UNKNOWN_CONDITIONS
});
const sites = { A: site('West', -118.4), B: site('East', -118.28) };

function filled(): ReturnType<typeof emptyHopForm> {
	const form = emptyHopForm('2026-05-04', catalogue);
	return { ...form, name: 'West to East', siteAId: sites.A.id, siteBId: sites.B.id };
}

describe('the form of a plan', () => {
	it('empty is a plan that the server takes as it is', () => {
		const input = validate<HopInput>(hopSchema, hopInputOf(filled()));
		expect(input.plan.configuration).toEqual(HOP_DEFAULTS.configuration);
		expect(input.plan.ends.A.secondTransmitFrequencyGhz).toBeNull();
		expect(input.plan.eirpLimitDbm).toBeNull();
	});

	it('gives the page the same numbers as the server', () => {
		const form = filled();
		form.obstacles.push({
			name: 'Grove',
			kind: 'trees',
			distanceKm: '1.5',
			lengthM: '40',
			heightM: '12'
		});
		form.landmarks.push({ name: 'Cairn', latitudeDeg: '-46.21', longitudeDeg: '-118.3' });
		form.acceptances.push({ key: 'pipe-unknown sites.A', text: 'Measured.' });
		form.eirpLimitDbm = '60';
		const { plan } = validate<HopInput>(hopSchema, hopInputOf(form));
		// The form keeps the day, the server the moment it begins.
		expect(draftValuesOf(form)).toEqual({ ...plan, workDate: '2026-05-04' });
	});

	it('of a saved hop is what was saved, and back again', () => {
		const { plan } = validate<HopInput>(hopSchema, hopInputOf(filled()));
		const profile = {
			source: 'typed',
			from: { latitudeDeg: -46.2, longitudeDeg: -118.4 },
			to: { latitudeDeg: -46.2, longitudeDeg: -118.28 },
			distancesM: [0, 4000, 9261.4],
			groundsAmslM: [120, 3, 120]
		};
		const saved: SavedHop = {
			id: 'x',
			name: 'West to East',
			sites,
			practice: true,
			version: 3,
			plan: { ...plan, path: { ...plan.path, profile }, eirpLimitDbm: 55.5, kFactor: 1.25 }
		};
		expect(draftValuesOf(hopFormOf(saved))).toEqual({ ...saved.plan, workDate: '2026-05-04' });
	});

	it.each([
		['an empty number', (form: ReturnType<typeof filled>) => (form.toleranceDb = '')],
		['letters', (form: ReturnType<typeof filled>) => (form.ends.A.transmitFrequencyGhz = 'far')],
		[
			'too large a number',
			(form: ReturnType<typeof filled>) => (form.ends.B.antennaHeightAglM = '1e309')
		],
		['no day', (form: ReturnType<typeof filled>) => (form.workDate = 'tomorrow')],
		[
			'an obstacle half typed',
			(form: ReturnType<typeof filled>) =>
				form.obstacles.push({ name: '', kind: 'other', distanceKm: '', lengthM: '0', heightM: '3' })
		]
	])('with %s is no plan yet', (_, change) => {
		const form = filled();
		change(form);
		expect(draftValuesOf(form)).toBeUndefined();
	});

	it('computes what the server would, with its review', () => {
		const draft = draftValuesOf(filled())!;
		const live = computeLivePlan({ name: 'x', draft, sites, neighbours: [] }, catalogue);
		if (live.kind !== 'computed' || live.result.kind !== 'plan')
			throw new Error(JSON.stringify(live));
		expect(live.result.plan.pathKm).toBeCloseTo(9.26, 1);
		expect(live.review.mayIssue).toBe(false);
		expect(live.review.findings.map((f) => f.code)).toContain('no-profile');
	});

	it('says which parts are unknown and which numbers are out of range instead of failing', () => {
		const draft = draftValuesOf(filled())!;
		const unknown = { ...draft, ends: { ...draft.ends, A: { ...draft.ends.A, dishCode: 'NONE' } } };
		expect(
			computeLivePlan({ name: 'x', draft: unknown, sites, neighbours: [] }, catalogue)
		).toEqual({
			kind: 'incomplete',
			what: 'Choose every part from the catalogue.'
		});
		const cold = { ...draft, temperatureC: -200 };
		expect(computeLivePlan({ name: 'x', draft: cold, sites, neighbours: [] }, catalogue).kind).toBe(
			'out-of-range'
		);
	});
});

describe('where a field is mended', () => {
	it.each([
		['ends.A.transmitFrequencyGhz', 'channel'],
		['ends.B.subBandUnit', 'channel'],
		['ends.A.antennaHeightAglM', 'path'],
		['ends.A.couplingCode', 'ends'],
		['ends.B.cableCode', 'ends'],
		['path.profile', 'path'],
		['requiredAvailabilityPercent', 'availability'],
		['wind.mastSwayDeg', 'looks'],
		['workDate', 'pointing'],
		['configuration.kind', 'channel']
	] as const)('%s on the sheet %s', (field, sheet) => expect(sheetOf(field)).toBe(sheet));

	it('every sheet that a field names exists, and a site is on none', () => {
		const ids = SHEETS.map((sheet) => sheet.id);
		for (const field of ['ends.A.radioCode', 'kFactor', 'search.compassSigmaDeg']) {
			expect(ids).toContain(sheetOf(field));
		}
		expect(sheetOf('sites.A')).toBeUndefined();
	});
});

describe('points and obstacles from a table', () => {
	const table = (text: string): CsvTable =>
		Papa.parse<Record<string, string>>(text.trim(), { header: true, skipEmptyLines: true });
	const profile = (text: string, lengthM = 1000): ReturnType<typeof readProfile> =>
		readProfile(table(text), 'points.csv', sites.A, sites.B, lengthM);

	it('are read and brought onto the length of the path', () => {
		const read = profile('distance_m,ground_m\n0,10\n400,30\n990,12');
		if (read.kind !== 'profile') throw new Error(read.message);
		expect(read.profile.distancesM).toEqual([0, 404.04, 1000]);
		expect(read.profile.source).toBe('imported from points.csv');
	});

	it.each([
		['a missing column', 'distance_m\n0\n1', 'no column ground_m'],
		['letters', 'distance_m,ground_m\n0,1\n500,x\n1000,2', 'Line 3, column ground_m'],
		[
			'distances that fall',
			'distance_m,ground_m\n0,1\n500,2\n400,3',
			'Line 4, column distance_m: distances must rise'
		],
		['no beginning', 'distance_m,ground_m\n5,1\n1000,2', 'first distance must be 0'],
		['no height on earth', 'distance_m,ground_m\n0,1\n1000,9900', 'no height on earth'],
		['another path', 'distance_m,ground_m\n0,1\n4000,2', 'another path'],
		['one point', 'distance_m,ground_m\n0,1', 'two points']
	])('with %s name the line and the reason', (_, text, reason) => {
		const read = profile(text);
		expect(read.kind).toBe('problem');
		if (read.kind === 'problem') expect(read.message).toContain(reason);
	});

	it('of obstacles are added as typed, or refused with the line', () => {
		const head = 'name,kind,distance_km,length_m,height_m';
		const good = readObstacles(table(`${head}\nGrove,trees,1.2,40,12\nMill,building,3,0,22`));
		expect(good.kind === 'obstacles' && good.obstacles.map((o) => o.name)).toEqual([
			'Grove',
			'Mill'
		]);
		for (const [row, reason] of [
			['Grove,bush,1,2,3', 'column kind'],
			['Grove,trees,x,2,3', 'column distance_km'],
			['Grove,trees,1,2,-3', 'below zero']
		] as const) {
			const bad = readObstacles(table(`${head}\n${row}`));
			expect(bad.kind === 'problem' && bad.message).toContain(reason);
		}
	});
});

describe('the cable that a new hop begins with', () => {
	const coaxialFirst = {
		...catalogue,
		cables: [...catalogue.cables].sort(
			(p, q) => Number(q.coaxial !== undefined) - Number(p.coaxial !== undefined)
		)
	};

	it('is one that its radio takes', () => {
		expect(coaxialFirst.cables[0]!.coaxial).toBeDefined();
		const { A } = emptyHopForm('2026-05-04', coaxialFirst).ends;
		expect(coaxialFirst.cables.find(({ code }) => code === A.cableCode)!.coaxial).toBeUndefined();
		const split = {
			...coaxialFirst,
			cables: [...coaxialFirst.cables].reverse(),
			radios: catalogue.radios.filter(({ intermediate }) => intermediate)
		};
		expect(emptyHopForm('2026-05-04', split).ends.A.cableCode).toBe('CX-10');
	});
});
