/** What can be done at a simulated hop; each is kept as field records. */
export const SIMULATOR_ACTIONS = [
	'read',
	/** Keeps a reading only when it has changed or grown old. */
	'watch',
	'turn',
	'sweep-part',
	'turn-mount',
	'tighten',
	'test',
	'turn-feed',
	'both-polarizations',
	/** Another carrier on the same dish, at the port of its own radio. */
	'carrier'
] as const;
export type SimulatorActionKind = (typeof SIMULATOR_ACTIONS)[number];
