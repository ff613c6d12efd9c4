import { randomUUID } from 'node:crypto';
import { Sequelize } from 'sequelize';
import { afterAll, expect, onTestFinished, vi } from 'vitest';
import Ajv from 'ajv/dist/2020';
import addFormats from 'ajv-formats';
import type { HubRecordKind, HubRecordPayloads } from '#core/bringup/hubRecords';
import { directGeodesic } from '#core/geodesy/geodesic';
import type { RecordPayloads } from '#core/record/records';
import { wholeAlignment } from '#core/record/radioStates';
import { STOP_CARD_WORDS, STOP_CARDS, type StopCard } from '#core/safety/stopCards';
import { dispatch, route } from '$lib/server/api/dispatch';
import described from '$lib/server/api/answers.schema.json';
import { openSession } from '$lib/server/auth/sessions';
import { closeDb } from '$lib/server/db/connection';
import { demoParts } from '$lib/server/demo/parts';
import { REFUSAL_STATUSES } from '$lib/server/refusals';
import { putParts } from '$lib/server/services/parts';
import type { Role } from '$lib/server/auth/roles';
import { createAccountUnchecked } from '$lib/server/services/accounts';

export const PASSWORD = 'a long pass phrase for tests';

export interface Caller {
	userId: string;
	signInName: string;
	token: string;
}

export interface Answer<T = Record<string, unknown>> {
	status: number;
	body: T;
	error: { code: string; message: string; fields: { field: string; message: string }[] };
	text: string;
}

/** Runs a statement as who owns the database, beside the application and its rights. */
export async function asOwner(sql: string, replacements: unknown[] = []): Promise<void> {
	const owner = new Sequelize(process.env.SKIAXIS_OWNER_DATABASE_URL!, {
		dialect: 'mysql',
		logging: false
	});
	try {
		await owner.query(sql, { replacements });
	} finally {
		await owner.close();
	}
}

/** Closes the pool of a test file when it ends. */
export function closingDb(): void {
	afterAll(() => closeDb());
}

/** The program once more with connections of its own, as another process has it, until the test ends. */
export async function anotherProcess(): Promise<{
	world: typeof import('./world');
	connection: typeof import('$lib/server/db/connection');
	runner: typeof import('$lib/server/services/jobRunner');
}> {
	vi.resetModules();
	const world = await import('./world');
	const connection = await import('$lib/server/db/connection');
	const runner = await import('$lib/server/services/jobRunner');
	expect(connection.closeDb).not.toBe(closeDb);
	onTestFinished(async () => {
		await runner.stopJobs();
		await connection.closeDb();
	});
	return { world, connection, runner };
}

let made = 0;
let withParts: Promise<unknown> | undefined;

/** The made-up parts, imported like anyone's. */
export function ensureParts(): Promise<unknown> {
	return (withParts ??= putParts(null, demoParts()));
}

export async function newCaller(role: Role): Promise<Caller> {
	await ensureParts();
	const signInName = `${role}-${++made}-${randomUUID().slice(0, 8)}`;
	const userId = await createAccountUnchecked({
		signInName,
		displayName: `Test ${role} ${made}`,
		role,
		password: PASSWORD
	});
	const { token } = await openSession(userId, 'script');
	return { userId, signInName, token };
}

/** Whatever is refused is refused by a code of the catalogue, with its status and with words. */
function requireKnown(status: number, { error }: { error?: Answer['error'] }): void {
	if (status < 400) return;
	expect([error?.code, status]).toEqual([error?.code, REFUSAL_STATUSES.get(error?.code ?? '')]);
	expect(error!.message).toMatch(/^\S.*[.!?)]$/s);
}

/** What an answer was refused with: status, code, and the first field it is about. */
export const said = ({ status, error }: Answer<unknown>): unknown[] => [
	status,
	error.code,
	error.fields[0]?.field
];

const answered = Object.keys(described.answers);
const ajv = addFormats(new Ajv({ strict: false })).addSchema({
	$id: 'api',
	components: { schemas: described.schemas },
	answers: Object.values(described.answers)
});

