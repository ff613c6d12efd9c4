import type { CouplingInstallation } from './installation';
import type { PartIdentity } from './partIdentity';

/** What joins radios to a dish, as the catalogue has it. */
export interface CouplingPart extends PartIdentity {
	kind: CouplingKind;
	rangeGhz: readonly [number, number];
	arms: readonly CouplingArm[];
	weightKg: number;
	installation?: CouplingInstallation;
}

export type CouplingKind = 'equal-coupler' | 'uneven-coupler' | 'orthomode' | 'dual-coupler';

export interface CouplingArm {
	name: string;
	lossDb: number;
	/** Plane the arm feeds, relative to the first: `own` keeps it, `crossed` turns it by 90°. */
	plane: 'own' | 'crossed';
}
