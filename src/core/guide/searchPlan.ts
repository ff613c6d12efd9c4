import { makeRadialPattern } from '../sweep/radialPattern';
import { withinShare } from '../units/normal';

export interface SearchInput {
	frequencyGhz: number;
	dishDiameterM: number;
	beamwidthDeg: number;
	plannedLevelDbm: number;
	floorDbm: number;
	/** One sigma of the first heading, degrees. */
	prior: { azimuthSigmaDeg: number; tiltSigmaDeg: number };
	/** What the adjusters reach, degrees; without it they reach everything. */
	travel?: { azimuthDeg: readonly [number, number]; tiltDeg: readonly [number, number] };
}

/** One line of azimuth at a tilt, within the travel of the adjusters. */
export interface SearchLine {
	tiltDeg: number;
	fromDeg: number;
	toDeg: number;
	samples: number;
}

/** How one end searches while nothing is heard, and where it stands while the other searches. */
export interface SearchPlan {
	/** Whether nobody has searched yet. */
	first: boolean;
	/** The azimuth lines in their order, nearest the plan first; those that the tilt does not reach are left out. */
	lines: readonly SearchLine[];
	/** Half-width of what is searched in azimuth, degrees, and spacing of the samples. */
	reachDeg: number;
	stepDeg: number;
	/** Of all lines. */
	samples: number;
	/** Turns of each end, this search the first, after which nearly every place of the far end was met. */
	turns: number;
	/** Share of those places that so many turns meet, 0 to 1: at least so often a hop that works is heard. */
	met: number;
	/** Seconds with a meter that reads by itself, and with readings typed by hand. */
	secondsByMeter: number;
	secondsByHand: number;
	/** How far off its axis a dish still hears the other one on axis, degrees. */
	hearingRadiusDeg: number;
	/** Probability that the lines meet the far end, given that it looks this way. */
	probabilityOneEnd: number;
	/** The same when the far end stands as it was set at first, off by its own errors. */
	probabilityBothEnds: number;
	/** Places where this end stands in turn while the far end searches, likeliest first; never quite the plan. */
	parks: readonly { azimuthDeg: number; tiltDeg: number }[];
}

const MIDDLE = { pedestal: 0.26, blockage: 0.012, widthFactor: 1 };
/** A signal is heard this far above the floor, dB. */
const HEARD_DB = 5;
const FIRST_SIGMAS = 2.6;
const SEARCH_SIGMAS = 3.6;
/** The very first line reaches less far: side lobes at its ends tell when the beam lies beyond. */
const FIRST_LINE_SIGMAS = 1.9;
/** A search that has met so much of where the far end can look has been long enough. */
const ENOUGH = 0.97;
/** No fewer turns than this: a first search is short; and no more, whatever is left. */
const FEWEST_TURNS = 3;
const MOST_TURNS = 12;
const STEP_BEAMWIDTHS = 0.62;
const LINE_BEAMWIDTHS = 0.8;
/** Lines of a first search, and of those after it, reach this far. */
const FIRST_TILT_SIGMAS = 1.3;
const TILT_SIGMAS = 2.5;
/** Parks cover the plane like tiles of this size against the hearing radius, and reach this far. */
const PARK_SHARE_OF_HEARING = 1.2;
const FINE_PARK_BEAMWIDTHS = 1.7;
const PARK_SIGMAS = 2.6;
/** The first park stands this far beside the plan: so it is known from a dish that nobody has parked. */
const FIRST_PARK_BEAMWIDTHS = 0.4;
const MOST_PARKS = 24;
/** Turning to a position and settling; reading a running meter, or typing one. */
const TURN_S = 1.5;
const METER_S = 0.5;
const TYPED_S = 6;

/**
 * The search of one end, from what the plan knows. Angles are about the planned pointing.
 *
 * @param first whether nobody has searched yet: fewer lines then, since the far end may be off as well
 */
export function planSearch(input: SearchInput, first = true): SearchPlan {
	const { beamwidthDeg, prior } = input;
	const hearingRadiusDeg = hearingRadius(input);
	const step = LINE_BEAMWIDTHS * beamwidthDeg;
	const tilts = [0];
	const sigmas = first ? FIRST_TILT_SIGMAS : TILT_SIGMAS;
	for (let tilt = step; tilt <= sigmas * prior.tiltSigmaDeg + 0.3 * step; tilt += step) {
		tilts.push(tilt, -tilt);
	}
	const stepDeg = STEP_BEAMWIDTHS * beamwidthDeg;
	const reachOf = (own: number): number => own * prior.azimuthSigmaDeg + 0.5 * beamwidthDeg;
	const lines = linesAt(input, tilts, stepDeg, (place) =>
		reachOf(!first ? SEARCH_SIGMAS : place === 0 ? FIRST_LINE_SIGMAS : FIRST_SIGMAS)
	);
	const reachDeg = reachOf(first ? FIRST_SIGMAS : SEARCH_SIGMAS);
	const sweptDeg = Math.max(0, ...lines.map(({ fromDeg, toDeg }) => (toDeg - fromDeg) / 2));
	const samples = lines.reduce((sum, line) => sum + line.samples, 0);
	const tiltReach =
		Math.max(0, ...lines.map(({ tiltDeg }) => Math.abs(tiltDeg))) + hearingRadiusDeg;
	const probabilityOneEnd =
		withinShare(sweptDeg + 0.5 * hearingRadiusDeg, prior.azimuthSigmaDeg) *
		withinShare(tiltReach, prior.tiltSigmaDeg);
	return {
		first,
		lines,
		reachDeg,
		stepDeg,
		samples,
		...turnsOf(input, hearingRadiusDeg),
		secondsByMeter: samples * (TURN_S + METER_S),
		secondsByHand: samples * (TURN_S + TYPED_S),
		hearingRadiusDeg,
		probabilityOneEnd,
		probabilityBothEnds:
			probabilityOneEnd *
			withinShare(hearingRadiusDeg, prior.azimuthSigmaDeg) *
			withinShare(hearingRadiusDeg, prior.tiltSigmaDeg),
		parks: parksOf(input, hearingRadiusDeg)
	};
}

