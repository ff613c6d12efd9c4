export const CONFIGURATIONS = [
	'single',
	'hot-standby',
	'frequency-diversity',
	'space-diversity',
	'dual-polarized',
	'four-radios',
	'two-bands'
] as const;
export type ConfigurationKind = (typeof CONFIGURATIONS)[number];

/** How carriers with traffic of their own make the availability of a hop: each of them, one of them, or by what they carry. */
export const COMBINATIONS = ['all', 'any', 'capacity'] as const;
export type CarrierCombination = (typeof COMBINATIONS)[number];

/** When a carrier counts as available: its worse direction is counted, or it is out when either direction is. */
export const DIRECTION_RULES = ['worse', 'either'] as const;
export type DirectionRule = (typeof DIRECTION_RULES)[number];

/** How dish, coupling and radios go up: piece by piece, or put together on the ground; by weight and school. */
export const LIFT_SCHOOLS = ['separately', 'whole'] as const;
export type LiftSchool = (typeof LIFT_SCHOOLS)[number];

/** How outdoor joints are closed: as the sheet of each part has it, or by one school for all that is taped. */
export const JOINT_SCHOOLS = ['as-part', 'compound-under-tape', 'layered-tape'] as const;
export type JointSchool = (typeof JOINT_SCHOOLS)[number];
