/** Everything that is asked about a hop whose level is not what was planned. */
export interface DiagnosisInput {
	/** What the plan says, by direction; `A` is what A receives. */
	planned: { aDbm: number; bDbm: number };
	/** What is measured now; null where nobody has read it. */
	measured: { aDbm: number | null; bDbm: number | null };
	/** The same on the other polarization, where it was read. */
	crossPolar: { aDbm: number | null; bDbm: number | null };
	toleranceDb: number;
	floorDbm: { a: number; b: number };
	/** Depth of the first side lobe of each dish, and discrimination of the pair, dB. */
	firstSideLobeDb: { a: number; b: number };
	crossPolarDiscriminationDb: number;
	/** Extra loss of the weaker branching arm, dB; 0 where there is none. */
	armDifferenceDb: number;
	/** Loss that one size smaller or larger a dish makes, dB. */
	dishSizeStepDb: number;
	/** Receiver's maximum input, dBm. */
	maxInputDbm: { a: number; b: number };
	observations: Observations;
}

/** What people have seen or done; undefined is "nobody has looked". */
export interface Observations {
	/** Verdict of the last sweeps at each end. */
	sweepA?: 'main-lobe' | 'beside-main-lobe' | 'not-swept' | undefined;
	sweepB?: 'main-lobe' | 'beside-main-lobe' | 'not-swept' | undefined;
	/** A voltage that the port cannot give was read. */
	implausibleVoltage?: 'a' | 'b' | undefined;
	/** The level moves with the far end's or this end's dish. */
	followsPointing?: boolean | undefined;
	/** Automatic power control or adaptive modulation seen on. */
	powerControlOn?: boolean | undefined;
	adaptiveModulationOn?: boolean | undefined;
	/** Whether it rains on the path now. */
	raining?: boolean | undefined;
	/** Line of sight seen; false: something stands in it. */
	lineOfSight?: boolean | undefined;
	/** Feeds of both ends compared: true when they agree. */
	polarizationsAgree?: boolean | undefined;
	/** Films and caps counted off at both ends. */
	filmsCounted?: boolean | undefined;
	/** Power read at each radio agrees with the plan. */
	powerAsPlanned?: { a?: boolean | undefined; b?: boolean | undefined } | undefined;
	/** Sub-band units read from the labels agree with the plan. */
	unitsAsPlanned?: boolean | undefined;
	/** The meter agrees with the radio's own display. */
	meterAgrees?: { a?: boolean | undefined; b?: boolean | undefined } | undefined;
	/** The level fell when a fastener was tightened. */
	fellWhileLocking?: boolean | undefined;
	/** Dish sizes read at both ends agree with the plan. */
	dishesAsPlanned?: boolean | undefined;
	/** The level swings by itself, slowly or with the wind. */
	unsteady?: boolean | undefined;
	/** The right branching arm is connected, as labelled. */
	armAsPlanned?: boolean | undefined;
	/** Feeder swept or opened and found dry. */
	feederSound?: boolean | undefined;
	/** Causes that were set right already: each is unlikely to be there still. */
	setRight?: readonly Cause[] | undefined;
}

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
	'none'
] as const;
export type Cause = (typeof CAUSES)[number];

/** What a cause does to both directions: the loss each way, with its spread, dB. */
export interface Prediction {
	lossADb: number;
	lossBDb: number;
	sigmaDb: number;
	/** Loss of the two directions is one and the same, apart from the meters. */
	reciprocal: boolean;
}

export const CAUSE_WORDS: Record<Cause, { name: string; predicts: string }> = {
	'side-lobe-a': {
		name: 'A stands on a side lobe',
		predicts:
			'both directions short alike, by about the first side lobe of A’s dish; a sweep at A finds humps evenly about a dip'
	},
	'side-lobe-b': {
		name: 'B stands on a side lobe',
		predicts:
			'both directions short alike, by about the first side lobe of B’s dish; a sweep at B finds humps evenly about a dip'
	},
	'side-lobe-both': {
		name: 'both ends stand on side lobes',
		predicts:
			'both directions short alike, by about two side lobes; it looks like crossed polarization until an end is swept'
	},
	'crossed-polarization': {
		name: 'polarizations are crossed',
		predicts:
			'both directions short alike by the antennas’ discrimination; the other polarization is the stronger one'
	},
	'wrong-arm': {
		name: 'the wrong branching arm is connected',
		predicts: 'short by the difference of the arms, in one or both directions'
	},
	'power-low-a': {
		name: 'A sends with too little power',
		predicts: 'B reads short, A reads as planned'
	},
	'power-low-b': {
		name: 'B sends with too little power',
		predicts: 'A reads short, B reads as planned'
	},
	'wrong-sub-band': {
		name: 'a sub-band unit is the wrong one',
		predicts: 'hardly anything is heard in one or both directions, whatever the pointing'
	},
	'power-control-on': {
		name: 'automatic power control is left on',
		predicts: 'the level hardly follows the pointing, or is too high and falls as the aim improves'
	},
	'adaptive-modulation-on': {
		name: 'adaptive modulation is left on',
		predicts: 'the level jumps by a few dB as the modulation changes'
	},
	'wrong-curve-a': {
		name: 'A’s level curve is wrong or reversed',
		predicts:
			'A reads off while B reads as planned; the radio’s own display disagrees with the meter at A'
	},
	'wrong-curve-b': {
		name: 'B’s level curve is wrong or reversed',
		predicts:
			'B reads off while A reads as planned; the radio’s own display disagrees with the meter at B'
	},
	'pick-up': {
		name: 'the meter picks up a broadcaster',
		predicts: 'volts that the port cannot give, which do not follow the pointing'
	},
	'film-left-in': {
		name: 'a protective film or cap is left in the waveguide',
		predicts:
			'both directions short alike by a few to twenty dB, on the main lobe, whatever the weather'
	},
	'feeder-bad': {
		name: 'water or a bad joint in the feeder',
		predicts: 'both directions short alike, by an amount that changes with movement and temperature'
	},
	obstruction: {
		name: 'something stands in the path',
		predicts: 'both directions short alike; the line of sight is not seen'
	},
	rain: {
		name: 'it rains on the path',
		predicts: 'both directions short alike, more at high frequency, and gone with the rain'
	},
	'wrong-dish': {
		name: 'a dish of another size hangs at an end',
		predicts:
			'both directions short alike by the difference in gain; the beam is wider than planned'
	},
	'moved-while-locking': {
		name: 'a dish moved while it was tightened',
		predicts: 'both directions fell alike when a fastener was tightened'
	},
	overload: {
		name: 'a receiver is overloaded',
		predicts: 'the level stands at the receiver’s maximum and does not rise with the aim'
	},
	none: { name: 'nothing is wrong', predicts: 'both directions inside the window' }
};
