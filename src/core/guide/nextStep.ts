import { farEnd, type Axis, type End } from '../ends';
import { wrapBearingDeg } from '../units/angle';
import { numberText } from '../units/text';
import { aimOf } from './aim';
import type { Guidance } from './guidance';
import type { HopState } from '../record/hopState';
import { itemAt } from '../units/lists';

interface Words {
	headline: string;
	why: string[];
}

/** The one thing an end should do next, with the reason. */
export type NextStep = Words &
	(
		| { kind: 'confirm-state' }
		| { kind: 'wait' }
		| { kind: 'read' }
		| { kind: 'thinking' }
		| { kind: 'ask-far' }
		| { kind: 'sweep'; axis: Axis; fromDeg: number; toDeg: number; stepDeg: number }
		| {
				kind: 'move';
				axis: Axis;
				targetDeg: number;
				/** The other axis, which follows. */
				then: { axis: Axis; targetDeg: number } | null;
		  }
		| { kind: 'turn-mount'; byDeg: number; compassDeg: number }
		| { kind: 'hand-over' }
		| { kind: 'lock' }
		| { kind: 'check'; about: 'meter' | 'link' | 'search' | 'far-end' }
	);

/** Another round at an end is asked for only when it would gain more than this, dB. */
export const WORTH_A_ROUND_DB = 0.25;
/** After so many turns at the baton that end on the main lobe nothing new is to be expected. */
const MOST_ROUNDS = 4;
/** After so many turns without it, something other than the pointing is wrong. */
const MOST_TURNS = 7;
/** Nearer than this an axis is left where it stands, beamwidths. */
const STANDS_THERE_BEAMWIDTHS = 0.03;

/**
 * What an end should do next. Pure: the same state and guidance give the same step.
 *
 * The two-ended procedure: both ends confirm the alignment state; one end at a time moves, as the
 * guidance from its own readings says; when it stands on its main lobe it hands over; it is done when
 * each end was aimed while the other stood on its main lobe (or another round would gain too little)
 * and the level is inside the window of the plan.
 *
 * @param guidance for this end from its readings; undefined while it is being worked out
 */
export function nextStep(state: HopState, end: End, guidance: Guidance | undefined): NextStep {
	const far = farEnd(end);
	const own = state.ends[end];
	const other = state.ends[far];
	if (!own.alignmentStateConfirmed || !other.alignmentStateConfirmed) {
		const missing = own.alignmentStateConfirmed ? far : end;
		return {
			kind: 'confirm-state',
			headline: missing === end ? 'Set this end for aligning' : `Wait for ${far} to be set`,
			why: [
				`No dish moves until both ends are in the alignment state; ${missing} has not confirmed it.`
			]
		};
	}
	if (state.stands === far && !other.aim) return afterFirstDish(far);
	if (own.aim && other.aim && isClosed(state)) return closingStep(state, end);
	if (state.baton !== end) return waitStep(state, end);
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
			about: 'meter',
			headline: 'Check the meter',
			why: [
				'The last voltage is one that this port cannot give, or does not go with the level read: pick-up on the lead, or a wrong port.',
				'Move the meter round the mast into its shadow, check the port, and read again.'
			]
		};
	}
	if (!own.levelIsFresh) {
		return {
			kind: 'read',
			headline: 'Read the meter',
			why: ['The dish has moved or something has changed: read the level as it is now.']
		};
	}
	if (!guidance) {
		return {
			kind: 'thinking',
			headline: 'Working it out',
			why: ['The readings are being weighed.']
		};
	}
	return withWarning(state, end, guidedStep(state, end, guidance));
}

/** A second dish is aligned on a first one, which must stand where it will stay. */
function afterFirstDish(far: End): NextStep {
	return {
		kind: 'wait',
		headline: 'The first dishes come first',
		why: [
			`This dish looks at the first dish of ${far}, which does not stand on its main lobe yet, or has moved since.`
		]
	};
}

/** Each end was aimed while the other stood on its main lobe, or one more round is not worth it. */
function isClosed({ ends, crews }: HopState): boolean {
	return (['A', 'B'] as const).every(
		(end) => ends[end].aimedAtAimedEnd || (crews === 1 && !worthARound(ends[end].aim!))
	);
}

function worthARound(aim: { expectedGainDb: number }): boolean {
	return aim.expectedGainDb > WORTH_A_ROUND_DB;
}

