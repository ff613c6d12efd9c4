import { degToRad, radToDeg } from '../units/angle';
import { requireInRange } from '../units/errors';
import { itemAt, lastOf } from '../units/lists';

/** One look at the cross-polar signal at a known turn of the feed. */
export interface RotationReading {
	/** Turn of the feed from its first mark, degrees; clockwise seen from behind the dish. */
	feedDeg: number;
	/** Level on the sent polarization, dBm. */
	coDbm: number;
	/** Level on the other polarization, dBm. */
	crossDbm: number;
}

export type FeedRotation =
	| { kind: 'nothing-yet' }
	/** One reading tells how far, not which way. */
	| { kind: 'one-reading'; byDeg: number; tryFeedDeg: number }
	/** Two places fit; reading at `tryFeedDeg` tells them apart. */
	| { kind: 'two-places'; feedDeg: readonly [number, number]; tryFeedDeg: number }
	| {
			kind: 'found';
			/** Feed turn of the least cross-polar signal, degrees. */
			feedDeg: number;
			sigmaDeg: number;
			/** Discrimination that remains there: what turning cannot better, dB; at least this. */
			floorDb: number;
			/** Root mean square of what the readings leave unexplained, dB. */
			residualDb: number;
	  };

/** One sigma of a level difference: meter, air and sway together, dB. */
const LEVEL_SIGMA_DB = 0.35;
/** A cross-polar level this near the receiver's floor is only an upper bound, dB. */
const NEAR_FLOOR_DB = 3;
/** A second place is one as long as it fits within this χ² of the best. */
const AMBIGUOUS_CHI2 = 6;
const WIDEST_DEG = 44;
/** Minima nearer to each other than this are one place, degrees. */
const SAME_PLACE_DEG = 0.6;
const ASIDE_DEG = 1.5;
/** Readings nearer to each other than this tell nothing of the direction, degrees. */
const LEAST_SPREAD_DEG = 0.4;

/**
 * Finds the feed rotation of least cross-polar signal from readings at known rotations, by fitting
 * |ε + j·η + tan(δ − δ0)|² to cross over co in power; ε only moves the minimum and is found with δ0.
 *
 * @param readings feed turns within ±90°, levels −150 to 20 dBm
 * @param floorDbm level below which the receiver shows only its noise
 * @throws OutOfRangeError outside these ranges
 * Source: projection of a linearly polarized field on a turned receiver (co cos δ, cross sin δ).
 */
export function findFeedRotation(
	readings: readonly RotationReading[],
	floorDbm: number
): FeedRotation {
	for (const { feedDeg, coDbm, crossDbm } of readings) {
		requireInRange('feedDeg', feedDeg, -90, 90);
		requireInRange('coDbm', coDbm, -150, 20);
		requireInRange('crossDbm', crossDbm, -150, 20);
	}
	const [first] = readings;
	if (!first) return { kind: 'nothing-yet' };
	const points = readings.map((reading) => ({
		feedDeg: reading.feedDeg,
		ratioDb: reading.crossDbm - reading.coDbm,
		bound: reading.crossDbm - floorDbm < NEAR_FLOOR_DB
	}));
	if (spreadOf(points) < LEAST_SPREAD_DEG) {
		const last = lastOf(points);
		const byDeg = radToDeg(Math.atan(10 ** (last.ratioDb / 20)));
		return {
			kind: 'one-reading',
			byDeg,
			tryFeedDeg: last.feedDeg + Math.max(byDeg, LEAST_SPREAD_DEG)
		};
	}
	const places = minimaOf(points);
	const best = itemAt(places, 0);
	const rivals = places.slice(1).filter((place) => place.chi2 - best.chi2 < AMBIGUOUS_CHI2);
	const apart = rivals.find((place) => Math.abs(place.feedDeg - best.feedDeg) > SAME_PLACE_DEG);
	if (apart) {
		return {
			kind: 'two-places',
			feedDeg: [best.feedDeg, apart.feedDeg],
			tryFeedDeg: untried(points, [best.feedDeg, apart.feedDeg])
		};
	}
	// Two minima side by side are one place that is known as well as they are apart.
	const gapDeg = Math.max(0, ...rivals.map((place) => Math.abs(place.feedDeg - best.feedDeg)));
	return {
		kind: 'found',
		feedDeg: best.feedDeg,
		sigmaDeg: Math.max(sigmaOf(points, best), gapDeg / 2),
		floorDb: -10 * Math.log10(best.floorPower),
		residualDb: LEVEL_SIGMA_DB * Math.sqrt(best.chi2 / points.length)
	};
}

