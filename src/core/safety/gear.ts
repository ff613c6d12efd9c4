/** What lifts a load, by its plates. */
export interface LiftingGear {
	ropeBreakingKg: number;
	pulleyRatedKg: number;
	slingRatedKg: number;
	/** Breaking load over greatest load that the locality asks of a rope. */
	ropeFactor: number;
	/** What the load weighs, where the plan does not know it: from its papers or a scale. */
	loadKg?: number;
}

/** What feeds a unit, by its plate. */
export interface PowerSource {
	kind: 'dc' | 'poe-standard' | 'poe-passive';
	voltageV: number;
	/** Power it can give at its port, W. */
	powerW: number;
}
