import { degToRad, radToDeg, wrapBearingDeg } from '../units/angle';
import { itemAt } from '../units/lists';
import type { FaceAim, ScanReach, Vector } from './scanWindow';

/** What a unit can be set to: a wall fixes the heading, a pole does not; its mounting bounds the tilt. */
export interface AimLimits {
	/** The one heading it can have, degrees true; null where it may be turned anywhere. */
	headingDeg: number | null;
	/** Lowest and highest tilt, degrees; equal where it does not tilt. */
	tiltDeg: readonly [number, number];
}

export interface BestAim {
	aim: FaceAim;
	/** Smallest margin inside the window over all directions, degrees; negative where one lies outside. */
	marginDeg: number;
	/** No aim within the limits has a larger one than this, or than what was said to be of no use, degrees. */
	boundDeg: number;
}

/** Aims are found to this much margin, degrees. */
const TOLERANCE_DEG = 0.004;
/** Boxes looked at before the search says how far it came. */
const MOST_BOXES = 20_000;
/** Near the pole of its frame a direction may lie anywhere across. */
const STEEPEST_DEG = 89;

/** A stretch of headings and tilts: its middle, half its width, and the most that any aim in it could give. */
interface Box {
	heading: number;
	tilt: number;
	halfHeading: number;
	halfTilt: number;
	bound: number;
}

/**
 * As {@link largestMargin}; of the aims with that margin, the one that leaves most in the other angle.
 *
 * @param vectors directions that must lie inside the window; with none the middle of the limits is given
 * @param reach 0 to 90 each way
 */
export function bestAim(vectors: readonly Vector[], reach: ScanReach, limits: AimLimits): BestAim {
	const found = largestMargin(vectors, reach, limits);
	if (vectors.length === 0) return found;
	const keepDeg = found.marginDeg - TOLERANCE_DEG / 4;
	const { aim } = climbed(found.aim, limits, { from: 4, to: 0.02 }, (at) =>
		smallestMarginDeg(vectors, reach, at) < keepDeg
			? Number.NEGATIVE_INFINITY
			: slackDeg(vectors, reach, at)
	);
	return { ...found, aim: { ...aim, headingDeg: wrapBearingDeg(aim.headingDeg) } };
}

/** Steps that a climb begins and ends with, degrees. */
interface Steps {
	from: number;
	to: number;
}

/** An aim bettered in ever smaller steps, until none of them helps. */
function climbed(
	from: FaceAim,
	limits: AimLimits,
	steps: Steps,
	worthOf: (aim: FaceAim) => number
): { aim: FaceAim; worth: number } {
	let at = { aim: from, worth: worthOf(from) };
	for (let step = steps.from; step > steps.to; step /= 2) {
		for (let moved = true; moved;) {
			moved = false;
			for (const [heading, tilt] of STEPS) {
				const aim = {
					headingDeg: at.aim.headingDeg + (limits.headingDeg === null ? heading * step : 0),
					tiltDeg: clamped(at.aim.tiltDeg + tilt * step, limits)
				};
				const worth = worthOf(aim);
				if (worth > at.worth + 1e-7) {
					at = { aim, worth };
					moved = true;
				}
			}
		}
	}
	return at;
}

/**
 * The heading and tilt of one unit with the largest smallest margin, by branch and bound over both angles:
 * exact to 0.004°, and the bound proves it.
 *
 * @param vectors directions that must lie inside the window; with none the middle of the limits is given
 * @param reach 0 to 90 each way
 * @param worthDeg a margin that is of no use: the search stops where none above it is left
 * Source: the angles in the frame of the unit move by no more than the turn of the frame; per degree of
 * heading `above` moves by at most sin(tilt) and `across` by 1 + sin(tilt)·tan(above), per degree of tilt
 * `above` by at most 1 and `across` by tan(above).
 */
export function largestMargin(
	vectors: readonly Vector[],
	reach: ScanReach,
	limits: AimLimits,
	worthDeg = Number.NEGATIVE_INFINITY
): BestAim {
	const [low, high] = limits.tiltDeg;
	const anywhere = limits.headingDeg === null;
	const whole: Box = {
		heading: limits.headingDeg ?? middleHeading(vectors),
		tilt: (low + high) / 2,
		halfHeading: anywhere ? 180 : 0,
		halfTilt: (high - low) / 2,
		bound: 0
	};
	if (vectors.length === 0) {
		const marginDeg = Math.min(reach.azimuthDeg, reach.elevationDeg);
		const aim = { headingDeg: wrapBearingDeg(whole.heading), tiltDeg: clamped(0, limits) };
		return { aim, marginDeg, boundDeg: marginDeg };
	}
	// The better the first aim is, the more boxes fall at once.
	const start = { headingDeg: whole.heading, tiltDeg: startTilt(vectors, limits) };
	const first = climbed(start, limits, { from: 4, to: 0.002 }, (at) =>
		smallestMarginDeg(vectors, reach, at)
	);
	let best = { aim: first.aim, marginDeg: first.worth };
	const open: Box[] = [{ ...whole, bound: boundOf(whole, vectors, reach) }];
	const enough = (): number => Math.max(best.marginDeg + TOLERANCE_DEG, worthDeg);
	for (let boxes = 0; boxes < MOST_BOXES; boxes++) {
		const box = open.pop();
		if (!box) break;
		if (box.bound <= enough()) continue;
		const halves = halvesOf(box, vectors, reach);
		for (const half of halves) {
			const at = { headingDeg: half.heading, tiltDeg: half.tilt };
			const marginDeg = smallestMarginDeg(vectors, reach, at);
			if (marginDeg > best.marginDeg) best = { aim: at, marginDeg };
		}
		// The better half is looked at first.
		halves.sort((a, b) => a.bound - b.bound);
		open.push(...halves.filter(({ bound }) => bound > enough()));
	}
	const boundDeg = Math.max(enough(), ...open.map(({ bound }) => bound));
	return {
		aim: { ...best.aim, headingDeg: wrapBearingDeg(best.aim.headingDeg) },
		marginDeg: best.marginDeg,
		boundDeg
	};
}

