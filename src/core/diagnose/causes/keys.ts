/** Names of the causes, as they stand in records and answers. Each has its row in the table. */
export const CAUSES = [
	'side-lobe-a',
	'side-lobe-b',
	'side-lobe-both',
	'crossed-polarization',
	'wrong-arm',
	'power-low-a',
	'power-low-b',
	'wrong-sub-band',
	'power-control-on',
	'adaptive-modulation-on',
	'wrong-curve-a',
	'wrong-curve-b',
	'pick-up',
	'film-left-in',
	'feeder-bad',
	'obstruction',
	'rain',
	'wrong-dish',
	'moved-while-locking',
	'overload',
	'crossed-cables',
	'none'
] as const;
export type Cause = (typeof CAUSES)[number];
