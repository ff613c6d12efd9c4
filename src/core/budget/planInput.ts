import type { CouplingPart } from '../catalogue/coupling';
import type {
	CablePart,
	DishPart,
	FeederPart,
	IndoorUnitPart,
	MountPart,
	PowerSourcePart,
	RadioPart
} from '../catalogue/parts';
import type { PerEnd } from '../ends';
import type { GeoPoint } from '../geodesy/geodesic';
import type { ClearanceSchool, ClimateKind, ObstructionKind } from '../path/clearanceSchool';
import type { Obstacle } from '../path/pathClearance';
import type { WaterStretch } from '../path/reflection';
import type { TerrainProfile } from '../path/samplePath';
import type { Air } from '../propagation/gas';
import type { LinearPolarization } from '../propagation/rain';
import type {
	CarrierCombination,
	ConfigurationKind,
	DirectionRule,
	JointSchool,
	LiftSchool
} from './configurationKinds';

/** What was found or is known about the place, site by site; null is "nobody has said". */
export interface SiteConditions {
	pipeDiameterMm: number | null;
	/** Top of the mast or pipe above ground, m. */
	mastHeightM: number | null;
	/** Lean of the mount pipe off plumb, degrees. */
	pipeLeanDeg: number | null;
	earthPoint: string;
	/** Supply at the foot of the cable. */
	supplyV: number | null;
	indoorPlace: string;
	access: string;
	hazards: string;
	/** Central meridian of the projected grid used on site drawings, degrees, for its convergence. */
	gridCentralMeridianDeg: number | null;
}

/** Values of the climate about a hop, each with where it came from. */
export interface ClimateInput {
	kind: ClimateKind;
	rainRate001MmH: number;
	rainRateSource: string;
	/** Refractivity gradient not exceeded for 1 % of the year, N/km. */
	gradientDn1: number;
	gradientSource: string;
	/** Effective k exceeded for 99.9 % of the time. */
	lowK: number;
	lowKSource: string;
	/** True while a value is the default of a broad climate rather than one for this place. */
	isDefault: boolean;
}

/** What a planner types of the path. */
export interface PathFieldValues {
	obstacles: readonly Obstacle[];
	school: ClearanceSchool;
	obstruction: ObstructionKind;
	/** Sea and still water under the path, which reflect. */
	water: readonly WaterStretch[];
	/** Roughness of the land beneath what the raster shows, m. */
	groundRoughnessM: number;
}

export interface PathInput extends PathFieldValues {
	profile: TerrainProfile | null;
}

/** A service that the hop carries, and the ports it plugs in at. */
export interface PlannedService {
	name: string;
	mbitS: number;
	/** Radio that carries it, 1 or more; 0: all of them together. */
	radio: number;
	/** Slot 0 on a closed unit, which has none. */
	slotA: number;
	portA: number;
	slotB: number;
	portB: number;
}

export interface Landmark extends GeoPoint {
	name: string;
}

/** What a planner types of an end and the plan takes as it is. */
export interface EndTypedValues {
	/** Antenna centre above ground, m. */
	antennaHeightAglM: number;
	feederLengthM: number;
	/** Tightest bends of the run, mm; 0: none. */
	bendEPlaneMm: number;
	bendHPlaneMm: number;
	transmitFrequencyGhz: number;
	/** Sub-band unit of the radio, such as `1L`; empty while nobody has said. */
	subBandUnit: string;
	/** Power in operation, dBm. */
	transmitPowerDbm: number;
	/** Fixed power while aligning, dBm. */
	alignmentPowerDbm: number;
	/** Height of the second dish's centre relative to the first, m; negative is below. */
	secondDishOffsetM: number;
	secondTransmitFrequencyGhz: number | null;
	secondPowerDbm: number;
	/** Interference of others in the receiver’s channel, dBm; null: none is counted. */
	interferenceDbm: number | null;
	/** The same on the second frequency pair. */
	secondInterferenceDbm: number | null;
	cableLengthM: number;
	/** Free height in the rack, U; null while nobody has said. */
	rackFreeUnits: number | null;
	mountSide: 'left' | 'right' | 'centred';
	landmark: string;
	siteNotes: string;
	/** Who works here and how they are reached. */
	crewContact: string;
}

