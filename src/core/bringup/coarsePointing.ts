import { bearingDifferenceDeg, wrapBearingDeg } from '../units/angle';
import { itemAt } from '../units/lists';
import { belowShare } from '../units/normal';
import { bearingText, numberText } from '../units/text';
import type { HubRecordPayloads } from './hubRecords';
import type { Station } from './stations';

/** What was shown at a heading. */
export type PointingShown = Pick<HubRecordPayloads['pointing'], 'headingDeg' | 'levelDbm' | 'step'>;

/**
 * `turn` there and read; `set` it there, the middle of what was found; `stays` where it is; `beside`: all headings were
 * looked at, and the best is far below the plan.
 */
export interface PointingAdvice {
	kind: 'turn' | 'set' | 'stays' | 'beside';
	/** Degrees true, 0 to below 360. */
	headingDeg: number;
	why: string;
}

/** How far a compass may have been wrong when it was first set, degrees, one standard deviation. */
const COMPASS_SIGMA_DEG = 10;
/** As far to either side of the plan a hub or another end is looked for, degrees. */
const REACH_DEG = 30;
/** Looks further from the best one than this are about another lobe, in beamwidths. */
const ABOUT = 2;
/** A best is not looked for further to a side than this once it was passed, in beamwidths. */
const FAR_ENOUGH = 1.4;
/** The middle lies no further from the best look than this, in beamwidths. */
const NEIGHBOURHOOD = 1.2;
/** Scatter of one look at a display, and of what is known of the lobes beside the beam, dB. */
const LOOK_SIGMA_DB = 2;
const BESIDE_SIGMA_DB = 5;
/** Lobes beside the beam are about this far below it. */
const BESIDE_DB = 14;
/** A figure that is shown is rounded to whole decibels. */
const ROUNDED_DB = 0.5;
/** A unit that shows figures hears nothing below this, dBm. */
const LEAST_SHOWN_DBM = -95;
const LEVELS = { fromDbm: -110, toDbm: -15, stepDb: 1.5 };
/** How far a step goes from one look to the next, in beamwidths. */
const STRIDE = 0.55;
/** The middle is known well enough below this, in beamwidths. */
const GOOD_ENOUGH = 1 / 6;
/** Nearer to the middle than this nobody turns it again, in beamwidths. */
const NEAR = 1 / 8;
/** Further below the plan than this, what was found may be beside the beam, dB. */
const SHORT_DB = 9;
/** What was shown is never quite impossible. */
const LEAST_CHANCE = 1e-4;
/** Looks about the best after which the middle of what is known is taken. */
const MOST_LOOKS = 14;

/**
 * Where to turn a small radio next, by what its display or lamps showed: the shape of its beam is laid over what was
 * seen, whatever its level, and steps count as the whole range that they stand for.
 *
 * @param shown in the order in which it was looked at; the last is where it stands
 * @param plannedDbm level to expect once both ends are set
 * Source: parabolic main lobe, 3 dB at half the half-power width; lobes beside it taken as a level with its scatter.
 */
export function advisePointing(
	station: Station,
	shown: readonly PointingShown[],
	plannedDbm: number
): PointingAdvice {
	const plannedDeg = wrapBearingDeg(station.aim.headingDeg);
	const { beamwidthDeg } = station.part;
	const at = (offDeg: number): number => wrapBearingDeg(plannedDeg + offDeg);
	const looks = shown.map((look) => ({
		offDeg: bearingDifferenceDeg(plannedDeg, look.headingDeg),
		range: rangeOf(station, look)
	}));
	const last = looks.at(-1);
	if (!last) {
		return { kind: 'turn', headingDeg: at(0), why: 'Where the plan says, by the compass.' };
	}
	const heard = looks.filter(({ range }) => range.low > Number.NEGATIVE_INFINITY);
	if (heard.length === 0) {
		const beyond = unseen(looks, beamwidthDeg);
		if (beyond === null) {
			return {
				kind: 'beside',
				headingDeg: at(0),
				why: `Nothing is shown within ${REACH_DEG}° of the plan: power, channel and the other end first.`
			};
		}
		return {
			kind: 'turn',
			headingDeg: at(beyond),
			why: 'Nothing is shown yet: on, by half a beam, to either side of the plan by turns.'
		};
	}
	const best = heard.reduce((one, other) => (other.range.low > one.range.low ? other : one));
	/** Looks about the best one: those far from it say nothing of its middle. */
	const near = looks.filter(
		({ offDeg }) => Math.abs(offDeg - best.offDeg) <= ABOUT * beamwidthDeg
	).length;
	const side = openSide(looks, best, beamwidthDeg);
	const found = middleOf(station, looks, best.offDeg);
	if (side !== 0 && near < MOST_LOOKS) {
		const furthest = looks.reduce(
			(far, { offDeg }) =>
				side * offDeg > side * far && Math.abs(offDeg - best.offDeg) <= ABOUT * beamwidthDeg
					? offDeg
					: far,
			best.offDeg
		);
		return {
			kind: 'turn',
			headingDeg: at(furthest + side * STRIDE * beamwidthDeg),
			why: `On to the ${side > 0 ? 'right' : 'left'} until it falls: a best that has not fallen on both sides is no best.`
		};
	}
	if (found.sigmaDeg > GOOD_ENOUGH * beamwidthDeg && near < MOST_LOOKS) {
		const next = tellingOff(looks, found.offDeg, beamwidthDeg);
		return {
			kind: 'turn',
			headingDeg: at(next),
			why: 'One look more, where the two flanks of the beam tell most.'
		};
	}
	const headingDeg = at(found.offDeg);
	if (found.peakDbm < plannedDbm - SHORT_DB) {
		const beyond = unseen(looks, beamwidthDeg);
		if (beyond !== null) {
			return {
				kind: 'turn',
				headingDeg: at(beyond),
				why: `The best so far is about ${numberText(plannedDbm - found.peakDbm, 0)} dB below the plan, perhaps a lobe beside the beam: on, to where nobody has looked.`
			};
		}
		return {
			kind: 'beside',
			headingDeg,
			why: `The best here is about ${numberText(plannedDbm - found.peakDbm, 0)} dB below the plan: nothing better within ${REACH_DEG}° of the plan. The other end is off, or something stands in the way.`
		};
	}
	if (Math.abs(last.offDeg - found.offDeg) <= NEAR * beamwidthDeg) {
		return {
			kind: 'stays',
			headingDeg,
			why: 'It stands in the middle of where it falls on either side. Tighten it, and look once more.'
		};
	}
	return {
		kind: 'set',
		headingDeg,
		why: `The middle between its two flanks, at ${bearingText(headingDeg, 0)}°.`
	};
}

