import { farEnd, type End, type PerEnd } from '../ends';
import { changesOf, needsBaton } from './kinds';
import type { RecordKind, RecordPayloads } from './records';

/** An end that has recorded nothing for so long, s, may have its baton taken over. */
export const SILENCE_S = 180;

/** What the rules across the two ends depend on. */
export interface BatonState {
	baton: End;
	/** Each end in the alignment state, as it last confirmed. */
	ready: PerEnd<boolean>;
	/** When the baton was taken over, ISO 8601, if that is how it came where it is. */
	takenAt: string | null;
}

/** What the rules across the two ends refuse. */
export const BATON_REFUSALS = [
	'not-in-alignment-state',
	'not-holding-baton',
	'baton-to-self',
	'not-silent'
] as const;

export interface BatonRefusal {
	code: (typeof BATON_REFUSALS)[number];
	message: string;
}

export type BatonOutcome =
	{ kind: 'state'; state: BatonState } | ({ kind: 'refused' } & BatonRefusal);

type Ruled = {
	end: End;
	kind: RecordKind;
	payload: RecordPayloads[RecordKind];
	recordedAt: string;
};

/** Whether the rules for this record look at how long the holder of the baton has been silent. */
export function dependsOnSilence({ kind, end, payload }: Ruled, baton: End): boolean {
	return (
		(kind === 'baton' && (payload as RecordPayloads['baton']).how === 'taken') ||
		(needsBaton(kind) && end !== baton)
	);
}

/**
 * The rules that hold across the two ends: no dish moves before both have confirmed the alignment
 * state, only the holder of the baton moves, and it passes by being handed over or, after a silence,
 * by being taken. Gives the state after the record, or why it cannot be.
 *
 * @param silentS seconds since the holder of the baton was last heard of; Infinity if never
 */
export function underBaton(state: BatonState, record: Ruled, silentS: number): BatonOutcome {
	if (needsBaton(record.kind)) {
		const refusal = moverRefusal(state, record);
		return refusal ? { kind: 'refused', ...refusal } : { kind: 'state', state };
	}
	if (record.kind === 'baton') {
		return passed(state, record, record.payload as RecordPayloads['baton'], silentS);
	}
	const ready = readyAfter(state.ready, record);
	return { kind: 'state', state: ready === state.ready ? state : { ...state, ready } };
}

/** The ends in the alignment state after a record: the same object when it changes nothing. */
export function readyAfter(ready: PerEnd<boolean>, record: Ruled): PerEnd<boolean> {
	if (record.kind !== 'alignment-state' && record.kind !== 'operating-state') return ready;
	const changes = changesOf(record);
	const entered = changes.includes('state-entered');
	const left = changes.includes('state-left') || (record.kind === 'alignment-state' && !entered);
	if (!entered && !left) return ready;
	return { ...ready, [record.end]: entered };
}

function moverRefusal(state: BatonState, record: Ruled): BatonRefusal | undefined {
	if (!state.ready.A || !state.ready.B) {
		const missing = state.ready[record.end] ? farEnd(record.end) : record.end;
		return {
			code: 'not-in-alignment-state',
			message: `No dish moves until both ends have confirmed the alignment state; ${missing} is not in it.`
		};
	}
	// What was done before the baton was taken away arrives late, and is no less true.
	const late = state.takenAt !== null && Date.parse(record.recordedAt) < Date.parse(state.takenAt);
	if (state.baton === record.end || late) return undefined;
	return {
		code: 'not-holding-baton',
		message: `End ${state.baton} holds the baton; only it may move its dish.`
	};
}

/** Handed over by its holder, or taken by the other end after the holder's silence. */
function passed(
	state: BatonState,
	record: Ruled,
	{ to, how }: RecordPayloads['baton'],
	silentS: number
): BatonOutcome {
	const refused = (code: BatonRefusal['code'], message: string): BatonOutcome => ({
		kind: 'refused',
		code,
		message
	});
	if (!state.ready.A || !state.ready.B) {
		return refused(
			'not-in-alignment-state',
			'The baton passes once both ends have confirmed the alignment state.'
		);
	}
	if (how !== 'taken') {
		if (state.baton !== record.end) {
			return refused(
				'not-holding-baton',
				`End ${state.baton} holds the baton; only it can hand it over.`
			);
		}
		if (to === record.end) return refused('baton-to-self', `End ${to} holds the baton already.`);
		return { kind: 'state', state: { ...state, baton: to, takenAt: null } };
	}
	if (to !== record.end || state.baton === to) {
		return refused('baton-to-self', 'The baton is taken over by the end that does not hold it.');
	}
	if (silentS < SILENCE_S) {
		return refused(
			'not-silent',
			`End ${state.baton} was heard ${Math.round(silentS)} s ago; its baton may be taken over after ${SILENCE_S} s of silence.`
		);
	}
	return { kind: 'state', state: { ...state, baton: to, takenAt: record.recordedAt } };
}
