import { connect, type Socket } from 'node:net';
import fc from 'fast-check';
import { expect, test } from './people';
import { startServer } from './server';

/** A connection that says part of a request and then nothing more; how it ended, if it did. */
function halfOpen(port: number): Promise<{ socket: Socket; dropped: Promise<boolean> }> {
	return new Promise((resolve) => {
		const socket = connect(port, '127.0.0.1');
		const dropped = new Promise<boolean>((ended) => {
			socket.once('close', () => ended(true));
			// Whoever is let in is left waiting for the rest of the request.
			socket.setTimeout(1500, () => ended(false));
		});
		socket.on('error', () => undefined);
		socket.once('connect', () => {
			socket.write('POST /api/v1/tokens HTTP/1.1\r\nHost: a\r\nContent-Length: 10\r\n');
			resolve({ socket, dropped });
		});
	});
}

test('connections on which a request is begun and never ended are held only so many at a time', async () => {
	const server = await startServer(undefined, { SKIAXIS_MOST_CONNECTIONS: '20' });
	try {
		const opened = [];
		for (let i = 0; i < 40; i++) opened.push(await halfOpen(server.port));
		const dropped = await Promise.all(opened.map((one) => one.dropped));
		expect(dropped.filter(Boolean).length).toBeGreaterThanOrEqual(20);
		expect(dropped.filter((gone) => !gone).length).toBeGreaterThan(0);
		for (const { socket } of opened) socket.destroy();
		// Once they have gone everyone is served again.
		await expect
			.poll(() =>
				fetch(`${server.address}/healthz`).then(
					({ status }) => status,
					() => 0
				)
			)
			.toBe(200);
	} finally {
		await server.kill();
	}
});

const anyText = fc.oneof(
	fc.string({ maxLength: 300 }),
	fc.string({ unit: 'binary', maxLength: 60 }),
	fc.constantFrom('', 'name=a&name=b', '%', '%ff', '\u0000', '__proto__=1', "' OR 1=1 --", '{'),
	fc.string({ minLength: 31_000, maxLength: 34_000 })
);
const anyType = fc.constantFrom(
	'application/x-www-form-urlencoded',
	'multipart/form-data; boundary=x',
	'multipart/form-data',
	'text/plain',
	'application/json',
	''
);
const anyPath = fc.constantFrom(
	'/sign-in',
	'/sign-in?next=/%09/elsewhere.example.test',
	'/sign-in?next=%',
	'/sign-in?/nothing',
	'/sign-out',
	'/sign-out?/nothing'
);

test('the forms of the pages take whatever is sent to them: no fault of ours, and nobody gets in', async () => {
	test.setTimeout(360_000);
	// Behind a proxy, so that each is somebody else's: this machine's own sign-ins stay as they are.
	const server = await startServer(undefined, { ADDRESS_HEADER: 'x-client' });
	try {
		await sendForms(server.address);
	} finally {
		await server.kill();
	}
});

async function sendForms(at: string): Promise<void> {
	const statuses = new Map<number, number>();
	let sent = 0;
	const form = fc.record({ path: anyPath, body: anyText, type: anyType });
	for (const { path, body, type } of fc.sample(form, { numRuns: 400, seed: 20261127 })) {
		const answer = await fetch(`${at}${path}`, {
			method: 'POST',
			redirect: 'manual',
			headers: {
				origin: at,
				'x-client': `10.9.${sent >> 8}.${sent++ & 255}`,
				...(type ? { 'content-type': type } : {})
			},
			body: Buffer.from(body)
		});
		const said = `${path} ${type} ${JSON.stringify(body.slice(0, 80))}`;
		expect(answer.status, said).toBeLessThan(500);
		expect(answer.headers.get('set-cookie') ?? '', said).not.toMatch(/skiaxis_session=[^;]/);
		expect(answer.headers.get('location') ?? '/', said).toMatch(/^\/(?![/\\])/);
		statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
	}
	// The lot has fallen on refusals and on answers.
	expect([...statuses.keys()].length).toBeGreaterThan(2);
	expect((await fetch(`${at}/healthz`)).status).toBe(200);
}
