import { randomUUID } from 'node:crypto';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { QueryTypes } from 'sequelize';
import { afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { Provenance } from '#core/provenance/provenance';
import { verifyArchive, verifyDatabase } from '$lib/server/commands/verify';
import { db } from '$lib/server/db/connection';
import { newKeyPair, signArchive } from '$lib/server/formats/archiveSignature';
import type { Archive } from '$lib/server/formats/hopArchive';
import { packDefinition } from '$lib/server/pdf/packPdf';
import { gatherPack } from '$lib/server/services/pack';
import { finish, signAll } from './accepted';
import { goTo, HOME, keyOf, SECOND, THIRD, trust, type OwnKey } from './installations';
import {
	asOwner,
	call,
	closingDb,
	download,
	newCaller,
	newHop,
	record,
	upload,
	type Caller,
	type TestHop
} from './world';

closingDb();

afterEach(() => goTo(HOME));

const documentIn = (archive: Uint8Array): Archive =>
	JSON.parse(strFromU8(unzipSync(archive)['hop.json']!)) as Archive;
/** An archive with another document, as somebody would make it who has changed it by hand. */
function forged(
	archive: Uint8Array,
	change: (document: Archive) => void,
	{ keepSignature = false } = {}
): Uint8Array {
	const { 'signature.json': signature, ...files } = unzipSync(archive);
	const document = documentIn(archive);
	change(document);
	return zipSync({
		...files,
		...(keepSignature ? { 'signature.json': signature! } : {}),
		'hop.json': strToU8(JSON.stringify(document))
	});
}
const unchained = (document: Archive): void => {
	for (const one of document.records) delete one.digest;
	for (const one of [document.acceptance, ...(document.acceptances ?? [])]) {
		if (one) delete one.recordDigest;
	}
};
const originsOf = async (caller: Caller, hopId: string): Promise<string[]> =>
	(
		await call<{ acceptances: { origin: { kind: string } }[] }>(
			caller,
			'GET',
			`/hops/${hopId}/acceptances`
		)
	).body.acceptances.map(({ origin }) => origin.kind);

let planner: Caller;
let crew: Caller;
let acceptor: Caller;
let hop: TestHop;
let archive: Uint8Array;
let homeKey: string;

beforeAll(async () => {
	planner = await newCaller('planner');
	crew = await newCaller('technician');
	acceptor = await newCaller('acceptor');
	hop = await newHop(planner, [crew, acceptor]);
	const lastSeq = await finish(crew, hop);
	expect((await signAll(acceptor, hop, lastSeq)).status).toBe(201);
	archive = await download(planner, `/hops/${hop.id}/archive.zip`);
	homeKey = await keyOf();
});

describe('an acceptance made up by hand', () => {
	it('reads as not verified, whoever it says has signed, until its origin is proven', async () => {
		await goTo(SECOND);
		const reader = await newCaller('planner');
		const made = forged(archive, (document) => {
			unchained(document);
			document.acceptance!.signature = { name: 'A Great Name', method: 'typed' };
			document.acceptances = [document.acceptance!];
		});
		expect((await upload(reader, '/hops/archive', made)).status).toBe(201);
		expect(await originsOf(reader, hop.id)).toEqual(['unverified']);
		const newest = await call<{ origin: object }>(reader, 'GET', `/hops/${hop.id}/acceptance`);
		expect(newest.body.origin).toEqual({ kind: 'unverified' });
		const whole = await call<{ provenance: Provenance }>(reader, 'GET', `/hops/${hop.id}`);
		expect(whole.body.provenance).toMatchObject({ source: null, trusted: false, acceptances: 1 });
		const records = await call<{ provenance: Provenance }>(
			reader,
			'GET',
			`/hops/${hop.id}/records`
		);
		expect(records.body.provenance.lastSeq).toBe(documentIn(archive).records.length);

		const built = await call<{
			hop: { provenance: Provenance };
			acceptance: { origin: { kind: string } };
		}>(reader, 'GET', `/hops/${hop.id}/as-built.json`);
		expect(built.body.acceptance.origin.kind).toBe('unverified');
		expect(built.body.hop.provenance.importedBy).toBe(whole.body.provenance.importedBy);
		const csv = strFromU8(await download(reader, `/hops/${hop.id}/as-built.csv`));
		expect(csv).toContain('"Imported, not verified here"');

		const actor = { userId: reader.userId, displayName: 'Reader', role: 'planner' } as never;
		const definition = packDefinition(await gatherPack(actor, hop.id));
		const footer = (definition.footer as (page: number, pages: number) => object)(2, 3);
		expect(JSON.stringify(footer)).toContain('Imported, not verified here');
		expect(JSON.stringify(definition.content)).toContain('an archive without a signature');
	});

	it('does not become true by going through an installation that is trusted', async () => {
		await goTo(SECOND);
		const second = await keyOf();
		const reader = await newCaller('administrator');
		const passedOn = await download(reader, `/hops/${hop.id}/archive.zip`);
		await goTo(THIRD);
		await trust(second, 'Second office');
		const last = await newCaller('planner');
		expect((await upload(last, '/hops/archive', passedOn)).status).toBe(201);
		const { body } = await call<{ provenance: Provenance }>(last, 'GET', `/hops/${hop.id}`);
		expect(body.provenance).toMatchObject({
			trusted: true,
			source: { key: second, name: 'Second office' },
			earlier: { source: null }
		});
		expect(await originsOf(last, hop.id)).toEqual(['unverified']);
	});

	it.each([
		[
			'a document that was changed under its signature',
			() =>
				forged(archive, (document) => (document.acceptance!.signedAt = new Date().toISOString()), {
					keepSignature: true
				}),
			'changed after it was made'
		],
		[
			'a record that was changed',
			() =>
				forged(archive, ({ records }) => {
					records[4]!.receivedAt = '2026-01-01T00:00:00.000Z';
				}),
			'Record 5 is not as it was recorded'
		],
		[
			'another author of a record',
			() =>
				forged(archive, ({ records }) => {
					records[2]!.recordedBy = planner.userId;
				}),
			'Record 3 is not as it was recorded'
		],
		[
			'a record whose digest was taken out',
			() => forged(archive, ({ records }) => delete records[6]!.digest),
			'Record 7 is not as it was recorded'
		],
		[
			'an acceptance of another record',
			() =>
				forged(archive, ({ acceptances, records }) => {
					acceptances![0]!.recordDigest = records[3]!.digest!;
				}),
			'not the one that was signed'
		],
		[
			'a signature of another key',
			() => {
				const files = unzipSync(archive);
				const signature = JSON.parse(strFromU8(files['signature.json']!)) as {
					installation: { publicKey: string };
				};
				signature.installation.publicKey = newKeyPair().publicKey;
				return zipSync({ ...files, 'signature.json': strToU8(JSON.stringify(signature)) });
			},
			'changed after it was made'
		],
		[
			'a signature that is none',
			() => zipSync({ ...unzipSync(archive), 'signature.json': strToU8('{"format":1}') }),
			''
		]
	])('or %s is refused', async (_, make, words) => {
		await goTo(THIRD);
		const reader = await newCaller('planner');
		const answer = await upload(reader, '/hops/archive', make());
		expect(answer.status).toBe(422);
		expect(answer.error.fields.map(({ message }) => message).join(' ')).toContain(words);
	});
});

describe('an archive signed by an installation', () => {
	let other: TestHop;
	let signedArchive: Uint8Array;
	beforeAll(async () => {
		other = await newHop(planner, [crew, acceptor]);
		expect((await signAll(acceptor, other, await finish(crew, other))).status).toBe(201);
		signedArchive = await download(planner, `/hops/${other.id}/archive.zip`);
	});

	it('is verified once an administrator trusts the key, and no longer when they take it back', async () => {
		await goTo(SECOND);
		const reader = await newCaller('planner');
		expect((await upload(reader, '/hops/archive', signedArchive)).status).toBe(201);
		expect(await originsOf(reader, other.id)).toEqual(['unverified']);
		const administrator = await trust(homeKey, 'Home office');
		expect(await originsOf(reader, other.id)).toEqual(['verified']);
		const again = await trust(homeKey, 'Home office, coast');
		const seen = await call<OwnKey>(again, 'GET', '/installation');
		expect(seen.body.trusted.filter(({ publicKey }) => publicKey === homeKey)).toMatchObject([
			{ name: 'Home office, coast', withdrawnAt: null }
		]);
		const path = `/installation/trusted/${homeKey}/withdrawal`;
		expect((await call(administrator, 'POST', path)).status).toBe(200);
		expect((await call(administrator, 'POST', path)).status).toBe(404);
		expect(await originsOf(reader, other.id)).toEqual(['unverified']);
		const trail = await db().query<{ action: string }>(
			'SELECT action FROM audit_trail WHERE subject = ? ORDER BY id',
			{ replacements: [`key:${homeKey}`], type: QueryTypes.SELECT }
		);
		expect(trail.map(({ action }) => action)).toEqual([
			'trust-installation',
			'trust-installation',
			'withdraw-installation'
		]);
	});

	it('keeps its chain: what is recorded here goes on from it, and is of this installation', async () => {
		await goTo(SECOND);
		const here = await newCaller('administrator');
		const visited = await call(here, 'POST', `/hops/${other.id}/records`, {
			records: [
				record('A', 'visit-opened', {
					visitId: randomUUID(),
					purpose: 'storm-check',
					why: 'Gale',
					people: ['Ada Crew']
				})
			]
		});
		expect(visited.status).toBe(200);
		const check = await call<{ problems: string[]; records: number }>(
			here,
			'GET',
			`/hops/${other.id}/records/check`
		);
		const before = documentIn(signedArchive).records;
		expect(check.body).toMatchObject({ problems: [], records: before.length + 1 });
		const after = documentIn(await download(here, `/hops/${other.id}/archive.zip`)).records;
		expect(after.slice(0, -1).map(({ digest }) => digest)).toEqual(
			before.map(({ digest }) => digest)
		);
	});

	it('cannot be proven by a key that somebody made for it, nor by their own', async () => {
		const keys = { ...newKeyPair(), name: 'Home office' };
		const document = documentIn(signedArchive);
		const lines: string[] = [];
		const own = zipSync({
			'hop.json': strToU8(JSON.stringify(document)),
			'signature.json': strToU8(JSON.stringify(signArchive(document, new Map(), keys)))
		});
		const trusted = (key: string): Promise<string | undefined> =>
			Promise.resolve(key === homeKey ? 'Home office' : undefined);
		const say = (line: string): number => lines.push(line);
		expect(await verifyArchive(own, say, trusted)).toBe(1);
		expect(lines.at(-1)).toContain('which is not trusted here');
		expect(await verifyArchive(signedArchive, say, trusted)).toBe(0);
		expect(lines.at(-1)).toMatch(/^Signed by Home office, key .{19}; not changed since\.$/);
		expect(await verifyArchive(forged(signedArchive, unchained), say, trusted)).toBe(1);
		expect(lines.at(-1)).toContain('Not signed');
		expect(await verifyArchive(strToU8('nothing'), say, trusted)).toBe(1);
		expect(lines.at(-1)).toContain('no ZIP');
	});

	it.each([
		['no key', 'abc', 'publicKey'],
		['its own key', '', 'publicKey'],
		['no name', 'x'.repeat(43), 'name']
	])('is not trusted by %s', async (_, key, field) => {
		const administrator = await newCaller('administrator');
		const publicKey = key || (await keyOf());
		const name = field === 'name' ? ' ' : 'Somewhere';
		const answer = await call(administrator, 'POST', '/installation/trusted', { name, publicKey });
		expect(answer.status).toBe(422);
		expect(answer.error.fields.map((one) => one.field)).toEqual([field]);
	});
});

describe('the chain of the record', () => {
	it('shows a record that was changed behind the program’s back, in the check and by command', async () => {
		const own = await newHop(planner, [crew, acceptor]);
		const lastSeq = await finish(crew, own);
		expect((await signAll(acceptor, own, lastSeq)).status).toBe(201);
		const lines: string[] = [];
		const say = (line: string): number => lines.push(line);
		const check = async (): Promise<string[]> =>
			(await call<{ problems: string[] }>(crew, 'GET', `/hops/${own.id}/records/check`)).body
				.problems;
		expect(await check()).toEqual([]);
		expect(await verifyDatabase(say)).toBe(0);
		expect(lines).toEqual([
			expect.stringMatching(/^\d+ hops, \d+ records: all whole\.$/),
			expect.stringMatching(/^\d+ hubs, \d+ records: all whole\.$/)
		]);

		// Who owns the database can do this; it shows.
		await asOwner('DROP TRIGGER field_records_no_update');
		try {
			await asOwner(
				"UPDATE field_records SET payload = JSON_SET(payload, '$.to', 'A') WHERE hop_id = ? AND kind = 'baton'",
				[own.id]
			);
			const [problem, signed] = await check();
			expect(problem).toMatch(/^Entry \d+ is not as it was recorded/);
			expect(signed).toContain('signed over another record');
			expect(await verifyDatabase(say)).toBe(1);
			expect(lines.at(-2)).toMatch(/1 not whole\.$/);
		} finally {
			await asOwner(
				"UPDATE field_records SET payload = JSON_SET(payload, '$.to', 'B') WHERE hop_id = ? AND kind = 'baton'",
				[own.id]
			);
			await asOwner(
				`CREATE TRIGGER field_records_no_update BEFORE UPDATE ON field_records
				FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'field_records is append-only'`
			);
		}
	});

	it('shows a record that ends too early', async () => {
		const own = await newHop(planner, [crew]);
		await call(crew, 'POST', `/hops/${own.id}/records`, {
			records: [record('A', 'note', { text: 'one' }), record('A', 'note', { text: 'two' })]
		});
		await asOwner('DROP TRIGGER field_records_no_delete');
		try {
			await asOwner('DELETE FROM field_records WHERE hop_id = ? AND seq = 2', [own.id]);
		} finally {
			await asOwner(
				`CREATE TRIGGER field_records_no_delete BEFORE DELETE ON field_records
				FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'field_records is append-only'`
			);
		}
		const { body } = await call<{ problems: string[] }>(
			crew,
			'GET',
			`/hops/${own.id}/records/check`
		);
		expect(body.problems).toEqual(['The record ends at entry 1; 2 were recorded.']);
		await asOwner('UPDATE hop_feeds SET last_seq = 1, digest = ? WHERE hop_id = ?', [
			(body as unknown as { digest: string }).digest,
			own.id
		]);
	});

	it.each(['hop_imports', 'installation'])('%s is never changed', async (table) => {
		await goTo(SECOND);
		await expect(db().query(`DELETE FROM ${table}`)).rejects.toThrow('command denied');
	});
});
