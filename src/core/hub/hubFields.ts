import { PATH_FIELDS } from '../budget/planFields';
import { initialValues, type FieldsFor } from '../budget/fieldTable';
import {
	MOST_TERMINALS,
	MOST_UNITS,
	type HubUnitValues,
	type HubValues,
	type TerminalValues
} from './hubInput';

/** A sector unit as it is kept: with the code of its part. */
export type HubUnitDraft = HubUnitValues & { partCode: string };
/** A terminal as it is typed, without its profile. */
export type TypedTerminal = Omit<TerminalValues, 'profile' | 'unitId'> & {
	partCode: string;
	/** Id of the unit that is to serve it; empty where the plan chooses. */
	unitId: string;
};

/** What is typed of a hub. */
export interface HubTyped extends HubValues {
	units: readonly HubUnitDraft[];
	terminals: readonly TypedTerminal[];
}

const ID = { type: 'text', label: 'Id', most: 40, least: 1, exact: true } as const;
const PART = { type: 'text', label: 'Type', most: 20, least: 2, exact: true } as const;
const NAME = { type: 'text', label: 'Name', most: 80, least: 1 } as const;
const HEIGHT = {
	type: 'number',
	label: 'Height above ground',
	from: 0,
	to: 300,
	digits: 1
} as const;
const HOW = {
	type: 'word',
	label: 'Mounted on',
	words: ['pole', 'wall', 'bracket'],
	initial: 'pole'
} as const;
const WALL = {
	type: 'number',
	label: 'Bearing that the wall faces',
	from: 0,
	to: 360,
	digits: 1,
	initial: null,
	orNone: true
} as const;
const POLE = {
	type: 'number',
	label: 'Diameter of the pole',
	from: 10,
	to: 400,
	initial: null,
	orNone: true
} as const;
const PROMISE = { type: 'number', from: 0, to: 10_000, initial: 0 } as const;

/** What a planner types of a hub: one row a field, with its range and what is taken where nothing is said. */
export const HUB_FIELDS = {
	channelWidthMhz: { type: 'number', label: 'Channel width', from: 0.1, to: 4000, example: 1080 },
	eirpLimitDbm: {
		type: 'number',
		label: 'EIRP limit of the place',
		from: -20,
		to: 90,
		initial: null,
		orNone: true,
		example: 40
	},
	limitSource: { type: 'text', label: 'Where the limit stands', most: 200, initial: '' },
	polarization: {
		type: 'word',
		label: 'Polarization',
		words: ['vertical', 'horizontal'],
		initial: 'vertical'
	},
	rainRateMmH: { type: 'number', label: 'Rain rate at 0.01 %', from: 0, to: 250, initial: 30 },
	targetPercent: {
		type: 'number',
		label: 'Availability wanted',
		from: 90,
		to: 99.9999,
		initial: 99.9
	},
	reserveDb: { type: 'number', label: 'Reserve in clear air', from: 0, to: 30, initial: 3 },
	units: {
		type: 'list',
		label: 'Units',
		most: MOST_UNITS,
		item: {
			id: ID,
			name: NAME,
			partCode: PART,
			how: HOW,
			wallBearingDeg: WALL,
			poleMm: POLE,
			heightAglM: HEIGHT,
			frequencyGhz: { type: 'number', label: 'Middle of its channel', from: 1, to: 100, digits: 4 },
			headingDeg: { type: 'number', label: 'Heading', from: 0, to: 360, digits: 2 },
			tiltDeg: { type: 'number', label: 'Tilt', from: -90, to: 90, digits: 2, initial: 0 }
		}
	},
	terminals: {
		type: 'list',
		label: 'Terminals',
		most: MOST_TERMINALS,
		item: {
			id: ID,
			name: NAME,
			latitudeDeg: { type: 'number', label: 'Latitude', from: -90, to: 90, digits: 6 },
			longitudeDeg: { type: 'number', label: 'Longitude', from: -180, to: 180, digits: 6 },
			groundAmslM: { type: 'number', label: 'Ground', from: -450, to: 9000, digits: 1 },
			heightAglM: HEIGHT,
			partCode: PART,
			how: HOW,
			wallBearingDeg: WALL,
			poleMm: POLE,
			unitId: { type: 'text', label: 'Served by', most: 40, exact: true, initial: '' },
			downMbitS: { ...PROMISE, label: 'Promised towards the terminal' },
			upMbitS: { ...PROMISE, label: 'Promised from the terminal' },
			obstacles: { ...PATH_FIELDS.obstacles, most: 20 }
		}
	}
} as const satisfies FieldsFor<HubTyped>;

/** What is taken of a new hub where nothing is said. */
export const HUB_INITIAL = initialValues<HubTyped, typeof HUB_FIELDS>(HUB_FIELDS);
