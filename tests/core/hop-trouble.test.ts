import { describe, expect, it } from 'vitest';
import { hopTrouble, openSnagsOf } from '#core/record/hopTrouble';
import type { RecordKind, RecordPayloads } from '#core/record/records';
import { NO_CARDS } from '#core/safety/cardRule';

type Noted = { kind: RecordKind; payload: RecordPayloads[RecordKind] };
const snag = (snagId: string, due: string): Noted => ({
	kind: 'snag',
	payload: { snagId, due, text: 'Label is missing', owner: 'Ada Reef', photoIds: [] }
});
const closed = (snagId: string): Noted => ({
	kind: 'snag-closed',
	payload: { snagId, note: 'Put on.' }
});

describe('what a list of hops says of each', () => {
	it('keeps a snag until it is closed, whatever else is recorded', () => {
		const records = [
			snag('s1', '2026-03-01'),
			snag('s2', '2026-04-01'),
			{ kind: 'crew-mode', payload: { crews: 1 } } as Noted,
			closed('s1'),
			closed('never-noted')
		];
		expect(openSnagsOf(records)).toEqual({ s2: '2026-04-01' });
		expect(openSnagsOf([...records, closed('s2')])).toEqual({});
	});

	it('says what is to be seen to, a card that says stop first', () => {
		const cards = {
			...NO_CARDS,
			B: { lift: { answeredAt: '2026-03-01T08:00:00.000Z', go: false } }
		};
		const openSnags = { s1: '2026-03-01', s2: '2026-03-02' };
		expect(hopTrouble({ cards, openSnags, visitOpen: true, sentBack: true }, '2026-03-02')).toEqual(
			[
				expect.stringMatching(/^“.+” says stop at B$/),
				'Sent back by the acceptor',
				'2 snags open, 1 overdue',
				'A visit is open'
			]
		);
	});

	it('has nothing to say where cards say go and nothing is open', () => {
		const cards = {
			...NO_CARDS,
			A: { climb: { answeredAt: '2026-03-01T08:00:00.000Z', go: true } }
		};
		const calm = { cards, openSnags: {}, visitOpen: false, sentBack: false };
		expect(hopTrouble(calm, '2026-03-02')).toEqual([]);
		expect(hopTrouble({ ...calm, cards: null }, '2026-03-02')).toEqual([]);
		expect(hopTrouble({ ...calm, openSnags: { s: '2026-03-02' } }, '2026-03-02')).toEqual([
			'1 snag open'
		]);
	});
});
