import { randomUUID } from 'node:crypto';
import { deflateSync } from 'node:zlib';
import Papa from 'papaparse';
import { beforeAll, describe, expect, it } from 'vitest';
import { writeGeoTiff } from '../../scripts/lib/tiffWriter.mjs';
import type { SampledProfile } from '#core/path/samplePath';
import type { Actor } from '$lib/server/auth/actor';
import { addAttachment } from '$lib/server/services/attachments';
import type { Format } from '$lib/server/formats/importFile';
import { exportAs } from '$lib/server/services/exchange';
import { importFrom, type ImportAnswer } from '$lib/server/services/importJob';
import { addRaster, rasterPicture, takeProfile } from '$lib/server/services/terrain';
import { packHeights, unpackHeights } from '$lib/server/terrain/packHeights';
import {
	acceptWarnings,
	call,
	closingDb,
	download,
	hopBody,
	newCaller,
	newHop,
	newSite,
	upload,
	type Caller
} from './world';

closingDb();

let planner: Caller;
let actor: Actor;
beforeAll(async () => {
	planner = await newCaller('planner');
	actor = { userId: planner.userId, displayName: 'P', role: 'planner' };
});

type TiffOptions = Parameters<typeof writeGeoTiff>[0];

/** A slope of 1 m a column and 10 m a row about 20° W, 30° S; one raster a test, by its place. */
let slot = 0;
function tiff(change: Partial<TiffOptions> = {}): {
	bytes: Buffer;
	westDeg: number;
	northDeg: number;
} {
	slot += 1;
	const place = { westDeg: -20 + slot, northDeg: -30 };
	const bytes = writeGeoTiff({
		columns: 40,
		rows: 30,
		value: (column, row) => column + 10 * row,
		stepDeg: 0.01,
		...place,
		...change
	});
	return { bytes, ...place };
}

async function heightsAlong(westDeg: number, northDeg: number): Promise<number[]> {
	const sampled: SampledProfile = await takeProfile(actor, {
		a: { latitudeDeg: northDeg - 0.05, longitudeDeg: westDeg + 0.02 },
		b: { latitudeDeg: northDeg - 0.05, longitudeDeg: westDeg + 0.3 },
		stepM: 500
	});
	if (sampled.kind !== 'profile') throw new Error('no terrain');
	return [...sampled.profile.groundsAmslM];
}

/** Codes of 9 to 12 bits, the highest bit first, as TIFF 6.0 has them: strings by a table, cleared when full. */
function lzw(bytes: Buffer): Buffer {
	const out: number[] = [];
	let [held, heldBits, bits] = [0, 0, 9];
	const put = (code: number): void => {
		held = (held << bits) | code;
		heldBits += bits;
		while (heldBits >= 8) {
			out.push((held >> (heldBits - 8)) & 255);
			heldBits -= 8;
		}
		held &= (1 << heldBits) - 1;
	};
	let table = new Map<string, number>();
	const codeOf = (text: string): number =>
		text.length === 1 ? text.charCodeAt(0) : (table.get(text) ?? -1);
	put(256);
	let text = '';
	for (const byte of bytes) {
		const next = text + String.fromCharCode(byte);
		if (text === '' || codeOf(next) >= 0) {
			text = next;
			continue;
		}
		put(codeOf(text));
		table.set(next, 258 + table.size);
		if (258 + table.size === 4094) {
			put(256);
			table = new Map();
			bits = 9;
		} else if (258 + table.size >= 1 << bits) bits += 1;
		text = String.fromCharCode(byte);
	}
	if (text) put(codeOf(text));
	put(257);
	bits = 8;
	put(0);
	return Buffer.from(out);
}
/** Runs of one byte where there are any, else bytes as they are. */
function packBits(bytes: Buffer): Buffer {
	const out: number[] = [];
	for (let at = 0; at < bytes.length;) {
		let run = 1;
		while (run < 128 && bytes[at + run] === bytes[at]) run += 1;
		if (run > 1) out.push(257 - run, bytes[at]!);
		else out.push(0, bytes[at]!);
		at += run;
	}
	return Buffer.from(out);
}

