import { halfPowerBeamwidthDeg } from '../antenna/gain';
import { locate, type Boresight, type Location } from '../locate/locator';
import { levelText, numberText } from '../units/text';
import { planSearch, type SearchPlan } from './searchPlan';
import { itemAt } from '../units/lists';

export interface GuidanceReading {
	azimuthDeg: number;
	tiltDeg: number;
	levelDbm: number;
	elapsedS?: number | undefined;
}

/** What is known at one end while the far end stands still. Positions are the mount's own. */
export interface GuidanceInput {
	frequencyGhz: number;
	dishDiameterM: number;
	/** Half-power beamwidth of the catalogue; without it 70·λ/D. */
	beamwidthDeg?: number | undefined;
	plannedLevelDbm: number;
	floorDbm: number;
	toleranceDb: number;
	travel: { azimuthDeg: readonly [number, number]; tiltDeg: readonly [number, number] };
	/** Uncertainty of the first heading, one sigma about (0, 0). */
	prior: { azimuthSigmaDeg: number; tiltSigmaDeg: number };
	/** Those taken since the far end last moved, in order: the last is where the dish stands. */
	readings: readonly GuidanceReading[];
}

export interface Place {
	azimuthDeg: number;
	tiltDeg: number;
}

export interface Guidance {
	advice: 'sweep' | 'move' | 'hand-over' | 'lock' | 'check';
	/** The other axis stays where it stands. */
	sweep?: { axis: 'azimuth' | 'tilt'; fromDeg: number; toDeg: number; stepDeg: number };
	target?: Place;
	boresight: (Place & { sigmaDeg: number }) | null;
	probabilityOnMainLobe: number;
	/** With `check`, when the far end lies beyond an adjuster: by how much the whole mount must turn. */
	beyond?: { axis: 'azimuth' | 'tilt'; byDeg: number };
	reasons: string[];
}

type Axis = 'azimuth' | 'tilt';

/** The aim is good when either axis is known this well and the dish stands this near, in beamwidths. */
const AIM_SIGMA_BEAMWIDTHS = 0.085;
const AIM_WITHIN_BEAMWIDTHS = 0.07;
/** Sure enough that it is the main lobe. */
const SURE = 0.95;
/** Beyond an adjuster no finer look is to be had: so sure is enough to turn the whole mount. */
const SURE_BEYOND = 0.85;
/** A guess below this is not worth a move while lines of the search are left. */
const WORTH_A_GUESS = 0.3;
/** So many guesses in a row that led nowhere: the search goes on. */
const MOST_GUESSES = 4;
/** So many cuts of seven readings along one axis, and the place is still not settled. */
const MOST_CUTS = 5;
/** Readings between these distances of the middle tell its flanks. */
const FLANK_BEAMWIDTHS = [0.2, 0.95] as const;
/** Farther from the best guess than this, the dish goes there before anything is swept. */
const GO_THERE_BEAMWIDTHS = 0.3;
/** Half-width of the first line of a search, in sigmas of the heading. */
const FIRST_SIGMAS = 1.9;
const FINE_REACH_BEAMWIDTHS = 0.7;
const FINE_STEPS_PER_BEAMWIDTH = 5;
/** A level above plan by this much is not of this plan, dB. */
const TOO_HIGH_DB = 7;
/** Power control holds a level within this of the plan; far out on the lobes several may be alike by chance. */
const NEAR_PLAN_DB = 15;
/** More readings than this in one turn lead nowhere. */
const MOST_READINGS = 900;

/**
 * What one end should do next, from its readings alone. Pure and stateless.
 *
 * The probability map decides: while nothing is heard azimuth is searched on lines of tilt; once heard,
 * the dish goes to the most probable place and sweeps the axis that is known worse, only as far and as
 * finely as its uncertainty asks; it is done when both axes are known to a twelfth of a beam and the
 * dish stands there.
 */
export function guide(input: GuidanceInput): Guidance {
	return weigh(input).guidance;
}

/** A guidance with the probability map that it rests on. */
export interface Weighed {
	guidance: Guidance;
	location: Location;
}

