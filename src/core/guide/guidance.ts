import { halfPowerBeamwidthDeg } from '../antenna/gain';
import type { Axis } from '../ends';
import { locate, type Boresight, type Location } from '../locate/locator';
import { itemAt } from '../units/lists';
import { levelText, numberText } from '../units/text';
import { bracketed, cutCount, leadsNowhere, readNear, trailingGuesses } from './coverage';
import { nextLine, outsideSearch, parkAndHandOver, search, searchOf } from './searching';
import { planSearch } from './searchPlan';
import {
	at,
	clamped,
	other,
	travelOf,
	type Guidance,
	type GuidanceInput,
	type GuidanceMemory,
	type Place,
	type Situation,
	type Step
} from './situation';
import { troubleIn } from './troubles';

export type { Guidance, GuidanceInput, GuidanceMemory, GuidanceReading, Place } from './situation';

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
/** Farther from the best guess than this, the dish goes there before anything is swept. */
const GO_THERE_BEAMWIDTHS = 0.3;
const FINE_REACH_BEAMWIDTHS = 0.7;
const FINE_STEPS_PER_BEAMWIDTH = 5;

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
		known: input.memory?.boresight ?? undefined,
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
	const guidance = location.boresight ? adviseAt(situation, location.boresight) : search(situation);
	return { location, guidance: { ...guidance, memory: remembered(input, guidance) } };
}

/** What this end knows for its next turn. */
function remembered({ memory }: GuidanceInput, { advice, boresight }: Guidance): GuidanceMemory {
	const { searches, boresight: found } = memory ?? { searches: 0, boresight: null };
	if (advice !== 'lock' && advice !== 'hand-over') return { searches, boresight: found };
	return { searches: boresight ? 0 : searches + 1, boresight: boresight ?? found };
}

/**
 * What to do next once something is heard, from the map alone: `boresight` is its most probable place in
 * degrees of the mount. {@link guide} makes the map; here it is given.
 */
export function adviseAt(situation: Situation, boresight: Boresight): Guidance {
	const { input, beamwidthDeg, location, here } = situation;
	const place: Place = { azimuthDeg: boresight.azimuthDeg, tiltDeg: boresight.tiltDeg };
	const sigma: Record<Axis, number> = {
		azimuth: boresight.sigmaAzimuthDeg / beamwidthDeg,
		tilt: boresight.sigmaTiltDeg / beamwidthDeg
	};
	const answer = {
		boresight: { ...place, sigmaDeg: toldSigmaDeg(boresight) },
		probabilityOnMainLobe: location.probability
	};
	const beyond = (['azimuth', 'tilt'] as const).find((axis) => {
		const [least, most] = travelOf(input, axis);
		return (
			at(place, axis) < least - 0.1 * beamwidthDeg || at(place, axis) > most + 0.1 * beamwidthDeg
		);
	});
	const sharp =
		location.lead >= SURE && Math.max(sigma.azimuth, sigma.tilt) <= AIM_SIGMA_BEAMWIDTHS;
	const open = (['azimuth', 'tilt'] as const).filter((axis) => !bracketed(situation, place, axis));
	const known = sharp && open.length === 0;
	if (beyond && (known || location.lead >= SURE_BEYOND)) {
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
		location.lead < WORTH_A_GUESS ||
		guesses >= MOST_GUESSES ||
		(!sharp && outsideSearch(plan, place, beamwidthDeg))
	) {
		const line =
			nextLine(situation, plan) ??
			nextLine(situation, planSearch({ ...input, beamwidthDeg }, false));
		if (line) return { ...answer, ...line };
		if (guesses >= 2 * MOST_GUESSES && location.lead < SURE) {
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
				'Look for ATPC left on, a far end that is being moved, a fast fade, or a dish of another size than planned.'
			]
		};
	}
	return { ...nextSweep(situation, place, sigma, sharp ? open : []), ...answer };
}

const toldSigmaDeg = ({ told }: Boresight): number => Math.max(told.azimuthDeg, told.tiltDeg);

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
		`The main lobe lies at azimuth ${numberText(boresight.azimuthDeg, 2, true)}°, tilt ${numberText(boresight.tiltDeg, 2, true)}° (${sure}, to ${numberText(toldSigmaDeg(boresight) / beamwidthDeg, 2)} of a beam).`,
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
): Step {
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
	const rough = sigma[axis] > 0.4 || location.lead < 0.8;
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
