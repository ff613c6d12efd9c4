import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { wordsOf as wordsOfMigration } from '../../migrations/0011-growth.mjs';
import { select } from '$lib/server/db/sql';
import { soughtWords, wordsOf } from '$lib/server/nameWords';
import type { MapContent } from '$lib/ui/map/content';
import { asOwner, call, closingDb, hopBody, newCaller, newSite, type Caller } from './world';

closingDb();

interface Listed {
	rows: { id: string; name: string }[];
	count: number;
	pages: number;
	more: boolean;
	next: string | null;
}

let planner: Caller;
beforeAll(async () => {
	planner = await newCaller('planner');
});

const listed = async (what: 'sites' | 'hops', query: string, who = planner): Promise<Listed> =>
	(await call<Listed>(who, 'GET', `/${what}?${query}`)).body;
const named = async (what: 'sites' | 'hops', q: string, who = planner): Promise<string[]> =>
	(await listed(what, `q=${encodeURIComponent(q)}`, who)).rows.map(({ name }) => name);
/** Letters and digits that nobody else has used. */
const tagOf = (): string => `q${randomUUID().replaceAll('-', '').slice(0, 12)}`;

describe('words of names', () => {
	it.each([
		['Høgda Øst', 'høgda øst'],
		['Café Ñandú', 'cafe nandu'],
		['KL2041-B / mast', 'kl2041 2041 b mast'],
		['A1b22', 'a1b22 1b22 b22 22'],
		['北山中継局', '北山中継局 山中継局 中継局 継局 局'],
		['한강', '한강 강'],
		['ﬁne №5', 'fine no5 5'],
		['%_\\ ☂', ''],
		['x'.repeat(200), 'x'.repeat(80)]
	])('%s', (name, words) => {
		expect(wordsOf(name).toSorted()).toEqual(words.split(' ').filter(Boolean).toSorted());
	});

	it('are the same where a database is filled with them', () => {
		for (const name of ['Høgda 7B', 'Ärger-Straße 12', '북한산 3호', 'ทดสอบ x', '', '🛰️ sat2']) {
			expect(wordsOfMigration(name, 'and KL2041')).toEqual(wordsOf(name, 'and KL2041'));
		}
	});

	it('are looked for whole, and no more than a few of them', () => {
		expect(soughtWords('  Ridge ridge KL20 ')).toEqual(['ridge', 'kl20']);
		expect(soughtWords('a b c d e f g h i j')).toHaveLength(8);
		expect(soughtWords('---')).toEqual([]);
	});
});

