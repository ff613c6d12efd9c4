import { describe, expect, it } from 'vitest';
import {
	MOST_STEPS,
	originOf,
	originWords,
	provenanceWords,
	withinSteps,
	type Imported,
	type Provenance
} from '#core/provenance/provenance';

const from = (change: Partial<Provenance> = {}): Provenance => ({
	importedAt: '2026-11-24T08:00:00.000Z',
	importedBy: 'Ada Planner',
	source: { key: 'k'.repeat(43), name: 'Coast office' },
	trusted: true,
	lastSeq: 41,
	revisions: 2,
	acceptances: 1,
	earlier: null,
	...change
});
const signed = (number = 1): Imported => ({ what: 'acceptance', number });

describe('where something of a hop was made', () => {
	it('is here where the hop was made here, and for all that came after the import', () => {
		expect(originOf(null, signed())).toEqual({ kind: 'own' });
		const provenance = from();
		for (const [asked, kind] of [
			[{ what: 'record', seq: 41 }, 'verified'],
			[{ what: 'record', seq: 42 }, 'own'],
			[{ what: 'revision', number: 2 }, 'verified'],
			[{ what: 'revision', number: 3 }, 'own'],
			[signed(1), 'verified'],
			[signed(2), 'own']
		] as const) {
			expect([asked, originOf(provenance, asked).kind]).toEqual([asked, kind]);
		}
	});

	it('is verified only by a signature of an installation that is trusted', () => {
		expect(originOf(from(), signed())).toEqual({ kind: 'verified', source: 'Coast office' });
		expect(originOf(from({ source: null }), signed())).toEqual({ kind: 'unverified' });
		// Unsigned cannot be trusted, whatever stands beside it.
		expect(originOf(from({ source: null, trusted: true }), signed()).kind).toBe('unverified');
		expect(originOf(from({ trusted: false }), signed()).kind).toBe('unverified');
	});

	it('is not made better by going through an installation that is trusted', () => {
		const forged = from({ earlier: from({ source: null, trusted: false, acceptances: 1 }) });
		expect(originOf(forged, signed(1)).kind).toBe('unverified');
		// What the trusted one signed itself after it had taken the hop in is its own word.
		const more = { ...forged, acceptances: 2 };
		expect(originOf(more, signed(2))).toEqual({ kind: 'verified', source: 'Coast office' });
		// A way on which each step was signed and trusted ends at the first.
		const whole = from({ earlier: from({ source: { key: 'q'.repeat(43), name: 'Hill office' } }) });
		expect(originOf(whole, signed())).toEqual({ kind: 'verified', source: 'Hill office' });
	});
});

describe('a long way', () => {
	const way = (steps: number): Provenance => from(steps > 1 ? { earlier: way(steps - 1) } : {});
	const length = (provenance: Provenance | null): number =>
		provenance ? 1 + length(provenance.earlier) : 0;

	it('is told to so many steps; what lies before cannot be verified', () => {
		expect(withinSteps(null)).toBeNull();
		expect(withinSteps(way(MOST_STEPS))).toEqual(way(MOST_STEPS));
		expect(originOf(withinSteps(way(MOST_STEPS)), signed()).kind).toBe('verified');
		const cut = withinSteps(way(MOST_STEPS + 1));
		expect(length(cut)).toBe(MOST_STEPS);
		expect(originOf(cut, signed()).kind).toBe('unverified');
		expect(withinSteps(way(2), 1)).toEqual(from({ trusted: false }));
	});
});

describe('in words', () => {
	const day = (moment: string): string => moment.slice(0, 10);

	it('an origin says nothing of what was made here', () => {
		expect(originWords({ kind: 'own' })).toBe('');
		expect(originWords({ kind: 'unverified' })).toBe('Imported, not verified here');
		expect(originWords({ kind: 'verified', source: 'Coast office' })).toBe(
			'Imported; signed by the installation “Coast office”, verified here'
		);
	});

	it.each([
		[from(), 'Records 1 to 41', '“Coast office”: its signature is verified here.'],
		[from({ lastSeq: 1 }), 'Record 1 and', 'verified here.'],
		[from({ lastSeq: 0 }), 'No record and', 'verified here.'],
		[from({ source: null }), 'Records', 'an archive without a signature: who recorded'],
		[
			from({ trusted: false, source: { key: 'k', name: '' } }),
			'Records',
			'signed by an installation without a name, whose key'
		],
		[
			from({ trusted: false }),
			'Records',
			'the installation “Coast office”, whose key nobody here trusts: not verified here.'
		],
		[
			from({ earlier: from({ source: null }) }),
			'Records',
			'which had it unverified in its turn: not verified here.'
		]
	])('a provenance says who took it in, when, and what it is worth', (provenance, first, last) => {
		const words = provenanceWords(provenance, day);
		expect(words).toContain('on 2026-11-24 by Ada Planner');
		expect(words.startsWith(first)).toBe(true);
		expect(words).toContain(last);
	});
});
