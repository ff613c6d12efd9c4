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
