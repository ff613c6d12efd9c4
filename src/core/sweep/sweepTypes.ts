import type { Axis } from '../ends';
import type { LevelCurvePoint } from '../radio/levelCurve';
import type { Lobe } from './lobes';

export interface SweepSample {
	/** Seconds from the start of the sweep, where recorded. */
	elapsedS?: number | undefined;
	positionDeg: number;
	levelV: number;
}

export interface SweepInput {
	axis: Axis | 'elevation';
	frequencyGhz: number;
	dishDiameterM: number;
	/** Half-power beamwidth from the catalogue; without it 70·λ/D is the ruler. */
	beamwidthDeg?: number | undefined;
	plannedLevelDbm: number;
	levelCurve: readonly LevelCurvePoint[];
	samples: readonly SweepSample[];
}

export type SweepVerdict = 'main-lobe' | 'beside-main-lobe' | 'no-signal' | 'implausible-reading';

/** What else than the pointing has left its mark in a sweep. */
export interface SweepMark {
	kind: 'play' | 'slow-fade' | 'far-end-moved' | 'held-flat' | 'saturated' | 'coarse-meter';
	/** Play and flat width in degrees; change, jump and meter step in dB. */
	value: number;
	words: string;
}

export interface SweepAnalysis {
	verdict: SweepVerdict;
	/** Where this axis points at the far end; beside the main lobe: the middle of the ring. */
	centreDeg: number | null;
	/** One-sigma uncertainty of the centre, degrees. */
	centreSigmaDeg: number | null;
	/** Highest smoothed level of the cut. */
	peakLevelDbm: number | null;
	peakPositionDeg: number | null;
	/** Planned level minus the highest level, dB; positive is short. */
	shortfallDb: number | null;
	lobes: Lobe[];
	beamwidthDeg: number;
	/** Probability that the verdict is right, 0.5 to 0.999. */
	confidence: number;
	/** Samples left out: voltages the port cannot give. */
	excludedSamples: number;
	marks: SweepMark[];
	reasons: string[];
}
