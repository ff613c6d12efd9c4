import { randomUUID } from 'node:crypto';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { buildSteps } from '#core/tower/buildSteps';
import { weighedState } from '#core/guide/weigh';
import { buildStateOf } from '#core/tower/buildState';
import { closeDb } from '$lib/server/db/connection';
import { builtRecords, closedRecords } from '$lib/server/demo/build';
import { spokenIn } from '#core/units/systems';
import { fontsFor } from '$lib/server/pdf/common';
import { withGlyphs } from '$lib/server/pdf/glyphs';
import { packDefinition } from '$lib/server/pdf/packPdf';
import { appendRecords, readAllRecords, requireRevision } from '$lib/server/services/feed';
import { gatherPack } from '$lib/server/services/pack';
import {
	acceptWarnings,
	bothReady,
	call,
	closingDb,
	download,
	newCaller,
	newHop,
	record,
	upload,
	type Answer,
	type Caller,
	type TestHop
} from './world';

closingDb();

let planner: Caller;
let crew: Caller;
const actorOf = ({ userId }: Caller, role: 'planner' | 'technician'): never =>
	({ userId, displayName: 'Test', role }) as never;

beforeAll(async () => {
	planner = await newCaller('planner');
	crew = await newCaller('technician');
});

const post = (hop: TestHop, body: object): Promise<Answer<{ results: { seq: number }[] }>> =>
	call(crew, 'POST', `/hops/${hop.id}/records`, body);

const picture = (width = 640, height = 400): Promise<Buffer> =>
	sharp({ create: { width, height, channels: 3, background: '#a94e12' } })
		.jpeg()
		.withExif({ IFD0: { Make: 'x' }, IFD3: { GPSLatitude: '46/1 12/1 0/1' } })
		.toBuffer();

describe('photos', () => {
	const send = (hop: TestHop, bytes: Uint8Array, id = randomUUID()): ReturnType<typeof upload> =>
		upload(crew, `/hops/${hop.id}/photos?id=${id}&end=A`, bytes);

	it('are kept without what the camera wrote into them, once, and come back', async () => {
		const hop = await newHop(planner, [crew]);
		const id = randomUUID();
		const bytes = await picture(3000, 2000);
		expect((await sharp(bytes).metadata()).exif).toBeDefined();
		expect((await send(hop, bytes, id)).status).toBe(201);
		expect((await send(hop, bytes, id)).status).toBe(201);
		const other = await send(hop, await picture(10, 10), id);
		expect(other.error.code).toBe('id-used');
		const listed = await call<{ photos: unknown[] }>(crew, 'GET', `/hops/${hop.id}/photos`);
		expect(listed.body.photos).toHaveLength(1);
		const kept = await sharp(await download(crew, `/hops/${hop.id}/photos/${id}`)).metadata();
		expect([kept.width, kept.height, kept.exif]).toEqual([2048, 1365, undefined]);
		const small = await sharp(
			await download(crew, `/hops/${hop.id}/photos/${id}?size=small`)
		).metadata();
		expect(small.width).toBe(320);
	});

	it('lie upright as they were taken', async () => {
		const hop = await newHop(planner, [crew]);
		const id = randomUUID();
		// Orientation 6: the camera was held a quarter turn.
		const turned = await sharp({
			create: { width: 600, height: 300, channels: 3, background: '#fff' }
		})
			.jpeg()
			.withMetadata({ orientation: 6 })
			.toBuffer();
		await send(hop, turned, id);
		const kept = await sharp(await download(crew, `/hops/${hop.id}/photos/${id}`)).metadata();
		expect([kept.width, kept.height]).toEqual([300, 600]);
	});

	it.each([
		['a script in SVG', () => strToU8('<svg xmlns="http://www.w3.org/2000/svg"><script/></svg>')],
		['HTML that calls itself a picture', () => strToU8('<html><script>1</script></html>')],
		['nothing', () => new Uint8Array()],
		['a PDF', () => strToU8('%PDF-1.7\n1 0 obj\n')],
		['half a JPEG', async () => (await picture()).subarray(0, 700)]
	])('refuse %s and keep nothing', async (_, make) => {
		const hop = await newHop(planner, [crew]);
		const answer = await send(hop, await make());
		expect([answer.status, answer.error.fields[0]?.field]).toEqual([422, 'file']);
		const listed = await call<{ photos: unknown[] }>(crew, 'GET', `/hops/${hop.id}/photos`);
		expect(listed.body.photos).toHaveLength(0);
	});

	it('refuse 10 000 × 10 000 points without unfolding them', async () => {
		const hop = await newHop(planner, [crew]);
		const huge = await sharp({
			create: { width: 10_000, height: 10_000, channels: 3, background: '#000' }
		})
			.png({ compressionLevel: 9 })
			.toBuffer();
		const answer = await send(hop, huge);
		expect(answer.status).toBe(422);
		expect(answer.error.fields[0]!.message).toContain('10000 × 10000');
	});
});