describe('terrain from GeoTIFF', () => {
	it.each([
		['strips of integers, deflated', {}],
		['strips, plain', { deflate: false }],
		['tiles', { tile: 16 }],
		['tiles of floats', { tile: 16, type: 'float32' }],
		['floats, pixel is point', { type: 'float32', point: true }],
		['unsigned', { type: 'uint16' }],
		['strips, LZW', { compression: 5, encode: lzw }],
		['tiles, LZW', { compression: 5, encode: lzw, tile: 16 }],
		['strips, packed bits', { compression: 32_773, encode: packBits }]
	] as const)('of %s gives the heights that went in', async (what, change) => {
		const { bytes, westDeg, northDeg } = tiff(change);
		await addRaster(actor, `${what} ${randomUUID()}`, bytes);
		const heights = await heightsAlong(westDeg, northDeg);
		// Row 5: 50 m, columns 2 to 30; the geodesic bulges south by less than a metre of height.
		expect(heights[0]).toBeCloseTo(52, 0);
		expect(heights[heights.length - 1]).toBeCloseTo(80, 0);
	});

	it('gives a site its ground height where none is typed, and says at the field where it knows none', async () => {
		const { bytes, westDeg, northDeg } = tiff();
		await addRaster(actor, `Ground ${randomUUID().slice(0, 8)}`, bytes);
		const place = { latitudeDeg: northDeg - 0.1, longitudeDeg: westDeg + 0.2 };
		const site = { name: `Typed ${randomUUID().slice(0, 8)}`, ...place, groundAmslM: null };
		const made = await call<{ id: string; groundAmslM: number }>(planner, 'POST', '/sites', site);
		// 1 m a column of 0.01° and 10 m a row: column 20 and row 10, whose middle this is.
		expect([made.status, made.body.groundAmslM]).toEqual([201, 120]);
		const away = { ...site, name: `${site.name} away`, latitudeDeg: 71, longitudeDeg: 140 };
		const refused = await call(planner, 'POST', '/sites', away);
		expect([refused.status, refused.error.fields[0]!.field]).toEqual([422, 'groundAmslM']);
		const moved = { ...site, latitudeDeg: northDeg - 0.11, version: 1 };
		const changed = await call<{ groundAmslM: number }>(
			planner,
			'PUT',
			`/sites/${made.body.id}`,
			moved
		);
		expect(changed.body.groundAmslM).toBe(130);
	});

	it('leaves out no-data and heights that are none, and fills them along a path', async () => {
		const { bytes, westDeg, northDeg } = tiff({
			value: (column) => (column === 10 ? -9999 : column === 11 ? 20_000 : 7),
			noData: -9999
		});
		await addRaster(actor, `gaps ${randomUUID()}`, bytes);
		expect(
			(await heightsAlong(westDeg, northDeg)).every((height) => Math.abs(height - 7) < 0.11)
		).toBe(true);
	});

	it('across the antimeridian is found from both sides', async () => {
		const bytes = writeGeoTiff({
			columns: 40,
			rows: 20,
			value: () => 33,
			stepDeg: 0.01,
			westDeg: 179.8,
			northDeg: -40
		});
		await addRaster(actor, `dateline ${randomUUID()}`, bytes);
		const sampled = await takeProfile(actor, {
			a: { latitudeDeg: -40.1, longitudeDeg: 179.9 },
			b: { latitudeDeg: -40.1, longitudeDeg: -179.9 },
			stepM: 200
		});
		expect(
			sampled.kind === 'profile' &&
				sampled.profile.groundsAmslM.every((h) => Math.abs(h - 33) < 0.11)
		).toBe(true);
	});

	it('packs heights small and true to 0.1 m', async () => {
		const heights = Float32Array.from([0, -431.5, 8848.9, Number.NaN, 12.34, 12.34]);
		const back = await unpackHeights(await packHeights(heights, 3), 3);
		heights.forEach((height, i) => {
			if (Number.isNaN(height)) expect(back[i]).toBeNaN();
			else expect(Math.abs(back[i]! - height)).toBeLessThanOrEqual(0.101);
		});
	});

	it('becomes a picture', async () => {
		const raster = await addRaster(actor, `picture ${randomUUID()}`, tiff().bytes);
		const picture = await rasterPicture(actor, raster.id);
		expect(picture.subarray(1, 4).toString()).toBe('PNG');
	});

	const cut = tiff().bytes;
	it.each([
		['text', Buffer.from('height,1,2,3'), 'no GeoTIFF'],
		['nothing', Buffer.alloc(0), 'no GeoTIFF'],
		['a header alone', cut.subarray(0, 12), 'no GeoTIFF'],
		[
			'a block that unfolds to far more than it says',
			tiff({ encode: () => deflateSync(Buffer.alloc(60_000_000)) }).bytes,
			'unfolds to more than its size says'
		],
		[
			'one in LZW',
			tiff({ compression: 5, encode: () => lzw(Buffer.alloc(2_000_000)) }).bytes,
			'unfolds to more than its size says'
		],
		[
			'one in packed bits',
			tiff({ compression: 32_773, encode: () => packBits(Buffer.alloc(200_000)) }).bytes,
			'unfolds to more than its size says'
		],
		[
			'a broken code in LZW',
			tiff({ compression: 5, encode: () => Buffer.from([0x80, 0x3f, 0xff]) }).bytes,
			'cannot be read'
		],
		[
			'a compression that is not read',
			tiff({ compression: 7 }).bytes,
			'compressed in a way that is not read here (7)'
		],
		[
			'tiles larger than the earth',
			tiff({ tile: 16, claimTile: 60_000 }).bytes,
			'larger than the raster itself'
		],
		[
			'cells cut short',
			Buffer.concat([cut.subarray(0, 8), Buffer.alloc(40), cut.subarray(48)]),
			'cannot be read'
		],
		['three bands', tiff({ bands: 3 }).bytes, '3 bands'],
		['a projected grid', tiff({ projected: true }).bytes, 'projected'],
		[
			'a raster that claims to be huge',
			tiff({ claimColumns: 4_000_000_000 }).bytes,
			'at most 16 million'
		],
		['only no-data', tiff({ value: () => -9999, noData: -9999 }).bytes, 'no height'],
		['degrees that are metres', tiff({ westDeg: 500_000, northDeg: 4_000_000 }).bytes, 'no degrees']
	])('refuses %s with a reason and keeps nothing', async (what, bytes, reason) => {
		const name = `bad ${what} ${randomUUID()}`;
		await expect(addRaster(actor, name, bytes)).rejects.toMatchObject({
			status: 422,
			fields: [{ field: 'file', message: expect.stringContaining(reason) as string }]
		});
		const list = await call<{ name: string }[]>(planner, 'GET', '/terrain');
		expect(list.body.map((raster) => raster.name)).not.toContain(name);
	});

	it('samples 100 km every 20 m, and says when no raster knows a path or it is too long', async () => {
		const bytes = writeGeoTiff({
			columns: 140,
			rows: 20,
			value: () => 5,
			stepDeg: 0.01,
			westDeg: 60,
			northDeg: 10
		});
		await addRaster(actor, `long ${randomUUID()}`, bytes);
		const at = (longitudeDeg: number): object => ({ latitudeDeg: 9.9, longitudeDeg });
		const long = await call<SampledProfile>(planner, 'POST', '/terrain/profile', {
			a: at(60.1),
			b: at(61.0128),
			stepM: 20
		});
		expect(long.body.kind === 'profile' && long.body.profile.distancesM.length).toBeGreaterThan(
			5000
		);
		const none = await call<SampledProfile>(planner, 'POST', '/terrain/profile', {
			a: at(70),
			b: at(70.1)
		});
		expect(none.body.kind).toBe('no-terrain');
		const far = await call(planner, 'POST', '/terrain/profile', { a: at(60), b: at(70) });
		expect([far.status, far.error.fields[0]!.field]).toEqual([422, 'b']);
	});
});

