import { acceptanceDue, type Accepted, type AcceptanceDue } from '../accept/acceptanceDue';
import { buildStateOf } from '../tower/buildState';
import { farEnd, type End, type PerEnd } from '../ends';
import { discriminationOf } from '../guide/polarizationBench';
import { judgeDrift } from '../lock/drift';
import {
	allFixed,
	currentLockSteps,
	hopsAt,
	isFixed,
	stillHolds,
	type HopState
} from '../record/hopState';

/** The bays of a mast, from the foot to the top. */
export const STAGES = ['prepare', 'build', 'power', 'align', 'polarize', 'fix', 'accept'] as const;
export type Stage = (typeof STAGES)[number];

export type StageState = 'done' | 'open' | 'waiting' | 'later' | 'trouble';

export interface BayState {
	stage: Stage;
	state: StageState;
	/** One line: what is done, what to do, or what it waits for. */
	note: string;
}

export interface StageInput {
	/** Undefined until a revision is issued. */
	issued: HopState | undefined;
	/** Number of the revision in force; 0 while none is issued. */
	revisionNumber: number;
	/** The newest acceptance; null while there is none. */
	accepted: Accepted | null;
}

/** State of every bay of both masts. Pure; order of stages is foot to top. */
export function stagesOf(state: StageInput): PerEnd<BayState[]> {
	return { A: baysOf(state, 'A'), B: baysOf(state, 'B') };
}

function baysOf({ issued, revisionNumber, accepted }: StageInput, end: End): BayState[] {
	if (!issued) {
		return STAGES.map((stage) =>
			stage === 'prepare'
				? { stage, state: 'open', note: 'Plan the hop and issue a revision.' }
				: { stage, state: 'later', note: 'After a revision is issued.' }
		);
	}
	const far = farEnd(end);
	const own = issued.ends[end];
	const other = issued.ends[far];
	const fixed = allFixed(issued, end);
	const farFixed = allFixed(issued, far);
	const aligned = own.aim !== null;
	const farAligned = other.aim !== null;
	return [
		{ stage: 'prepare', state: 'done', note: 'The site sheet is issued.' },
		buildBay(issued, end, accepted?.revisionNumber === revisionNumber),
		own.alignmentStateConfirmed
			? { stage: 'power', state: 'done', note: 'In the alignment state.' }
			: stillHolds(issued, 'operating-state', end, own.operatingState)
				? { stage: 'power', state: 'done', note: 'Back in operation.' }
				: buildStateOf(issued, end).complete
					? { stage: 'power', state: 'open', note: 'Bring this end into the alignment state.' }
					: { stage: 'power', state: 'later', note: 'After the building.' },
		alignBay(own.alignmentStateConfirmed, other.alignmentStateConfirmed, aligned, issued, end),
		polarizeBay(aligned && farAligned, issued, end),
		fixBay(aligned && farAligned, issued, end),
		accepted
			? acceptedBay(acceptanceDue(issued, revisionNumber, accepted))
			: fixed && farFixed
				? { stage: 'accept', state: 'open', note: 'Judge and sign.' }
				: fixed
					? { stage: 'accept', state: 'waiting', note: `Waits for ${far} to be fixed.` }
					: { stage: 'accept', state: 'later', note: 'After both ends are fixed.' }
	];
}

/** The top of the masts once a hop was accepted. */
function acceptedBay(due: AcceptanceDue): BayState {
	const stage = 'accept';
	if (due.kind === 'in-visit') {
		return { stage, state: 'open', note: 'A visit goes on: close it here.' };
	}
	return due.kind === 'again'
		? { stage, state: 'open', note: `To be accepted anew. ${due.why[0]}` }
		: { stage, state: 'done', note: 'Accepted and signed.' };
}