function waitStep(state: HopState, end: End): NextStep {
	const far = farEnd(end);
	if (state.crews === 1) {
		return {
			kind: 'wait',
			headline: `The crew is at ${far}`,
			why: [`Leave this end sending and its dish as it stands; the work is at ${far}.`]
		};
	}
	if (state.stands === far) {
		return {
			kind: 'wait',
			headline: 'Hands off the dish',
			why: [`${far} holds the baton: one dish of the hop moves at a time.`]
		};
	}
	const why = [
		state.ends[end].levelIsFresh
			? `${far} holds the baton and is moving. Watch the meter; do not touch this dish.`
			: `${far} holds the baton. Do not touch this dish; read the meter when ${far} has come to rest.`
	];
	const { batonPassed, unasked } = state;
	if (batonPassed?.how === 'taken') {
		why.unshift(`${far} took the baton over after a silence. Hands off until you have spoken.`);
	}
	if (unasked?.movedEnd === end) {
		why.unshift(
			`${far} saw its level change by ${numberText(unasked.changeDb, 1, true)} dB without moving: if this dish was touched, say so.`
		);
	}
	return { kind: 'wait', headline: 'Hands off the dish', why };
}

function guidedStep(state: HopState, end: End, guidance: Guidance): NextStep {
	const { advice, reasons } = guidance;
	if (advice === 'sweep') {
		const { axis } = guidance.sweep!;
		return { kind: 'sweep', ...guidance.sweep!, headline: `Sweep ${axis}`, why: reasons };
	}
	if (advice === 'move') return moveStep(state, end, guidance);
	if (guidance.spent) {
		return { kind: 'check', about: 'search', headline: 'Nothing heard anywhere', why: reasons };
	}
	if (advice === 'check') {
		if (guidance.beyond?.axis === 'azimuth') return turnMountStep(state, end, guidance);
		return { kind: 'check', about: 'link', headline: 'Look into this first', why: reasons };
	}
	if (guidance.boresight === null) return handOver(state, end, reasons);
	return aimedStep(state, end, guidance);
}

function moveStep(state: HopState, end: End, guidance: Guidance): NextStep {
	const { angleDeg } = state.ends[end];
	const { beamwidthDeg } = state.plan.dish[end];
	const target = { azimuth: guidance.target!.azimuthDeg, tilt: guidance.target!.tiltDeg };
	const away = (axis: Axis): number => Math.abs(target[axis] - angleDeg[axis]);
	const axis: Axis = away('azimuth') >= away('tilt') ? 'azimuth' : 'tilt';
	const other: Axis = axis === 'azimuth' ? 'tilt' : 'azimuth';
	return {
		kind: 'move',
		axis,
		targetDeg: target[axis],
		then:
			away(other) > STANDS_THERE_BEAMWIDTHS * beamwidthDeg
				? { axis: other, targetDeg: target[other] }
				: null,
		headline: `Move ${axis}`,
		why: guidance.reasons
	};
}

function turnMountStep(state: HopState, end: End, guidance: Guidance): NextStep {
	const { byDeg } = guidance.beyond!;
	const compassDeg = wrapBearingDeg(
		state.plan.pointing[end].azimuthCompassDeg + state.ends[end].mountTurnedDeg + byDeg
	);
	return {
		kind: 'turn-mount',
		byDeg,
		compassDeg,
		headline: `Turn the whole mount ${byDeg >= 0 ? 'right' : 'left'}`,
		why: [
			itemAt(guidance.reasons, 0),
			'Centre the azimuth adjuster first, loosen the mount just enough to turn on the pipe, and turn it by the pointer or a mark on the pipe.'
		]
	};
}

function handOver(state: HopState, end: End, why: string[]): NextStep {
	const far = farEnd(end);
	if (state.stands === far) return nothingHeard(state, end, why);
	return state.crews === 1
		? {
				kind: 'hand-over',
				headline: `Go to ${far}`,
				why: [...why, 'Leave this end sending, its dish as it stands, nuts finger-tight.']
			}
		: { kind: 'hand-over', headline: `Hand over to ${far}`, why };
}

/** The far end's dish stands and sends for others: handing over would change nothing for this one. */
function nothingHeard(state: HopState, end: End, why: string[]): NextStep {
	const far = farEnd(end);
	return {
		kind: 'check',
		about: 'search',
		headline: 'Nothing heard by this dish',
		why: [
			...why.slice(0, 1),
			`The first dish of ${far} stands on its main lobe and sends. Look at this dish's heading and tilt against the sheet, at its radio's channel, and at the joint behind the dish.`
		]
	};
}

