import { randomUUID } from 'node:crypto';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import {
	chainedRecords,
	digestsAlong,
	HUB_DOCUMENT,
	type HubArchive
} from '$lib/server/formats/hubArchive';
import { CHAIN_START, hubRecordDigest } from '$lib/server/formats/recordChain';
import { verifyArchive } from '$lib/server/commands/verify';
import type { TerminalAcceptance } from '$lib/server/services/hubAcceptance';
import type { ImportedHub } from '$lib/server/services/hubArchive';
import type { Hub } from '$lib/server/services/hubs';
import { readyHub, recordsOfHub } from './hubBuilt';
import { goTo, HOME, keyOf, SECOND, THIRD, trust, type OwnKey } from './installations';
import {
	call,
	closingDb,
	download,
	hubRecord,
	newCaller,
	newHub,
	said,
	upload,
	type Answer,
	type Caller
} from './world';

closingDb();
afterEach(() => goTo(HOME));
// Other tests find these installations trusting nobody.
afterAll(async () => {
	for (const url of [SECOND, THIRD]) {
		await goTo(url);
		const administrator = await newCaller('administrator');
		const { body } = await call<OwnKey>(administrator, 'GET', '/installation');
		for (const { publicKey } of body.trusted) {
			await call(administrator, 'POST', `/installation/trusted/${publicKey}/withdrawal`);
		}
	}
	await goTo(HOME);
});

const documentIn = (archive: Uint8Array): HubArchive =>
	JSON.parse(strFromU8(unzipSync(archive)[HUB_DOCUMENT]!)) as HubArchive;
/** An archive with another document, and with no signature, as somebody would make it by hand. */
function forged(archive: Uint8Array, change: (document: HubArchive) => void): Uint8Array {
	const document = documentIn(archive);
	change(document);
	return zipSync({ [HUB_DOCUMENT]: strToU8(JSON.stringify(document)) });
}
/** The same, with digests that follow from what it now says. */
const rechained = (change: (document: HubArchive) => void) => (document: HubArchive) => {
	change(document);
	const digests = digestsAlong(CHAIN_START, chainedRecords(document), hubRecordDigest);
	document.records.forEach((one, i) => (one.digest = digests[i + 1]!));
	for (const one of document.acceptances) one.recordDigest = digests.at(-1)!;
};
const takeIn = (who: Caller, archive: Uint8Array): Promise<Answer<ImportedHub>> =>
	upload<ImportedHub>(who, '/hubs/archive', archive);
const acceptancesOf = async (who: Caller, hubId: string): Promise<TerminalAcceptance[]> =>
	(await call<{ acceptances: TerminalAcceptance[] }>(who, 'GET', `/hubs/${hubId}/acceptances`)).body
		.acceptances;
const sign = (who: Caller, hubId: string, lastSeq: number): Promise<Answer> =>
	call(who, 'POST', `/hubs/${hubId}/acceptances`, {
		...{ id: randomUUID(), terminal: 't1', lastSeq },
		signature: { name: 'A. Signer', method: 'typed' }
	});

let planner: Caller;
let crew: Caller;
let acceptor: Caller;
let hubId: string;
let archive: Uint8Array;
let homeKey: string;

beforeAll(async () => {
	planner = await newCaller('planner');
	crew = await newCaller('technician');
	acceptor = await newCaller('acceptor');
	const { id, lastSeq } = await readyHub(planner, crew);
	hubId = id;
	expect((await sign(acceptor, id, lastSeq)).status).toBe(201);
	archive = await download(planner, `/hubs/${id}/archive.zip`);
	homeKey = await keyOf();
});

