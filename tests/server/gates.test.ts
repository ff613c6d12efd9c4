import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { alignmentStateOf, wholeAlignment, wholeOperation } from '#core/record/radioStates';
import { STOP_CARD_WORDS, type StopCard } from '#core/safety/stopCards';
import { readAllRecords } from '$lib/server/services/feed';
import {
	bothReady,
	call,
	closingDb,
	goCard,
	goCards,
	newCaller,
	newHop,
	READY,
	record,
	said,
	type Answer,
	type Caller,
	type TestHop
} from './world';

closingDb();

let planner: Caller;
let crew: Caller;

beforeAll(async () => {
	planner = await newCaller('planner');
	crew = await newCaller('technician');
});

const post = (
	hop: TestHop,
	...records: ReturnType<typeof record>[]
): Promise<Answer<{ results: { seq: number; repeated: boolean }[] }>> =>
	call(crew, 'POST', `/hops/${hop.id}/records`, { records });

const now = (of: ReturnType<typeof record>): ReturnType<typeof record> => ({
	...of,
	recordedAt: new Date().toISOString()
});
const step = (key: string, value: number | null, more: object = {}): ReturnType<typeof record> =>
	now(record('A', 'build-step', { step: key, value, note: '', photoIds: [], ...more }));
const GEAR = { ropeBreakingKg: 3000, ropeFactor: 10, pulleyRatedKg: 500, slingRatedKg: 500 };

describe('what can hurt or destroy', () => {
	it.each([
		['a pulley that is overloaded', 'hoist', 1, { gear: { ...GEAR, pulleyRatedKg: 20 } }, 'gear'],
		['a lift of which nothing is known', 'hoist', 1, {}, 'gear'],
		['a reversed supply', 'voltage', -50, {}, 'value'],
		['too high a supply', 'voltage', 75, {}, 'value'],
		[
			'a passive injector',
			'gland',
			null,
			{ source: { kind: 'poe-passive', voltageV: 48, powerW: 60 } },
			'source'
		],
		['a voltage that nobody read', 'voltage', null, {}, 'value'],
		['a pipe outside its clamps', 'pipe', 30, {}, 'value']
	])('%s is not recorded as done', async (_, key, value, more, field) => {
		const hop = await newHop(planner, [crew]);
		await post(hop, ...goCards('A'));
		const answer = await post(hop, step(key, value, more));
		expect(said(answer)).toEqual([422, 'against-gate', `records.0.payload.${field}`]);
		// Nothing of a batch stands when one record of it does not.
		const both = await post(hop, step('pivots', null), step(key, value, more));
		expect(said(both)).toEqual([422, 'against-gate', `records.1.payload.${field}`]);
		expect((await readAllRecords(hop.id)).filter(({ kind }) => kind === 'build-step')).toEqual([]);

		const skipped = { step: key, cause: 'Done by others' };
		expect(said(await post(hop, record('A', 'step-skipped', skipped)))).toEqual([
			422,
			'against-gate',
			'records.0.payload.authorisedBy'
		]);
		const word = record('A', 'step-skipped', { ...skipped, authorisedBy: 'Ada Reef, foreman' });
		expect((await post(hop, word)).status).toBe(200);
		expect((await post(hop, word)).body.results[0]!.repeated).toBe(true);
	});

	it('is recorded where it holds, and a repeat is harmless', async () => {
		const hop = await newHop(planner, [crew]);
		await post(hop, ...goCards('A'));
		const lift = step('hoist', 1, { gear: GEAR });
		expect((await post(hop, lift)).status).toBe(200);
		expect((await post(hop, lift)).body.results[0]!.repeated).toBe(true);
		const kept = (await readAllRecords(hop.id)).find(({ kind }) => kind === 'build-step')!;
		expect(kept.payload).toMatchObject({ gear: GEAR });
	});

	it('has bounds of its own', async () => {
		const hop = await newHop(planner, [crew]);
		for (const gear of [
			{ ...GEAR, ropeFactor: 0 },
			{ ...GEAR, pulleyRatedKg: 'strong' },
			{ ropeBreakingKg: 1 }
		]) {
			expect((await post(hop, step('hoist', 1, { gear }))).status).toBe(422);
		}
	});
});

