import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import { farEnd, type Axis, type End } from '../ends';
import { numberText } from '../units/text';
import { adjusterTurns } from '../sweep/adjusterScale';
import { isCentred, latestSweep, roundComplete, type Situation, type SweepDone } from './situation';

/** The one thing an end should do next, with the reason. */
export type NextStep =
	| { kind: 'confirm-state'; headline: string; why: string[] }
	| { kind: 'wait'; headline: string; why: string[] }
	| { kind: 'read'; headline: string; why: string[] }
	| {
			kind: 'sweep';
			axis: Axis;
			fromDeg: number;
			toDeg: number;
			stepDeg: number;
			headline: string;
			why: string[];
	  }
	| { kind: 'move'; axis: Axis; targetDeg: number; headline: string; why: string[] }
	| { kind: 'hand-over'; headline: string; why: string[] }
	| { kind: 'lock'; headline: string; why: string[] }
	| { kind: 'check'; headline: string; why: string[] };

/** Rounds each end makes: one coarse, one fine. */
export const ROUNDS_PER_END = 2;
/** Half-width of a fine sweep, in beamwidths. */
const FINE_REACH_BEAMWIDTHS = 1.3;
const FINE_STEPS_PER_BEAMWIDTH = 9;
const COARSE_STEPS_PER_BEAMWIDTH = 5;
/** A coarse sweep takes no more samples than this, however long the travel. */
const MOST_COARSE_SAMPLES = 140;
/** Spacing of the lines of a search when nothing is heard, in beamwidths. */
const SEARCH_LINE_BEAMWIDTHS = 0.8;
/** Turns at the baton an end searches only near the plan before it searches its whole travel. */
const PATIENT_TURNS = 2;
const PARK_ASIDE_BEAMWIDTHS = 0.7;

/**
 * What an end should do next. Pure: the same situation gives the same step.
 *
 * Sweep azimuth, go to its middle (never to the higher hump), sweep tilt, go to its middle; an axis
 * that was read beside the main lobe is swept again once the other is centred; hand over; the far
 * end does the same; then both once more, finely. Beside plan and level, both axes of both ends must
 * have been read as the main lobe before the step is to lock.
 */
export function nextStep(
	input: HopPlanInput,
	plan: HopPlan,
	situation: Situation,
	end: End
): NextStep {
	const far = farEnd(end);
	const own = situation.ends[end];
	if (!own.alignmentStateConfirmed || !situation.ends[far].alignmentStateConfirmed) {
		const missing = own.alignmentStateConfirmed ? far : end;
		return {
			kind: 'confirm-state',
			headline: missing === end ? 'Set this end for aligning' : `Wait for ${far} to be set`,
			why: [
				`No dish moves until both ends are in the alignment state; ${missing} has not confirmed it.`
			]
		};
	}
	if (allRoundsDone(situation)) return closingStep(plan, situation, end);
	if (situation.baton !== end) {
		return {
			kind: 'wait',
			headline: 'Hands off the dish',
			why: [`${far} holds the baton and is moving. Watch the meter; do not touch this dish.`]
		};
	}
	if (own.lastReadAt === null) {
		return {
			kind: 'read',
			headline: 'Read the meter',
			why: ['A first reading shows that meter, lead and port are right before anything turns.']
		};
	}
	if (own.implausibleReading) {
		return {
			kind: 'check',
			headline: 'Check the meter',
			why: [
				'The last voltage is one that this port cannot give: pick-up on the lead or a wrong port.',
				'Move the meter round the mast into its shadow, check the port, and read again.'
			]
		};
	}
	return sweepOrMove(input, plan, situation, end);
}

function allRoundsDone(situation: Situation): boolean {
	return (
		situation.ends.A.roundsDone >= ROUNDS_PER_END && situation.ends.B.roundsDone >= ROUNDS_PER_END
	);
}

