import { describe, expect, it } from 'vitest';
import { judgeAcceptance } from '#core/accept/judgeAcceptance';
import { crewSignatureAt } from '#core/accept/closingSteps';
import { toBring } from '#core/crew/dayBrief';
import { skillsOf, type Crew } from '#core/schedule/crew';
import { dayOutside } from '#core/crew/dayOutside';
import { CLOSING_QUESTIONS } from '#core/accept/closing';
import type { Accepted } from '#core/accept/acceptanceDue';
import { ENDS, farEnd, type PerEnd } from '#core/ends';
import { noFindings } from '#core/record/findings';
import { clockMoment } from '#core/schedule/hours';
import { usualDayPlan } from '#core/schedule/dayPlan';
import { radiosProblem, wholeAlignment } from '#core/record/radioStates';
import { messagesOf, messageWords, PHRASES } from '#core/record/messages';
import { inventoryOf } from '#core/budget/inventory';
import { stagesOf } from '#core/stage/stages';
import { standingOf, WAITS_FOR, type EndStanding } from '#core/stage/standing';
import { ALL_REMAINING } from '#core/tower/buildState';
import { partsList } from '#core/tower/partsList';
import { EVERY_HOP } from './endFixture';
import { feed, locksOf, reading, ready, stateAfter, type Made } from './feed';
import { hopInput } from './planFixture';

const input = hopInput();
const built = (end: 'A' | 'B'): Made => [
	end,
	'step-skipped',
	{ step: ALL_REMAINING, cause: 'Built before', authorisedBy: 'Ada Reef' }
];
const standAt = (made: Made[], end: 'A' | 'B' = 'A'): EndStanding =>
	standingOf({
		issued: stateAfter(input, feed(...made)),
		...{ revisionNumber: 1, accepted: null }
	}).ends[end];

