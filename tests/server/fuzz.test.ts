import { monitorEventLoopDelay } from 'node:perf_hooks';
import fc from 'fast-check';
import { QueryTypes } from 'sequelize';
import { beforeAll, describe, expect, it } from 'vitest';
import { makeDocuments } from '$lib/server/api/document';
import { endpoints } from '$lib/server/api/endpoints';
import { db } from '$lib/server/db/connection';
import { requestsTo, send, type FuzzRequest } from './fuzz';
import { call, closingDb, newCaller, newHop, type Caller } from './world';

closingDb();

/** Requests in the check; `npm run fuzz` sends five times as many. */
const REQUESTS = Number(process.env.SKIAXIS_FUZZ) || 20_000;
const AT_ONCE = 10;
/** What is worked out for long where it happens to be sound: asked for more seldom. */
const LONG =
	/^\/(sweeps|guidance|diagnosis|paths|propagation|budgets|tokens|password-resets|me\/password|me\/second)/;

let stranger: Caller;
let planner: Caller;
const known: Record<string, string[]> = {};

beforeAll(async () => {
	stranger = await newCaller('trainee');
	planner = await newCaller('planner');
	const hop = await newHop(planner);
	const { body } = await call<{ sites: Record<string, { id: string }> }>(
		planner,
		'GET',
		`/hops/${hop.id}`
	);
	const parts = await call<{ rows: { id: string }[] }>(planner, 'GET', '/parts');
	known.hopId = [hop.id];
	known.siteId = Object.values(body.sites).map(({ id }) => id);
	known.partId = parts.body.rows.slice(0, 3).map(({ id }) => id);
	known.personId = [stranger.userId, planner.userId];
});

/**
 * What anybody may leave behind: counts of attempts, the trail of what was refused, sessions, and what is their own,
 * views of the board and addresses of calendars; and where hops stand, which is worked out from the records.
 */
const TRACES = [
	...['audit_trail', 'rate_limits', 'sessions', 'migrations'],
	...['board_views', 'calendar_addresses', 'hop_stands', 'seen_durations']
];

async function contents(): Promise<Record<string, unknown>> {
	const tables = await db().query<{ name: string }>(
		"SELECT TABLE_NAME AS name FROM information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE() AND TABLE_TYPE = 'BASE TABLE'",
		{ type: QueryTypes.SELECT }
	);
	const names = tables.map(({ name }) => name).filter((name) => !TRACES.includes(name));
	const sums = await db().query<{ Table: string; Checksum: unknown }>(
		`CHECKSUM TABLE ${names.join(', ')}`,
		{ type: QueryTypes.SELECT }
	);
	return Object.fromEntries(sums.map(({ Table, Checksum }) => [Table, Checksum]));
}

const say = (what: string, value: object): void => {
	process.stdout.write(`${what}: ${JSON.stringify(value)}\n`);
};

const shown = ({ endpoint, path, headers, body }: FuzzRequest): string =>
	`${endpoint.method} ${path} ${JSON.stringify(headers)} ${typeof body === 'string' ? body.slice(0, 2000) : body ? `${body.byteLength} bytes` : ''}`;

/** Sends requests to endpoints drawn by lot, some at once; every answer but a 5xx will do. */
async function bombard(
	chosen: typeof endpoints,
	requests: number,
	callers: readonly (Caller | undefined)[]
): Promise<Map<number, number>> {
	const statuses = new Map<number, number>();
	const one = fc.tuple(
		fc.oneof(
			...chosen.map((endpoint) => ({
				weight: LONG.test(endpoint.path) ? 1 : 12,
				arbitrary: requestsTo(endpoint, known)
			}))
		),
		fc.constantFrom(...callers)
	);
	await fc.assert(
		fc.asyncProperty(fc.array(one, { minLength: AT_ONCE, maxLength: AT_ONCE }), async (batch) => {
			const answers = await Promise.all(batch.map(([request, caller]) => send(request, caller)));
			answers.forEach((status, i) => {
				statuses.set(status, (statuses.get(status) ?? 0) + 1);
				// Too much at once is said so; anything else that begins with a 5 is a fault.
				if (status >= 500 && status !== 503) throw new Error(`${status}: ${shown(batch[i]![0])}`);
			});
		}),
		{ numRuns: Math.ceil(requests / AT_ONCE), seed: 20261127, endOnFailure: true }
	);
	return statuses;
}

describe('requests that nobody meant', () => {
	it(
		'by people without any right break nothing and write nothing',
		async () => {
			const before = await contents();
			const statuses = await bombard(endpoints, REQUESTS * 0.9, [stranger, stranger, undefined]);
			if (process.env.SKIAXIS_FUZZ) say('answers by status', Object.fromEntries(statuses));
			expect(await contents()).toEqual(before);
			// The lot has fallen on refusals of every kind, and on answers.
			for (const status of [200, 401, 403, 404, 415, 422]) {
				expect(statuses.get(status) ?? 0, String(status)).toBeGreaterThan(10);
			}
			expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
		},
		30 * 60_000
	);

	it(
		'by a planner break nothing either',
		async () => {
			// What takes seconds by itself, or goes on by itself, is left to its own tests.
			const light = endpoints.filter(
				({ path }) => !/\.(pdf|zip)$|\/replans|\/imports|\/feed$|\/tokens|\/password/.test(path)
			);
			const statuses = await bombard(light, REQUESTS * 0.1, [planner]);
			expect(statuses.get(200) ?? 0).toBeGreaterThan(10);
			expect((await call(planner, 'GET', `/hops/${known.hopId![0]}`)).status).toBe(200);
		},
		30 * 60_000
	);

	// A figure for whoever asks, not a test: it depends on the machine.
	it.runIf(process.env.SKIAXIS_FUZZ)(
		'hold the event loop for so long',
		async () => {
			makeDocuments();
			const delay = monitorEventLoopDelay({ resolution: 1 });
			delay.enable();
			const pause = (): Promise<unknown> => new Promise((go) => setTimeout(go, 4));
			const worst: [string, number][] = [];
			// The first round warms up; streams and what goes on by itself are left out.
			for (const seed of [1, 2]) {
				worst.length = 0;
				for (const endpoint of endpoints.filter(
					({ path }) => !/\/replans|\/imports|\/feed$/.test(path)
				)) {
					let most = 0;
					for (const request of fc.sample(requestsTo(endpoint, known), { numRuns: 20, seed })) {
						await pause();
						delay.reset();
						await send(request, planner);
						await pause();
						most = Math.max(most, delay.max / 1e6);
					}
					worst.push([`${endpoint.method} ${endpoint.path}`, Math.round(most)]);
				}
			}
			worst.sort(([, p], [, q]) => q - p);
			say('longest hold of the event loop, ms', Object.fromEntries(worst.slice(0, 8)));
		},
		30 * 60_000
	);
});
