import { randomUUID } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import { beforeAll, describe, expect, it } from 'vitest';
import { PART_KIND_NAMES, PART_KINDS, type PartKind } from '#core/catalogue/partKinds';
import { db } from '$lib/server/db/connection';
import { partFromRow, partRow } from '$lib/server/formats/partTable';
import { demoParts } from '$lib/server/demo/parts';
import { checkedPart } from '$lib/server/services/parts';
import {
	acceptWarnings,
	asOwner,
	call,
	closingDb,
	newCaller,
	newHop,
	type Answer,
	type Caller
} from './world';

closingDb();
let planner: Caller;
let crew: Caller;
beforeAll(async () => {
	[planner, crew] = await Promise.all([newCaller('planner'), newCaller('technician')]);
});

let made = 0;
const code = (): string => `T-${process.pid}-${++made}`.slice(0, 20);
const demo = (kind: PartKind): Record<string, unknown> =>
	structuredClone(demoParts().find((part) => part.kind === kind)!.data) as unknown as Record<
		string,
		unknown
	>;
interface PartBody extends Record<string, unknown> {
	id: string;
	version: number;
	retired: boolean;
	data: Record<string, unknown>;
}
const add = (
	kind: PartKind,
	data: Record<string, unknown>,
	id = randomUUID()
): Promise<Answer<PartBody>> => call<PartBody>(planner, 'POST', '/parts', { id, kind, data });