/** The lines that the adjusters reach, as far as they reach. */
function linesAt(
	{ travel }: SearchInput,
	tilts: readonly number[],
	stepDeg: number,
	reachOf: (place: number) => number
): SearchLine[] {
	const [low, high] = travel?.tiltDeg ?? [-Infinity, Infinity];
	const [left, right] = travel?.azimuthDeg ?? [-Infinity, Infinity];
	return tilts
		.filter((tilt) => tilt >= low && tilt <= high)
		.map((tiltDeg, place) => {
			const reach = reachOf(place);
			const fromDeg = Math.min(right, Math.max(left, -reach));
			const toDeg = Math.min(right, Math.max(left, reach));
			return { tiltDeg, fromDeg, toDeg, samples: Math.round((toDeg - fromDeg) / stepDeg) + 1 };
		});
}

/** How many places of the far end, likeliest first, hold nearly all of where it can look. */
function turnsOf(
	{ prior, beamwidthDeg }: SearchInput,
	hearingRadiusDeg: number
): Pick<SearchPlan, 'turns' | 'met'> {
	const tile = coarseTile(beamwidthDeg, hearingRadiusDeg);
	let met = 0;
	let turns = 0;
	for (const { azimuthDeg, tiltDeg } of tilesOf(prior, tile)) {
		if (turns >= FEWEST_TURNS && (met >= ENOUGH || turns >= MOST_TURNS)) break;
		turns += 1;
		met +=
			between(azimuthDeg - tile / 2, azimuthDeg + tile / 2, prior.azimuthSigmaDeg) *
			between(tiltDeg - tile / 2, tiltDeg + tile / 2, prior.tiltSigmaDeg);
	}
	return { turns: Math.max(FEWEST_TURNS, turns), met: Math.min(1, met) };
}

/** Share of a normal distribution between two places. */
function between(from: number, to: number, sigma: number): number {
	const below = (x: number): number => (x < 0 ? -1 : 1) * withinShare(x, sigma);
	return (below(to) - below(from)) / 2;
}

const coarseTile = (beamwidthDeg: number, hearingRadiusDeg: number): number =>
	Math.max(1.2 * beamwidthDeg, PARK_SHARE_OF_HEARING * hearingRadiusDeg);

/**
 * The widest angle off axis at which the envelope of the pattern still lifts the planned level out of
 * the floor.
 */
function hearingRadius(input: SearchInput): number {
	const { frequencyGhz, dishDiameterM, beamwidthDeg } = input;
	const pattern = makeRadialPattern(MIDDLE, frequencyGhz, dishDiameterM, beamwidthDeg);
	const least = 10 ** (-(input.plannedLevelDbm - input.floorDbm - HEARD_DB) / 10);
	for (let beams = 8; beams > 0.3; beams -= 0.05) {
		if (pattern.gainRatio(beams * beamwidthDeg) >= least) return beams * beamwidthDeg;
	}
	return 0.3 * beamwidthDeg;
}

/**
 * Places likeliest first: a coarse round with what the plan's level lets hear, then a finer one for a
 * link that is weaker than planned. The first stands hard by the plan.
 */
function parksOf(
	{ prior, beamwidthDeg }: SearchInput,
	hearingRadiusDeg: number
): SearchPlan['parks'] {
	const coarse = coarseTile(beamwidthDeg, hearingRadiusDeg);
	const fine = FINE_PARK_BEAMWIDTHS * beamwidthDeg;
	const first = tilesOf(prior, coarse);
	const more =
		fine < 0.8 * coarse
			? tilesOf(prior, fine).filter((park) =>
					first.every(
						(other) =>
							Math.hypot(park.azimuthDeg - other.azimuthDeg, park.tiltDeg - other.tiltDeg) >
							0.6 * fine
					)
				)
			: [];
	return [...first, ...more].slice(0, MOST_PARKS).map(({ azimuthDeg, tiltDeg }, i) => ({
		azimuthDeg: i === 0 ? FIRST_PARK_BEAMWIDTHS * beamwidthDeg : azimuthDeg,
		tiltDeg
	}));
}

function tilesOf(
	{ azimuthSigmaDeg, tiltSigmaDeg }: SearchInput['prior'],
	tile: number
): { azimuthDeg: number; tiltDeg: number }[] {
	const across = Math.floor((PARK_SIGMAS * azimuthSigmaDeg) / tile + 0.35);
	const upright = Math.floor((PARK_SIGMAS * tiltSigmaDeg) / tile + 0.35);
	const tiles: { azimuthDeg: number; tiltDeg: number }[] = [];
	for (let j = -upright; j <= upright; j++) {
		for (let i = -across; i <= across; i++) tiles.push({ azimuthDeg: i * tile, tiltDeg: j * tile });
	}
	const rank = (place: { azimuthDeg: number; tiltDeg: number }): number =>
		(place.azimuthDeg / azimuthSigmaDeg) ** 2 + (place.tiltDeg / tiltSigmaDeg) ** 2;
	return tiles.sort(
		(p, q) => rank(p) - rank(q) || q.azimuthDeg - p.azimuthDeg || q.tiltDeg - p.tiltDeg
	);
}
