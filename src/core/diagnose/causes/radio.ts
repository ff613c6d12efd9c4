import { SILENT_DB } from '../../budget/radioMixUps';
import {
	anyDirection,
	atMaximumByChance,
	both,
	onlyA,
	onlyB,
	type CauseRow,
	type Deviate,
	type Loss
} from './row';

/** Spread of what a reversed or foreign curve makes of a level, dB: it may be anything. */
const CURVE_SIGMA_DB = 14;

/** A drowned end cannot be aimed: what the other one receives may be anything below plan, too. */
const NOT_AIMED: Deviate = [14, 12];
const DROWNED: Deviate = [0, 25];
const overloaded: readonly Loss[] = [
	both(0, 6),
	onlyA(...DROWNED),
	onlyB(...DROWNED),
	{ common: [0, 0], own: { A: DROWNED, B: NOT_AIMED } },
	{ common: [0, 0], own: { A: NOT_AIMED, B: DROWNED } }
];

/** Transmitters, receivers, and what is read of them. */
export const RADIO = {
	'power-low-a': {
		name: 'A sends with too little power',
		predicts: 'B reads short, A reads as planned',
		prior: 0.06,
		family: 'power-low',
		losses: () => [onlyB(9, 5)],
		marks: { 'power-a': 0.03 }
	},
	'power-low-b': {
		name: 'B sends with too little power',
		predicts: 'A reads short, B reads as planned',
		prior: 0.06,
		family: 'power-low',
		losses: () => [onlyA(9, 5)],
		marks: { 'power-b': 0.03 }
	},
	'wrong-sub-band': {
		name: 'a sub-band unit is the wrong one',
		predicts: 'hardly anything is heard in one or both directions, whatever the pointing',
		prior: 0.04,
		alone: true,
		losses: () => anyDirection(SILENT_DB, 8),
		marks: { units: 0.02, 'follows-pointing': 0.1, 'sweep-a': 0.8, 'sweep-b': 0.8 }
	},
	'power-control-on': {
		name: 'ATPC is left on',
		predicts: 'the level hardly follows the pointing, or is too high and falls as the aim improves',
		prior: 0.05,
		losses: () => anyDirection(5, 7),
		marks: { 'power-control': 0.99, 'follows-pointing': 0.12, 'power-a': 0.6, 'power-b': 0.6 }
	},
	'adaptive-modulation-on': {
		name: 'ACM is left on',
		predicts: 'the level jumps by a few dB as the modulation changes',
		prior: 0.03,
		losses: () => anyDirection(-2.5, 1.5),
		marks: { 'adaptive-modulation': 0.99, unsteady: 0.55 }
	},
	'wrong-curve-a': {
		name: 'A’s level curve is wrong or reversed',
		predicts:
			'A reads off while B reads as planned; the radio’s own display disagrees with the meter at A',
		prior: 0.03,
		family: 'wrong-curve',
		losses: () => [onlyA(0, CURVE_SIGMA_DB)],
		marks: { 'meter-a': 0.04, 'impossible-volts-a': 0.2 }
	},
	'wrong-curve-b': {
		name: 'B’s level curve is wrong or reversed',
		predicts:
			'B reads off while A reads as planned; the radio’s own display disagrees with the meter at B',
		prior: 0.03,
		family: 'wrong-curve',
		losses: () => [onlyB(0, CURVE_SIGMA_DB)],
		marks: { 'meter-b': 0.04, 'impossible-volts-b': 0.2 }
	},
	'pick-up': {
		name: 'the meter picks up a broadcaster',
		predicts: 'volts that the port cannot give, which do not follow the pointing',
		prior: 0.03,
		alone: true,
		losses: () => [onlyA(0, 30), onlyB(0, 30)],
		marks: {
			'impossible-volts-a': 0.93,
			'impossible-volts-b': 0.93,
			'follows-pointing': 0.05,
			'meter-a': 0.4,
			'meter-b': 0.4,
			unsteady: 0.55
		},
		// Volts that a port can give are seldom a broadcaster's.
		atMaximum: (stands, { observations }) =>
			observations.implausibleVoltage ? atMaximumByChance(stands) : 0.1
	},
	overload: {
		name: 'a receiver is overloaded',
		predicts: 'the level stands at the receiver’s maximum and does not rise with the aim',
		prior: 0.02,
		alone: true,
		// The one that is drowned stands at its maximum, whatever was planned.
		losses: () => overloaded,
		marks: { 'follows-pointing': 0.2 },
		atMaximum: (stands) => (stands ? 1 : 0.01)
	},
	'crossed-cables': {
		name: 'two indoor cables are crossed at an end',
		predicts:
			'another radio sends than the one that is switched on: the far end reads short, this one as planned',
		prior: 0.04,
		possible: ({ crossedCablesLossDb }) =>
			Math.max(crossedCablesLossDb.A, crossedCablesLossDb.B) > 0,
		losses: ({ crossedCablesLossDb: { A, B } }) => [
			...(A > 0 ? [onlyB(A, 4)] : []),
			...(B > 0 ? [onlyA(B, 4)] : []),
			...(A > 0 && B > 0 ? [both(Math.max(A, B), 4)] : [])
		],
		marks: { cables: 0.03 }
	}
} as const satisfies Record<string, CauseRow>;
