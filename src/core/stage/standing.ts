import { closingStepsOf, nextClosingStep } from '../accept/closingSteps';
import { judgeAcceptance } from '../accept/judgeAcceptance';
import { ENDS, farEnd, type End, type PerEnd } from '../ends';
import { openVisit, type HopState } from '../record/hopState';
import { discrepancies } from '../tower/receiving';
import { stagesOf, type BayState, type Stage, type StageInput, type StageState } from './stages';

/** For whom an end waits where its own crew cannot go on. */
export const WAITS_FOR = ['planner', 'parts', 'far-end', 'acceptor'] as const;
export type WaitsFor = (typeof WAITS_FOR)[number];

export const WAITS_WORDS: Readonly<Record<WaitsFor, string>> = {
	planner: 'the plan',
	parts: 'parts',
	'far-end': 'the far end',
	acceptor: 'the acceptor'
};

/** Where one end stands, in one line. */
export interface EndStanding {
	/** The lowest bay that is not done; the top where all are. */
	stage: Stage;
	state: StageState;
	note: string;
	/** Null where its own crew can go on, or nothing is left. */
	waitsFor: WaitsFor | null;
	/** When it came to stand so, ISO 8601 UTC, as far as records tell; null where none does. */
	since: string | null;
}

/** Where both ends of a hop stand, without its records. */
export interface HopStanding {
	ends: PerEnd<EndStanding>;
	/** Parts short, damaged, wrong or of another kind than the plan asks for, at both ends together. */
	shortParts: number;
}

/** Where both ends of a hop stand, for whom each waits and since when. Pure. */
export function standingOf(input: StageInput): HopStanding {
	const bays = stagesOf(input);
	const { issued } = input;
	// What came in excess holds nothing up.
	const short = issued ? discrepancies(issued).filter(({ kind }) => kind !== 'surplus') : [];
	const shortAt = (end: End): boolean => short.some((one) => one.end === end);
	const ends = {
		A: endStanding(input, bays.A, 'A', shortAt('A')),
		B: endStanding(input, bays.B, 'B', shortAt('B'))
	};
	// Once an end is built its parts were there in the end.
	return { ends, shortParts: short.filter(({ end }) => ends[end].stage === 'build').length };
}

function endStanding(
	{ issued, accepted }: StageInput,
	bays: readonly BayState[],
	end: End,
	partsShort: boolean
): EndStanding {
	const top: BayState = { stage: 'accept', state: 'done', note: 'Accepted and signed.' };
	const lowest = bays.find(({ state }) => state !== 'done') ?? bays.at(-1) ?? top;
	if (!issued) return { ...lowest, waitsFor: 'planner', since: null };
	const own = issued.ends[end].lastWorkAt;
	// Signed once, the top says it all, but in a visit: that is its crew's work.
	const visiting = openVisit(issued) !== undefined;
	const bay = accepted && !visiting ? (bays.at(-1) ?? top) : lowest;
	const far = issued.ends[farEnd(end)].lastWorkAt;
	const alone = { waitsFor: null, since: own };
	switch (bay.stage) {
		case 'build':
			return {
				...bay,
				waitsFor: bay.state === 'trouble' && partsShort ? 'parts' : null,
				since: own
			};
		case 'accept': {
			if (bay.state === 'done') return { ...bay, ...alone };
			if (visiting) return { ...bay, ...alone };
			if (accepted) return { ...bay, waitsFor: 'acceptor', since: later(own, far) };
			return closing(issued, bay, end);
		}
		default: {
			const waits = bay.state === 'waiting' || (bay.state === 'later' && bay.stage !== 'power');
			if (!waits) return { ...bay, ...alone };
			const passed = issued.baton === end ? null : (issued.batonPassed?.at ?? null);
			return { ...bay, waitsFor: 'far-end', since: later(own, passed) };
		}
	}
}

/** An end that is fixed: its crew closes, then waits for the other crew, then both for who signs. */
function closing(state: HopState, bay: BayState, end: End): EndStanding {
	const own = state.ends[end].lastWorkAt;
	if (bay.state === 'waiting') return { ...bay, waitsFor: 'far-end', since: own };
	const judgement = judgeAcceptance(state);
	const owed = (at: End): string | undefined =>
		nextClosingStep(closingStepsOf(state, at, judgement), ['test', 'signature'])?.title;
	const next = owed(end);
	if (next !== undefined) {
		return { ...bay, note: `Close: ${next}.`, waitsFor: null, since: own };
	}
	const far = farEnd(end);
	if (owed(far) !== undefined) {
		return { ...bay, note: `Waits for ${far} to be closed.`, waitsFor: 'far-end', since: own };
	}
	const since = ENDS.reduce<string | null>(
		(at, one) => later(at, state.ends[one].lastWorkAt),
		null
	);
	return { ...bay, waitsFor: 'acceptor', since };
}

const later = (one: string | null, other: string | null): string | null =>
	one !== null && (other === null || Date.parse(one) >= Date.parse(other)) ? one : other;
