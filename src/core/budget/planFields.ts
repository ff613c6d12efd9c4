import type { LinearPolarization } from '../propagation/rain';
import {
	COMBINATIONS,
	CONFIGURATIONS,
	DIRECTION_RULES,
	JOINT_SCHOOLS,
	LIFT_SCHOOLS
} from './configurationKinds';
import { initialValues, type FieldsFor } from './fieldTable';
import type { EndFieldValues, HopFieldValues, PathFieldValues, PlanFieldValues } from './planInput';

const PLANES: readonly LinearPolarization[] = ['vertical', 'horizontal'];
const latitudeDeg = { type: 'number', label: 'Latitude', from: -90, to: 90 } as const;
const longitudeDeg = { type: 'number', label: 'Longitude', from: -180, to: 180 } as const;

/**
 * What a planner types of a hop and the plan takes as it is: one row a field, with its unit in its
 * name, its range, and what is taken where nothing is said.
 */
export const HOP_FIELDS = {
	channelWidthMhz: { type: 'number', label: 'Channel width', from: 0.1, to: 4000, example: 28 },
	operatingModulation: {
		type: 'text',
		label: 'Operating modulation',
		most: 40,
		least: 1,
		exact: true,
		example: '256 QAM'
	},
	kFactor: {
		type: 'number',
		label: 'Effective-earth factor k',
		from: 0.3,
		to: 10,
		initial: 4 / 3,
		digits: 4
	},
	additionalLossDb: { type: 'number', label: 'Additional loss', from: 0, to: 60, initial: 0 },
	toleranceDb: {
		type: 'number',
		label: 'Tolerance',
		from: 0.5,
		to: 10,
		initial: 2,
		example: 2
	},
	firstToMove: { type: 'word', label: 'First to move', words: ['A', 'B'], initial: 'A' },
	configuration: {
		type: 'group',
		label: 'Configuration',
		fields: {
			kind: { type: 'word', label: 'Configuration', words: CONFIGURATIONS, initial: 'single' },
			cancellerDb: { type: 'number', label: 'XPIC improvement', from: 0, to: 40, initial: 0 },
			secondChannelWidthMhz: {
				type: 'number',
				label: 'Channel width of the second band',
				from: 0.1,
				to: 4000,
				initial: null,
				orNone: true
			},
			secondModulation: {
				type: 'text',
				label: 'Modulation of the second band',
				most: 40,
				exact: true,
				initial: ''
			},
			combine: {
				type: 'word',
				label: 'Availability counts',
				words: COMBINATIONS,
				initial: 'all'
			}
		}
	},
	building: {
		type: 'group',
		label: 'Building',
		fields: {
			lift: {
				type: 'word',
				label: 'What goes up together',
				words: LIFT_SCHOOLS,
				initial: 'separately'
			},
			joints: {
				type: 'word',
				label: 'Outdoor joints are closed',
				words: JOINT_SCHOOLS,
				initial: 'as-part'
			},
			earthMm2: {
				type: 'number',
				label: 'Earth conductor by the local code',
				from: 0.5,
				to: 300,
				initial: null,
				orNone: true
			}
		}
	},
	requiredAvailabilityPercent: {
		type: 'number',
		label: 'Availability asked for',
		from: 50,
		to: 100,
		initial: 99.99
	},
	multipathMethod: {
		type: 'word',
		label: 'Multipath method',
		words: ['quick', 'detailed'],
		initial: 'detailed'
	},
	directionRule: {
		type: 'word',
		label: 'Directions that count',
		words: DIRECTION_RULES,
		initial: 'worse'
	},
	powerControlDb: {
		type: 'number',
		label: 'Range of the ATPC',
		from: 0,
		to: 40,
		initial: 0
	},
	eirpLimitDbm: {
		type: 'number',
		label: 'EIRP limit',
		from: -20,
		to: 110,
		initial: null,
		orNone: true
	},
	// Reference levels of the locality; 10 and 50 W/m² where nobody has said.
	publicExposureWM2: {
		type: 'number',
		label: 'Reference level, public',
		from: 0.001,
		to: 1000,
		initial: 10
	},
	workerExposureWM2: {
		type: 'number',
		label: 'Reference level, workers',
		from: 0.001,
		to: 1000,
		initial: 50
	},
	wind: {
		type: 'group',
		label: 'Wind',
		fields: {
			operatingMS: { type: 'number', label: 'Operating wind', from: 0, to: 120, initial: 30 },
			survivalMS: { type: 'number', label: 'Survival wind', from: 0, to: 120, initial: 55 },
			mastSwayDeg: { type: 'number', label: 'Sway of the mast', from: 0, to: 10, initial: 0.1 }
		}
	},
	search: {
		type: 'group',
		label: 'Search',
		fields: {
			compassSigmaDeg: {
				type: 'number',
				label: 'Compass uncertainty',
				from: 0.05,
				to: 30,
				initial: 3
			},
			levelSigmaDeg: {
				type: 'number',
				label: 'Level uncertainty',
				from: 0.02,
				to: 10,
				initial: 0.5
			}
		}
	},
	services: {
		type: 'list',
		label: 'Services',
		most: 64,
		item: {
			name: { type: 'text', label: 'Service', most: 80, least: 1 },
			mbitS: { type: 'number', label: 'Bit rate', from: 0.01, to: 100_000 },
			radio: { type: 'number', label: 'Radio', from: 0, to: 8, whole: true, initial: 0 },
			slotA: { type: 'number', label: 'Slot at A', from: 0, to: 40, whole: true, initial: 0 },
			portA: { type: 'number', label: 'Port at A', from: 1, to: 200, whole: true },
			slotB: { type: 'number', label: 'Slot at B', from: 0, to: 40, whole: true, initial: 0 },
			portB: { type: 'number', label: 'Port at B', from: 1, to: 200, whole: true }
		}
	},
	landmarks: {
		type: 'list',
		label: 'Landmarks',
		most: 50,
		item: {
			name: { type: 'text', label: 'Name of the landmark', least: 1, most: 120 },
			latitudeDeg,
			longitudeDeg
		}
	}
} as const satisfies FieldsFor<HopFieldValues>;

