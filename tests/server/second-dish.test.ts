import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { weighedState } from '#core/guide/weigh';
import type { HopState } from '#core/record/hopState';
import type { FieldRecord } from '#core/record/records';
import { updateSimulation } from '$lib/server/repositories/hops';
import { packDefinition } from '$lib/server/pdf/packPdf';
import { readAllRecords, requireRevision } from '$lib/server/services/feed';
import { gatherPack } from '$lib/server/services/pack';
import {
	bothReady,
	call,
	closingDb,
	newCaller,
	newHop,
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

const diversity = (practice = true): Promise<TestHop> =>
	newHop(planner, [crew], {
		practice,
		plan: {
			configuration: { kind: 'space-diversity', cancellerDb: 0 },
			end: { secondDishCode: 'DP-060-26', secondDishOffsetM: -6 }
		}
	});
const post = (
	hop: TestHop,
	...records: ReturnType<typeof record>[]
): Promise<Answer<{ results: { seq: number }[] }>> =>
	call(crew, 'POST', `/hops/${hop.id}/records`, { records });
const simulate = (hop: TestHop, body: object): Promise<Answer<{ samples: unknown[] }>> =>
	call(crew, 'POST', `/hops/${hop.id}/simulator`, {
		end: 'A',
		id: randomUUID(),
		readingId: randomUUID(),
		...body
	});
const stateOf = async (hop: TestHop): Promise<HopState> => {
	const { input, plan } = await requireRevision(hop.id);
	return weighedState(input, plan, await readAllRecords(hop.id));
};
const move = (dish?: number): object => ({
	axis: 'tilt',
	toTurns: 1.5,
	viaTurns: [],
	source: 'hand',
	...(dish === undefined ? {} : { dish })
});

/** The radios of an end with a second dish. */
const BOTH = ['radio-1', 'radio-2'];

describe('the second dish of an end', () => {
	it('is recorded of where the plan has one, and stands apart from the first', async () => {
		const hop = await diversity(false);
		await bothReady(crew, hop.id, BOTH);
		expect((await post(hop, record('A', 'move', move(2)))).status).toBe(200);
		const state = await stateOf(hop);
		expect(state.ends.A.turns.tilt).toBe(0);
		expect(state.second!.A.ends.A.turns.tilt).toBe(1.5);
	});

	it('asks for the baton as the first does', async () => {
		const hop = await diversity(false);
		await bothReady(crew, hop.id, BOTH);
		const refused = await post(hop, record('B', 'move', move(2)));
		expect([refused.status, refused.error.code]).toEqual([409, 'not-holding-baton']);
	});

	it('is refused at its field where the plan has one dish, and nothing of the batch is kept', async () => {
		const hop = await newHop(planner, [crew], { practice: false });
		await bothReady(crew, hop.id);
		const before = (await readAllRecords(hop.id)).length;
		expect(
			said(await post(hop, record('A', 'note', { text: 'first' }), record('A', 'move', move(2))))
		).toEqual([422, 'no-second-dish', 'records.1.payload.dish']);
		expect(said(await post(hop, record('A', 'move', move(3))))).toEqual([
			422,
			'invalid-input',
			'records.0.payload.dish'
		]);
		// What is no matter of a dish has no dish to say.
		expect(said(await post(hop, record('A', 'note', { text: 'x', dish: 2 })))).toEqual([
			422,
			'invalid-input',
			'records.0.payload.dish'
		]);
		expect((await readAllRecords(hop.id)).length).toBe(before);
		const practice = await newHop(planner, [crew]);
		expect(said(await simulate(practice, { action: 'read', dish: 2 }))).toEqual([
			422,
			'no-second-dish',
			'dish'
		]);
	});

	it('is turned and read by the simulator without the first', async () => {
		const hop = await diversity();
		await bothReady(crew, hop.id, BOTH);
		await simulate(hop, { action: 'read' });
		const first = (await stateOf(hop)).ends.A.lastLevelDbm;
		await simulate(hop, { action: 'turn', axis: 'azimuth', turns: [-2, -1], dish: 2 });
		await simulate(hop, { action: 'tighten', fastenerIndex: 0, dish: 2 });
		const made = (await readAllRecords(hop.id)).filter(({ payload }) => 'dish' in payload);
		expect(made.map(({ kind }) => kind)).toEqual(['move', 'reading', 'lock-step', 'reading']);
		const state = await stateOf(hop);
		expect([state.ends.A.lastLevelDbm, state.ends.A.turns.azimuth]).toEqual([first, 0]);
		const own = state.second!.A.ends.A;
		expect(own.turns.azimuth).toBe(-1);
		expect(own.lockSteps).toHaveLength(1);
		expect(said(await simulate(hop, { action: 'turn-feed', feedDeg: 3, dish: 2 }))).toEqual([
			422,
			'invalid-input',
			'action'
		]);
	});

	it('hears the far end’s first dish where that stands', async () => {
		const hop = await diversity();
		// A start near enough to be heard: from most others there is nothing but the noise floor.
		await updateSimulation(hop.id, 15, null);
		await bothReady(crew, hop.id, BOTH);
		const levels: (number | null)[] = [];
		const read = async (): Promise<void> => {
			await simulate(hop, { action: 'read', dish: 2 });
			levels.push((await stateOf(hop)).second!.A.ends.A.lastLevelDbm);
		};
		await read();
		// The far dish goes away from where it stood; this one’s level goes with it.
		await call(crew, 'POST', `/hops/${hop.id}/records`, {
			records: [record('A', 'baton', { to: 'B', how: 'handed' })]
		});
		await simulate(hop, { end: 'B', action: 'turn', axis: 'azimuth', turns: [9] });
		await read();
		const moves = (await readAllRecords(hop.id)).filter(
			(one): one is FieldRecord & { kind: 'move' } => one.kind === 'move'
		);
		expect(moves).toHaveLength(1);
		expect(levels[0]! - levels[1]!).toBeGreaterThan(10);
	});

	it('stands in the pack with a level of its own, told once, and every radio beside it', async () => {
		const hop = await diversity(false);
		const actor = { userId: crew.userId, displayName: 'Crew', role: 'technician' as const };
		const printed = JSON.stringify(packDefinition(await gatherPack(actor, hop.id)));
		expect(printed).toContain('Second dish: level to be received');
		expect(printed).not.toContain('Diversity dish, level');
		expect(printed).toMatch(/"Radio 2".*only hears/);
	});

	it('is watched beside the first without filling the record', async () => {
		const hop = await diversity();
		for (let i = 0; i < 6; i++) {
			await simulate(hop, { action: 'watch' });
			await simulate(hop, { action: 'watch', dish: 2 });
		}
		const kept = await readAllRecords(hop.id);
		const second = kept.filter(({ payload }) => 'dish' in payload).length;
		expect(second).toBeGreaterThan(0);
		expect(second).toBeLessThan(6);
		expect(kept.length - second).toBeLessThan(6);
	});

	it('holds the acceptance up until it is aligned, fixed and read', async () => {
		const hop = await diversity();
		await bothReady(crew, hop.id, BOTH);
		const judged = await call<{ lines: { code: string; verdict: string }[] }>(
			planner,
			'GET',
			`/hops/${hop.id}/judgement`
		);
		const missing = judged.body.lines
			.filter(({ verdict }) => verdict === 'missing')
			.map(({ code }) => code);
		expect(missing).toEqual(
			expect.arrayContaining(['level-A-second', 'lock-A-second', 'lock-B-second'])
		);
	});
});