describe('parts of one’s own', () => {
	it.each(PART_KIND_NAMES)(
		'of kind %s are added, and a repeat adds nothing twice',
		async (kind) => {
			const id = randomUUID();
			const data = { ...demo(kind), code: code() };
			const first = await add(kind, data, id);
			expect([first.status, first.body.version]).toEqual([201, 1]);
			expect((await add(kind, data, id)).body.id).toBe(id);
			const again = await add(kind, data);
			expect([again.status, again.error.fields[0]!.field]).toEqual([422, 'data.code']);
			const read = await call<PartBody>(crew, 'GET', `/parts/${id}`);
			expect(read.body.data).toEqual(data);
		}
	);

	it.each([
		['radio', { noiseFigureDb: 'four' }, 'data.noiseFigureDb'],
		[
			'radio',
			{
				levelPort: {
					connector: 'x',
					resolutionV: 0.01,
					curve: [
						[-90, 1],
						[-60, 2],
						[-20, 1.5]
					]
				}
			},
			'data.levelPort.curve'
		],
		['radio', { modulations: [] }, 'data.modulations'],
		['radio', { rangeGhz: [20, 18] }, 'data.rangeGhz'],
		['dish', { diameterM: 90 }, 'data.diameterM'],
		[
			'mount',
			{ fasteners: [{ name: '', locks: 'azimuth', torqueNm: 9 }] },
			'data.fasteners.0.name'
		],
		[
			'coupling',
			{
				arms: [
					{ name: 'a', lossDb: 3, plane: 'own' },
					{ name: 'a', lossDb: 3, plane: 'own' }
				]
			},
			'data.arms.1'
		],
		[
			'feeder',
			{
				lossDbPer100M: [
					[7, 4],
					[6, 5]
				]
			},
			'data.lossDbPer100M'
		],
		['cable', { colour: 'red' }, 'data.colour'],
		['cable', { code: 'with space' }, 'data.code'],
		['indoor-unit', { radioPorts: 1.5 }, 'data.radioPorts'],
		['power-source', { kind: 'wind' }, 'data.kind']
	] as [PartKind, object, string][])(
		'of kind %s with %j are refused at the field',
		async (kind, change, field) => {
			const answer = await add(kind, { ...demo(kind), code: code(), ...change });
			expect(answer.status).toBe(422);
			expect(answer.error.fields.map((one) => one.field)).toContain(field);
		}
	);

	it('are changed by planners and administrators alone, one version after another', async () => {
		const data = { ...demo('cable'), code: code() };
		const { id } = (await add('cable', data)).body;
		const put = (caller: Caller, version: number, change: object): Promise<Answer<PartBody>> =>
			call<PartBody>(caller, 'PUT', `/parts/${id}`, {
				version,
				data: { ...data, ...change },
				note: 'Weighed.'
			});
		expect((await put(crew, 1, { kgPerKm: 111 })).status).toBe(403);
		expect((await call(crew, 'POST', '/parts', { id, kind: 'cable', data })).status).toBe(403);
		expect((await put(planner, 1, { kgPerKm: 111 })).body).toMatchObject({ version: 2 });
		const late = await put(planner, 1, { kgPerKm: 112 });
		expect([late.status, late.error.code]).toEqual([409, 'changed-meanwhile']);
		const renamed = await put(planner, 2, { code: code() });
		expect(renamed.error.fields[0]!.field).toBe('data.code');
		const { body } = await call<{ versions: { version: number; data: object; note: string }[] }>(
			crew,
			'GET',
			`/parts/${id}/versions`
		);
		expect(body.versions.map(({ version, note }) => [version, note])).toEqual([
			[2, 'Weighed.'],
			[1, 'Added.']
		]);
		expect(body.versions[1]!.data).toEqual(data);
		for (const sql of ['UPDATE part_versions SET note = 1', 'DELETE FROM part_versions']) {
			await expect(db().query(sql)).rejects.toThrow(/command denied/);
			await expect(asOwner(sql)).rejects.toThrow(/append-only/);
		}
	});

	it('two who change one at once do not both', async () => {
		const data = { ...demo('mount'), code: code() };
		const { id } = (await add('mount', data)).body;
		const answers = await Promise.all(
			[1, 2].map((weightKg) =>
				call(planner, 'PUT', `/parts/${id}`, { version: 1, data: { ...data, weightKg }, note: '' })
			)
		);
		expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
	});

	it('are found by words, kind and frequency, a page at a time, and not when retired', async () => {
		const word = `Zephyr ${randomUUID().slice(0, 6)}`;
		const data: Record<string, unknown> = { ...demo('radio'), code: code(), name: word };
		const { id, version } = (await add('radio', data)).body;
		const [from, to] = data.rangeGhz as [number, number];
		const found = async (query: string): Promise<number> =>
			(await call<{ count: number }>(crew, 'GET', `/parts?q=${encodeURIComponent(word)}${query}`))
				.body.count;
		expect(await found('')).toBe(1);
		expect(await found('&kind=radio')).toBe(1);
		expect(await found('&kind=dish')).toBe(0);
		expect(await found(`&ghz=${(from + to) / 2}`)).toBe(1);
		expect(await found(`&ghz=${to + 1}`)).toBe(0);
		expect((await call(crew, 'GET', '/parts?kind=lamp')).error.fields[0]!.field).toBe('kind');
		const retired = await call<PartBody>(planner, 'POST', `/parts/${id}/retirement`, {
			version,
			retired: true
		});
		expect(retired.body).toMatchObject({ retired: true, version: 2 });
		expect([await found(''), await found('&retired=true')]).toEqual([0, 1]);
		const back = await call<PartBody>(planner, 'POST', `/parts/${id}/retirement`, {
			version: 2,
			retired: false
		});
		expect(back.body.retired).toBe(false);
	});
});

