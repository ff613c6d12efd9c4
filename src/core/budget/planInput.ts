import type { DishPart, FeederPart, MountPart, RadioPart } from '../catalogue/parts';
import type { PerEnd } from '../ends';
import type { GeoPoint } from '../geodesy/geodesic';
import type { Air } from '../propagation/gas';
import type { LinearPolarization } from '../propagation/rain';

/** One end of a single-radio hop as the planner chose it, with its parts by value. */
export interface EndPlanInput {
	siteName: string;
	position: GeoPoint;
	groundAmslM: number;
	/** Antenna centre above ground, m. */
	antennaHeightAglM: number;
	radio: RadioPart;
	dish: DishPart;
	mount: MountPart;
	feeder: FeederPart;
	feederLengthM: number;
	polarization: LinearPolarization;
	transmitFrequencyGhz: number;
	/** Power in operation, dBm. */
	transmitPowerDbm: number;
	/** Fixed power while aligning, dBm. */
	alignmentPowerDbm: number;
	mountSide: 'left' | 'right' | 'centred';
	landmark: string;
	siteNotes: string;
}

export interface HopPlanInput {
	hopName: string;
	ends: PerEnd<EndPlanInput>;
	channelWidthMhz: number;
	/** Modulation wanted in operation. */
	operatingModulation: string;
	kFactor: number;
	air: Air;
	/** Losses the planner adds for what is not modelled (obstruction, radome), dB. */
	additionalLossDb: number;
	/** Window about the planned level, dB each way. */
	toleranceDb: number;
	/** Which end moves first. */
	firstToMove: 'A' | 'B';
	/** Day of the work, for the declination. */
	workDate: Date;
}