interface Range {
	/** dBm; minus infinity: nothing was shown. */
	low: number;
	high: number;
}
interface Look {
	offDeg: number;
	range: Range;
}

/** The levels that what was shown stands for. */
function rangeOf({ part }: Station, { levelDbm, step }: PointingShown): Range {
	const display = part.installation?.display ?? [];
	if (step !== undefined && display.length > 0) {
		const low = itemAt(display, Math.min(step, display.length) - 1).fromDbm;
		return { low, high: display[step]?.fromDbm ?? Number.POSITIVE_INFINITY };
	}
	if (levelDbm !== null) return { low: levelDbm - ROUNDED_DB, high: levelDbm + ROUNDED_DB };
	return { low: Number.NEGATIVE_INFINITY, high: display[0]?.fromDbm ?? LEAST_SHOWN_DBM };
}

/** The next heading nobody has looked at: outward from the plan, to either side by turns; null where none is left. */
function unseen(looks: readonly Look[], beamwidthDeg: number): number | null {
	const stride = STRIDE * beamwidthDeg;
	for (let i = 0; i * stride <= REACH_DEG; i++) {
		for (const side of [1, -1]) {
			const offDeg = side * i * stride;
			if (!looks.some((look) => Math.abs(look.offDeg - offDeg) < stride / 2)) return offDeg;
		}
	}
	return null;
}

/** The side of the best on which it was not seen to fall yet: 1 to the right, −1 to the left, 0 of none. */
function openSide(looks: readonly Look[], best: Look, beamwidthDeg: number): -1 | 0 | 1 {
	const falls = (side: 1 | -1): boolean =>
		looks.some(({ offDeg, range }) => {
			const away = side * (offDeg - best.offDeg);
			if (away <= 0 || away > ABOUT * beamwidthDeg) return false;
			// A step lower is lower; a figure may scatter by as much.
			const isFigure = best.range.high - best.range.low <= 2 * ROUNDED_DB;
			return (
				away >= FAR_ENOUGH * beamwidthDeg ||
				range.high <= best.range.low - (isFigure ? LOOK_SIGMA_DB / 2 : 0)
			);
		});
	return falls(1) ? (falls(-1) ? 0 : -1) : 1;
}

/** A heading on the flank of the beam that was looked at less. */
function tellingOff(looks: readonly Look[], middle: number, beamwidthDeg: number): number {
	const count = (side: 1 | -1): number =>
		looks.filter(({ offDeg }) => side * (offDeg - middle) > 0).length;
	const side = count(1) <= count(-1) ? 1 : -1;
	for (const share of [0.6, 0.45, 0.75, 0.9]) {
		const offDeg = middle + side * share * beamwidthDeg;
		if (!looks.some((look) => Math.abs(look.offDeg - offDeg) < 0.08 * beamwidthDeg)) return offDeg;
	}
	return middle;
}

/** Where the middle of the lobe about the best look lies by all looks, off the plan, and the level there. */
function middleOf(
	{ part }: Station,
	looks: readonly Look[],
	aboutDeg: number
): { offDeg: number; sigmaDeg: number; peakDbm: number } {
	const { beamwidthDeg } = part;
	const strideDeg = beamwidthDeg / 24;
	const count = Math.ceil((2 * NEIGHBOURHOOD * beamwidthDeg) / strideDeg) + 1;
	let total = 0;
	let first = 0;
	let second = 0;
	let peak = 0;
	for (let i = 0; i < count; i++) {
		const middle = aboutDeg - NEIGHBOURHOOD * beamwidthDeg + i * strideDeg;
		const prior = Math.exp(-0.5 * (middle / COMPASS_SIGMA_DEG) ** 2);
		for (let level = LEVELS.fromDbm; level <= LEVELS.toDbm; level += LEVELS.stepDb) {
			let weight = prior;
			for (const { offDeg, range } of looks) {
				const beam = 12 * ((offDeg - middle) / beamwidthDeg) ** 2;
				const beside = beam > BESIDE_DB;
				const mean = level - Math.min(beam, BESIDE_DB);
				const sigma = beside ? BESIDE_SIGMA_DB : LOOK_SIGMA_DB;
				weight *=
					belowShare(range.high - mean, sigma) - belowShare(range.low - mean, sigma) + LEAST_CHANCE;
			}
			total += weight;
			first += weight * middle;
			second += weight * middle * middle;
			peak += weight * level;
		}
	}
	const offDeg = first / total;
	return {
		offDeg,
		sigmaDeg: Math.sqrt(Math.max(0, second / total - offDeg * offDeg)),
		peakDbm: peak / total
	};
}