/** {@link guide}, and the map beside it for who wants to draw it. */
export function weigh(input: GuidanceInput): Weighed {
	const beamwidthDeg =
		input.beamwidthDeg ?? halfPowerBeamwidthDeg(input.frequencyGhz, input.dishDiameterM);
	const readings = input.readings.filter((reading) =>
		[reading.azimuthDeg, reading.tiltDeg, reading.levelDbm].every(Number.isFinite)
	);
	const location = locate({
		frequencyGhz: input.frequencyGhz,
		dishDiameterM: input.dishDiameterM,
		beamwidthDeg,
		beamwidthKnown: input.beamwidthDeg !== undefined,
		plannedLevelDbm: input.plannedLevelDbm,
		floorDbm: input.floorDbm,
		priorSigmaDeg: { azimuth: input.prior.azimuthSigmaDeg, tilt: input.prior.tiltSigmaDeg },
		readings
	});
	const trouble = troubleIn(input, readings, beamwidthDeg);
	if (trouble) {
		return {
			location,
			guidance: { advice: 'check', boresight: null, probabilityOnMainLobe: 0, reasons: trouble }
		};
	}
	const here: Place = readings[readings.length - 1] ?? { azimuthDeg: 0, tiltDeg: 0 };
	const situation: Situation = { input, readings, beamwidthDeg, location, here };
	return {
		location,
		guidance: location.heard ? found(situation, location.boresight!) : search(situation)
	};
}

interface Situation {
	input: GuidanceInput;
	readings: readonly GuidanceReading[];
	beamwidthDeg: number;
	location: Location;
	here: Place;
}

const at = (place: Place, axis: Axis): number =>
	axis === 'azimuth' ? place.azimuthDeg : place.tiltDeg;
const other = (axis: Axis): Axis => (axis === 'azimuth' ? 'tilt' : 'azimuth');

function travelOf(input: GuidanceInput, axis: Axis): readonly [number, number] {
	return axis === 'azimuth' ? input.travel.azimuthDeg : input.travel.tiltDeg;
}

function clamped(input: GuidanceInput, axis: Axis, deg: number): number {
	const [least, most] = travelOf(input, axis);
	return Math.min(most, Math.max(least, deg));
}

/** What must be looked into before any advice is worth anything. */
function troubleIn(
	input: GuidanceInput,
	readings: readonly GuidanceReading[],
	beamwidthDeg: number
): string[] | undefined {
	const highest = readings.reduce((most, r) => Math.max(most, r.levelDbm), -Infinity);
	if (highest > input.plannedLevelDbm + TOO_HIGH_DB) {
		return [
			`${levelText(highest)} is ${numberText(highest - input.plannedLevelDbm, 1)} dB above the plan: as suspect as too low.`,
			'Check the far power and its fixed state, the level curve of this port, and that the reading is of this link.'
		];
	}
	if (readings.length > MOST_READINGS) {
		return [
			'So many readings have not settled where the far end is: check that nobody moves it, and that its power is fixed.'
		];
	}
	const apart = readings.filter((r) => r.levelDbm > input.floorDbm + 12);
	if (apart.length >= 8) {
		const levels = apart.map((r) => r.levelDbm);
		const spread = Math.max(...levels) - Math.min(...levels);
		const reach = Math.max(
			range(apart.map((r) => r.azimuthDeg)),
			range(apart.map((r) => r.tiltDeg))
		);
		const nearPlan = highest > input.plannedLevelDbm - NEAR_PLAN_DB;
		if (nearPlan && spread < 1.2 && reach > 2 * beamwidthDeg && apart.length === readings.length) {
			return [
				`The level stays within ${numberText(spread, 1)} dB while the dish moved over ${numberText(reach / beamwidthDeg, 1)} beams: it does not follow the pointing.`,
				'Look for automatic power control left on at the far end, a saturated port, or a meter on the wrong port.'
			];
		}
	}
	return undefined;
}

function range(values: readonly number[]): number {
	if (values.length === 0) return 0;
	return Math.max(...values) - Math.min(...values);
}