function closingStep(plan: HopPlan, situation: Situation, end: End): NextStep {
	const budget = plan.received[end];
	const { lastLevelDbm: level, levelIsFresh } = situation.ends[end];
	if (!levelIsFresh) {
		return {
			kind: 'read',
			headline: 'Read the meter',
			why: ['A dish has moved since the last reading here: read the level as it is now.']
		};
	}
	const shortDb = level === null ? null : budget.plannedLevelDbm - level;
	if (shortDb !== null && shortDb > budget.toleranceDb) {
		return {
			kind: 'check',
			headline: 'Something else is short',
			why: [
				`Both ends stand on their main lobe, yet the level is ${shortDb.toFixed(1)} dB below the plan.`,
				shortDb > 15
					? 'So much short on the main lobe points to crossed polarization: compare the feeds of both ends.'
					: 'Compare power, channel and feeder of both ends with the plan; look for a film left in the waveguide.'
			]
		};
	}
	return {
		kind: 'lock',
		headline: 'Fix this dish',
		why: [
			'Both axes of both ends were read as the main lobe and stand in the middle.',
			'Tighten one end at a time with the meter connected.'
		]
	};
}

function sweepOrMove(input: HopPlanInput, plan: HopPlan, situation: Situation, end: End): NextStep {
	const own = situation.ends[end];
	const beamwidthDeg = plan.dish[end].beamwidthDeg;
	const last = own.sweepsThisTurn.at(-1);
	if (!last)
		return sweepStep(input, plan, situation, end, 'azimuth', [firstSweepReason(own.roundsDone)]);
	const { verdict, centreDeg, reasons } = last.analysis;
	if (verdict === 'implausible-reading') {
		return { kind: 'check', headline: 'Check the meter', why: reasons };
	}
	if (verdict === 'no-signal') return searchStep(input, plan, situation, end, last);
	if (!isCentred(own, last, beamwidthDeg)) {
		return moveStep(input, end, last.axis, centreDeg!, reasons);
	}
	const other: Axis = last.axis === 'azimuth' ? 'tilt' : 'azimuth';
	const otherSweep = latestSweep(own, other);
	const otherAgrees =
		otherSweep?.analysis.verdict === 'main-lobe' && isCentred(own, otherSweep, beamwidthDeg);
	if (verdict === 'beside-main-lobe' || !otherAgrees) {
		return sweepStep(input, plan, situation, end, other, [
			verdict === 'beside-main-lobe'
				? `The ${last.axis} stands in the middle of the ring; the main lobe is on the ${other} from here.`
				: otherSweep
					? `The ${other} was read beside the main lobe before; read it again over it.`
					: `The ${last.axis} is in its middle; now the ${other}.`
		]);
	}
	if (roundComplete(own, beamwidthDeg)) return handOverStep(plan, situation, end);
	return sweepStep(input, plan, situation, end, other, [
		'Both axes must be read over the main lobe.'
	]);
}

function firstSweepReason(roundsDone: number): string {
	return roundsDone === 0
		? 'Coarse: the whole travel, slowly, noting every peak. Do not stop at the first good signal.'
		: 'Fine: a short sweep about the present pointing for the true top.';
}

function sweepStep(
	input: HopPlanInput,
	plan: HopPlan,
	situation: Situation,
	end: End,
	axis: Axis,
	why: string[]
): NextStep {
	const adjuster = input.ends[end].mount[axis];
	const beamwidthDeg = plan.dish[end].beamwidthDeg;
	const own = situation.ends[end];
	const fine = own.roundsDone > 0;
	const middle = fine ? own.angleDeg[axis] : 0;
	const reach = fine ? FINE_REACH_BEAMWIDTHS * beamwidthDeg : adjuster.travelDeg;
	const fromDeg = Math.max(-adjuster.travelDeg, middle - reach);
	const toDeg = Math.min(adjuster.travelDeg, middle + reach);
	const stepDeg = fine
		? beamwidthDeg / FINE_STEPS_PER_BEAMWIDTH
		: Math.max(beamwidthDeg / COARSE_STEPS_PER_BEAMWIDTH, (toDeg - fromDeg) / MOST_COARSE_SAMPLES);
	return { kind: 'sweep', axis, fromDeg, toDeg, stepDeg, headline: `Sweep ${axis}`, why };
}