/** All that a planner types of an end: part codes instead of parts, empty where none is chosen. */
export interface EndFieldValues extends EndTypedValues {
	radioCode: string;
	dishCode: string;
	mountCode: string;
	feederCode: string;
	couplingCode: string;
	secondDishCode: string;
	secondRadioCode: string;
	cableCode: string;
	indoorUnitCode: string;
	powerSourceCode: string;
}

/** One end of a hop as the planner chose it, with its parts by value. */
export interface EndPlanInput extends EndTypedValues {
	siteName: string;
	position: GeoPoint;
	groundAmslM: number;
	radio: RadioPart;
	dish: DishPart;
	mount: MountPart;
	feeder: FeederPart;
	polarization: LinearPolarization;
	coupling: CouplingPart | null;
	/** Second dish: of space diversity, or of the second band. */
	secondDish: DishPart | null;
	secondRadio: RadioPart | null;
	cable: CablePart | null;
	indoorUnit: IndoorUnitPart | null;
	powerSource: PowerSourcePart | null;
	conditions: SiteConditions;
}

/** Voltage that feeds an end, V: of its power source where one is planned, else of the site; null if unknown. */
export function supplyVoltageV(
	end: Pick<EndPlanInput, 'powerSource' | 'conditions'>
): number | null {
	return end.powerSource?.outputV ?? end.conditions.supplyV;
}

/** Antenna centre above mean sea level, m. */
export function antennaAmslM(end: Pick<EndPlanInput, 'groundAmslM' | 'antennaHeightAglM'>): number {
	return end.groundAmslM + end.antennaHeightAglM;
}

/** What a planner types of a hop and the plan takes as it is. */
export interface HopFieldValues {
	channelWidthMhz: number;
	/** Modulation wanted in operation. */
	operatingModulation: string;
	configuration: {
		kind: ConfigurationKind;
		/** Improvement of the interference canceller, dB; 0 without one. */
		cancellerDb: number;
		/** Channel of the second band, MHz; null: as wide as the first. */
		secondChannelWidthMhz: number | null;
		/** Modulation wanted of the second band; empty: the same name as the first. */
		secondModulation: string;
		/** What the hop’s availability counts, where several carriers have traffic of their own. */
		combine: CarrierCombination;
	};
	/** Availability wanted of the operating modulation, percent of the year. */
	requiredAvailabilityPercent: number;
	multipathMethod: 'quick' | 'detailed';
	/** Whether the worse direction counts, or either. */
	directionRule: DirectionRule;
	/** By how much ATPC sends below the set power in clear air, dB; 0 without. */
	powerControlDb: number;
	/** Highest radiated power allowed (EIRP), dBm; null where none is typed. */
	eirpLimitDbm: number | null;
	/** Reference levels of the locality for exposure, W/m². */
	publicExposureWM2: number;
	workerExposureWM2: number;
	wind: {
		operatingMS: number;
		survivalMS: number;
		/** Lean of the mast at the operating wind, degrees. */
		mastSwayDeg: number;
	};
	/** One-sigma uncertainty of the first heading and of the first tilt, degrees. */
	search: { compassSigmaDeg: number; levelSigmaDeg: number };
	landmarks: readonly Landmark[];
	services: readonly PlannedService[];
	kFactor: number;
	/** Losses the planner adds for what is not modelled (radome, wet cover), dB. */
	additionalLossDb: number;
	/** Window about the planned level, dB each way. */
	toleranceDb: number;
	/** Which end moves first. */
	firstToMove: 'A' | 'B';
	/** Schools of building, where they differ. */
	building: {
		lift: LiftSchool;
		joints: JointSchool;
		/** Thinnest earth conductor that the local code allows, mm²; null while nobody has said. */
		earthMm2: number | null;
	};
}

/** All that a planner types of a hop; of these the plan makes something else. */
export interface PlanFieldValues extends HopFieldValues {
	polarization: LinearPolarization;
	dryAirPressureHpa: number;
	temperatureC: number;
	waterVapourGM3: number;
	/** Day of the work, ISO 8601. */
	workDate: string;
}

export interface HopPlanInput extends HopFieldValues {
	hopName: string;
	ends: PerEnd<EndPlanInput>;
	path: PathInput;
	climate: ClimateInput;
	air: Air;
	/** Day of the work, for the declination. */
	workDate: Date;
}