/** All that a planner types of a hop; of the last five the plan makes something else. */
export const PLAN_FIELDS = {
	...HOP_FIELDS,
	polarization: { type: 'word', label: 'Polarization', words: PLANES, example: 'vertical' },
	dryAirPressureHpa: {
		type: 'number',
		label: 'Air pressure',
		from: 500,
		to: 1100,
		initial: 1013.25
	},
	temperatureC: { type: 'number', label: 'Temperature', from: -60, to: 55, initial: 15 },
	waterVapourGM3: { type: 'number', label: 'Water vapour', from: 0, to: 50, initial: 7.5 },
	workDate: { type: 'day', label: 'Day of the work', example: '2026-11-24' }
} as const satisfies FieldsFor<PlanFieldValues>;

/** What a planner types of the path, beside its profile. */
export const PATH_FIELDS = {
	obstacles: {
		type: 'list',
		label: 'Obstacles',
		most: 200,
		item: {
			name: { type: 'text', label: 'Name of the obstacle', most: 80, initial: '' },
			kind: {
				type: 'word',
				label: 'Kind',
				words: ['trees', 'building', 'other'],
				initial: 'other'
			},
			distanceKm: { type: 'number', label: 'Distance from A', from: 0, to: 400 },
			lengthM: { type: 'number', label: 'Length along the path', from: 0, to: 100_000, initial: 0 },
			heightM: { type: 'number', label: 'Height above ground', from: 0, to: 500 }
		}
	},
	school: {
		type: 'word',
		label: 'School of clearance',
		words: ['p530', 'practice'],
		initial: 'p530'
	},
	obstruction: {
		type: 'word',
		label: 'Kind of obstruction',
		words: ['isolated', 'extended'],
		initial: 'isolated'
	},
	water: {
		type: 'list',
		label: 'Water',
		most: 50,
		item: {
			kind: { type: 'word', label: 'Kind of water', words: ['sea', 'fresh'], initial: 'sea' },
			fromKm: { type: 'number', label: 'Water from', from: 0, to: 400 },
			toKm: { type: 'number', label: 'Water to', from: 0, to: 400 },
			tideM: { type: 'number', label: 'Tide, low to high', from: 0, to: 20, initial: 0 }
		}
	},
	groundRoughnessM: {
		type: 'number',
		label: 'Roughness of the ground',
		from: 0,
		to: 50,
		initial: 0.3
	}
} as const satisfies FieldsFor<PathFieldValues>;