describe('a search', () => {
	it('finds by the beginning of each word, in any order, accent and case, and inside no word', async () => {
		const tag = tagOf();
		const name = `Nordhöhe ${tag} KL2041`;
		await newSite(planner, { name });
		await newSite(planner, { name: `Südhöhe ${tag} KL3000` });
		for (const q of [
			`${tag} nord`,
			`NORDHOHE ${tag}`,
			`2041 ${tag.slice(0, 8)}`,
			`kl2041 ${tag}`
		]) {
			expect(await named('sites', q)).toEqual([name]);
		}
		expect(await named('sites', tag)).toHaveLength(2);
		expect(await named('sites', `${tag} hohe`)).toEqual([]);
		expect(await named('sites', `${tag} %`)).toHaveLength(2);
		expect(await named('sites', '---')).toEqual([]);
	});

	it('finds a hop by its own name and those of its sites, as they are called now', async () => {
		const [tag, west, east, later] = [tagOf(), tagOf(), tagOf(), tagOf()];
		const a = await newSite(planner, { name: `West ${west}` });
		const b = await newSite(planner, { name: `East ${east}` });
		const hop = await call<{ id: string }>(
			planner,
			'POST',
			'/hops',
			hopBody(a, b, { name: `Hop ${tag}` })
		);
		const other = await newCaller('planner');
		for (const q of [tag, west, `${east} ${tag}`, `west ${east}`]) {
			expect(await named('hops', q)).toEqual([`Hop ${tag}`]);
			// Who is no member sees nothing of it.
			expect(await named('hops', q, other)).toEqual([]);
		}
		const { body: site } = await call(planner, 'GET', `/sites/${a}`);
		const renamed = { ...site, id: undefined, name: `West ${later}` };
		expect((await call(planner, 'PUT', `/sites/${a}`, renamed)).status).toBe(200);
		expect(await named('hops', west)).toEqual([]);
		expect(await named('sites', west)).toEqual([]);
		expect(await named('hops', later)).toEqual([`Hop ${tag}`]);
		const again = tagOf();
		const changed = hopBody(a, b, { name: `Hop ${again}` });
		expect((await call(planner, 'PUT', `/hops/${hop.body.id}`, changed)).status).toBe(200);
		expect(await named('hops', tag)).toEqual([]);
		expect(await named('hops', `${again} ${later}`)).toEqual([`Hop ${again}`]);
	});

	it('goes on from page to page without losing or repeating, also when rows come in between', async () => {
		const tag = tagOf();
		const site = (n: number): Promise<string> =>
			newSite(planner, { name: `P ${tag} ${String(n).padStart(3, '0')}` });
		for (let n = 10; n < 55; n++) await site(n);
		const seen: string[] = [];
		let answer = await listed('sites', `q=${tag}`);
		expect([answer.count, answer.pages, answer.more]).toEqual([45, 3, false]);
		seen.push(...answer.rows.map(({ name }) => name));
		// What is made on a page that was turned already moves nothing of the next.
		await site(1);
		for (let page = 2; answer.next !== null; page++) {
			const after = encodeURIComponent(answer.next);
			answer = await listed('sites', `q=${tag}&page=${page}&after=${after}`);
			seen.push(...answer.rows.map(({ name }) => name));
		}
		expect(seen).toEqual(
			Array.from({ length: 45 }, (_, i) => `P ${tag} ${String(i + 10).padStart(3, '0')}`)
		);
	});

	it('does the same with hops, the newest first, of one millisecond too', async () => {
		const own = await newCaller('planner');
		const tag = tagOf();
		const sites = [await newSite(own), await newSite(own)];
		const ids: string[] = [];
		for (let n = 0; n < 43; n++) {
			const body = hopBody(sites[0]!, sites[1]!, { name: `H ${tag} ${n}` });
			ids.push((await call<{ id: string }>(own, 'POST', '/hops', body)).body.id);
		}
		await asOwner('UPDATE hops SET updated_at = ? WHERE id IN (?)', [
			'2026-03-01 10:00:00.123',
			ids.slice(5, 35)
		]);
		for (const q of ['', tag]) {
			const seen: string[] = [];
			let after = '';
			for (let page = 1; page < 9; page++) {
				const answer = await listed('hops', `q=${q}&page=${page}${after}`, own);
				expect(answer.count).toBe(43);
				seen.push(...answer.rows.map(({ id }) => id));
				if (answer.next === null) break;
				after = `&after=${encodeURIComponent(answer.next)}`;
			}
			expect(seen).toHaveLength(43);
			expect(new Set(seen)).toEqual(new Set(ids));
			expect(new Set(seen.slice(13))).toEqual(new Set(ids.slice(5, 35)));
		}
		// An address that somebody made up begins at the page it names.
		const odd = await listed('hops', 'page=2&after=nonsense', own);
		expect(odd.rows).toHaveLength(20);
	});

	it('counts no further than a thousand, and says so', async () => {
		const tag = tagOf();
		const own = await newCaller('planner');
		const rows = Array.from({ length: 1025 }, (_, i) => [
			...[randomUUID(), `M ${tag} ${i}`, 61 + i * 1e-4, -150 + Math.random(), 5],
			...[own.userId, '2026-01-01', '2026-01-01']
		]);
		await asOwner(
			`INSERT INTO sites (id, name, latitude_deg, longitude_deg, ground_amsl_m, created_by, created_at,
				updated_at) VALUES ?`,
			[rows]
		);
		await asOwner('INSERT INTO site_words (site_id, word) VALUES ?', [
			rows.flatMap(([id, name]) => wordsOf(name as string).map((word) => [id, word]))
		]);
		const first = await listed('sites', `q=${tag}`);
		expect([first.count, first.pages, first.more]).toEqual([1000, 50, true]);
		const rare = await listed('sites', `q=${tag}+1024`);
		expect(rare.rows.map(({ name }) => name)).toEqual([`M ${tag} 1024`]);
		const beyond = await listed('sites', `q=${tag}&page=52`);
		expect([beyond.rows.length, beyond.next]).toEqual([5, null]);
	});
});

