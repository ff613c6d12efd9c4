import { describe, expect, it } from 'vitest';
import { HOP_DEFAULTS } from '#core/budget/planDefaults';
import { bodyOf, pickedBy, typedOf, valuesOf, type TypedOf } from '#core/budget/fieldTable';
import {
	END_FIELDS,
	END_INITIAL,
	HOP_FIELDS,
	PATH_FIELDS,
	PLAN_FIELDS,
	PLAN_INITIAL
} from '#core/budget/planFields';
import type { EndFieldValues, PathFieldValues, PlanFieldValues } from '#core/budget/planInput';

const plan: PlanFieldValues = {
	...PLAN_INITIAL,
	polarization: 'horizontal',
	channelWidthMhz: 27.5,
	operatingModulation: '64 QAM',
	workDate: '2027-03-04',
	landmarks: [{ name: 'Chimney', latitudeDeg: -46.2, longitudeDeg: 11 }]
};
const typed = (change: Partial<TypedOf<PlanFieldValues>> = {}): TypedOf<PlanFieldValues> => ({
	...typedOf<PlanFieldValues>(PLAN_FIELDS, plan),
	...change
});

describe('the fields of a plan', () => {
	it('become text for typing and the same values again', () => {
		expect(typed()).toMatchObject({
			channelWidthMhz: '27.5',
			eirpLimitDbm: '',
			kFactor: '1.3333',
			configuration: { kind: 'single', cancellerDb: '0' },
			wind: { operatingMS: '30', survivalMS: '55', mastSwayDeg: '0.1' },
			landmarks: [{ name: 'Chimney', latitudeDeg: '-46.2', longitudeDeg: '11' }]
		});
		expect(valuesOf<PlanFieldValues>(PLAN_FIELDS, typed())).toEqual({ ...plan, kFactor: 1.3333 });
	});

	it('show a stored moment as its day', () => {
		const stored = { ...plan, workDate: '2027-03-04T00:00:00.000Z' };
		expect(typedOf<PlanFieldValues>(PLAN_FIELDS, stored).workDate).toBe('2027-03-04');
	});

	it('leave out what the table does not name', () => {
		const more = { ...plan, acceptances: {}, ends: {} };
		expect(Object.keys(typedOf<PlanFieldValues>(PLAN_FIELDS, more))).not.toContain('ends');
		expect(Object.keys(pickedBy(HOP_FIELDS, plan))).toEqual(Object.keys(HOP_FIELDS));
		expect(pickedBy(HOP_FIELDS, plan)).not.toHaveProperty('workDate');
	});

	it.each([
		['an empty number', { channelWidthMhz: ' ' }],
		['a number in words', { toleranceDb: 'two' }],
		['no finite number', { kFactor: 'Infinity' }],
		['an empty number in a group', { wind: { ...typed().wind, survivalMS: '' } }],
		['a wrong number in a list', { landmarks: [{ ...typed().landmarks[0]!, latitudeDeg: 'x' }] }],
		['no day', { workDate: '' }],
		['a day that there is not', { workDate: '2027-13-40' }]
	])('are no values yet with %s', (_, change) => {
		expect(valuesOf<PlanFieldValues>(PLAN_FIELDS, typed(change))).toBeUndefined();
	});

	it('are none where there need be none, and are sent as such', () => {
		const none = typed({ eirpLimitDbm: ' ' });
		expect(valuesOf<PlanFieldValues>(PLAN_FIELDS, none)!.eirpLimitDbm).toBeNull();
		const some = typed({ eirpLimitDbm: ' 44.5 ' });
		expect(valuesOf<PlanFieldValues>(PLAN_FIELDS, some)!.eirpLimitDbm).toBe(44.5);
		// What was typed is sent as it was typed: the server names what is wrong with it.
		expect(bodyOf(PLAN_FIELDS, none)).toMatchObject({ eirpLimitDbm: null });
		expect(bodyOf(PLAN_FIELDS, typed({ channelWidthMhz: 'wide' }))).toMatchObject({
			channelWidthMhz: 'wide'
		});
		// Also deep inside.
		const ifAny = { type: 'number', label: 'L', from: 0, to: 9, orNone: true } as const;
		const table = { g: { type: 'group', label: 'G', fields: { n: ifAny } } } as const;
		expect(bodyOf(table, { g: { n: ' ' } })).toEqual({ g: { n: null } });
		const list = { l: { type: 'list', label: 'L', most: 3, item: { n: ifAny } } } as const;
		expect(bodyOf(list, { l: [{ n: '' }, { n: '4' }] })).toEqual({ l: [{ n: null }, { n: '4' }] });
		expect(bodyOf(PLAN_FIELDS, { ...typed(), ends: 1 })).not.toHaveProperty('ends');
	});

	it('take a sound middle where nothing is said, and nothing for what must be said', () => {
		expect(PLAN_INITIAL).not.toHaveProperty('channelWidthMhz');
		expect(PLAN_INITIAL).not.toHaveProperty('workDate');
		expect(HOP_DEFAULTS).toMatchObject({
			configuration: {
				...{ kind: 'single', cancellerDb: 0, combine: 'all' },
				...{ secondChannelWidthMhz: null, secondModulation: '' }
			},
			path: { profile: null, obstacles: [], school: 'p530', obstruction: 'isolated' },
			requiredAvailabilityPercent: 99.99,
			eirpLimitDbm: null,
			landmarks: []
		});
		expect(END_INITIAL).toMatchObject({ couplingCode: '', secondTransmitFrequencyGhz: null });
		expect(END_INITIAL).not.toHaveProperty('radioCode');
	});

	it('of an end and of the path go there and back too', () => {
		const end: EndFieldValues = {
			...END_INITIAL,
			radioCode: 'RU-26',
			dishCode: 'D',
			mountCode: 'M',
			feederCode: 'F',
			feederLengthM: 0,
			antennaHeightAglM: 24.5,
			transmitFrequencyGhz: 26.2,
			transmitPowerDbm: 16,
			alignmentPowerDbm: 15
		};
		const text = typedOf<EndFieldValues>(END_FIELDS, end);
		expect(text).toMatchObject({ secondTransmitFrequencyGhz: '', antennaHeightAglM: '24.5' });
		expect(valuesOf<EndFieldValues>(END_FIELDS, text)).toEqual(end);
		const path: PathFieldValues = {
			school: 'practice',
			obstruction: 'extended',
			obstacles: [{ name: 'Grove', kind: 'trees', distanceKm: 4, lengthM: 80, heightM: 20 }],
			water: [{ kind: 'fresh', fromKm: 2, toKm: 3.5, tideM: 0 }],
			groundRoughnessM: 1.5
		};
		const lines = typedOf<PathFieldValues>(PATH_FIELDS, path);
		expect(lines.obstacles[0]).toEqual({
			name: 'Grove',
			kind: 'trees',
			distanceKm: '4',
			lengthM: '80',
			heightM: '20'
		});
		expect(valuesOf<PathFieldValues>(PATH_FIELDS, lines)).toEqual(path);
	});
});