describe('a plan and its parts', () => {
	it('keeps the version it was issued with, says that a newer one exists, and takes it anew', async () => {
		const ids: Record<string, string> = {};
		const codes: Record<string, string> = {};
		const hop = await newHop(planner, [crew]);
		const body = hop.body as { plan: { ends: Record<'A' | 'B', Record<string, unknown>> } };
		for (const kind of ['radio', 'dish', 'mount'] as const) {
			const field = `${kind}Code`;
			const was = body.plan.ends.A[field] as string;
			const base = demoParts().find((part) => part.kind === kind && part.data.code === was)!;
			codes[kind] = code();
			const added = await add(kind, {
				...(structuredClone(base.data) as unknown as Record<string, unknown>),
				code: codes[kind]
			});
			ids[kind] = added.body.id;
			for (const end of ['A', 'B'] as const) body.plan.ends[end][field] = codes[kind];
		}
		await acceptWarnings(planner, hop, body);
		const issue = (): Promise<Answer> =>
			call(planner, 'POST', `/hops/${hop.id}/revisions`, {
				id: randomUUID(),
				version: hop.version,
				note: 'Own parts.'
			});
		expect((await issue()).status).toBe(201);
		const radio = (await call<PartBody>(planner, 'GET', `/parts/${ids.radio}`)).body;
		const noisier = (radio.data.noiseFigureDb as number) + 2;
		const changed = await call(planner, 'PUT', `/parts/${ids.radio}`, {
			version: 1,
			data: { ...radio.data, noiseFigureDb: noisier },
			note: 'Measured.'
		});
		expect(changed.status).toBe(200);
		const frozen = async (): Promise<{ version: number; noiseFigureDb: number }> => {
			const [row] = await db().query<{ input: string }>(
				'SELECT input FROM plan_revisions WHERE hop_id = ? ORDER BY number DESC LIMIT 1',
				{ replacements: [hop.id], type: QueryTypes.SELECT }
			);
			return (
				JSON.parse(row!.input) as {
					ends: { A: { radio: { version: number; noiseFigureDb: number } } };
				}
			).ends.A.radio;
		};
		expect(await frozen()).toMatchObject({ version: 1, noiseFigureDb: noisier - 2 });
		expect((await issue()).status).toBe(201);
		expect(await frozen()).toMatchObject({ version: 2, noiseFigureDb: noisier });
		const compared = await call<{ changed: { field: string; after: string }[] }>(
			planner,
			'GET',
			`/hops/${hop.id}/revisions/comparison?from=2&to=3`
		);
		expect(compared.body.changed.map(({ after }) => after)).toEqual([
			`${codes.radio}, version 2`,
			`${codes.radio}, version 2`
		]);
		// A retired part stays where it is planned.
		await call(planner, 'POST', `/parts/${ids.mount}/retirement`, { version: 1, retired: true });
		expect((await call(planner, 'GET', `/hops/${hop.id}/review`)).status).toBe(200);
	});

	it('without parts says which to choose', async () => {
		const hop = await newHop(planner, [crew]);
		const body = structuredClone(hop.body) as {
			plan: { ends: Record<'A', Record<string, unknown>> };
		};
		body.plan.ends.A.radioCode = 'NOT-HERE';
		const saved = await call(planner, 'PUT', `/hops/${hop.id}`, {
			...body,
			version: hop.version
		});
		expect(saved.status).toBe(200);
		const review = await call(planner, 'GET', `/hops/${hop.id}/review`);
		expect(review.error.fields[0]!.field).toBe('plan.ends.A.radioCode');
	});
});

