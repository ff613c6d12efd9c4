import { randomUUID } from 'node:crypto';
import { ENDS } from '#core/ends';
import type { Actor } from '$lib/server/auth/actor';
import { db } from '$lib/server/db/connection';
import { inTransaction } from '$lib/server/db/transaction';
import { addHopWords, addSiteWords } from '$lib/server/repositories/words';
import { hopBody } from '../../tests/server/world';

async function insert(table: string, columns: string, rows: unknown[][]): Promise<void> {
	for (let i = 0; i < rows.length; i += 500) {
		await db().query(`INSERT INTO ${table} (${columns}) VALUES ?`, {
			replacements: [rows.slice(i, i + 500)]
		});
	}
}

/** Sites on a grid of their own and a hop between each and the next, all of one planner. */
export async function network(
	actor: Pick<Actor, 'userId'>,
	count: number,
	westDeg: number,
	name: string
): Promise<string[]> {
	const now = new Date();
	const { plan } = hopBody('', '') as { plan: object };
	const draft = JSON.stringify(plan);
	const ids = Array.from({ length: count }, () => randomUUID());
	await insert(
		'sites',
		'id, name, latitude_deg, longitude_deg, ground_amsl_m, created_by, created_at, updated_at',
		ids.map((id, i) => [
			id,
			`${name} ${i}`,
			10 + Math.floor(i / 250) * 0.05,
			westDeg + (i % 250) * 0.05,
			50,
			actor.userId,
			now,
			now
		])
	);
	const hops = ids.map((id, i) => [
		randomUUID(),
		`${name} hop ${i}`,
		id,
		ids[(i + 1) % count],
		draft,
		actor.userId,
		now,
		now
	]);
	await insert(
		'hops',
		'id, name, site_a_id, site_b_id, plan_draft, created_by, created_at, updated_at',
		hops
	);
	await insert(
		'hop_feeds',
		'hop_id, baton',
		hops.map(([id]) => [id, ENDS[0]])
	);
	await insert(
		'hop_members',
		'hop_id, user_id',
		hops.map(([id]) => [id, actor.userId])
	);
	const hopIds = hops.map(([id]) => id as string);
	for (let i = 0; i < count; i += 500) {
		await inTransaction(async (unit) => {
			const named = ids.slice(i, i + 500).map((id, k) => ({ id, name: `${name} ${i + k}` }));
			await addSiteWords(named, unit);
			await addHopWords(hopIds.slice(i, i + 500), unit);
		});
	}
	return hopIds;
}
