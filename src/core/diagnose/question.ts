import type { End, PerEnd } from '../ends';
import type { Cause } from './causes/keys';

/** Everything that is asked about a hop whose level is not what was planned. */
export interface DiagnosisInput {
	/** What each end should receive by the plan, dBm. */
	plannedDbm: PerEnd<number>;
	/** What it receives now, dBm; null where nobody has read it. */
	measuredDbm: PerEnd<number | null>;
	/** The same on the other polarization, where it was read. */
	crossPolarDbm: PerEnd<number | null>;
	/** Half width of the window about the plan, dB. */
	toleranceDb: number;
	/** Level at which each receiver hears only itself, dBm. */
	floorDbm: PerEnd<number>;
	/** Depth of the first side lobe of each dish, dB. */
	firstSideLobeDb: PerEnd<number>;
	/** Discrimination of the two antennas together, dB. */
	crossPolarDiscriminationDb: number;
	/** Extra loss of the weaker branching arm, dB; 0 where there is none. */
	armDifferenceDb: number;
	/** What the far end hears less where the indoor cables of an end are crossed, dB; 0 where none can be. */
	crossedCablesLossDb: PerEnd<number>;
	/** Loss that one size smaller or larger a dish makes, dB. */
	dishSizeStepDb: number;
	/** Each receiver's maximum input, dBm. */
	maxInputDbm: PerEnd<number>;
	observations: Observations;
}

export type SweepSight = 'main-lobe' | 'beside-main-lobe' | 'not-swept';

/** What people have seen or done; undefined is "nobody has looked". */
export interface Observations {
	/** Verdict of the last sweep at each end. */
	sweep?: Partial<PerEnd<SweepSight | undefined>> | undefined;
	/** Where a voltage that the port cannot give was read. */
	implausibleVoltage?: End | undefined;
	/** The level moves with the far end's or this end's dish. */
	followsPointing?: boolean | undefined;
	/** ATPC or ACM seen on. */
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
	powerAsPlanned?: Partial<PerEnd<boolean | undefined>> | undefined;
	/** Sub-band units read from the labels agree with the plan. */
	unitsAsPlanned?: boolean | undefined;
	/** The meter of each end agrees with the radio's own display. */
	meterAgrees?: Partial<PerEnd<boolean | undefined>> | undefined;
	/** The level fell when a fastener was tightened. */
	fellWhileLocking?: boolean | undefined;
	/** Dish sizes read at both ends agree with the plan. */
	dishesAsPlanned?: boolean | undefined;
	/** The level swings by itself, slowly or with the wind. */
	unsteady?: boolean | undefined;
	/** The right branching arm is connected, as labelled. */
	armAsPlanned?: boolean | undefined;
	/** A transmitter switched off from its own indoor port falls at the far end, at both ends. */
	cablesAsPlanned?: boolean | undefined;
	/** Feeder swept or opened and found dry. */
	feederSound?: boolean | undefined;
	/** Causes that were set right already: each is unlikely to be there still. */
	setRight?: readonly Cause[] | undefined;
}

/** Two observations made one: what is newer wins, field by field. */
export function withObservation(known: Observations, more: Observations): Observations {
	return {
		...known,
		...more,
		sweep: { ...known.sweep, ...more.sweep },
		powerAsPlanned: { ...known.powerAsPlanned, ...more.powerAsPlanned },
		meterAgrees: { ...known.meterAgrees, ...more.meterAgrees }
	};
}
