import { randomUUID } from 'node:crypto';
import { afterAll, bench, describe } from 'vitest';
import { dispatch } from '$lib/server/api/dispatch';
import { openSession } from '$lib/server/auth/sessions';
import { closeDb, db } from '$lib/server/db/connection';
import { feedsBeyond } from '$lib/server/repositories/feeds';
import { hopFeeds } from '$lib/server/services/liveFeed';
import { MOST_STREAMS_PER_SESSION } from '$lib/server/services/openStreams';
import { newCaller, newHop, reading, record } from '../tests/server/world';
import { network } from './lib/network';

/**
 * The way of one reading into the record, beside a bare INSERT of the same row on the same connections: from the
 * request to the answer that says it is stored, and to whoever follows the hop. Ratios of medians of interleaved turns within one run.
 * `npm run bench -- recordPath`.
 */
const TURNS = 400;
const WARM_UP = 50;
const WATCHED = 2000;
const STREAMS = 200;

const crew = await newCaller('technician');
const hop = await newHop(await newCaller('planner'), [crew]);
const other = await newHop(await newCaller('planner'), [crew]);
const [rows] = (await db().query('SELECT id FROM plan_revisions WHERE hop_id = ?', {
	replacements: [other.id]
})) as [{ id: string }[], unknown];
const revisionId = rows[0]!.id;

let seq = 0;
async function bare(): Promise<void> {
	const now = new Date();
	await db().query('INSERT INTO field_records VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)', {
		replacements: [
			...[randomUUID(), other.id, ++seq, revisionId, 'A', 'reading'],
			...[JSON.stringify(reading(-40)), now, now, crew.userId, 'x'.repeat(64)]
		]
	});
}

/** As the server is asked, without what the tests check of an answer. */
async function recorded(): Promise<void> {
	const path = `/hops/${hop.id}/records`;
	const url = new URL(`http://127.0.0.1/api/v1${path}`);
	const request = new Request(url, {
		method: 'POST',
		headers: { authorization: `Bearer ${crew.token}`, 'content-type': 'application/json' },
		body: JSON.stringify({ records: [record('A', 'reading', reading(-40))] })
	});
	const asked = { request, path, url, sessionToken: undefined, address: '127.0.0.9' };
	const answer = await dispatch(asked);
	if (answer.status !== 200) throw new Error(await answer.text());
}

async function taken(work: () => Promise<void>): Promise<number> {
	const from = performance.now();
	await work();
	return performance.now() - from;
}

const middle = (times: number[]): number =>
	times.sort((p, q) => p - q)[Math.floor(times.length / 2)] ?? NaN;

/** Medians of two kinds of work done in turns, ms. */
async function inTurns(
	one: () => Promise<void>,
	another: () => Promise<void>
): Promise<[number, number]> {
	const times: [number[], number[]] = [[], []];
	for (let turn = -WARM_UP; turn < TURNS; turn++) {
		const [first, second] = [await taken(one), await taken(another)];
		if (turn < 0) continue;
		times[0].push(first);
		times[1].push(second);
	}
	return [middle(times[0]), middle(times[1])];
}

const [insert, path] = await inTurns(bare, recorded);
process.stdout.write(
	`\nA reading stored takes ${(path / insert).toFixed(1)} times a bare INSERT (${insert.toFixed(2)} ms).\n`
);

/** Many hops are watched here, and many streams are open, while one reading goes from end to end. */
const watched = await network(crew, WATCHED, 140, `Watched ${randomUUID().slice(0, 8)}`);
const left = watched.map((id) => hopFeeds.follow(id, 0, () => undefined));
for (let i = 0; i < STREAMS; i += MOST_STREAMS_PER_SESSION) {
	const { token } = await openSession(crew.userId, 'script');
	for (const id of watched.slice(i, i + MOST_STREAMS_PER_SESSION)) await streamOf(id, token);
}

async function streamOf(hopId: string, token: string): Promise<ReadableStream<Uint8Array>> {
	const path = `/hops/${hopId}/feed`;
	const url = new URL(`http://127.0.0.1/api/v1${path}`);
	const request = new Request(url, { headers: { authorization: `Bearer ${token}` } });
	const asked = { request, path, url, sessionToken: undefined, address: '127.0.0.9' };
	const { body, status } = await dispatch(asked);
	if (status !== 200 || !body) throw new Error(String(status));
	return body;
}

/** Reads a stream of events; `next` waits for one more than there were. */
function listening(stream: ReadableStream<Uint8Array>): { next: () => Promise<void> } {
	let seen = 0;
	let awaited = (): void => undefined;
	const read = async (): Promise<void> => {
		const decoder = new TextDecoder();
		for await (const part of stream) {
			seen += decoder.decode(part).split('\ndata: ').length - 1;
			awaited();
		}
	};
	void read();
	return {
		next: () => {
			const from = seen;
			return new Promise((done) => {
				awaited = () => {
					if (seen > from) done();
				};
			});
		}
	};
}

const bareStream = new TransformStream<Uint8Array, Uint8Array>();
const bareWriter = bareStream.writable.getWriter();
const bareEvents = listening(bareStream.readable);
const events = listening(await streamOf(hop.id, crew.token));
const afterBare = async (): Promise<void> => {
	const next = bareEvents.next();
	await bare();
	await bareWriter.write(
		new TextEncoder().encode(`id: 1\ndata: ${JSON.stringify(reading(-40))}\n\n`)
	);
	await next;
};
const afterRecord = async (): Promise<void> => {
	const next = events.next();
	await recorded();
	await next;
};
await afterRecord();
const [plain, live] = await inTurns(afterBare, afterRecord);
process.stdout.write(
	`A's reading at B takes ${(live / plain).toFixed(1)} times a bare INSERT and event (${plain.toFixed(2)} ms), beside ${WATCHED} watched hops and ${STREAMS} streams.\n`
);
const look = new Map(watched.map((id) => [id, 0]));
const [one, all] = await inTurns(
	async () => void (await feedsBeyond(new Map([[hop.id, 0]]))),
	async () => void (await feedsBeyond(look))
);
process.stdout.write(
	`A look at ${WATCHED} watched hops takes ${(all / one).toFixed(1)} times a look at one (${one.toFixed(2)} ms).\n`
);
left.forEach((leave) => leave());

afterAll(() => closeDb());

describe('one reading', () => {
	bench('as a bare INSERT', bare);
	bench('stored by the program', recorded);
});