describe('the archive of a hub', () => {
	it('reads back in elsewhere without loss: plan, issued plans, records, acceptances, chain', async () => {
		const there = documentIn(archive);
		expect(there.records.length).toBeGreaterThan(20);
		expect(there.acceptances).toHaveLength(1);
		expect(unzipSync(archive)).toHaveProperty(['terminals.csv']);
		const home = await recordsOfHub(planner, hubId);
		await goTo(SECOND);
		await trust(homeKey, 'Home office');
		const reader = await newCaller('planner');
		const taken = await takeIn(reader, archive);
		expect([taken.status, taken.body]).toMatchObject([
			201,
			{ hubId, records: there.records.length, acceptances: 1, provenance: { trusted: true } }
		]);
		expect(await recordsOfHub(reader, hubId)).toEqual(home);
		const check = await call<{ problems: string[] }>(reader, 'GET', `/hubs/${hubId}/records/check`);
		expect(check.body).toMatchObject({ problems: [], records: home.length });
		const again = documentIn(await download(reader, `/hubs/${hubId}/archive.zip`));
		// Nothing but where it has been has changed on the way.
		expect({ ...again, provenance: null }).toEqual(there);
		expect(again.provenance).toMatchObject({ source: { key: homeKey }, lastSeq: home.length });
	});

	it('goes on there: what is recorded and signed from then on is that installation’s own', async () => {
		await goTo(SECOND);
		const here = await newCaller('technician');
		const signer = await newCaller('acceptor');
		expect((await acceptancesOf(here, hubId)).map(({ origin }) => origin)).toEqual([
			{ kind: 'verified', source: 'Home office' }
		]);
		const note = [hubRecord('t1', 'note', { text: 'Came by' })];
		expect((await call(here, 'POST', `/hubs/${hubId}/records`, { records: note })).status).toBe(
			200
		);
		// As it stands it was accepted before: a look anew gives something new to sign for.
		const lamp = { id: randomUUID(), station: 't1', look: 'lamp' };
		await call(here, 'POST', `/hubs/${hubId}/stand-in`, lamp);
		const page = { id: randomUUID(), station: 't1', look: 'page' };
		const seen = await call<{ seq: number }>(here, 'POST', `/hubs/${hubId}/stand-in`, page);
		expect((await sign(signer, hubId, seen.body.seq)).status).toBe(201);
		expect(
			(await acceptancesOf(here, hubId)).map(({ number, origin }) => [number, origin.kind])
		).toEqual([
			[1, 'verified'],
			[2, 'own']
		]);
		const passedOn = await download(here, `/hubs/${hubId}/archive.zip`);
		const second = await keyOf();
		// A third that trusts the second alone: what the second signed itself is proven by that, what it had
		// from home by what it says of home.
		await goTo(THIRD);
		await trust(second, 'Second office');
		const last = await newCaller('planner');
		expect((await takeIn(last, passedOn)).status).toBe(201);
		expect((await acceptancesOf(last, hubId)).map(({ origin }) => origin)).toEqual([
			{ kind: 'verified', source: 'Home office' },
			{ kind: 'verified', source: 'Second office' }
		]);
	});

	it('does not prove who signed where nobody trusts who made it', async () => {
		const { id, lastSeq } = await readyHub(planner, crew);
		await sign(acceptor, id, lastSeq);
		const own = await download(planner, `/hubs/${id}/archive.zip`);
		await goTo(THIRD);
		const reader = await newCaller('planner');
		expect((await takeIn(reader, own)).status).toBe(201);
		expect((await acceptancesOf(reader, id)).map(({ origin }) => origin.kind)).toEqual([
			'unverified'
		]);
		const { body } = await call<Hub>(reader, 'GET', `/hubs/${id}`);
		expect(body.provenance).toMatchObject({ trusted: false, acceptances: 1, lastSeq });
	});

	it('is taken in once, and by those who plan', async () => {
		const again = await takeIn(planner, archive);
		expect(said(again).slice(0, 2)).toEqual([409, 'hub-exists']);
		await goTo(THIRD);
		expect((await takeIn(await newCaller('technician'), archive)).status).toBe(403);
		// Another hub of that name is in the way: nothing of the archive is left behind.
		const there = await newCaller('planner');
		const id = randomUUID();
		const sameName = forged(archive, (document) => {
			document.hub.id = id;
			Object.assign(document, { revisions: [], records: [], acceptances: [] });
		});
		expect(said(await takeIn(there, sameName)).slice(0, 2)).toEqual([409, 'name-taken']);
		expect((await call(there, 'GET', `/hubs/${id}`)).status).toBe(404);
	});

	it('does not tell who practises what is wrong with it, nor by its archive', async () => {
		const planted = [{ terminal: 't1', cause: 'cable' }];
		const { id } = await newHub(planner, { practice: true, planted });
		const of = async (who: Caller): Promise<object> =>
			documentIn(await download(who, `/hubs/${id}/archive.zip`)).hub.practice!;
		expect(await of(planner)).toMatchObject({ planted });
		expect(await of(await newCaller('trainee'))).toMatchObject({ planted: [] });
	});

	it('is looked at by the command that verifies', async () => {
		const lines: string[] = [];
		const trusted = (key: string): Promise<string | undefined> =>
			Promise.resolve(key === homeKey ? 'Home office' : undefined);
		const look = (bytes: Uint8Array): Promise<number> =>
			verifyArchive(bytes, (line) => lines.push(line), trusted);
		expect(await look(archive)).toBe(0);
		expect(lines[0]).toMatch(/^Hub .*: \d+ records, 1 acceptances of terminals; whole\.$/);
		expect(await look(forged(archive, () => undefined))).toBe(1);
		expect(lines.at(-1)).toContain('Not signed');
		const changed = forged(archive, ({ records }) => (records[3]!.recordedBy = planner.userId));
		expect(await look(changed)).toBe(1);
		expect(lines.at(-1)).toMatch(/Record \d+ is not as it was recorded/);
	});

	it.each<[string, (document: HubArchive) => void, RegExp]>([
		[
			'a record that was changed',
			({ records }) => (records[4]!.receivedAt = '2026-01-01T00:00:00.000Z'),
			/^Record 5 is not as it was recorded/
		],
		[
			'a record taken out',
			rechained(({ records }) => records.splice(2, 1)),
			/^Record 3 is not as it was recorded/
		],
		[
			'an acceptance of another record',
			({ acceptances }) => (acceptances[0]!.recordDigest = 'a'.repeat(64)),
			/not the one that was signed/
		],
		[
			'an acceptance that is not there',
			({ acceptances }) => (acceptances[0]!.number = 2),
			/missing or out of order/
		],
		['a person who is not named', ({ people }) => people.splice(0, 1), /person .* is missing/],
		[
			'an issued plan that cannot be computed',
			({ revisions }) => (revisions[0]!.input.units[0]!.part = {} as never),
			/Plan revision 1 cannot be computed/
		],
		[
			'an issued plan of more units than a hub has',
			({ revisions: [first] }) =>
				(first!.input = { ...first!.input, units: Array(5).fill(first!.input.units[0]) as never }),
			/Plan revision 1 cannot be computed/
		],
		[
			'simulated records of a real hub',
			({ hub }) => (hub.practice = null),
			/is simulated, and the hub is not for practice/
		],
		[
			'a record that no device may send',
			rechained(({ records }) => (records[0]!.record.payload = { answer: 'maybe' } as never)),
			/./
		],
		[
			'a plan of units without a place',
			({ hub }) => (hub.plan.units[0]!.heightAglM = 'high' as never),
			/./
		]
	])('with %s is refused', async (_, change, words) => {
		await goTo(THIRD);
		const reader = await newCaller('planner');
		const id = randomUUID();
		const bad = forged(archive, (document) => {
			document.hub.id = id;
			rechained(() => undefined)(document);
			change(document);
		});
		const answer = await takeIn(reader, bad);
		expect(answer.status).toBe(422);
		expect(answer.error.fields[0]!.message).toMatch(words);
		expect((await call(reader, 'GET', `/hubs/${id}`)).status).toBe(404);
	});

	it('of another kind, or no ZIP at all, is refused with a word', async () => {
		for (const [bytes, words] of [
			[strToU8('no archive'), 'no ZIP'],
			[zipSync({ 'hop.json': strToU8('{}') }), 'hop.json'],
			[zipSync({ 'README.txt': strToU8('x') }), 'has no hub.json']
		] as const) {
			const answer = await takeIn(planner, bytes);
			expect([answer.status, answer.error.fields[0]!.message]).toEqual([
				422,
				expect.stringContaining(words)
			]);
		}
	});
});
