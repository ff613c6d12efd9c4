import type { LinearPolarization } from '../propagation/rain';

/** How one part's polarization is set, as its own sheet has it. */
export interface PolarizationSetting {
	how: 'turn' | 'blade' | 'insert' | 'side' | 'orientation';
	/** What the crew looks at, such as "arrow on the feed". */
	mark: string;
	/** What the mark shows for each plane. */
	shows: Record<LinearPolarization, string>;
	delivered: LinearPolarization;
	/** Its scale: the smallest turn a hand sets on it, degrees; absent where it has none. */
	scale?: { stepDeg: number };
}

export interface DishInstallation {
	polarization: PolarizationSetting;
	/** Protective films and caps that come off before mating, by name; each is counted. */
	films: readonly string[];
	/** O-rings to be greased and seated. */
	oRings: number;
	flange: string;
	/** What stands lowest when it hangs right. */
	drain: string;
	/** Assembly to its mount, tightened in two stages. */
	bolts: { count: number; torqueNm: number };
	/** Where grease goes, and where never. */
	grease: string;
	/** What is done to its feed where both polarizations pass; absent where nothing is, or nobody has said. */
	bothPlanes?: { setting: string };
}

export interface RadioInstallation {
	/** Null: the unit adapts, or follows the feed. */
	polarization: PolarizationSetting | null;
	films: readonly string[];
	flange: string;
	power: UnitPower;
	/** Lamps once it is up, as its sheet has them. */
	lamps: string;
	/** What holds it where it sits; absent where its sheet does not say. */
	fixing?: { count: number; torqueNm: number };
}

/** What a unit takes at its supply port. */
export interface UnitPower {
	kind: 'dc' | 'poe-standard' | 'poe-passive';
	/** Highest voltage it stands. */
	maxV: number;
	/** Which conductor or pair stays unconnected. */
	unconnected: string;
	port: string;
}

export interface CouplingInstallation {
	/** Only where it has a part that sets the plane. */
	polarization: PolarizationSetting | null;
	films: readonly string[];
	oRings: number;
	flange: string;
	bolts: { count: number; torqueNm: number };
}

export interface MountInstallation {
	/** Free length of each adjuster's rod when it stands in the middle of its travel, mm. */
	centredRodMm: { azimuth: number; tilt: number };
	rodToleranceMm: number;
	/** Greatest lean of the pipe, degrees. */
	pipeLeanDeg: number;
	/** Torque of the clamps round the pipe, N·m. */
	pipeClampNm: number;
	/** Rod that holds a large dish against the wind. */
	strut: boolean;
}

export interface FeederInstallation {
	films: readonly string[];
	/** Longest distance between two hangers, m. */
	hangerEveryM: number;
	/** From the end of the run to its first hanger, m. */
	firstHangerM: number;
	/** Hoisting grips: one for so many metres of run. */
	gripEveryM: number;
	/** Hangers that must hold before the grip is let go. */
	hangersBeforeRelease: number;
	flangeBolts: { count: number; torqueNm: number };
	dry: 'pressurised' | 'sealed';
	/** What a run of it weighs; absent where its sheet does not say. */
	weight?: { kgPerM: number };
	/** Size of a flange joint that is wrapped; absent as above. */
	wrapMm?: { diameter: number; length: number };
}

export const WEATHERPROOFING_KINDS = ['compound-under-tape', 'layered-tape', 'sleeve'] as const;
export type WeatherproofingKind = (typeof WEATHERPROOFING_KINDS)[number];

export const WEATHERPROOFING_WORDS: Readonly<Record<WeatherproofingKind, string>> = {
	'compound-under-tape': 'sealing compound under tape',
	'layered-tape': 'layered tape, tied at both ends',
	sleeve: 'screw-on shell or sleeve'
};

export interface ConnectorData {
	name: string;
	/** From the cut end: how far each layer is stripped back, mm. */
	strips: readonly { layer: string; mm: number }[];
	torqueNm: number;
	/** Diameter of the joint that is wrapped, mm, and its length. */
	wrapMm: { diameter: number; length: number };
}

export interface CableInstallation {
	minBendRadiusMm: number;
	clampEveryM: number;
	/** From the unit to its first clamp, m. */
	firstClampM: number;
	connector: ConnectorData;
	/** Inserts of the gland: for cables from … to … mm. */
	glands: readonly { name: string; fromMm: number; toMm: number }[];
	weatherproofing: WeatherproofingKind;
}

/** What the lamp or display of a unit that steers its beam can be telling. */
export const LAMP_STATES = ['starting', 'searching', 'linked', 'weak', 'fault'] as const;
export type LampState = (typeof LAMP_STATES)[number];

/** How a lamp is found: what it tells, or that it is dark. */
export type LampSeen = LampState | 'dark';

export const LAMP_WORDS: Readonly<Record<LampState, string>> = {
	starting: 'starting',
	searching: 'up, no link',
	linked: 'linked',
	weak: 'linked, weak',
	fault: 'fault'
};

/** What a hub unit, a terminal or a small radio is owed where it is put up, as its sheet has it. */
export interface SteeredInstallation {
	/** What is in its box, by name. */
	contents: readonly { name: string; count: number }[];
	power: UnitPower;
	consumptionW: number;
	supplyMinV: number;
	/** Class of the cable and its plugs. */
	cable: string;
	/** Longest cable it works over, m. */
	longestCableM: number;
	/** Inserts of its gland: for cables from … to … mm; none where it has no gland. */
	glands: readonly { name: string; fromMm: number; toMm: number }[];
	/** Where its earth point is. */
	earth: string;
	/** What hangs lowest, and how one sees which way up it goes. */
	lowest: string;
	/** What its reset button does, and when it is not to be touched. */
	reset: string;
	/** How it tells where it stands; a unit may tell less than all. */
	lamps: readonly { state: LampState; shows: string }[];
	/** What its own display shows from which level up, from the weakest; none where it shows only figures. */
	display: readonly { fromDbm: number; shows: string }[];
}
