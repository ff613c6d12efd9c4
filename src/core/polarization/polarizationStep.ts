import { farEnd, type End } from '../ends';
import type { LinearPolarization } from '../propagation/rain';
import { numberText } from '../units/text';
import type { DirectionDiscrimination, PairNumber, RotationAdvice } from './discrimination';

/** What one end does next about polarization. */
export type PolarizationStep = { headline: string; why: string[] } & (
	| { kind: 'align-first' }
	/** Every direction and polarization of the hop shows what is needed. */
	| { kind: 'reached' }
	/** One polarization only, and nothing here that must be turned: the work goes on. */
	| { kind: 'not-asked' }
	/** Both polarizations are to be read here, as the feed stands; `sent` first. */
	| { kind: 'read'; sent: LinearPolarization; pair: PairNumber }
	/** The feed is to be turned here; only with the baton. */
	| { kind: 'turn'; feedDeg: number }
	/** Turning is advised, but the far end holds the baton. */
	| { kind: 'ask-baton' }
	/** This end has done its part; the far end reads or turns next. */
	| { kind: 'hand-over' }
	/** This end has done its part and does not hold the baton. */
	| { kind: 'wait' }
	| { kind: 'pointing-first' }
	/** Neither feed brings it: something else. */
	| { kind: 'not-rotation' }
);

export interface PolarizationState {
	end: End;
	/** Both dishes stand on their main lobe. */
	aligned: boolean;
	/** The hop sends both polarizations: what it needs is asked for, not just good to have. */
	dual: boolean;
	/** Both dishes are fixed, and their levels held. */
	fixed: boolean;
	holdsBaton: boolean;
	/** Where this end's feed stands, degrees from its first mark. */
	feedDeg: number;
	/** Every direction, as `judgeDirections` gives them. */
	directions: readonly DirectionDiscrimination[];
	/** What the readings of this end's feed advise. */
	advice: RotationAdvice;
	/** Whether the far end has turned its own feed since the dishes were pointed. */
	farFeedTurned: boolean;
	/** One mark of this feed’s scale, degrees; absent where it has none. */
	scaleDeg?: number | undefined;
}

/** A place nearer than this to where the feed stands is where it stands, degrees. */
const THERE_DEG = 0.05;

/**
 * What this end does next: first its own two readings, then its own feed if they fall short, then the
 * far end. An end that shows what is needed is not turned any further, however much more there might
 * be to gain: a turn voids the readings of both ends. A hop of one polarization asks for no reading;
 * one that shows a feed too far round still has it turned, as long as the dishes are not fixed.
 */
export function polarizationStep(state: PolarizationState): PolarizationStep {
	const { end, directions, advice, feedDeg, scaleDeg } = state;
	const far = farEnd(end);
	if (!state.aligned) {
		return {
			kind: 'align-first',
			headline: 'Align both ends first',
			why: ['Beside the main lobe the cross-polar pattern has lobes that look like a turned feed.']
		};
	}
	if (directions.every(({ verdict }) => verdict === 'reached')) {
		return {
			kind: 'reached',
			headline: 'XPD reached',
			why: ['Every direction and polarization shows what is needed.']
		};
	}
	const own = directions.filter((direction) => direction.end === end);
	if (!state.dual && (state.fixed || !own.some(({ verdict }) => verdict === 'short'))) {
		return {
			kind: 'not-asked',
			headline: 'Nothing is asked for here',
			why: ['This hop uses one polarization: reading both is good to have.']
		};
	}
	const missing = own.find(({ verdict }) => verdict === 'missing');
	if (missing) {
		return {
			kind: 'read',
			sent: missing.sent,
			pair: missing.pair,
			headline: 'Read both polarizations',
			why: [missing.reason]
		};
	}
	if (own.every(({ verdict }) => verdict === 'reached')) {
		const open = directions.some((d) => d.end !== end && d.verdict === 'missing');
		return pass(state, [
			`${end} shows what is needed: leave its feed as it stands.`,
			open ? `${far} has its own readings left.` : `${far} falls short: its feed is next.`
		]);
	}
	switch (advice.kind) {
		case 'pointing-first':
			return { kind: 'pointing-first', headline: 'Look at the pointing first', why: advice.why };
		case 'not-rotation':
			return {
				kind: 'not-rotation',
				headline: 'Turning the feed will not do it',
				why: advice.why
			};
		case 'stands':
			return feedStands(state, advice.why);
		case 'read':
		case 'turn': {
			// In marks of its scale: no hand sets less. A feed that is wanted where it stands is left, mark or not.
			const stands = Math.abs(advice.feedDeg - feedDeg) <= THERE_DEG;
			const toDeg = stands ? feedDeg : onScale(advice.feedDeg, scaleDeg);
			if (Math.abs(toDeg - feedDeg) <= THERE_DEG) {
				// No mark of the scale is nearer to the best place than the one it stands at.
				if (advice.kind === 'turn' && scaleDeg !== undefined) return feedStands(state, advice.why);
				return {
					kind: 'read',
					sent: own.find(({ verdict }) => verdict === 'short')!.sent,
					pair: 1,
					headline: 'Read both polarizations',
					why: advice.why
				};
			}
			return state.holdsBaton
				? {
						kind: 'turn',
						feedDeg: toDeg,
						headline: `Turn the feed to ${numberText(toDeg, 1, true)}°`,
						why: advice.why
					}
				: {
						kind: 'ask-baton',
						headline: `Ask ${far} for the baton`,
						why: [...advice.why, 'One end moves at a time.']
					};
		}
	}
}

/** This feed has done what it can. */
function feedStands(state: PolarizationState, why: readonly string[]): PolarizationStep {
	return state.farFeedTurned
		? {
				kind: 'not-rotation',
				headline: 'Turning the feeds will not do it',
				why: [
					...why,
					'Both feeds stand at their least signal and it still falls short: look at the pointing, the OMTs and the water in the feeders.'
				]
			}
		: pass(state, [...why]);
}

function onScale(feedDeg: number, scaleDeg: number | undefined): number {
	return scaleDeg === undefined ? feedDeg : Math.round(feedDeg / scaleDeg) * scaleDeg;
}

function pass({ end, holdsBaton }: PolarizationState, why: string[]): PolarizationStep {
	const far = farEnd(end);
	return holdsBaton
		? { kind: 'hand-over', headline: `Hand over to ${far}`, why }
		: { kind: 'wait', headline: `Wait for ${far}`, why };
}