/** Whatever is answered is answered as the OpenAPI document says. */
export function requireDescribed(
	method: string,
	path: string,
	status: number,
	answer: unknown
): void {
	if (status >= 300 || status === 204) return;
	const { endpoint } = route(method, path);
	const place = answered.indexOf(`${endpoint.method} ${endpoint.path}`);
	if (place < 0) {
		expect([endpoint.path, endpoint.produces]).toEqual([endpoint.path, expect.any(String)]);
		return;
	}
	const check = ajv.getSchema(`api#/answers/${place}`)!;
	if (!check(answer)) {
		const { instancePath, message } = check.errors![0]!;
		throw new Error(
			`${method} ${path} answers otherwise than described: ${instancePath} ${message}`
		);
	}
}

/** Calls the API as a script does, through the same dispatch as the server. */
export async function call<T = Record<string, unknown>>(
	caller: Caller | undefined,
	method: string,
	path: string,
	body?: unknown,
	headers: Record<string, string> = {},
	address = '127.0.0.9'
): Promise<Answer<T>> {
	const url = new URL(`http://127.0.0.1/api/v1${path}`);
	const request = new Request(url, {
		method,
		headers: {
			...(caller ? { authorization: `Bearer ${caller.token}` } : {}),
			...(body === undefined ? {} : { 'content-type': 'application/json' }),
			...headers
		},
		...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) })
	});
	const response = await dispatch({
		request,
		path: url.pathname.slice('/api/v1/'.length),
		url,
		sessionToken: undefined,
		address
	});
	const text = await response.text();
	let parsed: unknown;
	try {
		parsed = JSON.parse(text);
	} catch {
		parsed = {};
	}
	requireKnown(response.status, parsed as { error?: Answer['error'] });
	requireDescribed(method, url.pathname.slice('/api/v1/'.length), response.status, parsed);
	return {
		status: response.status,
		body: parsed as T,
		error: (parsed as { error: Answer['error'] }).error,
		text
	};
}

/** Sends bytes as they are. */
export async function upload<T = Record<string, unknown>>(
	caller: Caller,
	path: string,
	bytes: Uint8Array
): Promise<Answer<T>> {
	const url = new URL(`http://127.0.0.1/api/v1${path}`);
	const response = await dispatch({
		request: new Request(url, {
			method: 'POST',
			headers: {
				authorization: `Bearer ${caller.token}`,
				'content-type': 'application/octet-stream'
			},
			body: new Blob([new Uint8Array(bytes)])
		}),
		path: url.pathname.slice('/api/v1/'.length),
		url,
		sessionToken: undefined,
		address: '127.0.0.9'
	});
	const text = await response.text();
	const parsed = JSON.parse(text) as T & { error: Answer['error'] };
	requireKnown(response.status, parsed);
	requireDescribed('POST', url.pathname.slice('/api/v1/'.length), response.status, parsed);
	return { status: response.status, body: parsed, error: parsed.error, text };
}

/** The bytes of a download. */
export async function download(caller: Caller, path: string): Promise<Uint8Array> {
	const url = new URL(`http://127.0.0.1/api/v1${path}`);
	const response = await dispatch({
		request: new Request(url, { headers: { authorization: `Bearer ${caller.token}` } }),
		path: url.pathname.slice('/api/v1/'.length),
		url,
		sessionToken: undefined,
		address: '127.0.0.9'
	});
	if (response.status !== 200) throw new Error(await response.text());
	return new Uint8Array(await response.arrayBuffer());
}

let place = 0;

export async function newSite(
	planner: Caller,
	change: Record<string, unknown> = {}
): Promise<string> {
	place += 1;
	const answer = await call<{ id: string }>(planner, 'POST', '/sites', {
		name: `Site ${place} ${randomUUID().slice(0, 8)}`,
		latitudeDeg: -46 - (place % 7) * 0.01 - Math.random() * 1e-3,
		longitudeDeg: -118 - place * 0.08 - Math.random() * 1e-3,
		groundAmslM: 100,
		...change
	});
	if (answer.status !== 201) throw new Error(answer.text);
	return answer.body.id;
}