describe('the cards', () => {
	const stop = (card: StopCard, override?: object): ReturnType<typeof record> =>
		now(
			record('A', 'stop-card', {
				card,
				answers: {
					...goCard(card).answers,
					[STOP_CARD_WORDS[card].questions[0]!.key]: 'no'
				},
				note: '',
				...(override ? { override } : {})
			})
		);
	const lift = (): ReturnType<typeof record> => step('hoist', 1, { gear: GEAR });

	it('stand before a lift, a climb and a transmitter, also for the API', async () => {
		const hop = await newHop(planner, [crew]);
		expect(said(await post(hop, lift()))).toEqual([409, 'card-not-answered', 'records.0']);
		expect(said(await post(hop, step('pipe-lean', 0.2)))).toEqual([
			409,
			'card-not-answered',
			'records.0'
		]);
		const on = (): ReturnType<typeof record> => now(record('A', 'alignment-state', READY));
		expect(said(await post(hop, on()))).toEqual([409, 'card-not-answered', 'records.0']);
		// Turning it off is never refused.
		const off = now(record('A', 'alignment-state', { ...READY, transmitterOn: false }));
		expect((await post(hop, off)).status).toBe(200);
		expect((await post(hop, ...goCards('A'))).status).toBe(200);
		for (const done of [lift(), step('pipe-lean', 0.2), on()]) {
			expect((await post(hop, done)).status).toBe(200);
		}
		// Answered at one end, they say nothing of the other.
		const far = now(record('B', 'alignment-state', READY));
		expect(said(await post(hop, far))[1]).toBe('card-not-answered');
	});

	it('ask for each radio of an end in a state of its own', async () => {
		const hop = await newHop(planner, [crew], {
			plan: {
				configuration: { kind: 'space-diversity', cancellerDb: 0 },
				end: { secondDishCode: 'DP-060-26', secondDishOffsetM: -6 }
			}
		});
		await post(hop, ...goCards('A'));
		const of = (...keys: string[]): object => ({
			...wholeAlignment(['radio-1']),
			...(keys.length ? { radios: wholeAlignment(['', ...keys]).radios!.slice(1) } : {})
		});
		const refused = async (payload: object): Promise<unknown> =>
			said(await post(hop, record('A', 'alignment-state', payload)));
		const at = 'records.0.payload.radios';
		for (const payload of [
			of(),
			of('radio-1'),
			of('radio-1', 'radio-3'),
			of('radio-1', 'radio-1')
		]) {
			expect(await refused(payload)).toEqual([422, 'not-these-radios', at]);
		}
		const whole = wholeAlignment(['radio-1', 'radio-2']);
		expect(await refused({ ...whole, radios: [] })).toEqual([422, 'invalid-input', at]);
		const second = { ...whole.radios![1]!, sendsAsListed: false };
		const partly = alignmentStateOf([whole.radios![0]!, second]);
		expect((await post(hop, record('A', 'alignment-state', partly))).status).toBe(200);
		// Half of an end is not ready, whatever the sentence over it says.
		const says = { ...whole, radios: partly.radios };
		expect((await post(hop, record('A', 'alignment-state', says))).status).toBe(200);
		const move = { axis: 'azimuth', toTurns: 1, viaTurns: [], source: 'hand' };
		await post(hop, ...goCards('B'), record('B', 'alignment-state', whole));
		expect(said(await post(hop, record('A', 'move', move)))[1]).toBe('not-in-alignment-state');
		expect((await post(hop, record('A', 'alignment-state', whole))).status).toBe(200);
		expect((await post(hop, record('A', 'move', move))).status).toBe(200);
		// One back in operation alone is not the end back in operation.
		const back = wholeOperation(['radio-1', 'radio-2']);
		const unlisted = { ...back };
		delete unlisted.radios;
		expect(said(await post(hop, record('A', 'operating-state', unlisted)))[1]).toBe(
			'not-these-radios'
		);
		expect((await post(hop, record('A', 'operating-state', back))).status).toBe(200);
	});

	it('of services are kept by name and port, answered with yes or no', async () => {
		const hop = await newHop(planner, [crew]);
		const key = 'Fog-signal telemetry, port 1, radio 1';
		const check = (answers: object): Promise<unknown> =>
			post(hop, record('A', 'service-check', { answers, note: '' }));
		expect(await check({ [key]: 'yes' })).toMatchObject({ status: 200 });
		expect(said((await check({ [key]: 'maybe' })) as never)[0]).toBe(422);
		expect(said((await check({})) as never)[0]).toBe(422);
	});

	it('say stop until somebody takes it on by name', async () => {
		const hop = await newHop(planner, [crew]);
		expect((await post(hop, stop('lift'))).status).toBe(200);
		expect(said(await post(hop, lift()))).toEqual([409, 'card-says-stop', 'records.0']);
		expect((await post(hop, stop('lift', { name: 'A', why: '' }))).status).toBe(422);
		expect(
			(await post(hop, stop('lift', { name: 'Ada Reef', why: 'Calm below the ridge' }))).status
		).toBe(200);
		expect((await post(hop, lift())).status).toBe(200);
	});

	it('grow old, and are asked again before a dish is moved', async () => {
		const hop = await newHop(planner, [crew]);
		await bothReady(crew, hop.id);
		const move = (hoursOn: number): ReturnType<typeof record> => ({
			...record('A', 'move', { axis: 'tilt', toTurns: 1, viaTurns: [], source: 'hand' }),
			recordedAt: new Date(Date.now() + hoursOn * 3_600_000).toISOString()
		});
		expect((await post(hop, move(0))).status).toBe(200);
		// Begun before it grew old, work is not refused for a while after.
		expect((await post(hop, move(7.5))).status).toBe(200);
		expect(said(await post(hop, move(8.5)))).toEqual([409, 'card-not-answered', 'records.0']);
	});

	it('are answered and used in one batch, in its order', async () => {
		const hop = await newHop(planner, [crew]);
		expect((await post(hop, lift(), ...goCards('A'))).status).toBe(409);
		expect((await post(hop, ...goCards('A'), lift())).status).toBe(200);
	});

	it('answered by many at once are kept as the last one in the feed left them', async () => {
		const hop = await newHop(planner, [crew]);
		await Promise.all(
			Array.from({ length: 8 }, (_, i) =>
				post(hop, i % 2 ? stop('lift') : { ...goCards('A')[1]!, id: randomUUID() })
			)
		);
		const last = (await readAllRecords(hop.id)).at(-1)!;
		const safe = Object.values((last.payload as { answers: object }).answers).every(
			(a) => a === 'yes'
		);
		expect((await post(hop, lift())).status).toBe(safe ? 200 : 409);
	});
});