function moveStep(
	input: HopPlanInput,
	end: End,
	axis: Axis,
	targetDeg: number,
	why: string[]
): NextStep {
	const adjuster = input.ends[end].mount[axis];
	if (Math.abs(targetDeg) > adjuster.travelDeg) {
		return {
			kind: 'check',
			headline: 'Beyond the fine adjuster',
			why: [
				`The middle lies at ${numberText(targetDeg, 2, true)}°, past the ${adjuster.travelDeg}° of the ${axis} adjuster.`,
				`Centre the adjuster, turn the whole mount on the pipe by ${numberText(targetDeg, 1, true)}°, and sweep again.`
			]
		};
	}
	return { kind: 'move', axis, targetDeg, headline: `Move ${axis}`, why };
}

/** Nothing heard: sweep azimuth on one line of tilt after another, nearest lines first. */
function searchStep(
	input: HopPlanInput,
	plan: HopPlan,
	situation: Situation,
	end: End,
	last: SweepDone
): NextStep {
	const own = situation.ends[end];
	const lineDeg = SEARCH_LINE_BEAMWIDTHS * plan.dish[end].beamwidthDeg;
	const travel = input.ends[end].mount.tilt.travelDeg;
	const swept = own.sweepsThisTurn
		.filter((sweep) => sweep.axis === 'azimuth')
		.map((sweep) => sweep.otherAxisDeg);
	const widest = own.silentTurns < PATIENT_TURNS ? 2 * lineDeg : travel;
	const lines: number[] = [];
	for (let i = 0; i * lineDeg <= Math.min(widest, travel) + 1e-9; i++) {
		lines.push(...(i === 0 ? [0] : [i * lineDeg, -i * lineDeg]));
	}
	const next = lines.find((line) => swept.every((done) => Math.abs(done - line) > lineDeg / 2));
	if (next === undefined) {
		if (own.silentTurns >= PATIENT_TURNS) {
			return {
				kind: 'check',
				headline: 'Nothing heard anywhere',
				why: [
					`Azimuth was swept on ${swept.length} lines of tilt over the whole travel without a signal.`,
					'Check that the far transmitter is on, on its channel, and that both coarse headings are right.'
				]
			};
		}
		return parkAndHandOver(plan, situation, end);
	}
	if (Math.abs(own.angleDeg.tilt - next) > lineDeg / 4) {
		return moveStep(input, end, 'tilt', next, last.analysis.reasons);
	}
	return sweepStep(input, plan, situation, end, 'azimuth', ['Search: the next line of tilt.']);
}

/**
 * Nothing was heard near the planned pointing: the far end may look away, or stand in a null of this
 * dish. Park near the plan, a little aside on the second turn, and let the far end search.
 */
function parkAndHandOver(plan: HopPlan, situation: Situation, end: End): NextStep {
	const own = situation.ends[end];
	const beamwidthDeg = plan.dish[end].beamwidthDeg;
	const aside = own.silentTurns * PARK_ASIDE_BEAMWIDTHS * beamwidthDeg;
	for (const axis of ['azimuth', 'tilt'] as const) {
		const parkDeg = axis === 'azimuth' ? aside : 0;
		if (Math.abs(own.angleDeg[axis] - parkDeg) > 0.1 * beamwidthDeg) {
			return {
				kind: 'move',
				axis,
				targetDeg: parkDeg,
				headline: `Move ${axis}`,
				why: [
					'Nothing was heard from here. Go back near the planned pointing, then let the far end search.'
				]
			};
		}
	}
	return {
		kind: 'hand-over',
		headline: `Hand over to ${farEnd(end)}`,
		why: [
			'Nothing was heard on any line near the plan: the far end may look away. Let it search while this end stands still.'
		]
	};
}

function handOverStep(plan: HopPlan, situation: Situation, end: End): NextStep {
	const far = farEnd(end);
	const budget = plan.received[end];
	const { lastLevelDbm: level, levelIsFresh } = situation.ends[end];
	const why = ['Both axes of this end stand in the middle of the main lobe.'];
	if (level !== null && levelIsFresh) {
		const shortDb = budget.plannedLevelDbm - level;
		if (shortDb > budget.toleranceDb) {
			why.push(`Still ${shortDb.toFixed(1)} dB below the plan: what is left is at ${far}.`);
		}
	}
	return { kind: 'hand-over', headline: `Hand over to ${far}`, why };
}

/** A target in turns of this mount's nut from its centre. */
export function targetTurns(input: HopPlanInput, end: End, axis: Axis, targetDeg: number): number {
	return adjusterTurns(input.ends[end].mount[axis], targetDeg);
}