describe('records of building', () => {
	it.each([
		['a card with a question left out', 'stop-card', { card: 'lift', answers: {}, note: '' }],
		[
			'a card of another kind’s questions',
			'stop-card',
			{ card: 'lift', answers: { wind: 'yes' }, note: '' }
		],
		['a step left out without a cause', 'step-skipped', { step: 'films', cause: '' }],
		[
			'more errored seconds than it lasted',
			'error-test',
			{ test: 'soak', durationS: 10, erroredSeconds: 11, bitErrorRatio: null }
		],
		[
			'a band that ends before it begins',
			'part-label',
			{ part: 'dish', code: 'X', bandFromGhz: 20, bandToGhz: 18, serial: '1' }
		],
		['a snag without owner', 'snag', { snagId: randomUUID(), text: 'rust', due: '2026-12-01' }],
		[
			'a packing list with a code twice',
			'packing-list',
			{
				source: 'csv',
				lines: [1, 2].map(() => ({ code: 'A', name: '', count: 1, unit: 'piece' }))
			}
		]
	])('refuse %s', async (_, kind, payload) => {
		const hop = await newHop(planner, [crew]);
		const answer = await post(hop, { records: [record('A', kind, payload)] });
		expect(answer.status).toBe(422);
		expect(answer.error.fields[0]!.field).toMatch(/^records\.0\.payload/);
	});

	it('build an end as its plan has it', async () => {
		const hop = await newHop(planner, [crew]);
		const { input, plan } = await requireRevision(hop.id);
		await appendRecords(actorOf(crew, 'technician'), hop.id, builtRecords(input, plan, 'A'));
		const state = weighedState(input, plan, await readAllRecords(hop.id));
		expect(buildStateOf(state, 'A')).toMatchObject({
			complete: true,
			trouble: 0,
			done: buildSteps(input, plan, 'A').length
		});
		expect(buildStateOf(state, 'B').begun).toBe(false);
	});
});

describe('a plan revised while a crew was away', () => {
	it('is asked about; kept against the older one only on a word; a repeat stays harmless', async () => {
		const hop = await newHop(planner, [crew]);
		const measured = { ...record('A', 'note', { text: 'measured' }), revisionNumber: 1 };
		await acceptWarnings(planner, hop, {
			...hop.body,
			plan: { ...(hop.body as { plan: object }).plan, toleranceDb: 3 }
		});
		const second = await call(planner, 'POST', `/hops/${hop.id}/revisions`, {
			id: randomUUID(),
			version: hop.version
		});
		expect(second.status).toBe(201);
		const asked = await post(hop, { records: [measured] });
		expect([asked.status, asked.error.code]).toEqual([409, 'plan-revised']);
		expect((await readAllRecords(hop.id)).length).toBe(0);
		expect((await post(hop, { records: [measured], keepOlder: true })).status).toBe(200);
		expect((await post(hop, { records: [measured] })).status).toBe(200);
		const kept = await readAllRecords(hop.id);
		expect(kept.map((r) => r.revisionNumber)).toEqual([1]);
		const unknown = await post(hop, {
			records: [{ ...record('A', 'note', { text: 'x' }), revisionNumber: 9 }]
		});
		expect(unknown.error.fields[0]!.field).toBe('records.0.revisionNumber');
	});
});