/** This end stands on its main lobe: the far end's turn, both are done, or something else is short. */
function aimedStep(state: HopState, end: End, guidance: Guidance): NextStep {
	const far = farEnd(end);
	const own = state.ends[end];
	if (state.stands === far) {
		return guidance.advice === 'lock' ? closedStep(state, end) : elsewhere(state, end);
	}
	const other = state.ends[far];
	const aim = aimOf(guidance, state.plan.dish[end].beamwidthDeg);
	if (!other.aim) {
		return own.turnsTaken >= MOST_TURNS
			? elsewhere(state, end)
			: handOver(state, end, guidance.reasons);
	}
	const farIsDone =
		other.aimedAtAimedEnd ||
		other.roundsDone >= MOST_ROUNDS ||
		(state.crews === 1 && !worthARound(other.aim));
	if (aim.onPlan && farIsDone) return bothDirections(state, end);
	if (farIsDone && (own.roundsDone > 0 || other.roundsDone > 1)) {
		return elsewhere(state, end);
	}
	return handOver(
		state,
		end,
		farIsDone || !aim.onPlan
			? guidance.reasons
			: [
					itemAt(guidance.reasons, 0),
					`${far} was aimed while this end stood off its lobe: a short round there may still gain something.`
				]
	);
}

function elsewhere(state: HopState, end: End): NextStep {
	const level = state.ends[end].lastLevelDbm;
	const shortDb = level === null ? null : state.plan.received[end].plannedLevelDbm - level;
	return {
		kind: 'check',
		about: 'link',
		headline: 'Something else is short',
		why: [
			`Both ends stand on their main lobe, yet ${shortDb === null ? 'the level' : `${numberText(Math.abs(shortDb), 1)} dB`} ${shortDb === null ? 'is not what was planned' : shortDb > 0 ? 'are missing' : 'are too much'}: more turning will not help.`,
			'Make the tests below, cheapest first, and set right what they find.'
		]
	};
}

/** This end reads as planned: the far end must too, since its direction has its own transmitter. */
function bothDirections(state: HopState, end: End): NextStep {
	const far = farEnd(end);
	const other = state.ends[far];
	const budget = state.plan.received[far];
	if (state.crews === 1 || state.stands === far) return closedStep(state, end);
	if (!other.levelIsFresh || other.lastLevelDbm === null) {
		return {
			kind: 'ask-far',
			headline: `Ask ${far} for its level`,
			why: [
				`This end reads as planned. What ${far} receives comes from another transmitter: it must be read there before anything is fixed.`
			]
		};
	}
	const shortDb = budget.plannedLevelDbm - other.lastLevelDbm;
	if (Math.abs(shortDb) <= budget.toleranceDb) return closedStep(state, end);
	return {
		kind: 'check',
		about: 'link',
		headline: `${far} reads ${shortDb > 0 ? 'short' : 'high'}`,
		why: [
			`Both ends stand on their main lobe and this one reads as planned, yet ${far} is ${numberText(Math.abs(shortDb), 1)} dB ${shortDb > 0 ? 'below' : 'above'} the plan: one direction only.`,
			`Look at this end’s transmitter, and at the receiver and meter of ${far}.`
		]
	};
}

function closedStep(state: HopState, end: End): NextStep {
	return {
		kind: 'lock',
		headline: 'Fix this dish',
		why: [
			state.stands === farEnd(end)
				? 'This dish stands in the middle of its main lobe on both axes.'
				: 'Both ends stand in the middle of their main lobe on both axes.',
			'Tighten one end at a time with the meter connected.'
		]
	};
}

function closingStep(state: HopState, end: End): NextStep {
	const budget = state.plan.received[end];
	const { lastLevelDbm: level, levelIsFresh } = state.ends[end];
	if (!levelIsFresh) {
		return {
			kind: 'read',
			headline: 'Read the meter',
			why: ['A dish has moved since the last reading here: read the level as it is now.']
		};
	}
	const shortDb = level === null ? null : budget.plannedLevelDbm - level;
	if (shortDb !== null && Math.abs(shortDb) > budget.toleranceDb) {
		return {
			kind: 'check',
			about: 'link',
			headline: shortDb > 0 ? 'Something else is short' : 'Higher than planned',
			why: [
				`Both ends stand on their main lobe, yet the level is ${Math.abs(shortDb).toFixed(1)} dB ${shortDb > 0 ? 'below' : 'above'} the plan.`,
				shortDb > 15
					? 'So much short on the main lobe points to crossed polarization: compare the feeds of both ends.'
					: 'Compare power, channel and feeder of both ends with the plan; look for a film left in the waveguide.'
			]
		};
	}
	return bothDirections(state, end);
}

/** What the end with the baton must know before it goes on. */
function withWarning(state: HopState, end: End, step: NextStep): NextStep {
	const { unasked, ends } = state;
	const far = farEnd(end);
	const warnings = [
		...(ends[far].asksForBaton ? [`${far} asks for the baton.`] : []),
		...(unasked?.seenAt === end
			? [
					`The level changed by ${numberText(unasked.changeDb, 1, true)} dB while nothing moved here: ask ${far} whether its dish was touched. Readings before it no longer count.`
				]
			: [])
	];
	return warnings.length ? { ...step, why: [...warnings, ...step.why] } : step;
}
