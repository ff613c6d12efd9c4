import { describe, expect, it } from 'vitest';
import {
	dependsOnSilence,
	SILENCE_S,
	underBaton,
	type BatonOutcome,
	type BatonState
} from '#core/record/baton';
import type { End } from '#core/ends';
import type { RecordKind, RecordPayloads } from '#core/record/records';
import { ready } from './feed';

const at = (minute: number): string => new Date(minute * 60_000).toISOString();
const held: BatonState = {
	baton: 'A',
	ready: { A: true, B: true },
	takenAt: null,
	cards: null
};
const after = <K extends RecordKind>(
	state: BatonState,
	end: End,
	kind: K,
	payload: RecordPayloads[K],
	{ silentS = 0, minute = 10 } = {}
): BatonOutcome => underBaton(state, { end, kind, payload, recordedAt: at(minute) }, silentS);
const move: RecordPayloads['move'] = { axis: 'tilt', toTurns: 1, viaTurns: [], source: 'hand' };
const code = (outcome: BatonOutcome): string =>
	outcome.kind === 'refused' ? outcome.code : 'taken';

describe('the rules of the baton', () => {
	it('let no dish move before both ends are in the alignment state, and name the one that is not', () => {
		for (const [end, missing] of [
			['A', 'B'],
			['B', 'A']
		] as const) {
			const state = { ...held, baton: end, ready: { A: true, B: true, [missing]: false } };
			const outcome = after(state, end, 'move', move);
			expect(outcome).toMatchObject({ code: 'not-in-alignment-state' });
			if (outcome.kind === 'refused') expect(outcome.message).toContain(`${missing} is not in it`);
		}
		expect(code(after(held, 'A', 'move', move))).toBe('taken');
	});

	it('let only its holder move, tighten, loosen and turn a feed; anybody may read', () => {
		for (const [kind, payload] of [
			['move', move],
			['loosen', { reason: 'drift' }],
			['feed-turn', { toDeg: 1, source: 'hand' }],
			['aimed', {}]
		] as const) {
			expect(code(after(held, 'B', kind, payload)), kind).toBe('not-holding-baton');
			expect(code(after(held, 'A', kind, payload)), kind).toBe('taken');
		}
		const read = { volts: null, levelDbm: -50, source: 'hand', purpose: 'final' } as const;
		expect(code(after(held, 'B', 'reading', read))).toBe('taken');
	});

	it('pass it from its holder to the other end alone', () => {
		expect(after(held, 'A', 'baton', { to: 'B', how: 'handed' })).toMatchObject({
			state: { baton: 'B', takenAt: null }
		});
		expect(code(after(held, 'B', 'baton', { to: 'B', how: 'handed' }))).toBe('not-holding-baton');
		expect(code(after(held, 'A', 'baton', { to: 'A', how: 'handed' }))).toBe('baton-to-self');
		const unready = { ...held, ready: { A: true, B: false } };
		expect(code(after(unready, 'A', 'baton', { to: 'B', how: 'handed' }))).toBe(
			'not-in-alignment-state'
		);
	});

	it('give it to who takes it after 180 s of silence, and to nobody sooner', () => {
		expect(SILENCE_S).toBe(180);
		const taking = (silentS: number, end: End = 'B', to: End = 'B'): BatonOutcome =>
			after(held, end, 'baton', { to, how: 'taken' }, { silentS, minute: 42 });
		expect(code(taking(179.9))).toBe('not-silent');
		expect(taking(180)).toMatchObject({ state: { baton: 'B', takenAt: at(42) } });
		expect(code(taking(Infinity))).toBe('taken');
		expect(code(taking(500, 'A', 'A'))).toBe('baton-to-self');
		expect(code(taking(500, 'B', 'A'))).toBe('baton-to-self');
		expect(code(taking(500, 'A', 'B'))).toBe('baton-to-self');
	});

	it('keep what the former holder did before it was taken away, and refuse what it did after', () => {
		const taken: BatonState = { ...held, baton: 'B', takenAt: at(20) };
		expect(code(after(taken, 'A', 'move', move, { minute: 19 }))).toBe('taken');
		expect(code(after(taken, 'A', 'move', move, { minute: 20 }))).toBe('not-holding-baton');
	});

	it('keep track of each end, into the alignment state and out of it', () => {
		const restored = {
			powerControlAsPlanned: true,
			adaptiveModulationAsPlanned: true,
			licensedPower: true
		};
		const readyOf = (outcome: BatonOutcome): boolean[] =>
			outcome.kind === 'state' ? [outcome.state.ready.A, outcome.state.ready.B] : [];
		const none = { ...held, ready: { A: false, B: false } };
		expect(readyOf(after(none, 'B', 'alignment-state', ready))).toEqual([false, true]);
		const off = { ...ready, transmitterOn: false };
		expect(readyOf(after(held, 'B', 'alignment-state', off))).toEqual([true, false]);
		expect(readyOf(after(held, 'A', 'operating-state', restored))).toEqual([false, true]);
		// A state that is neither whole says nothing.
		const half = { ...restored, licensedPower: false };
		expect(readyOf(after(held, 'A', 'operating-state', half))).toEqual([true, true]);
	});

	it('give back the very state where a record changes nothing of it', () => {
		const outcome = after(held, 'B', 'note', { text: 'x' });
		expect(outcome.kind === 'state' && outcome.state).toBe(held);
	});

	it('look at the silence only where it matters', () => {
		const depends = (end: End, kind: RecordKind, payload: object): boolean =>
			dependsOnSilence(
				{ end, kind, payload: payload as RecordPayloads[RecordKind], recordedAt: at(0) },
				'A'
			);
		expect(depends('B', 'baton', { to: 'B', how: 'taken' })).toBe(true);
		expect(depends('A', 'baton', { to: 'B', how: 'handed' })).toBe(false);
		expect(depends('B', 'move', move)).toBe(true);
		expect(depends('A', 'move', move)).toBe(false);
		expect(depends('B', 'note', { text: 'x' })).toBe(false);
	});
});