describe('open formats', () => {
	const conditions = {
		pipeDiameterMm: 114,
		pipeLeanDeg: null,
		earthPoint: 'Bar, "upper"; see sheet\nand photo',
		supplyV: 48.5,
		indoorPlace: '=1+1',
		access: 'über die Brücke',
		hazards: '',
		gridCentralMeridianDeg: -117
	};
	const climate = {
		broad: 'tropical',
		rainRate001MmH: 88,
		gradientDn1: null,
		lowK: 0.61,
		source: 'gauge'
	};

	it.each(['csv', 'geojson', 'json'] as Format[])(
		'sites go out and come back as %s without loss',
		async (format) => {
			const name = `Round ${format} ${randomUUID().slice(0, 8)}`;
			await newSite(planner, { name, notes: 'a,b', climate, conditions, groundAmslM: 12.5 });
			const { content } = await exportAs(actor, 'sites', format);
			const before = pickSite(content, format, name);
			const renamed = content.replaceAll(name, `${name} II`);
			const only = onlySite(renamed, format, `${name} II`);
			const answer = await importFrom(actor, {
				subject: 'sites',
				format,
				text: moved(only, format),
				commit: true,
				takeGood: false
			});
			expect([answer.bad, answer.imported]).toEqual([0, 1]);
			const after = pickSite(
				(await exportAs(actor, 'sites', format)).content,
				format,
				`${name} II`
			);
			expect(withoutPlace(after)).toEqual(withoutPlace(before));
			const back = await call<{ rows: Record<string, unknown>[] }>(
				planner,
				'GET',
				`/sites?q=${encodeURIComponent(`${name} II`)}`
			);
			expect(back.body.rows[0]).toMatchObject({
				climate,
				conditions,
				notes: 'a,b',
				groundAmslM: 12.5
			});
		}
	);

	it('text that a spreadsheet would run goes out as text, and comes back as it was', async () => {
		const notes = [
			'=1+1',
			"'=1+1",
			'+49 call first',
			'-5',
			'-5 dB',
			'@home',
			'\tindented',
			"'quoted'"
		];
		const names = notes.map((_, i) => `Formula ${i} ${randomUUID().slice(0, 8)}`);
		for (const [i, note] of notes.entries())
			await newSite(planner, { name: names[i], notes: note });
		const { content } = await exportAs(actor, 'sites', 'csv');
		const lines = content.split('\n').filter((line) => line.startsWith('Formula '));
		const cells = lines.flatMap((line) => line.split(',').map((cell) => cell.replace(/^"/, '')));
		expect(cells.filter((cell) => /^[=@\t]|^[+-](?![\d.]+"?$)/.test(cell))).toEqual([]);
		const moved = [content.split('\n')[0], ...lines]
			.join('\n')
			.replaceAll('Formula ', 'Moved ')
			.replaceAll(/,-46\./g, ',-47.');
		const answer = await importFrom(actor, {
			subject: 'sites',
			format: 'csv',
			text: moved,
			commit: true,
			takeGood: false
		});
		expect([answer.rows.flatMap((row) => row.problems), answer.imported]).toEqual([
			[],
			notes.length
		]);
		for (const [i, note] of notes.entries()) {
			const q = encodeURIComponent(names[i]!.replace('Formula', 'Moved'));
			const back = await call<{ rows: { notes: string }[] }>(planner, 'GET', `/sites?q=${q}`);
			expect(back.body.rows[0]!.notes).toBe(note.trim());
		}
	});

	it.each(['csv', 'geojson', 'json'] as Format[])(
		'hops go out and come back as %s without loss',
		async (format) => {
			const other = await newCaller('planner');
			const own: Actor = { userId: other.userId, displayName: 'O', role: 'planner' };
			const hop = await newHop(other, [], { issue: false });
			const profile = {
				source: 'typed',
				from: { latitudeDeg: -46, longitudeDeg: -118 },
				to: { latitudeDeg: -46.1, longitudeDeg: -118 },
				distancesM: [0, 5000.5, 11_000],
				groundsAmslM: [3, 80.25, 4]
			};
			const { plan, ...rest } = hop.body as { plan: object };
			await call(other, 'PUT', `/hops/${hop.id}`, {
				...rest,
				version: 1,
				plan: {
					...plan,
					path: {
						profile,
						obstacles: [
							{ name: 'Grove, old', kind: 'trees', distanceKm: 1.5, lengthM: 40, heightM: 12 }
						]
					},
					landmarks: [{ name: 'Cairn', latitudeDeg: -46.05, longitudeDeg: -118 }],
					services: [
						{ name: 'Quay, "old"', mbitS: 2.5, radio: 1, slotA: 0, portA: 1, slotB: 4, portB: 2 }
					],
					acceptances: { 'pipe-unknown sites.A': 'Yes, "measured"' },
					eirpLimitDbm: 60
				}
			});
			const { content } = await exportAs(own, 'hops', format);
			const before = await call<{ plan: object; name: string }>(other, 'GET', `/hops/${hop.id}`);
			const text = content.replaceAll(before.body.name, `${before.body.name} II`);
			const answer = await importFrom(own, {
				subject: 'hops',
				format,
				text,
				commit: true,
				takeGood: false
			});
			expect([answer.rows.flatMap((row) => row.problems), answer.imported]).toEqual([[], 1]);
			const list = await call<{ rows: { id: string; name: string }[] }>(other, 'GET', '/hops');
			const copy = list.body.rows.find((row) => row.name.endsWith(' II'))!;
			const after = await call<{ plan: object }>(other, 'GET', `/hops/${copy.id}`);
			expect(after.body.plan).toEqual(before.body.plan);
		}
	);

	it('the example files are taken in as they are, once sites of those names are there', async () => {
		const own: Actor = { ...actor, userId: (await newCaller('planner')).userId };
		const look = (
			subject: 'sites' | 'hops',
			text: string
		): Promise<Pick<ImportAnswer, 'rows' | 'good' | 'bad'>> =>
			importFrom(own, { subject, format: 'csv', text, commit: false, takeGood: false });
		const example = async (subject: string): Promise<string> =>
			new TextDecoder().decode(await download(planner, `/import/example?subject=${subject}`));
		const sites = await look('sites', await example('sites'));
		expect([sites.good, sites.rows.flatMap((row) => row.problems)]).toEqual([1, []]);
		const tag = randomUUID().slice(0, 8);
		await newSite(planner, { name: `A ${tag}` });
		await newSite(planner, { name: `B ${tag}` });
		const hops = (await example('hops'))
			.replace(',North Skerry,South Head,', `,A ${tag},B ${tag},`)
			.replace('North Skerry to South Head', `Hop ${tag}`);
		const answer = await look('hops', hops);
		expect([answer.good, answer.rows.flatMap((row) => row.problems)]).toEqual([1, []]);
	});

	it('sites as GPX keep name, place, height and notes', async () => {
		const name = `Way <&> ${randomUUID().slice(0, 8)}`;
		await newSite(planner, { name, notes: 'x < y & z', groundAmslM: 77.5 });
		const { content } = await exportAs(actor, 'sites', 'gpx');
		const look = await importFrom(actor, {
			subject: 'sites',
			format: 'gpx',
			text: content,
			commit: false,
			takeGood: false
		});
		const row = look.rows.find((r) => r.name === name)!;
		// It is read in full; it is there already, which is all that is wrong with it.
		expect(row.problems.map((p) => p.column)).toEqual(['name']);
	});

	const csv = (rows: string): string => `name,latitude_deg,longitude_deg,ground_amsl_m\n${rows}\n`;
	const lookAt = (
		text: string,
		commit = false,
		takeGood = false
	): Promise<{ status: number; body: ImportAnswer; error: { fields: { message: string }[] } }> =>
		call<ImportAnswer>(planner, 'POST', '/import', {
			subject: 'sites',
			format: 'csv',
			text,
			commit,
			takeGood
		});

	it('a bad row names line, column and reason, and nothing is taken in unless the good ones are asked for', async () => {
		const tag = randomUUID().slice(0, 8);
		const text = csv(
			`Good ${tag},11,${slot + 1},5\nBad ${tag},91,12,5\nWorse ${tag},11,x,\nGood ${tag},12,13,1`
		);
		const look = await lookAt(text, true);
		expect(look.body.imported).toBe(0);
		expect(look.body.rows.map((row) => [row.line, row.problems.map((p) => p.column)])).toEqual([
			[2, []],
			[3, ['latitude_deg']],
			[4, ['longitude_deg', 'ground_amsl_m']],
			[5, ['name']]
		]);
		expect(look.body.rows[1]!.problems[0]!.message).toBe('Latitude must be at most 90.');
		const absent = await call<{ rows: unknown[] }>(planner, 'GET', `/sites?q=${tag}`);
		expect(absent.body.rows).toEqual([]);
		expect((await lookAt(text, true, true)).body.imported).toBe(1);
	});

	it.each([
		['a missing column', 'name,latitude_deg\nx,1\n', 'no column longitude_deg'],
		['no rows', csv(''), 'holds no sites'],
		['nothing at all', ' ', 'no column name']
	])('refuses %s', async (_, text, reason) => {
		const answer = await lookAt(text, true);
		expect(answer.status).toBe(422);
		expect(answer.error.fields.map((f) => f.message).join(' ')).toContain(reason);
	});

	it('a line with too many cells is named', async () => {
		const answer = await lookAt(csv(`Extra ${randomUUID().slice(0, 6)},1,2,3,4,5`));
		expect(answer.body.rows[0]!.problems[0]!.message).toContain('more cells');
	});

	it.each([
		['json', '{"format":"other"}'],
		['json', '{'],
		['geojson', '[]'],
		['gpx', '<gpx'],
		['gpx', '<!DOCTYPE a [<!ENTITY b "c">]><html>&b;</html>']
	] as const)('%s that is none is refused: %s', async (format, text) => {
		const answer = await call(planner, 'POST', '/import', {
			subject: 'sites',
			format,
			text,
			commit: true
		});
		expect([answer.status, answer.error.fields.length > 0]).toEqual([422, true]);
	});

	it('a column that reaches into objects changes none', async () => {
		const text = `name,site_a,site_b,plan.__proto__.polluted\nX ${randomUUID()},a,b,yes\n`;
		await call(planner, 'POST', '/import', { subject: 'hops', format: 'csv', text, commit: true });
		expect(({} as { polluted?: string }).polluted).toBeUndefined();
	});

	it('publishes the JSON Schema of the JSON format', async () => {
		const answer = await call<{
			properties: { sites: object; hops: { items: { required: string[] } } };
		}>(undefined, 'GET', '/schemas/plan.json');
		expect(answer.status).toBe(200);
		expect(answer.body.properties.hops.items.required).toEqual(['name', 'siteA', 'siteB', 'plan']);
		expect(answer.text).toContain('antennaHeightAglM');
	});
});

const rowsOf = (csv: string): Record<string, string>[] =>
	Papa.parse<Record<string, string>>(csv.trim(), { header: true }).data;
const csvOf = (rows: readonly object[]): string =>
	Papa.unparse([...rows], { escapeFormulae: false });

function onlySite(content: string, format: Format, name: string): string {
	if (format === 'csv') return csvOf(rowsOf(content).filter((row) => row.name === name));
	const document = JSON.parse(content) as {
		features?: { properties: { name: string } }[];
		sites?: { name: string }[];
	};
	if (format === 'geojson')
		document.features = document.features!.filter((f) => f.properties.name === name);
	else document.sites = document.sites!.filter((site) => site.name === name);
	return JSON.stringify(document);
}

/** The same site a little to the east, since no two may stand on one place. */
function moved(content: string, format: Format): string {
	if (format === 'csv') {
		return csvOf(
			rowsOf(content).map((row) => ({
				...row,
				longitude_deg: String(Number(row.longitude_deg) + 0.003)
			}))
		);
	}
	const document = JSON.parse(content) as {
		features?: { geometry: { coordinates: number[] } }[];
		sites?: { longitudeDeg: number }[];
	};
	for (const feature of document.features ?? []) feature.geometry.coordinates[0]! += 0.003;
	for (const site of document.sites ?? []) site.longitudeDeg += 0.003;
	return JSON.stringify(document);
}

function pickSite(content: string, format: Format, name: string): unknown {
	const only = onlySite(content, format, name);
	return format === 'csv' ? rowsOf(only) : JSON.parse(only);
}

/** What must be the same before and after: everything but name and place. */
function withoutPlace(value: unknown): string {
	return JSON.stringify(value)
		.replaceAll(' II', '')
		.replace(/-?\d+\.\d{4,}/g, '#');
}

describe('attachments', () => {
	const png = Buffer.from(
		'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
		'base64'
	);

	it('are kept byte for byte, once, and given only as what they are', async () => {
		const siteId = await newSite(planner);
		const id = randomUUID();
		const first = await addAttachment(actor, siteId, { id, fileName: 'mast.png', note: '' }, png);
		expect(first.mediaType).toBe('image/png');
		expect(
			(await addAttachment(actor, siteId, { id, fileName: 'mast.png', note: '' }, png)).id
		).toBe(id);
		const list = await call<unknown[]>(planner, 'GET', `/sites/${siteId}/attachments`);
		expect(list.body).toHaveLength(1);
		const crew = await newCaller('technician');
		expect((await call(crew, 'GET', `/sites/${siteId}/attachments/${id}`)).status).toBe(200);
		expect((await call(crew, 'DELETE', `/sites/${siteId}/attachments/${id}`)).status).toBe(403);
		expect((await call(planner, 'DELETE', `/sites/${siteId}/attachments/${id}`)).status).toBe(204);
		expect((await call(planner, 'GET', `/sites/${siteId}/attachments/${id}`)).status).toBe(404);
	});

	it.each([
		[
			'a script in SVG',
			Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>1</script></svg>')
		],
		['a page that says it is a picture', Buffer.from('<html><script>1</script></html>')],
		['nothing', Buffer.alloc(0)]
	])('refuse %s', async (_, bytes) => {
		const siteId = await newSite(planner);
		await expect(
			addAttachment(actor, siteId, { id: randomUUID(), fileName: 'x.png', note: '' }, bytes)
		).rejects.toMatchObject({ status: 422 });
	});

	it('refuse names that are paths', async () => {
		const siteId = await newSite(planner);
		const answer = await upload(
			planner,
			`/sites/${siteId}/attachments?id=${randomUUID()}&fileName=..%2Fa.png`,
			Buffer.from('x')
		);
		expect([answer.status, answer.error.fields[0]!.field]).toEqual([422, 'fileName']);
	});
});

describe('review and revisions', () => {
	it('a plan with open warnings is not issued; accepted in writing it is, and the review stays with it', async () => {
		const hop = await newHop(planner, [], { issue: false });
		const refused = await call(planner, 'POST', `/hops/${hop.id}/revisions`, {
			id: randomUUID(),
			version: 1
		});
		expect([refused.status, refused.error.code]).toEqual([422, 'plan-has-open-warnings']);
		await acceptWarnings(planner, hop, hop.body);
		const issued = await call<{
			review: { mayIssue: boolean; findings: { acceptance: string | null }[] };
		}>(planner, 'POST', `/hops/${hop.id}/revisions`, { id: randomUUID(), version: hop.version });
		expect(issued.status).toBe(201);
		expect(issued.body.review.findings.some((f) => f.acceptance === 'Looked at on site.')).toBe(
			true
		);
	});

	it('finds the other hop at a site, and does not tell the name of one that is not yours', async () => {
		const [a, b, c] = await Promise.all([newSite(planner), newSite(planner), newSite(planner)]);
		const stranger = await newCaller('planner');
		const theirs = hopBody(a, c) as {
			plan: { ends: { A: { transmitFrequencyGhz: number }; B: { transmitFrequencyGhz: number } } };
			name: string;
		};
		// Theirs sends low at the shared site, ours high.
		[theirs.plan.ends.A.transmitFrequencyGhz, theirs.plan.ends.B.transmitFrequencyGhz] = [
			25.22, 26.2
		];
		await call(stranger, 'POST', '/hops', theirs);
		const own = await call<{ id: string }>(planner, 'POST', '/hops', hopBody(a, b));
		const review = await call<{ findings: { code: string; message: string }[] }>(
			planner,
			'GET',
			`/hops/${own.body.id}/review`
		);
		const conflict = review.body.findings.find((f) => f.code === 'site-high-and-low')!;
		expect(conflict.message).toContain('another hop');
		expect(conflict.message).not.toContain(theirs.name);
	});

	it('two revisions compare side by side', async () => {
		const hop = await newHop(planner);
		const { plan, ...rest } = hop.body as { plan: { ends: { A: object; B: object } } };
		const current = await call<{ plan: { acceptances: object } }>(
			planner,
			'GET',
			`/hops/${hop.id}`
		);
		const changed = {
			...rest,
			plan: {
				...plan,
				acceptances: current.body.plan.acceptances,
				ends: { ...plan.ends, A: { ...plan.ends.A, antennaHeightAglM: 25 } }
			},
			version: hop.version
		};
		const saved = await call<{ version: number }>(planner, 'PUT', `/hops/${hop.id}`, changed);
		const issued = await call(planner, 'POST', `/hops/${hop.id}/revisions`, {
			id: randomUUID(),
			version: saved.body.version
		});
		expect(issued.status).toBe(201);
		const comparison = await call<{ changed: { field: string }[] }>(
			planner,
			'GET',
			`/hops/${hop.id}/revisions/comparison?from=1&to=2`
		);
		expect(comparison.body.changed).toEqual([
			{
				field: 'ends.A.antennaHeightAglM',
				words: 'A: Antenna height, m',
				before: '20',
				after: '25'
			}
		]);
		expect(
			(await call(planner, 'GET', `/hops/${hop.id}/revisions/comparison?from=1&to=9`)).status
		).toBe(404);
	});
});

describe('computing by value', () => {
	it('gives the geometry of a path, reversed the mirrored one', async () => {
		const a = { latitudeDeg: -46.2, longitudeDeg: -118.4, antennaHeightAmslM: 248 };
		const b = { latitudeDeg: -46.24, longitudeDeg: -118.28, antennaHeightAmslM: 184 };
		const there = await call<Record<'a' | 'b', object>>(planner, 'POST', '/paths/geometry', {
			a,
			b,
			date: '2026-05-01'
		});
		const back = await call<Record<'a' | 'b', object>>(planner, 'POST', '/paths/geometry', {
			a: b,
			b: a,
			date: '2026-05-01'
		});
		expect(there.body.a).toEqual(back.body.b);
		expect(there.body.b).toEqual(back.body.a);
	});

	it.each([
		[
			'/paths/geometry',
			{ a: { latitudeDeg: 91, longitudeDeg: 0, antennaHeightAmslM: 0 } },
			'a.latitudeDeg'
		],
		['/propagation/attenuation', { frequencyGhz: 101 }, 'frequencyGhz'],
		['/propagation/attenuation', { frequencyGhz: 0.5 }, 'frequencyGhz'],
		['/propagation/attenuation', { rainRateMmH: -1 }, 'rainRateMmH'],
		['/propagation/attenuation', { heightAAmslM: 5 }, ''],
		['/budgets', { plan: {} }, 'plan.polarization']
	])('%s names what is wrong in %j', async (path, body, field) => {
		const answer = await call(planner, 'POST', path, body);
		expect(answer.status).toBe(422);
		expect(answer.error.fields.map((f) => f.field)).toContain(field);
	});

	it.each([1, 100])(
		'attenuation at %s GHz without rain has no rain in it',
		async (frequencyGhz) => {
			const answer = await call<{ rain: { attenuationDb: number }; multipath: null }>(
				planner,
				'POST',
				'/propagation/attenuation',
				{
					frequencyGhz,
					pathKm: 3,
					polarization: 'vertical',
					rainRateMmH: 0
				}
			);
			expect([answer.status, answer.body.rain.attenuationDb, answer.body.multipath]).toEqual([
				200,
				0,
				null
			]);
		}
	);
});

describe('the map', () => {
	it('gives sites and hops in a view and nothing outside it', async () => {
		const at = (latitudeDeg: number, longitudeDeg: number): Promise<string> =>
			newSite(planner, { latitudeDeg, longitudeDeg });
		const [a, b] = await Promise.all([at(62.01, 5.01), at(62.05, 5.09)]);
		await at(62.5, 5.5);
		const hop = await call<{ id: string }>(planner, 'POST', '/hops', hopBody(a, b));
		const view = await call<{ sites: { id: string }[]; hops: { id: string }[] }>(
			planner,
			'GET',
			'/map?west=5&south=62&east=5.1&north=62.1'
		);
		expect(view.body.sites.map((site) => site.id).sort()).toEqual([a, b].sort());
		expect(view.body.hops.map((h) => h.id)).toEqual([hop.body.id]);
		const stranger = await newCaller('planner');
		const theirs = await call<{ hops: unknown[] }>(
			stranger,
			'GET',
			'/map?west=5&south=62&east=5.1&north=62.1'
		);
		expect(theirs.body.hops).toEqual([]);
	});
});