export function hopBody(
	siteAId: string,
	siteBId: string,
	change: Record<string, unknown> = {}
): object {
	const end = {
		radioCode: 'RU-26',
		dishCode: 'DP-060-26',
		mountCode: 'MB-S',
		feederCode: 'FD-0',
		feederLengthM: 0,
		antennaHeightAglM: 20,
		transmitPowerDbm: 14,
		alignmentPowerDbm: 14
	};
	return {
		name: `Hop ${randomUUID().slice(0, 12)}`,
		siteAId,
		siteBId,
		practice: true,
		plan: {
			polarization: 'vertical',
			channelWidthMhz: 28,
			operatingModulation: '64 QAM',
			workDate: '2026-11-24',
			ends: {
				A: { ...end, transmitFrequencyGhz: 26.2 },
				B: { ...end, transmitFrequencyGhz: 25.22 }
			}
		},
		...change
	};
}

type UsualHop = { plan: { ends: Record<'A' | 'B', object> } };

function withPlan(body: UsualHop, { end = {}, ...plan }: { end?: object }): UsualHop {
	const { A, B } = body.plan.ends;
	return {
		...body,
		plan: { ...body.plan, ...plan, ends: { A: { ...A, ...end }, B: { ...B, ...end } } }
	};
}

/** A hub of one unit with one terminal, as it is sent. */
export function hubBody(siteId: string, change: Record<string, unknown> = {}): object {
	return {
		name: `Hub ${randomUUID().slice(0, 12)}`,
		siteId,
		channelWidthMhz: 1080,
		eirpLimitDbm: 40,
		units: [
			{
				...{ id: 'u1', name: 'Sector 1', partCode: 'HS-60-90', how: 'pole', heightAglM: 12 },
				...{ frequencyGhz: 60.48, headingDeg: 90, tiltDeg: 0 }
			}
		],
		terminals: [
			{
				...{ id: 't1', name: 'Net loft', partCode: 'TM-60-S', how: 'pole', heightAglM: 6 },
				...{ latitudeDeg: -46.2, longitudeDeg: -118.3, groundAmslM: 4, downMbitS: 50, upMbitS: 10 }
			}
		],
		...change
	};
}

/** A hub whose one terminal stands 400 m east of it, issued unless said otherwise. */
export async function newHub(
	planner: Caller,
	options: { practice?: boolean; planted?: object[]; issue?: boolean } = {}
): Promise<{ id: string; version: number }> {
	const siteId = await newSite(planner);
	const { body: site } = await call<{ latitudeDeg: number; longitudeDeg: number }>(
		planner,
		'GET',
		`/sites/${siteId}`
	);
	const east = directGeodesic(site, 90, 400);
	const terminal = {
		...{ id: 't1', name: 'Net loft', partCode: 'TM-60-S', how: 'pole', heightAglM: 6, ...east },
		...{ groundAmslM: 12, downMbitS: 50, upMbitS: 10 }
	};
	const made = await call<{ id: string; version: number }>(
		planner,
		'POST',
		'/hubs',
		hubBody(siteId, { terminals: [terminal] })
	);
	if (made.status !== 201) throw new Error(made.text);
	const { id, version } = made.body;
	if (options.practice) {
		const planted = options.planted ?? [];
		await call(planner, 'PUT', `/hubs/${id}/practice`, { practice: true, planted });
	}
	if (options.issue ?? true) {
		const issued = await call(planner, 'POST', `/hubs/${id}/revisions`, {
			...{ id: randomUUID(), version }
		});
		if (issued.status !== 201) throw new Error(issued.text);
	}
	return { id, version };
}

/** A record of a station of a hub, as a device sends it. */
export const hubRecord = <K extends HubRecordKind>(
	station: string,
	kind: K,
	payload: HubRecordPayloads[K]
): object => ({
	...{ id: randomUUID(), station, kind, payload },
	recordedAt: new Date().toISOString()
});