/** Nothing heard yet: azimuth on one line of tilt after another, nearest the plan first. */
function search(situation: Situation): Guidance {
	const none = { boresight: null, probabilityOnMainLobe: 0 };
	const plan = searchOf(situation);
	const line = nextLine(situation, plan);
	return line ? { ...none, ...line } : parkAndHandOver(situation, plan);
}

/** The search as it stands: an end that begins from a park has searched before. */
function searchOf({ input, readings, beamwidthDeg }: Situation): SearchPlan {
	const question = { ...input, beamwidthDeg };
	const first = planSearch(question);
	return parkedAt(first, readings[0], beamwidthDeg) >= 0 ? planSearch(question, false) : first;
}

/** Which place of the search an end stood at when this turn began; −1 for none of them. */
function parkedAt({ parks }: SearchPlan, stood: Place | undefined, beamwidthDeg: number): number {
	if (!stood) return -1;
	return parks.findIndex(
		(park) =>
			Math.hypot(park.azimuthDeg - stood.azimuthDeg, park.tiltDeg - stood.tiltDeg) <
			0.2 * beamwidthDeg
	);
}

/** The next line of the search that has not been swept; undefined when all are. */
function nextLine(
	{ input, readings, beamwidthDeg, here }: Situation,
	plan: SearchPlan
): Pick<Guidance, 'advice' | 'target' | 'sweep' | 'reasons'> | undefined {
	const [low, high] = input.travel.tiltDeg;
	const lines = plan.linesDeg.filter((line) => line >= low && line <= high);
	// The first line reaches less far: side lobes at its ends tell when the beam lies beyond.
	const first = plan.first && range(readings.map((r) => r.azimuthDeg)) < beamwidthDeg;
	const reach = first
		? FIRST_SIGMAS * input.prior.azimuthSigmaDeg + 0.5 * beamwidthDeg
		: plan.reachDeg;
	const fromDeg = clamped(input, 'azimuth', -reach);
	const toDeg = clamped(input, 'azimuth', reach);
	const swept = (tilt: number): boolean => {
		const line = readings.filter((r) => Math.abs(r.tiltDeg - tilt) < 0.4 * beamwidthDeg);
		return line.length >= 3 && range(line.map((r) => r.azimuthDeg)) > 0.65 * (toDeg - fromDeg);
	};
	const next = lines.find((line) => !swept(line));
	if (next === undefined) return undefined;
	if (Math.abs(here.tiltDeg - next) > 0.2 * beamwidthDeg) {
		return {
			advice: 'move',
			target: { azimuthDeg: here.azimuthDeg, tiltDeg: next },
			reasons: [
				`Too little is heard so far: go to tilt ${numberText(next, 2, true)}° for ${first ? 'the first line' : 'the next line'}.`
			]
		};
	}
	return {
		advice: 'sweep',
		sweep: { axis: 'azimuth', fromDeg, toDeg, stepDeg: plan.stepDeg },
		reasons: [
			first
				? 'Begin with azimuth over the window of the first heading, slowly; do not stop at the first good signal.'
				: 'Search: azimuth on the next line of tilt.',
			searchOdds(plan)
		]
	};
}

/** How long a search takes and what it promises. */
function searchOdds(plan: SearchPlan): string {
	const percent = (share: number): number => Math.min(99, Math.floor(100 * share));
	const minutes = (seconds: number): number => Math.max(1, Math.round(seconds / 60));
	const lines =
		plan.linesDeg.length === 1 ? 'One line' : `All ${plan.linesDeg.length} lines of tilt`;
	return `${lines}: ${plan.samples} readings, about ${minutes(plan.secondsByMeter)} min with a meter that reads by itself, ${minutes(plan.secondsByHand)} min typed; finds the far end ${percent(plan.probabilityOneEnd)} times in 100 if it looks this way, ${percent(plan.probabilityBothEnds)} times as it was first set.`;
}

/**
 * Nothing at all: the far end may look away. This end parks and the far end searches. The place is the
 * one after that where it stood through the far end's last search, which the first reading tells: so
 * two ends that miss each other try all pairs of places in turn.
 */