/** The first of two places that was not read yet; with both read, a little beside the first. */
function untried(points: readonly Point[], places: readonly [number, number]): number {
	const fresh = places.find((place) =>
		points.every((point) => Math.abs(point.feedDeg - place) > SAME_PLACE_DEG / 2)
	);
	return fresh ?? places[0] + (places[0] > places[1] ? ASIDE_DEG : -ASIDE_DEG);
}

interface Point {
	feedDeg: number;
	ratioDb: number;
	bound: boolean;
}

interface Place {
	feedDeg: number;
	floorPower: number;
	chi2: number;
}

function spreadOf(points: readonly Point[]): number {
	const turns = points.map((point) => point.feedDeg);
	return Math.max(...turns) - Math.min(...turns);
}

function chi2(points: readonly Point[], feedDeg: number, floorPower: number): number {
	return points.reduce((sum, { feedDeg: at, ratioDb, bound }) => {
		const tangent = Math.tan(degToRad(Math.max(-80, Math.min(80, at - feedDeg))));
		const expectedDb = 10 * Math.log10(tangent * tangent + floorPower);
		const off = expectedDb - ratioDb;
		// At the receiver's floor anything weaker reads the same.
		return bound && off < 0 ? sum : sum + (off / LEVEL_SIGMA_DB) ** 2;
	}, 0);
}

/** Floors tried in a first look, dB. */
const FLOORS_DB = Array.from({ length: 14 }, (_, i) => -70 + 5 * i);

/** The floor that fits best with the minimum at one place, to the step of a first look. */
function roughFloor(points: readonly Point[], feedDeg: number): Place {
	let best: Place = { feedDeg, floorPower: 0, chi2: Infinity };
	for (const db of FLOORS_DB) {
		const floorPower = 10 ** (db / 10);
		const misfit = chi2(points, feedDeg, floorPower);
		if (misfit < best.chi2) best = { feedDeg, floorPower, chi2: misfit };
	}
	return best;
}

/** And as well as it can be found. */
function bestFloor(points: readonly Point[], feedDeg: number): Place {
	const at = (db: number): number => chi2(points, feedDeg, 10 ** (db / 10));
	const startDb = 10 * Math.log10(roughFloor(points, feedDeg).floorPower);
	const floorDb = goldenMinimum(at, Math.max(-70, startDb - 5), Math.min(-5, startDb + 5), 16);
	return { feedDeg, floorPower: 10 ** (floorDb / 10), chi2: at(floorDb) };
}

const GRID_STEP_DEG = 0.5;

/** All places where the fit has a minimum of its own, the best first. */
function minimaOf(points: readonly Point[]): Place[] {
	const centre = points.reduce((p, q) => (q.ratioDb < p.ratioDb ? q : p)).feedDeg;
	const grid: Place[] = [];
	for (let turn = centre - WIDEST_DEG; turn <= centre + WIDEST_DEG; turn += GRID_STEP_DEG) {
		grid.push(roughFloor(points, turn));
	}
	return grid
		.filter(
			(place, i) =>
				place.chi2 <= (grid[i - 1]?.chi2 ?? Infinity) &&
				place.chi2 < (grid[i + 1]?.chi2 ?? Infinity)
		)
		.map(({ feedDeg }) => {
			const refined = goldenMinimum(
				(turn) => bestFloor(points, turn).chi2,
				feedDeg - GRID_STEP_DEG,
				feedDeg + GRID_STEP_DEG,
				20
			);
			return bestFloor(points, refined);
		})
		.sort((p, q) => p.chi2 - q.chi2);
}

/** How far the minimum may lie off before the fit is worse by one: half the width of that stretch. */
function sigmaOf(points: readonly Point[], { feedDeg, chi2: least }: Place): number {
	const edge = (sign: number): number => {
		let reach = 0.01;
		while (reach < WIDEST_DEG && bestFloor(points, feedDeg + sign * reach).chi2 < least + 1) {
			reach *= 1.3;
		}
		return reach;
	};
	return (edge(1) + edge(-1)) / 2;
}

function goldenMinimum(of: (x: number) => number, from: number, to: number, steps: number): number {
	const ratio = (Math.sqrt(5) - 1) / 2;
	let [low, high] = [from, to];
	let [left, right] = [high - ratio * (high - low), low + ratio * (high - low)];
	let [atLeft, atRight] = [of(left), of(right)];
	for (let i = 0; i < steps; i++) {
		if (atLeft < atRight) {
			[high, right, atRight] = [right, left, atLeft];
			left = high - ratio * (high - low);
			atLeft = of(left);
		} else {
			[low, left, atLeft] = [left, right, atRight];
			right = low + ratio * (high - low);
			atRight = of(right);
		}
	}
	return (low + high) / 2;
}