export interface TestHop {
	id: string;
	version: number;
	/** What it was made from. */
	body: object;
}

/** A hop of about 6 km with members; issued unless said otherwise. */
export async function newHop(
	planner: Caller,
	members: Caller[] = [],
	options: {
		practice?: boolean;
		issue?: boolean;
		/** What its plan has beside or in place of the usual one; what its ends have, of either. */
		plan?: { end?: object; [field: string]: unknown };
	} = {}
): Promise<TestHop> {
	const a = await newSite(planner);
	const b = await newSite(planner);
	const body = withPlan(
		hopBody(a, b, { practice: options.practice ?? true }) as UsualHop,
		options.plan ?? {}
	);
	const hop = await call<TestHop>(planner, 'POST', '/hops', body);
	if (hop.status !== 201) throw new Error(hop.text);
	if (members.length) {
		await call(planner, 'PUT', `/hops/${hop.body.id}/members`, {
			memberIds: members.map((member) => member.userId)
		});
	}
	if (options.issue !== false) {
		await acceptWarnings(planner, hop.body, body);
		const issued = await call(planner, 'POST', `/hops/${hop.body.id}/revisions`, {
			id: randomUUID(),
			version: hop.body.version
		});
		if (issued.status !== 201) throw new Error(issued.text);
	}
	return { ...hop.body, body };
}

/** Accepts every warning of a draft in writing, as a planner would who has looked. */
export async function acceptWarnings(
	planner: Caller,
	hop: Pick<TestHop, 'id' | 'version'>,
	body: object
): Promise<void> {
	const review = await call<{ findings: { severity: string; code: string; field: string }[] }>(
		planner,
		'GET',
		`/hops/${hop.id}/review`
	);
	const acceptances = Object.fromEntries(
		review.body.findings
			.filter((finding) => finding.severity === 'warning')
			.map((finding) => [`${finding.code} ${finding.field}`, 'Looked at on site.'])
	);
	const { plan, ...rest } = body as { plan: object };
	const saved = await call<TestHop>(planner, 'PUT', `/hops/${hop.id}`, {
		...rest,
		plan: { ...plan, acceptances },
		version: hop.version
	});
	if (saved.status !== 200) throw new Error(saved.text);
	hop.version = saved.body.version;
}

export function record(
	end: 'A' | 'B',
	kind: string,
	payload: object,
	id: string = randomUUID()
): { id: string; end: string; kind: string; payload: object; recordedAt: string } {
	return { id, end, kind, payload, recordedAt: '2026-11-24T08:00:00.000Z' };
}

export const READY = {
	powerControlOff: true,
	adaptiveModulationOff: true,
	fixedPower: true,
	transmitterOn: true
};

export const reading = (levelDbm: number, purpose = 'watch'): object => ({
	volts: null,
	levelDbm,
	source: 'hand',
	purpose
});

/** A stop card with every answer safe. */
export const goCard = (card: StopCard): RecordPayloads['stop-card'] => ({
	card,
	answers: Object.fromEntries(STOP_CARD_WORDS[card].questions.map(({ key }) => [key, 'yes'])),
	note: ''
});

/** Every card of an end answered just now so that the work goes on. */
export const goCards = (end: 'A' | 'B'): ReturnType<typeof record>[] =>
	STOP_CARDS.map((card) => ({
		...record(end, 'stop-card', goCard(card)),
		recordedAt: new Date().toISOString()
	}));

/** Both ends of a hop with their cards answered and every radio in the alignment state. */
export async function bothReady(
	caller: Caller,
	hopId: string,
	radios: readonly string[] = ['radio-1']
): Promise<void> {
	await call(caller, 'POST', `/hops/${hopId}/records`, {
		records: [
			...goCards('A'),
			...goCards('B'),
			record('A', 'alignment-state', wholeAlignment(radios)),
			record('B', 'alignment-state', wholeAlignment(radios))
		]
	});
}