function parkAndHandOver(
	{ input, readings, beamwidthDeg, here }: Situation,
	plan: SearchPlan
): Guidance {
	const none = { boresight: null, probabilityOnMainLobe: 0 };
	const { parks } = plan;
	const park = itemAt(parks, (parkedAt(plan, readings[0], beamwidthDeg) + 1) % parks.length);
	const target = {
		azimuthDeg: clamped(input, 'azimuth', park.azimuthDeg),
		tiltDeg: clamped(input, 'tilt', park.tiltDeg)
	};
	if (
		Math.hypot(here.azimuthDeg - target.azimuthDeg, here.tiltDeg - target.tiltDeg) >
		0.2 * beamwidthDeg
	) {
		return {
			advice: 'move',
			target,
			...none,
			reasons: [
				'Nothing is heard on any line: stand at the next place of the search, then let the far end look.'
			]
		};
	}
	return {
		advice: 'hand-over',
		...none,
		reasons: [
			'Nothing is heard on any line near the plan: the far end may look away. Let it search while this end stands still.',
			'Check meanwhile that its transmitter is on, on its channel and power.'
		]
	};
}

function found(situation: Situation, boresight: Boresight): Guidance {
	const { input, beamwidthDeg, location, here } = situation;
	const place: Place = { azimuthDeg: boresight.azimuthDeg, tiltDeg: boresight.tiltDeg };
	const sigma: Record<Axis, number> = {
		azimuth: boresight.sigmaAzimuthDeg / beamwidthDeg,
		tilt: boresight.sigmaTiltDeg / beamwidthDeg
	};
	const answer = {
		boresight: { ...place, sigmaDeg: Math.max(boresight.sigmaAzimuthDeg, boresight.sigmaTiltDeg) },
		probabilityOnMainLobe: location.probability
	};
	const beyond = (['azimuth', 'tilt'] as const).find((axis) => {
		const [least, most] = travelOf(input, axis);
		return (
			at(place, axis) < least - 0.1 * beamwidthDeg || at(place, axis) > most + 0.1 * beamwidthDeg
		);
	});
	const sharp =
		location.probability >= SURE && Math.max(sigma.azimuth, sigma.tilt) <= AIM_SIGMA_BEAMWIDTHS;
	const open = (['azimuth', 'tilt'] as const).filter((axis) => !bracketed(situation, place, axis));
	const known = sharp && open.length === 0;
	if (beyond && (known || location.probability >= SURE_BEYOND)) {
		return {
			advice: 'check',
			...answer,
			beyond: { axis: beyond, byDeg: at(place, beyond) },
			reasons: [
				`The far end lies at ${beyond} ${numberText(at(place, beyond), 2, true)}°, beyond the travel of the adjuster.`,
				'Centre the adjuster, turn the whole mount on the pipe by that much, and begin again.'
			]
		};
	}
	const target: Place = {
		azimuthDeg: clamped(input, 'azimuth', place.azimuthDeg),
		tiltDeg: clamped(input, 'tilt', place.tiltDeg)
	};
	const awayBeamwidths =
		Math.hypot(here.azimuthDeg - target.azimuthDeg, here.tiltDeg - target.tiltDeg) / beamwidthDeg;
	if (known) {
		return awayBeamwidths > AIM_WITHIN_BEAMWIDTHS
			? { advice: 'move', target, ...answer, reasons: knownReasons(situation, boresight) }
			: { ...closing(situation, boresight), ...answer };
	}
	const guesses = trailingGuesses(situation);
	const plan = searchOf(situation);
	if (
		location.probability < WORTH_A_GUESS ||
		guesses >= MOST_GUESSES ||
		(!sharp && outsideSearch(plan, place, beamwidthDeg))
	) {
		const line =
			nextLine(situation, plan) ??
			nextLine(situation, planSearch({ ...input, beamwidthDeg }, false));
		if (line) return { ...answer, ...line };
		if (guesses >= 2 * MOST_GUESSES && location.probability < SURE) {
			return parkAndHandOver(situation, plan);
		}
	}
	if (awayBeamwidths > GO_THERE_BEAMWIDTHS && !readNear(situation, target)) {
		return { advice: 'move', target, ...answer, reasons: knownReasons(situation, boresight) };
	}
	if (leadsNowhere(situation, place)) {
		return {
			advice: 'check',
			...answer,
			reasons: [
				'Both axes were swept several times about this place, and the readings still do not fit one lobe of this dish.',
				'Look for automatic power control left on, a far end that is being moved, a fast fade, or a dish of another size than planned.'
			]
		};
	}
	return { ...nextSweep(situation, place, sigma, sharp ? open : []), ...answer };
}