describe('files of parts', () => {
	const imported = (
		text: string,
		more: object = {}
	): Promise<
		Answer<{
			rows: {
				line: number;
				state: string;
				problems: { line: number; column: unknown; message: string }[];
			}[];
			good: number;
			wrong: number;
			taken: { added: number; changed: number; same: number } | null;
		}>
	> => call(planner, 'POST', '/parts/import', { format: 'json', text, ...more });
	const file = (...parts: object[]): string =>
		JSON.stringify({ format: 'skiaxis-parts', version: 1, parts }, null, '\t');

	it('a row of a table comes back as the part it was', () => {
		for (const { kind, data } of demoParts()) {
			const read = partFromRow(kind, partRow(kind, data));
			if (!('data' in read)) throw new Error(`${data.code}: ${read.column} ${read.message}`);
			expect(checkedPart(kind, read.data)).toEqual(data);
		}
	});

	it('what is exported is imported as the same, in both formats', async () => {
		const json = await call(crew, 'GET', '/parts/export?format=json');
		const again = await imported(json.text, { commit: true });
		expect(again.body.rows.filter(({ state }) => state === 'wrong')).toEqual([]);
		expect(again.body.taken).toMatchObject({ added: 0, changed: 0 });
		expect(again.body.taken!.same).toBeGreaterThan(20);
		const csv = await call(crew, 'GET', '/parts/export?format=csv&kind=radio');
		const table = await imported(csv.text, { format: 'csv', kind: 'radio', commit: true });
		expect(table.body.taken).toMatchObject({ added: 0, changed: 0 });
		expect((await call(crew, 'GET', '/parts/export?format=csv')).error.fields[0]!.field).toBe(
			'kind'
		);
	});

	it('is looked at first; then all, or the good ones, are written', async () => {
		const good = { part: 'cable', ...demo('cable'), code: code() };
		const bad = { part: 'cable', ...demo('cable'), code: code(), outerMm: 'thick' };
		const text = file(good, bad);
		const look = await imported(text);
		expect(look.body).toMatchObject({ good: 1, wrong: 1, taken: null });
		const [problem] = look.body.rows[1]!.problems;
		const line = text.split('\n').findIndex((row) => row.includes('"thick"')) + 1;
		expect(problem).toMatchObject({ line });
		const column = text.split('\n')[line - 1]!.indexOf('"thick"') + 1;
		expect(problem!.column).toBe(column);
		expect((await imported(text, { commit: true })).body.taken).toBeNull();
		const taken = await imported(text, { commit: true, takeGood: true });
		expect(taken.body.taken).toEqual({ added: 1, changed: 0, same: 0 });
		const changed = await imported(file({ ...good, kgPerKm: 77 }), { commit: true });
		expect(changed.body.taken).toEqual({ added: 0, changed: 1, same: 0 });
	});

	it('says line and column of a cell of a table, and a code that stands twice', async () => {
		const csv = await call(crew, 'GET', '/parts/export?format=csv&kind=cable');
		const [head, row] = csv.text.split('\n') as [string, string];
		const broken = `${head}\n${row}\n${row.replace(/^[^,]*/, code()).replace(/,[\d.]+,/, ',wide,')}\n`;
		const answer = await imported(broken, { format: 'csv', kind: 'cable' });
		expect(answer.body.rows[1]!.problems[0]).toMatchObject({ line: 3, column: 'conductorMm2' });
		const twice = await imported(`${head}\n${row}\n${row}\n`, { format: 'csv', kind: 'cable' });
		expect(twice.body.rows[1]!.problems[0]!.message).toContain('line 2 already');
		const odd = await imported(`${head},colour\n${row},red\n`, { format: 'csv', kind: 'cable' });
		expect(odd.body.rows[0]!.problems[0]).toMatchObject({ column: 'colour' });
	});

	it.each([
		['{"format": "skiaxis-parts",, }', /Line 1, column/],
		['', /empty|value expected/],
		['{"format":"other","version":1,"parts":[]}', /no file of parts/],
		['{"format":"skiaxis-parts","version":1}', /list "parts"/]
	])('that are none are refused in words: %s', async (text, words) => {
		const answer = await imported(text || ' ');
		expect(answer.status).toBe(422);
		expect(answer.error.fields[0]!.field).toBe('text');
		expect(answer.error.fields[0]!.message).toMatch(words);
	});

	it('are described by a schema that knows every kind', async () => {
		const schema = await call<{
			properties: { parts: { items: { oneOf: { title: string; required: string[] }[] } } };
		}>(undefined, 'GET', '/schemas/parts.json');
		const kinds = schema.body.properties.parts.items.oneOf;
		expect(kinds.map(({ title }) => title)).toEqual(
			PART_KIND_NAMES.map((kind) => PART_KINDS[kind].one)
		);
		expect(kinds[0]!.required).toEqual(expect.arrayContaining(['part', 'code', 'rangeGhz']));
	});
});