describe('the pack and the archive', () => {
	let hop: TestHop;
	let archive: Uint8Array;

	beforeAll(async () => {
		hop = await newHop(planner, [crew]);
		const { input, plan } = await requireRevision(hop.id);
		const actor = actorOf(crew, 'technician');
		const photoId = randomUUID();
		for (const end of ['A', 'B'] as const) {
			await appendRecords(actor, hop.id, builtRecords(input, plan, end));
		}
		await bothReady(crew, hop.id);
		for (const end of ['A', 'B'] as const) {
			await appendRecords(actor, hop.id, closedRecords(end, input, plan));
		}
		await upload(crew, `/hops/${hop.id}/photos?id=${photoId}&end=A`, await picture());
		await post(hop, {
			records: [
				record('A', 'photo', { photoId, about: 'films', caption: 'Twelve films' }),
				record('B', 'snag', {
					snagId: randomUUID(),
					text: 'Label missing',
					owner: 'Nobody Real',
					due: '2026-12-24',
					photoIds: [photoId]
				})
			]
		});
		archive = await download(planner, `/hops/${hop.id}/archive.zip`);
	}, 60_000);

	it('print what was planned, measured, built, left and signed', async () => {
		const definition = JSON.stringify(
			packDefinition(await gatherPack(actorOf(crew, 'technician'), hop.id))
		);
		for (const words of [
			'Planned against measured',
			'Building at A',
			'Label missing',
			'TW-318',
			'A, Twelve films',
			'For the crew at B'
		]) {
			expect(definition).toContain(words);
		}
		// A practice hop says so on every page, and in its data.
		expect(definition).toContain('Practice, not a real hop');
		const { body } = await call<{ hop: { practice: boolean } }>(
			crew,
			'GET',
			`/hops/${hop.id}/as-built.json`
		);
		expect(body.hop.practice).toBe(true);
		const pdf = await download(crew, `/hops/${hop.id}/pack.pdf`);
		expect(strFromU8(pdf.subarray(0, 5))).toBe('%PDF-');
	});

	it('print in the units of who reads them, metric beside', async () => {
		const pack = packDefinition(await gatherPack(actorOf(crew, 'technician'), hop.id));
		const printed = (system: 'metric' | 'imperial'): string =>
			JSON.stringify(withGlyphs(pack, fontsFor, (text) => spokenIn(system, text)));
		const km = /(\d+\.\d\d) km/.exec(printed('metric'))![1]!;
		const mi = (Number(km) / 1.609344).toFixed(2);
		expect(printed('metric')).not.toContain(' mi (');
		expect(printed('imperial')).toContain(`${mi} mi (${km} km)`);
		expect(printed('imperial')).toMatch(/\d lbf·ft \(\d+ N·m\)/);
		const pdf = await download(crew, `/hops/${hop.id}/pack.pdf?units=imperial`);
		expect(strFromU8(pdf.subarray(0, 5))).toBe('%PDF-');
		const refused = await call<{ error: { fields: { field: string }[] } }>(
			crew,
			'GET',
			`/hops/${hop.id}/pack.pdf?units=cubits`
		);
		expect(refused.status).toBe(422);
		expect(refused.body.error.fields.map(({ field }) => field)).toEqual(['units']);
	});

	it('does not tell a crew what is wrong with a practice hop', async () => {
		const own = JSON.parse(
			strFromU8(unzipSync(await download(crew, `/hops/${hop.id}/archive.zip`))['hop.json']!)
		) as { hop: { plantedFault: unknown } };
		expect(own.hop.plantedFault).toBeNull();
	});

	/** The files of an archive as an installation that signs nothing makes it. */
	const unsigned = (bytes: Uint8Array): Record<string, Uint8Array> => {
		const files = unzipSync(bytes);
		delete files['signature.json'];
		return files;
	};

	it('is refused where the hop is already', async () => {
		const answer = await upload(planner, '/hops/archive', archive);
		expect([answer.status, answer.error.code]).toEqual([409, 'hop-exists']);
	});

	it.each([
		['no ZIP', () => strToU8('PK nothing'), 'no ZIP'],
		[
			'a name that climbs',
			() => zipSync({ '../../etc/passwd': strToU8('x'), 'hop.json': strToU8('{}') }),
			'does not belong'
		],
		['no hop', () => zipSync({ 'README.txt': strToU8('x') }), 'no hop.json'],
		['no JSON', () => zipSync({ 'hop.json': strToU8('{') }), 'no JSON'],
		[
			'a picture that is a script',
			(files: Record<string, Uint8Array>) => {
				const name = Object.keys(files).find((file) => file.startsWith('photos/'))!;
				return zipSync({ ...files, [name]: strToU8('<svg/>') });
			},
			'Only JPEG'
		],
		[
			'a gap in its records',
			(files: Record<string, Uint8Array>) => {
				const document = JSON.parse(strFromU8(files['hop.json']!)) as {
					records: { digest?: string }[];
				};
				document.records.splice(3, 1);
				for (const one of document.records) delete one.digest;
				return zipSync({ ...files, 'hop.json': strToU8(JSON.stringify(document)) });
			},
			'out of order'
		]
	])('with %s is refused', async (_, make, words) => {
		const answer = await upload(planner, '/hops/archive', make(unsigned(archive)));
		expect(answer.status).toBe(422);
		expect(answer.error.fields.map((f) => f.message).join(' ')).toContain(words);
	});

	it('reads back into an empty database and gives the same hop', async () => {
		const full = process.env.SKIAXIS_DATABASE_URL;
		const before = unzipSync(archive);
		await closeDb();
		process.env.SKIAXIS_DATABASE_URL = process.env.SKIAXIS_EMPTY_DATABASE_URL!;
		try {
			const reader = await newCaller('planner');
			const taken = await upload<{ hopId: string; photos: number }>(
				reader,
				'/hops/archive',
				archive
			);
			expect(taken.text).toContain(hop.id);
			expect([taken.status, taken.body.hopId, taken.body.photos]).toEqual([201, hop.id, 1]);
			const after = unzipSync(await download(reader, `/hops/${hop.id}/archive.zip`));
			const [was, is] = [before, after].map(
				(files) => JSON.parse(strFromU8(files['hop.json']!)) as Record<string, unknown>
			);
			// That it was taken in here is all that was added.
			expect(is!.provenance).toMatchObject({ trusted: false, earlier: null });
			expect({ ...is, provenance: null }).toEqual(was);
			expect(Object.keys(after).sort()).toEqual(Object.keys(before).sort());
			const photo = Object.keys(after).find((file) => file.startsWith('photos/'))!;
			expect(Buffer.from(after[photo]!).equals(Buffer.from(before[photo]!))).toBe(true);
			const again = await upload(reader, '/hops/archive', archive);
			expect(again.error.code).toBe('hop-exists');
		} finally {
			await closeDb();
			process.env.SKIAXIS_DATABASE_URL = full;
		}
	});
});