const STEPS: readonly (readonly [number, number])[] = [
	[1, 0],
	[-1, 0],
	[0, 1],
	[0, -1],
	[1, 1],
	[-1, -1],
	[1, -1],
	[-1, 1]
];

/** How far off its face a unit at some aim must look at most, in each angle, degrees. */
interface Extent {
	acrossDeg: number;
	aboveDeg: number;
}

/** Of all directions at once; the angles themselves are worked out of the farthest only. */
function extentOf(vectors: readonly Vector[], aim: FaceAim): Extent {
	const heading = degToRad(aim.headingDeg);
	const tilt = degToRad(aim.tiltDeg);
	const [cosHeading, sinHeading] = [Math.cos(heading), Math.sin(heading)];
	const [cosTilt, sinTilt] = [Math.cos(tilt), Math.sin(tilt)];
	let slope = 0;
	let behind = 0;
	let height = 0;
	for (const [north, east, up] of vectors) {
		const ahead = north * cosHeading + east * sinHeading;
		const right = Math.abs(east * cosHeading - north * sinHeading);
		const forward = ahead * cosTilt + up * sinTilt;
		if (forward > 0) slope = Math.max(slope, right / forward);
		else behind = Math.max(behind, Math.atan2(right, forward));
		height = Math.max(height, Math.abs(up * cosTilt - ahead * sinTilt));
	}
	return {
		acrossDeg: radToDeg(Math.max(behind, Math.atan(slope))),
		aboveDeg: radToDeg(Math.asin(Math.min(1, height)))
	};
}

/**
 * The smallest margin of several directions at an aim, degrees; with none, the window itself.
 *
 * @param vectors of unit length
 */
export function smallestMarginDeg(
	vectors: readonly Vector[],
	reach: ScanReach,
	aim: FaceAim
): number {
	const { acrossDeg, aboveDeg } = extentOf(vectors, aim);
	return Math.min(reach.azimuthDeg - acrossDeg, reach.elevationDeg - aboveDeg);
}

/** What both angles leave together at an aim: the smallest of each, added. */
function slackDeg(vectors: readonly Vector[], reach: ScanReach, aim: FaceAim): number {
	const { acrossDeg, aboveDeg } = extentOf(vectors, aim);
	return reach.azimuthDeg - acrossDeg + reach.elevationDeg - aboveDeg;
}

/** The most margin that any aim of a box could give. */
function boundOf(box: Box, vectors: readonly Vector[], reach: ScanReach): number {
	const { acrossDeg, aboveDeg } = extentOf(vectors, {
		headingDeg: box.heading,
		tiltDeg: box.tilt
	});
	const steepest = Math.min(90, Math.abs(box.tilt) + box.halfTilt);
	const sine = Math.sin(degToRad(steepest));
	const liftDeg = box.halfHeading * sine + box.halfTilt;
	const bound = reach.elevationDeg - Math.max(0, aboveDeg - liftDeg);
	if (aboveDeg + liftDeg >= STEEPEST_DEG) return Math.min(bound, reach.azimuthDeg);
	const slope = Math.tan(degToRad(aboveDeg + liftDeg));
	const turnDeg = box.halfHeading * (1 + sine * slope) + box.halfTilt * slope;
	return Math.min(bound, reach.azimuthDeg - Math.max(0, acrossDeg - turnDeg));
}

/** A box in two, across the angle whose width says less about it. */
function halvesOf(box: Box, vectors: readonly Vector[], reach: ScanReach): Box[] {
	const narrow = boundOf({ ...box, halfHeading: box.halfHeading / 2 }, vectors, reach);
	const flat = boundOf({ ...box, halfTilt: box.halfTilt / 2 }, vectors, reach);
	const byHeading =
		box.halfTilt === 0 ||
		(box.halfHeading > 0 &&
			(narrow < flat || (narrow === flat && box.halfHeading >= box.halfTilt)));
	const half = byHeading ? box.halfHeading / 2 : box.halfTilt / 2;
	return [-half, half].map((by) => {
		const part = byHeading
			? { ...box, heading: box.heading + by, halfHeading: half }
			: { ...box, tilt: box.tilt + by, halfTilt: half };
		return { ...part, bound: boundOf(part, vectors, reach) };
	});
}

/** The middle of the smallest arc of headings that holds all, degrees. */
function middleHeading(vectors: readonly Vector[]): number {
	const bearings = vectors
		.map(([north, east]) => wrapBearingDeg(radToDeg(Math.atan2(east, north))))
		.sort((a, b) => a - b);
	if (bearings.length === 0) return 0;
	let widest = { gap: -1, after: 0 };
	bearings.forEach((bearing, i) => {
		const next = i + 1 < bearings.length ? itemAt(bearings, i + 1) : itemAt(bearings, 0) + 360;
		if (next - bearing > widest.gap) widest = { gap: next - bearing, after: next };
	});
	return wrapBearingDeg(widest.after + (360 - widest.gap) / 2);
}

function startTilt(vectors: readonly Vector[], limits: AimLimits): number {
	const ups = vectors.map(([, , up]) => radToDeg(Math.asin(Math.max(-1, Math.min(1, up)))));
	return clamped((Math.min(...ups) + Math.max(...ups)) / 2, limits);
}

const clamped = (tilt: number, { tiltDeg: [low, high] }: AimLimits): number =>
	Math.min(high, Math.max(low, tilt));