describe('the map', () => {
	const view = (west: number, south: number, deg: number): string =>
		`/map?west=${west}&east=${west + deg}&south=${south}&north=${south + deg}`;
	const seen = async (path: string): Promise<MapContent> =>
		(await call<MapContent>(planner, 'GET', path)).body;

	it('has every site that stands in the view and none beside it, at its very edge too', async () => {
		const at = { latitudeDeg: 71.5, longitudeDeg: -33.25 };
		const id = await newSite(planner, { ...at, name: `Edge ${tagOf()}` });
		const idsIn = async (path: string): Promise<string[]> =>
			(await seen(path)).sites.map((site) => site.id);
		expect(await idsIn(view(-33.25, 71.5, 0.5))).toEqual([id]);
		expect(await idsIn(view(-33.75, 71, 0.5))).toEqual([id]);
		expect(await idsIn(view(-33.249, 71.5, 0.5))).toEqual([]);
		expect(await idsIn(view(-33.25, 71.501, 0.5))).toEqual([]);
	});

	it('counts what is too much to draw in its cells, also when sites move or go', async () => {
		const cells = (): Promise<object[]> =>
			select(
				`SELECT size_deg, row_at, column_at, site_count, latitude_sum, longitude_sum FROM site_cells
				WHERE site_count <> 0 ORDER BY 1, 2, 3`
			);
		const sizes = ['4', '1', '0.25', '0.0625'];
		const asCounted = (): Promise<object[]> =>
			select(
				sizes
					.map(
						(
							size
						) => `SELECT CAST(${size} AS DECIMAL(5,4)) AS size_deg, FLOOR(latitude_deg / ${size}) AS row_at,
							FLOOR(longitude_deg / ${size}) AS column_at, COUNT(*) AS site_count,
							SUM(latitude_deg) AS latitude_sum, SUM(longitude_deg) AS longitude_sum
							FROM sites GROUP BY 2, 3`
					)
					.join(' UNION ALL ') + ' ORDER BY 1, 2, 3'
			);
		const plain = (rows: object[]): number[][] =>
			rows.map((row) => Object.values(row).map((value) => Number(value)));
		const [moved, gone] = [
			await newSite(planner, { latitudeDeg: -0.01, longitudeDeg: 0.01 }),
			await newSite(planner, { latitudeDeg: 0.02, longitudeDeg: -179.99 })
		];
		expect(plain(await cells())).toEqual(plain(await asCounted()));
		const { body } = await call(planner, 'GET', `/sites/${moved}`);
		const elsewhere = { ...body, id: undefined, latitudeDeg: 12.3, longitudeDeg: 179.5 };
		expect((await call(planner, 'PUT', `/sites/${moved}`, elsewhere)).status).toBe(200);
		expect((await seen(view(179.4, 12.2, 0.5))).sites.map((site) => site.id)).toEqual([moved]);
		await asOwner('DELETE FROM site_words WHERE site_id = ?', [gone]);
		await asOwner('DELETE FROM sites WHERE id = ?', [gone]);
		expect(plain(await cells())).toEqual(plain(await asCounted()));
	});

	it('draws groups where there are many: every site is in one, and it stands among them', async () => {
		const own = planner.userId;
		const rows = Array.from({ length: 3200 }, (_, i) => [
			...[randomUUID(), `G ${tagOf()}`, -71 + Math.floor(i / 80) * 0.1, 80 + (i % 80) * 0.1, 5],
			...[own, '2026-01-01', '2026-01-01']
		]);
		await asOwner(
			`INSERT INTO sites (id, name, latitude_deg, longitude_deg, ground_amsl_m, created_by, created_at,
				updated_at) VALUES ?`,
			[rows]
		);
		const whole = await seen('/map?west=78&east=90&south=-73&north=-65');
		expect([whole.siteCount, whole.hopCount, whole.sites]).toEqual([3200, null, []]);
		expect(whole.groups.length).toBeGreaterThan(20);
		expect(whole.groups.length).toBeLessThanOrEqual(15 * 15);
		for (const { latitudeDeg, longitudeDeg } of whole.groups) {
			expect(latitudeDeg).toBeGreaterThanOrEqual(-71);
			expect(longitudeDeg).toBeLessThanOrEqual(88);
		}
		// Near enough for single sites to be looked at, too many to be drawn: 30 × 30 of them.
		const near = await seen('/map?west=80.05&east=83.05&south=-71.05&north=-68.05');
		expect([near.sites, near.hopCount]).toEqual([[], 0]);
		expect(near.siteCount).toBeGreaterThan(850);
		expect(near.siteCount).toBeLessThan(950);
	});
});