/** Type code of a part that must be chosen. */
const code = <Label extends string>(label: Label, example?: string) =>
	({
		type: 'text',
		label,
		least: 1,
		most: 20,
		exact: true,
		...(example ? { example } : {})
	}) as const;
/** Type code of a part that may be absent. */
const codeIfAny = <Label extends string>(label: Label) =>
	({ type: 'text', label, most: 20, exact: true, initial: '' }) as const;

/** What a planner types of one end. */
export const END_FIELDS = {
	radioCode: code('Radio', 'RU-26'),
	dishCode: code('Dish', 'DP-060-26'),
	mountCode: code('Mount', 'MB-S'),
	feederCode: code('Feeder', 'FD-0'),
	feederLengthM: { type: 'number', label: 'Feeder length', from: 0, to: 500, example: 0 },
	antennaHeightAglM: { type: 'number', label: 'Antenna height', from: 0.5, to: 400, example: 24 },
	transmitFrequencyGhz: {
		type: 'number',
		label: 'Transmit frequency',
		from: 1,
		to: 100,
		example: 26.2
	},
	transmitPowerDbm: { type: 'number', label: 'Operating power', from: -60, to: 50, example: 16 },
	alignmentPowerDbm: { type: 'number', label: 'Alignment power', from: -60, to: 50, example: 15 },
	rackFreeUnits: {
		type: 'number',
		label: 'Free height in the rack',
		whole: true,
		from: 0,
		to: 60,
		initial: null,
		orNone: true
	},
	mountSide: {
		type: 'word',
		label: 'Side of the mast',
		words: ['left', 'right', 'centred'],
		initial: 'centred'
	},
	landmark: { type: 'text', label: 'Landmark', most: 400, initial: '' },
	siteNotes: { type: 'text', label: 'Notes for the crew', most: 2000, initial: '' },
	crewContact: { type: 'text', label: 'Crew and how to reach it', most: 400, initial: '' },
	subBandUnit: codeIfAny('Sub-band unit'),
	bendEPlaneMm: { type: 'number', label: 'Bend in the E plane', from: 0, to: 10_000, initial: 0 },
	bendHPlaneMm: { type: 'number', label: 'Bend in the H plane', from: 0, to: 10_000, initial: 0 },
	couplingCode: codeIfAny('Coupling'),
	secondDishCode: codeIfAny('Second dish'),
	secondDishOffsetM: {
		type: 'number',
		label: 'Height of the second dish',
		from: -100,
		to: 100,
		initial: -10
	},
	secondRadioCode: codeIfAny('Second radio'),
	secondTransmitFrequencyGhz: {
		type: 'number',
		label: 'Second frequency',
		from: 1,
		to: 100,
		initial: null,
		orNone: true
	},
	secondPowerDbm: {
		type: 'number',
		label: 'Power of the second radio',
		from: -60,
		to: 50,
		initial: 10
	},
	interferenceDbm: {
		type: 'number',
		label: 'Interference',
		from: -160,
		to: -20,
		initial: null,
		orNone: true
	},
	secondInterferenceDbm: {
		type: 'number',
		label: 'Interference on the second pair',
		from: -160,
		to: -20,
		initial: null,
		orNone: true
	},
	cableCode: codeIfAny('Supply cable'),
	cableLengthM: { type: 'number', label: 'Cable length', from: 0, to: 1000, initial: 0 },
	indoorUnitCode: codeIfAny('IDU'),
	powerSourceCode: codeIfAny('Power source')
} as const satisfies FieldsFor<EndFieldValues>;

export const HOP_INITIAL = initialValues<HopFieldValues, typeof HOP_FIELDS>(HOP_FIELDS);
export const PLAN_INITIAL = initialValues<PlanFieldValues, typeof PLAN_FIELDS>(PLAN_FIELDS);
export const PATH_INITIAL = initialValues<PathFieldValues, typeof PATH_FIELDS>(PATH_FIELDS);
export const END_INITIAL = initialValues<EndFieldValues, typeof END_FIELDS>(END_FIELDS);