describe('where an end stands', () => {
	it('is with the planner until a revision is issued', () => {
		const { ends, shortParts } = standingOf({
			issued: undefined,
			revisionNumber: 0,
			accepted: null
		});
		for (const end of ENDS) {
			expect(ends[end]).toMatchObject({ stage: 'prepare', waitsFor: 'planner', since: null });
		}
		expect(shortParts).toBe(0);
	});

	it('is its own crew’s while there is something to build, to power, to sweep', () => {
		expect(standAt([])).toMatchObject({ stage: 'build', waitsFor: null, since: null });
		expect(standAt([built('A')])).toMatchObject({
			...{ stage: 'power', state: 'open', waitsFor: null },
			since: new Date(0).toISOString()
		});
		const both: Made[] = [
			...[built('A'), built('B')],
			...[['A', 'alignment-state', ready] as Made, ['B', 'alignment-state', ready] as Made]
		];
		const { baton } = stateAfter(input);
		const other = baton === 'A' ? 'B' : 'A';
		expect(standAt(both, baton)).toMatchObject({ stage: 'align', state: 'open', waitsFor: null });
		expect(standAt(both, other)).toMatchObject({
			...{ stage: 'align', state: 'waiting', waitsFor: 'far-end' }
		});
	});

	it('waits since its own last record, or since the baton went over', () => {
		const { baton } = stateAfter(input);
		const other = baton === 'A' ? 'B' : 'A';
		const made: Made[] = [
			...[built('A'), built('B')],
			...[['A', 'alignment-state', ready] as Made, ['B', 'alignment-state', ready] as Made],
			[other, 'reading', reading(-50)],
			[baton, 'baton', { to: other, how: 'handed' }],
			[other, 'reading', reading(-49)]
		];
		// The sixth record, five seconds after the first.
		expect(standAt(made, baton)).toMatchObject({
			...{ waitsFor: 'far-end', since: new Date(5000).toISOString() }
		});
		// Who only says something while they wait have waited as long.
		const asking: Made = [baton, 'message', { phrase: null, text: 'How long?' }];
		expect(standAt([...made, asking], baton).since).toBe(new Date(5000).toISOString());
		expect(standAt(made, other).waitsFor).toBeNull();
	});

	it('waits for parts that came short or wrong, not for a surplus, and no more once it is built', () => {
		const line = partsList(input, 'A').find(({ count }) => count === 1)!;
		const counted = (found: number, condition: 'good' | 'damaged' = 'good'): Made => [
			'A',
			'received',
			{ code: line.code, name: line.name, found, condition, note: '', photoIds: [] }
		];
		const shortAfter = (...made: Made[]): number =>
			standingOf({
				issued: stateAfter(input, feed(...made)),
				...{ revisionNumber: 1, accepted: null }
			}).shortParts;
		expect(shortAfter(counted(0))).toBe(1);
		expect(shortAfter(counted(1, 'damaged'))).toBe(1);
		expect(shortAfter(counted(2))).toBe(0);
		expect(shortAfter(counted(1))).toBe(0);
		expect(shortAfter(counted(0), counted(1))).toBe(0);
		expect(shortAfter(counted(0), built('A'))).toBe(0);
	});

	it('is of both crews until they have closed, then the acceptor’s', () => {
		const state = stateAfter(input, feed(built('A'), built('B'), ...locksOf(input, 'A')));
		expect(crewSignatureAt(state, 'A')).toBeNull();
		expect(judgeAcceptance(state).complete).toBe(false);
		// Fixed at both ends as far as the fold tells: what is owed is the crew's own.
		const fixed = structuredClone(state);
		for (const end of ENDS) {
			fixed.ends[end].aim = {} as never;
			fixed.ends[end].alignmentStateConfirmed = true;
		}
		const bays = stagesOf({ issued: fixed, revisionNumber: 1, accepted: null });
		expect(bays.B.find(({ stage }) => stage === 'fix')!.state).not.toBe('done');
	});

	it('is of each crew until it has closed, then the acceptor’s, then nobody’s', () => {
		const done = { ...ready, powerControlOff: true };
		const yes = (keys: readonly string[]): Record<string, 'yes'> =>
			Object.fromEntries(keys.map((key) => [key, 'yes']));
		const closes = (end: 'A' | 'B'): Made[] => [
			[end, 'reading', reading(-43, 'final')],
			[
				end,
				'operating-state',
				{ powerControlAsPlanned: true, adaptiveModulationAsPlanned: true, licensedPower: true }
			],
			[end, 'closing-check', { answers: yes(CLOSING_QUESTIONS.map(({ key }) => key)), note: '' }],
			[end, 'crew-signature', { name: `Crew of ${end}`, method: 'typed' }]
		];
		const { baton } = stateAfter(input);
		const other = farEnd(baton);
		const made: Made[] = [
			...[built('A'), built('B')],
			...[['A', 'alignment-state', done] as Made, ['B', 'alignment-state', done] as Made],
			[baton, 'baton', { to: other, how: 'handed' }],
			[other, 'baton', { to: baton, how: 'handed' }],
			...locksOf(input, baton)
		];
		const aim = {
			...{ onMainLobe: true, onPlan: true, probability: 1, sigmaBeamwidths: 0.02 },
			expectedGainDb: 0
		};
		const findings = { ...noFindings(), aims: new Map(['r4', 'r5'].map((id) => [id, aim])) };
		const stand = (more: Made[], accepted: Accepted | null = null): PerEnd<EndStanding> =>
			standingOf({
				issued: stateAfter(input, feed(...made, ...more), findings),
				...{ revisionNumber: 1, accepted }
			}).ends;
		const half = stand([]);
		expect(half[baton]).toMatchObject({ stage: 'accept', state: 'waiting', waitsFor: 'far-end' });
		expect(half[other]).toMatchObject({ stage: 'fix', state: 'open', waitsFor: null });
		const fixed = locksOf(input, other);
		expect(stand(fixed)[baton]).toMatchObject({
			...{ stage: 'accept', waitsFor: null, note: `Close: Final RSL at ${baton}.` }
		});
		const one = stand([...fixed, ...closes(baton)]);
		expect(one[baton]).toMatchObject({
			waitsFor: 'far-end',
			note: `Waits for ${other} to be closed.`
		});
		expect(one[other].waitsFor).toBeNull();
		const all = [...fixed, ...closes(baton), ...closes(other)];
		for (const end of ENDS) {
			expect(stand(all)[end]).toMatchObject({
				stage: 'accept',
				state: 'open',
				waitsFor: 'acceptor'
			});
		}
		const lastSeq = made.length + all.length;
		const signed = { revisionNumber: 1, lastSeq };
		for (const end of ENDS) {
			expect(stand(all, signed)[end]).toMatchObject({
				stage: 'accept',
				state: 'done',
				waitsFor: null
			});
		}
		const visit: Made = [
			'A',
			'visit-opened',
			{ visitId: 'v', purpose: 'repair', why: 'Gale', people: ['Bo'] }
		];
		expect(stand([...all, visit], signed).B.waitsFor).toBeNull();
		// Something moved since: it is to be signed anew.
		const moved: Made = ['A', 'loosen', { reason: 'Drift' }];
		const closed: Made = [
			'A',
			'visit-closed',
			{ visitId: 'v', found: 'x', name: 'Bo', method: 'typed' }
		];
		expect(stand([...all, visit, moved, closed], signed).A.waitsFor).toBe('acceptor');
	});

	it.each(EVERY_HOP)(
		'is the lowest bay that is not done, at both ends of $name',
		({ input: of }) => {
			const made: Made[] = ENDS.flatMap((end): Made[] => {
				const keys = inventoryOf(of, end).radios.map(({ key }) => key);
				const payload = wholeAlignment(keys);
				expect(radiosProblem(keys, { kind: 'alignment-state', payload })).toBeUndefined();
				return [built(end), [end, 'alignment-state', payload]];
			});
			for (let count = 0; count <= made.length; count += 1) {
				const question = {
					issued: stateAfter(of, feed(...made.slice(0, count))),
					...{ revisionNumber: 1, accepted: null }
				};
				const bays = stagesOf(question);
				const { ends } = standingOf(question);
				for (const end of ENDS) {
					const bay = bays[end].find(({ state }) => state !== 'done')!;
					expect(ends[end]).toMatchObject({ stage: bay.stage, state: bay.state });
					expect([null, ...WAITS_FOR]).toContain(ends[end].waitsFor);
					// Who is told to wait has somebody to wait for, and who holds the baton is not told to.
					if (bay.state === 'waiting') expect(ends[end].waitsFor).toBe('far-end');
					if (bay.state === 'open' && bay.stage !== 'accept') expect(ends[end].waitsFor).toBeNull();
				}
			}
		}
	);
});