/**
 * Whether the middle of an axis has been read from both flanks: a width claimed from the readings of
 * one flank alone rests on the pattern being the assumed one.
 */
function bracketed(
	{ input, readings, beamwidthDeg }: Situation,
	place: Place,
	axis: Axis
): boolean {
	const [least, most] = travelOf(input, axis);
	const flank = (side: 1 | -1): boolean =>
		// Where the adjuster ends short of the flank, one flank must do.
		side * (side > 0 ? most : least) < side * at(place, axis) + 0.3 * beamwidthDeg ||
		readings.some((r) => {
			const along = (side * (at(r, axis) - at(place, axis))) / beamwidthDeg;
			const across = Math.abs(at(r, other(axis)) - at(place, other(axis))) / beamwidthDeg;
			return along > FLANK_BEAMWIDTHS[0] && along < FLANK_BEAMWIDTHS[1] && across < 0.5;
		});
	return flank(1) && flank(-1);
}

/** Whether more sweeps of the same place would only repeat what has not settled it. */
function leadsNowhere(situation: Situation, place: Place): boolean {
	const cuts = (['azimuth', 'tilt'] as const).map((axis) => cutCount(situation, place, axis));
	return Math.min(...cuts) >= 1 && Math.max(...cuts) >= MOST_CUTS;
}

/** How many places in a row, up to now, were guesses that led on to another. */
function trailingGuesses({ readings, beamwidthDeg }: Situation): number {
	let count = 0;
	for (let i = readings.length - 1; i > 0; i--) {
		const [p, q] = [itemAt(readings, i), itemAt(readings, i - 1)];
		const jump =
			Math.abs(p.azimuthDeg - q.azimuthDeg) > beamwidthDeg ||
			Math.abs(p.tiltDeg - q.tiltDeg) > 0.3 * beamwidthDeg;
		if (!jump) break;
		count += 1;
	}
	return count;
}

/** Whether a guess lies where the first heading can hardly have left the far end. */
function outsideSearch(
	{ linesDeg, reachDeg }: SearchPlan,
	place: Place,
	beamwidthDeg: number
): boolean {
	return (
		Math.abs(place.azimuthDeg) > reachDeg + beamwidthDeg ||
		Math.abs(place.tiltDeg) > Math.max(...linesDeg) + 3 * beamwidthDeg
	);
}

/** Whether the best guess has been read already: going there again would teach little. */
function readNear({ readings, beamwidthDeg }: Situation, place: Place): boolean {
	return readings.some(
		(r) =>
			Math.hypot(r.azimuthDeg - place.azimuthDeg, r.tiltDeg - place.tiltDeg) < 0.12 * beamwidthDeg
	);
}

function knownReasons(
	{ input, location, beamwidthDeg }: Situation,
	boresight: Boresight
): string[] {
	const sure =
		location.probability > 0.99
			? 'over 99 % sure'
			: `${Math.floor(100 * location.probability)} % sure`;
	const short = input.plannedLevelDbm - boresight.axisLevelDbm;
	return [
		`The main lobe lies at azimuth ${numberText(boresight.azimuthDeg, 2, true)}°, tilt ${numberText(boresight.tiltDeg, 2, true)}° (${sure}, to ${numberText(Math.max(boresight.sigmaAzimuthDeg, boresight.sigmaTiltDeg) / beamwidthDeg, 2)} of a beam).`,
		short > input.toleranceDb
			? `There about ${levelText(boresight.axisLevelDbm)} is to be expected, ${numberText(short, 1)} dB below the plan: the rest is at the far end.`
			: `There about ${levelText(boresight.axisLevelDbm)} is to be expected, as planned.`
	];
}

