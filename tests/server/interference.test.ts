import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { writeGeoTiff } from '../../scripts/lib/tiffWriter.mjs';
import type { HopInterference } from '$lib/server/services/interference';
import { addRaster } from '$lib/server/services/terrain';
import { call, closingDb, hopBody, newCaller, newSite, type Caller } from './world';

closingDb();

let planner: Caller;
let stranger: Caller;
beforeAll(async () => {
	planner = await newCaller('planner');
	stranger = await newCaller('planner');
});

/** A part of the world where no other test has a hop. */
const WEST = { latitudeDeg: 12, longitudeDeg: 40 };

async function hopAt(
	owner: Caller,
	northDeg: number,
	change: { channelMhz?: number; draft?: object } = {}
): Promise<{ id: string; name: string; body: object; version: number }> {
	const at = (eastDeg: number): Promise<string> =>
		newSite(owner, {
			latitudeDeg: WEST.latitudeDeg + northDeg,
			longitudeDeg: WEST.longitudeDeg + eastDeg
		});
	const name = `Network ${randomUUID().slice(0, 10)}`;
	const body = hopBody(await at(0), await at(0.08), { name }) as {
		plan: { ends: Record<'A' | 'B', { transmitFrequencyGhz: number }> };
	};
	const by = (change.channelMhz ?? 0) / 1000;
	body.plan.ends.A = { ...body.plan.ends.A, transmitFrequencyGhz: 26.2 + by };
	body.plan.ends.B = { ...body.plan.ends.B, transmitFrequencyGhz: 25.22 + by };
	Object.assign(body.plan, change.draft);
	const made = await call<{ id: string; version: number }>(owner, 'POST', '/hops', body);
	expect(made.status).toBe(201);
	return { ...made.body, name, body };
}
const look = async (who: Caller, hopId: string): Promise<HopInterference> => {
	const answer = await call<HopInterference>(who, 'GET', `/hops/${hopId}/interference`);
	expect(answer.status).toBe(200);
	return answer.body;
};

describe('interference inside the network', () => {
	it('is told of every hop in reach on the channel, the strongest first, both ways', async () => {
		const own = await hopAt(planner, 0);
		const near = await hopAt(planner, 0.006);
		const further = await hopAt(planner, -0.02);
		await hopAt(planner, 0.012, { channelMhz: 56 });
		await hopAt(planner, 4);
		const found = await look(planner, own.id);
		expect(found).toMatchObject({ looked: 3, more: false, leftOut: [], overlapOnly: true });
		for (const receiver of found.heard) {
			const names = receiver.contributions.map(({ hopName }) => hopName);
			expect(names[0]).toBe(near.name);
			expect(new Set(names)).toEqual(new Set([near.name, further.name]));
			expect(receiver.degradationDb).toBeGreaterThan(1);
			expect(receiver.contributions[0]).toMatchObject({ channels: 'same', terrainDb: null });
		}
		expect(found.harmed[0]?.hopName).toBe(near.name);
		// The same pair of hops, seen from the other side.
		const back = await look(planner, near.id);
		const mine = back.harmed.find(({ hopName }) => hopName === own.name);
		const theirs = found.heard.find(({ end }) => end === mine?.end);
		expect(theirs?.contributions[0]?.levelDbm).toBeCloseTo(mine?.levelDbm ?? 0, 6);
		expect(found.choices[0]?.hereDb).toBeLessThan(
			Math.max(...found.heard.map(({ degradationDb }) => degradationDb))
		);
	});

	it('follows the drafts: a channel that is changed is heard no more', async () => {
		const own = await hopAt(planner, 2);
		const near = await hopAt(planner, 2.006);
		expect((await look(planner, own.id)).heard[0]?.contributions).toHaveLength(1);
		const body = near.body as { plan: { ends: Record<'A' | 'B', object> } };
		body.plan.ends.A = { ...body.plan.ends.A, transmitFrequencyGhz: 26.256 };
		body.plan.ends.B = { ...body.plan.ends.B, transmitFrequencyGhz: 25.276 };
		const saved = await call(planner, 'PUT', `/hops/${near.id}`, {
			...body,
			version: near.version
		});
		expect(saved.status).toBe(200);
		const [heard] = (await look(planner, own.id)).heard;
		expect(heard).toMatchObject({ contributions: [], levelDbm: null, degradationDb: 0 });
	});

	it('tells no name of hops that the asker does not see, but counts them', async () => {
		const own = await hopAt(planner, -2);
		const theirs = await hopAt(stranger, -2.006);
		const found = await look(planner, own.id);
		expect(JSON.stringify(found)).not.toContain(theirs.name);
		expect(found.heard[0]?.contributions[0]).toMatchObject({
			hopName: 'another hop',
			siteName: 'another site'
		});
		expect((await call(stranger, 'GET', `/hops/${own.id}/interference`)).status).toBe(404);
	});

	it('is less where the ground stands between', async () => {
		const own = await hopAt(planner, -4);
		await hopAt(planner, -4.02);
		const open = await look(planner, own.id);
		// A wall of 400 m between the two, all along.
		const bytes = writeGeoTiff({
			...{ columns: 60, rows: 60, stepDeg: 0.002 },
			...{ westDeg: WEST.longitudeDeg - 0.02, northDeg: WEST.latitudeDeg - 3.96 },
			value: (_: number, row: number) => (row >= 23 && row <= 26 ? 500 : 100)
		});
		await addRaster(
			{ userId: planner.userId, displayName: 'P', role: 'planner' },
			`Wall ${randomUUID().slice(0, 8)}`,
			bytes
		);
		const hidden = await look(planner, own.id);
		const level = (found: HopInterference): number => found.heard[0]?.levelDbm ?? 0;
		expect(hidden.heard[0]?.contributions[0]?.terrainDb).toBeGreaterThan(15);
		expect(level(hidden)).toBeLessThan(level(open) - 15);
	});

	it('taken into the plan is kept, and a level that none can be is refused at its field', async () => {
		const own = await hopAt(planner, 6);
		const body = own.body as { plan: { ends: Record<'A' | 'B', object> } };
		const save = (interferenceDbm: unknown): ReturnType<typeof call> =>
			call(planner, 'PUT', `/hops/${own.id}`, {
				...body,
				version: own.version,
				plan: {
					...body.plan,
					ends: { ...body.plan.ends, A: { ...body.plan.ends.A, interferenceDbm } }
				}
			});
		const wrong = await save(-3);
		expect(wrong.status).toBe(422);
		expect(wrong.text).toContain('plan.ends.A.interferenceDbm');
		expect((await save(-88.5)).status).toBe(200);
		const plan = await call<{ plan: { received: Record<'A' | 'B', { degradationDb: number }> } }>(
			planner,
			'GET',
			`/hops/${own.id}/plan`
		);
		expect(plan.body.plan.received.A.degradationDb).toBeGreaterThan(1);
		expect(plan.body.plan.received.B.degradationDb).toBe(0);
	});
});