/** @param accepted whether the building of this plan was accepted as it stood: steps that came later ask for nothing */
function buildBay(hop: HopState, end: End, accepted: boolean): BayState {
	const stage = 'build';
	const state = buildStateOf(hop, end);
	if (state.trouble) {
		return {
			stage,
			state: 'trouble',
			note: state.steps.find((step) => step.state === 'trouble')!.reason
		};
	}
	if (state.complete) {
		return {
			stage,
			state: 'done',
			note: state.skipped ? `${state.skipped} steps left out with a cause.` : 'Every step done.'
		};
	}
	if (accepted) return { stage, state: 'done', note: 'Accepted as it was recorded.' };
	return {
		stage,
		state: 'open',
		note: `${state.done + state.skipped} of ${state.steps.length} steps; next: ${state.next?.step.title ?? ''}`
	};
}

function polarizeBay(bothAligned: boolean, state: HopState, end: End): BayState {
	const stage = 'polarize';
	if (!bothAligned) return { stage, state: 'later', note: 'After both ends are aligned.' };
	const { need, directions } = discriminationOf(state);
	const own = directions.filter((direction) => direction.end === end);
	if (own.every((direction) => direction.verdict === 'reached')) {
		return { stage, state: 'done', note: 'XPD reached.' };
	}
	if (!need.dual) {
		return { stage, state: 'done', note: 'One polarization only: not asked for here.' };
	}
	const short = own.find((direction) => direction.verdict === 'short');
	return short
		? { stage, state: 'trouble', note: short.reason }
		: {
				stage,
				state: 'open',
				note: state.ends[end].discriminations.length
					? 'Read both polarizations again: something moved since.'
					: 'Read both polarizations.'
			};
}

function alignBay(
	ownReady: boolean,
	farReady: boolean,
	aligned: boolean,
	state: HopState,
	end: End
): BayState {
	const stage = 'align';
	const second = state.second?.[end];
	if (aligned && (!second || second.ends[end].aim)) {
		return {
			stage,
			state: 'done',
			note: second ? 'Both dishes on their main lobe.' : 'Both axes on the main lobe.'
		};
	}
	if (!ownReady) return { stage, state: 'later', note: 'After the alignment state.' };
	if (!farReady)
		return { stage, state: 'waiting', note: `Waits for ${farEnd(end)} to be powered.` };
	if (state.ends[end].implausibleReading) {
		return { stage, state: 'trouble', note: 'The meter shows what the port cannot give.' };
	}
	if (aligned && !(isFixed(state, end) && isFixed(state, farEnd(end)))) {
		return {
			stage,
			state: 'waiting',
			note: 'First dish on its main lobe; the second after the first dishes of both ends are fixed.'
		};
	}
	const which = aligned ? 'Second dish: ' : '';
	return state.baton === end
		? { stage, state: 'open', note: sentence(`${which}this end holds the baton.`) }
		: { stage, state: 'waiting', note: sentence(`${which}${farEnd(end)} holds the baton.`) };
}

const sentence = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

function fixBay(bothAligned: boolean, state: HopState, end: End): BayState {
	const stage = 'fix';
	const hops = hopsAt(state, end);
	for (const { hop } of hops) {
		const verdict = judgeDrift(currentLockSteps(hop, end), end);
		if (verdict.kind !== 'held' && verdict.kind !== 'nothing-yet') {
			return { stage, state: 'trouble', note: verdict.advice };
		}
	}
	const loose = hops.find(({ hop }) => !isFixed(hop, end));
	if (!loose) return { stage, state: 'done', note: 'Every fastener at torque, aim held.' };
	if (loose.dish === 2) {
		return loose.hop.ends[end].aim
			? { stage, state: 'open', note: 'Tighten the second dish with the meter connected.' }
			: { stage, state: 'later', note: 'First dish fixed; the second after it is aligned.' };
	}
	return bothAligned
		? { stage, state: 'open', note: 'Tighten with the meter connected.' }
		: { stage, state: 'later', note: 'After both ends are aligned.' };
}
