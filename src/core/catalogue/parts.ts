import type { MeasuredPattern } from '../antenna/measuredPattern';
import type { LevelCurvePoint } from '../radio/levelCurve';
import type { CouplingPart } from './coupling';
import type {
	CableInstallation,
	DishInstallation,
	FeederInstallation,
	MountInstallation,
	RadioInstallation,
	UnitPower,
	SteeredInstallation
} from './installation';
import type { PartIdentity } from './partIdentity';

/** One modulation of a radio: what it needs, gives and carries. */
export interface Modulation {
	name: string;
	/** Highest output power in this modulation, dBm. */
	maxPowerDbm: number;
	/** Signal-to-noise ratio at which errors reach the limit, dB. */
	requiredSnrDb: number;
	/** Net capacity per channel width, Mbit/s per MHz. */
	mbitSPerMhz: number;
}

/** Signatures of a radio, measured with one delay of the echo. */
export interface Distortion {
	delayNs: number;
	signatures: readonly StatedSignature[];
}

/** One row of it: a modulation at a channel width. */
export interface StatedSignature {
	modulation: string;
	channelWidthMhz: number;
	widthMhz: number;
	minimumPhaseDb: number;
	nonMinimumPhaseDb: number;
}

export interface SubBand {
	index: number;
	lowGhz: readonly [number, number];
	highGhz: readonly [number, number];
}

export interface RadioPart extends PartIdentity {
	/** Frequencies the unit can send or receive, GHz. */
	rangeGhz: readonly [number, number];
	channelWidthsMhz: readonly number[];
	duplexSpacingMhz: number;
	/** Pairs of sub-bands for which units are built: unit `1L` sends in the low half, `1H` in the high. */
	subBands: readonly SubBand[];
	minPowerDbm: number;
	modulations: readonly Modulation[];
	noiseFigureDb: number;
	/** Above this level the receiver is no longer linear, dBm. */
	maxInputDbm: number;
	/** Above this level the receiver may be destroyed, dBm. */
	damageInputDbm: number;
	levelPort: { connector: string; curve: readonly LevelCurvePoint[]; resolutionV: number };
	alignmentState: {
		modulation: string;
		enter: string;
		leave: string;
		/** It leaves the state by itself so many hours after it was entered; absent where it does not. */
		timer?: { hours: number };
	};
	supplyMinV: number;
	consumptionW: number;
	bootMinutes: number;
	weightKg: number;
	/** Distortion that it just still bears; absent where nothing is stated. */
	distortion?: Distortion;
	/** What the receiver keeps off of the next channels; absent where nothing is stated. */
	selectivity?: { adjacentChannelDb: number; secondChannelDb: number };
	/** What its cable carries between it and its indoor unit; absent where that is no intermediate frequency. */
	intermediate?: IntermediateData;
	/** How it is installed; absent in plans older than these figures. */
	installation?: RadioInstallation;
}

/** Intermediate frequencies on the one cable of a split radio. */
export interface IntermediateData {
	/** Up to the radio and down from it, MHz. */
	transmitMhz: number;
	receiveMhz: number;
	/** Most that the cable may take at the higher of the two, dB. */
	maxLossDb: number;
}

/** Electrical values of a dish in one band. */
export interface DishBand {
	fromGhz: number;
	toGhz: number;
	gainDbi: number;
	/** Frequency at which gain and beamwidth are stated. */
	atGhz: number;
	beamwidthDeg: number;
	crossPolarDiscriminationDb: number;
	/** Typical depth of the first side lobe below the main lobe. */
	firstSideLobeDb: number;
}

export interface DishPart extends PartIdentity {
	diameterM: number;
	bands: readonly DishBand[];
	polarizationSetting: string;
	/** Its cover; absent where nothing is stated of it. */
	cover?: { wetLossDb: number };
	/** Measured of this type; used in place of the values by band where it covers them. */
	pattern?: MeasuredPattern;
	weightKg: number;
	installation?: DishInstallation;
}

/** A fine adjuster: a threaded rod that turns the dish about a pivot at some distance. */
export interface Adjuster {
	threadPitchMm: number;
	armMm: number;
	/** Travel each way from the centre, degrees. */
	travelDeg: number;
	/** Flats of the nut, for moves too small to be said in turns. */
	nutFlats: number;
	/** Which way of turning moves the dish right (azimuth) or up (tilt). */
	positiveTurn: string;
	/** What turning its nut clockwise does; absent in parts older than this. */
	nut?: {
		/** From where clockwise is meant. */
		seenFrom: string;
		/** The dish goes right or up, or the other way. */
		clockwise: 'right-or-up' | 'left-or-down';
		/** What becomes of the free length of the rod. */
		rod: 'longer' | 'shorter';
	};
}

export interface Fastener {
	name: string;
	locks: 'azimuth' | 'tilt';
	torqueNm: number;
}

export interface MountPart extends PartIdentity {
	azimuth: Adjuster;
	tilt: Adjuster;
	/** In the order in which they are tightened. */
	fasteners: readonly Fastener[];
	pipeDiameterMm: readonly [number, number];
	/** What it is made for; absent where its sheet does not say. */
	carries?: { dishDiameterM: readonly [number, number] };
	weightKg: number;
	installation?: MountInstallation;
}

export interface FeederPart extends PartIdentity {
	kind: 'direct' | 'waveguide' | 'coaxial';
	rangeGhz: readonly [number, number];
	/** Loss at frequencies in ascending order: [GHz, dB per 100 m]. */
	lossDbPer100M: readonly (readonly [number, number])[];
	/** Loss of the two transitions or flanges together, dB. */
	endsLossDb: number;
	/** Only of waveguide. */
	waveguide?: WaveguideData;
	installation?: FeederInstallation;
}