describe('what a crew takes along', () => {
	it.each(EVERY_HOP)(
		'is every part and tool of an end of $name, less what was counted there',
		({ input: of }) => {
			for (const end of ENDS) {
				const all = toBring(stateAfter(of), end);
				const parts = partsList(of, end);
				expect(all.filter(({ group }) => group !== 'tool')).toEqual(parts);
				expect(all.some(({ group }) => group === 'tool')).toBe(true);
				const [first] = parts;
				const counted: Made = [
					end,
					'received',
					{
						...{ code: first!.code, name: first!.name, found: first!.count },
						condition: 'good',
						note: '',
						photoIds: []
					}
				];
				expect(toBring(stateAfter(of, feed(counted)), end).map(({ code }) => code)).not.toContain(
					first!.code
				);
				const left = toBring(stateAfter(of, feed(built(end))), end);
				// Built, it still has to be aligned and fixed: the wrenches and the voltmeter come along, no part.
				expect(new Set(left.map(({ group }) => group))).toEqual(new Set(['tool']));
				expect(left.some(({ code }) => code.startsWith('TL-T'))).toBe(true);
			}
		}
	);

	it('counts what is damaged as not there', () => {
		const [line] = partsList(input, 'A');
		const came = (condition: 'good' | 'damaged'): Made => [
			'A',
			'received',
			{ code: line!.code, name: line!.name, found: line!.count, condition, note: '', photoIds: [] }
		];
		const codes = (made: Made): string[] =>
			toBring(stateAfter(input, feed(made)), 'A').map(({ code }) => code);
		expect(codes(came('damaged'))).toContain(line!.code);
		expect(codes(came('good'))).not.toContain(line!.code);
	});
});

describe('a crew', () => {
	const crew: Crew = {
		...{ name: 'North', region: '', zone: 'Etc/UTC', fromMin: 420, toMin: 960, base: null },
		...{ equipment: [] },
		people: [
			{ id: '1', name: 'Ada', phone: '', userId: null, skills: ['climber', 'rigger'] },
			{ id: '2', name: 'Bo', phone: '', userId: null, skills: ['climber'] },
			{ id: '3', name: 'Cy', phone: '', userId: null, skills: [] }
		]
	};
	it('has as many of a skill as there are people with it', () => {
		expect(skillsOf(crew)).toEqual({ climber: 2, rigger: 1, acceptor: 0 });
	});
});

describe('a day outside', () => {
	const place = { latitudeDeg: -46, longitudeDeg: 170 };
	it('is the light of that day by its own clock, and what the weather of that end forbids', () => {
		const day = '2026-06-15';
		const zone = 'Pacific/Auckland';
		const usual = usualDayPlan(day, zone);
		const calm = dayOutside(place, 'A', day, zone, null);
		expect(calm).toMatchObject({ forbidden: [], weatherKnown: false });
		const noon = clockMoment(day, 720, zone);
		expect(calm.light).toHaveLength(1);
		expect(calm.light[0]!.from).toBeLessThan(noon);
		expect(calm.light[0]!.to).toBeGreaterThan(noon);
		// Winter there: under eleven hours with civil twilight.
		expect(calm.light[0]!.to - calm.light[0]!.from).toBeLessThan(660);
		const at = new Date(noon * 60_000).toISOString();
		const hour = { at, windMs: null, gustMs: null, rainMmH: 4, lightning: false };
		const wet = { ...usual, weather: [{ ...hour, end: 'A' as const }] };
		expect(dayOutside(place, 'A', day, zone, wet).forbidden).toEqual([
			{ limit: 'open', spans: [{ from: noon, to: noon + 60 }] }
		]);
		expect(dayOutside(place, 'B', day, zone, wet).weatherKnown).toBe(false);
		expect(dayOutside(place, 'A', '2026-06-16', zone, wet).weatherKnown).toBe(false);
	});
});

describe('messages', () => {
	it('are the last ones of either end, the newest last, each with words', () => {
		const made: Made[] = [
			['A', 'message', { phrase: 'going-up', text: '' }],
			['B', 'reading', reading(-50)],
			['B', 'message', { phrase: null, text: 'Boat at four' }],
			['A', 'message', { phrase: 'stop', text: 'somebody below' }]
		];
		expect(messagesOf(feed(...made), 2).map(({ end, words }) => [end, words])).toEqual([
			['B', 'Boat at four'],
			['A', 'Stop: somebody below']
		]);
		expect(messagesOf(feed(...made), 9)).toHaveLength(3);
		const words = PHRASES.map((phrase) => messageWords({ phrase, text: '' }));
		expect(new Set(words).size).toBe(PHRASES.length);
	});
});
