import type { PerEnd } from '../../ends';
import type { DiagnosisInput } from '../question';
import type { SightKey } from '../sights';

/** A normal deviate: mean and spread, dB. */
export type Deviate = readonly [meanDb: number, sigmaDb: number];

/** What a cause takes from the level at each end: what both share, and what either has for itself. */
export interface Loss {
	common: Deviate;
	own: PerEnd<Deviate>;
}

/** How much stronger the planned polarization is read than the other one. */
export interface CrossPolarReading {
	/** Of two causes at once, the higher one decides. */
	decides: number;
	expects: (hop: DiagnosisInput) => Deviate;
}

/** All that is known of one cause. */
export interface CauseRow {
	/** What is wrong, in words. */
	name: string;
	/** What it makes of the levels, and how it shows. */
	predicts: string;
	/** How often it is met before anything is known of the hop, 0 to 1. */
	prior: number;
	/** What it may strike, each as likely as the others. */
	losses: (hop: DiagnosisInput) => readonly Loss[];
	/** Chance of a yes at each sight that it changes, 0 to 1. */
	marks: Partial<Record<SightKey, number>>;
	/** Causes of one family are one fault at different places: two of them at once are not told apart. */
	family?: string;
	/** It drowns out or excludes every other cause. */
	alone?: true;
	/** Whether it can be at work on this hop at all; always where it is left out. */
	possible?: (hop: DiagnosisInput) => boolean;
	/** What the other polarization reads under it; as set right where it is left out. */
	crossPolar?: CrossPolarReading;
	/** How well it fits that a receiver stands at its maximum input, or that none does. */
	atMaximum?: (stands: boolean, hop: DiagnosisInput) => number;
}

/** Spread of levels when all is as planned, dB: parts, meters, air. */
export const SOUND_SIGMA_DB = 0.9;

const NOTHING: Deviate = [0, 0];
const SOUND: Deviate = [0, SOUND_SIGMA_DB];

/** Both directions lose the same. */
export const both = (meanDb: number, sigmaDb: number): Loss => ({
	common: [meanDb, sigmaDb],
	own: { A: NOTHING, B: NOTHING }
});

/** Only what one end receives is less. */
export const onlyA = (meanDb: number, sigmaDb: number): Loss => ({
	common: SOUND,
	own: { A: [meanDb, sigmaDb], B: NOTHING }
});
export const onlyB = (meanDb: number, sigmaDb: number): Loss => ({
	common: SOUND,
	own: { A: NOTHING, B: [meanDb, sigmaDb] }
});

/** One direction, the other, or both: nobody knows which was struck. */
export const anyDirection = (meanDb: number, sigmaDb: number): readonly Loss[] => [
	both(meanDb, sigmaDb),
	onlyA(meanDb, sigmaDb),
	onlyB(meanDb, sigmaDb)
];

/** Some other cause than overload seldom puts a receiver at its maximum by chance. */
const MAXIMUM_BY_CHANCE = 0.15;
export const atMaximumByChance = (stands: boolean): number => (stands ? MAXIMUM_BY_CHANCE : 1);