export interface WaveguideData {
	shape: 'elliptical' | 'flexible' | 'rectangular';
	/** Wide inner wall, mm: of an elliptical guide that of the rectangular guide of equal cut-off. */
	broadWallMm: number;
	minBendEPlaneMm: number;
	minBendHPlaneMm: number;
	maxTwistDegPerM: number;
}

/** What a supply cable is made of, and what its insulation holds. */
export interface CableWiring {
	kind: 'dc' | 'ethernet' | 'coaxial';
	/** Conductors, the screen not counted. */
	conductors: number;
	/** Least resistance between conductors, and to the screen, with both ends open, MΩ. */
	insulationMohm: number;
}

/** What a coaxial cable does beside its inner conductor. */
export interface CoaxialData {
	/** Resistance of the screen at 20 °C, Ω/km: the supply comes back by it. */
	screenOhmPerKm: number;
	/** Attenuation at the frequency at which it is stated, dB per 100 m. */
	lossDbPer100M: number;
	atMhz: number;
}

/**
 * A supply cable of two conductors, of pairs that carry the supply beside the traffic, or a coaxial one that
 * carries both on its inner conductor.
 */
export interface CablePart extends PartIdentity {
	conductorMm2: number;
	/** Resistance of one conductor at 20 °C, Ω/km. */
	ohmPerKm: number;
	outerMm: number;
	kgPerKm: number;
	/** Absent in parts older than these figures. */
	wiring?: CableWiring;
	/** Of a coaxial cable; absent of others. */
	coaxial?: CoaxialData;
	installation?: CableInstallation;
}

/** What a board of a chassis is for. */
export type BoardKind =
	'control' | 'radio' | 'ethernet' | 'circuit' | 'power' | 'fan' | 'auxiliary';

/** One board in its slot. */
export interface BoardData {
	slot: number;
	kind: BoardKind;
	name: string;
	consumptionW: number;
	/** Ports on its front: of a radio board those that radios hang on. */
	ports: number;
	/** What its services can carry together, Mbit/s; 0 where it carries none. */
	capacityMbitS: number;
	/** How it is held once it is home. */
	fixing: 'levers' | 'screws' | 'latch';
}

/** A chassis with its boards. */
export interface ChassisData {
	slots: number;
	boards: readonly BoardData[];
	/** Optical modules in its boards, and the least bend of a fibre; absent where nothing is optical. */
	optical?: { modules: number; fibreBendMm: number };
}

/** What stands indoors between the services and the radios. */
export interface IndoorUnitPart extends PartIdentity {
	place: 'rack' | 'wall' | 'shelf';
	/** Height in a rack; 0 where it goes elsewhere. */
	heightUnits: number;
	radioPorts: number;
	supplyV: readonly [number, number];
	/** Without its radios and without the boards of its chassis. */
	consumptionW: number;
	/** Absent where it is one closed unit. */
	chassis?: ChassisData;
	/** Whether its radios take their supply from it, over their cables. */
	feedsRadios: boolean;
	weightKg: number;
}

/** What feeds radios and indoor unit at a site. */
export interface PowerSourcePart extends PartIdentity {
	kind: UnitPower['kind'];
	outputV: number;
	powerW: number;
	/** Battery at full load. */
	backupHours: number;
	weightKg: number;
}

/** One way in which a unit that steers its own beam is put up. */
export interface SteeredMounting {
	how: 'pole' | 'wall' | 'bracket';
	/** What is bought for it. */
	name: string;
	/** Lowest and highest tilt that it can be set to, degrees; both 0 where it does not tilt. */
	lowestTiltDeg: number;
	highestTiltDeg: number;
	/** Diameters of the pole it takes, mm; 0 where it goes on no pole. */
	poleFromMm: number;
	poleToMm: number;
}

/** What hub units and terminals have in common: they steer their beams themselves within a window. */
export interface SteeredUnitPart extends PartIdentity {
	/** Frequencies the unit can send and receive, GHz; both directions share a channel in turns. */
	rangeGhz: readonly [number, number];
	channelWidthsMhz: readonly number[];
	modulations: readonly Modulation[];
	noiseFigureDb: number;
	/** Gain straight ahead of its face, dBi. */
	gainDbi: number;
	/** Width of the steered beam between its half-power points, degrees. */
	beamwidthDeg: number;
	/** Highest lobe beside the beam, below it, dB. */
	sideLobeDb: number;
	/** What lies behind its face, below the beam, dB. */
	backDb: number;
	/** What its receiver keeps off of the next channel, dB. */
	adjacentChannelDb: number;
	/** How far it steers off its face, each way. */
	scan: {
		azimuthDeg: number;
		elevationDeg: number;
		/** Angle off the face, degrees, and what steering there costs, dB; from 0°. */
		loss: readonly (readonly [number, number])[];
	};
	mountings: readonly SteeredMounting[];
	bootMinutes: number;
	weightKg: number;
	/** Absent where nobody has typed it. */
	installation?: SteeredInstallation;
}

/** A sector unit of a hub. */
export interface HubUnitPart extends SteeredUnitPart {
	mostTerminals: number;
	/** Share of its air time that carries traffic when several terminals take turns, percent. */
	airTimePercent: number;
}

/** A terminal of a hub. */
export type TerminalPart = SteeredUnitPart;

export interface Catalogue {
	radios: readonly RadioPart[];
	dishes: readonly DishPart[];
	mounts: readonly MountPart[];
	feeders: readonly FeederPart[];
	couplings: readonly CouplingPart[];
	cables: readonly CablePart[];
	indoorUnits: readonly IndoorUnitPart[];
	powerSources: readonly PowerSourcePart[];
	hubUnits: readonly HubUnitPart[];
	terminals: readonly TerminalPart[];
}