/** The axis that is known worse, as far and as finely as it asks. */
function nextSweep(
	situation: Situation,
	place: Place,
	sigma: Record<Axis, number>,
	open: readonly Axis[]
): Pick<Guidance, 'advice' | 'sweep' | 'target' | 'reasons'> {
	const { input, here, beamwidthDeg, location } = situation;
	const worse: Axis = sigma.azimuth >= sigma.tilt ? 'azimuth' : 'tilt';
	const counts = {
		azimuth: cutCount(situation, place, 'azimuth'),
		tilt: cutCount(situation, place, 'tilt')
	};
	// A cut taken already and still not enough: the other axis says more.
	const axis =
		open.length === 1
			? itemAt(open, 0)
			: counts[worse] > counts[other(worse)] + 1 && sigma[other(worse)] > 0.5 * AIM_SIGMA_BEAMWIDTHS
				? other(worse)
				: worse;
	const cross = other(axis);
	const aside = Math.abs(at(here, cross) - at(place, cross)) / beamwidthDeg;
	if (aside > GO_THERE_BEAMWIDTHS) {
		const target = {
			azimuthDeg: clamped(input, 'azimuth', place.azimuthDeg),
			tiltDeg: clamped(input, 'tilt', place.tiltDeg)
		};
		return {
			advice: 'move',
			target,
			reasons: [`Go to the likely place first, then sweep the ${axis} from there.`]
		};
	}
	const wide = Math.min(4, 2.2 * sigma[axis]) * beamwidthDeg;
	const reach = FINE_REACH_BEAMWIDTHS * beamwidthDeg + wide;
	const rough = sigma[axis] > 0.4 || location.probability < 0.8;
	const perBeamwidth =
		(rough ? 3 : FINE_STEPS_PER_BEAMWIDTH) * (1 + 0.4 * Math.min(3, counts[axis]));
	return {
		advice: 'sweep',
		sweep: {
			axis,
			fromDeg: clamped(input, axis, at(place, axis) - reach),
			toDeg: clamped(input, axis, at(place, axis) + reach),
			stepDeg: beamwidthDeg / perBeamwidth
		},
		reasons: [
			rough
				? `The ${axis} is known to ${numberText(sigma[axis], 1)} beams only: sweep it through the likely place.`
				: `A short sweep of ${axis} about the likely place settles its middle.`
		]
	};
}

/** How many readings about a place lie on a cut of an axis through it, in cuts of seven. */
function cutCount({ readings, beamwidthDeg }: Situation, place: Place, axis: Axis): number {
	const cross = other(axis);
	const on = readings.filter(
		(r) =>
			Math.abs(at(r, cross) - at(place, cross)) < 0.25 * beamwidthDeg &&
			Math.abs(at(r, axis) - at(place, axis)) < 1.2 * beamwidthDeg
	);
	return Math.floor(on.length / 7);
}

/** This end stands on its main lobe: lock, or let the far end do its part. */
function closing(
	{ input, readings, beamwidthDeg, here }: Situation,
	boresight: Boresight
): Pick<Guidance, 'advice' | 'reasons'> {
	const near = readings
		.filter(
			(r) =>
				Math.hypot(r.azimuthDeg - here.azimuthDeg, r.tiltDeg - here.tiltDeg) < 0.1 * beamwidthDeg
		)
		.map((r) => r.levelDbm);
	const level = near.length
		? near.reduce((sum, l) => sum + l, 0) / near.length
		: boresight.axisLevelDbm;
	const short = input.plannedLevelDbm - level;
	if (short <= input.toleranceDb) {
		return {
			advice: 'lock',
			reasons: [
				`The dish stands in the middle of its main lobe on both axes at ${levelText(level)}, ${numberText(Math.abs(short), 1)} dB ${short >= 0 ? 'below' : 'above'} the plan.`,
				'Tighten with the meter connected, one end at a time.'
			]
		};
	}
	return {
		advice: 'hand-over',
		reasons: [
			`This dish stands in the middle of its main lobe, yet ${numberText(short, 1)} dB are missing: what is left is at the far end.`,
			short > 24
				? 'So much may be two things at once, or crossed polarization: if the far end finds its main lobe and it stays, compare the feeds of both ends.'
				: 'Let the far end find its main lobe while this one stands still.'
		]
	};
}
