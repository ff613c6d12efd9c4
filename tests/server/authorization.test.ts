import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { endpoints } from '$lib/server/api/endpoints';
import { usualDayPlan } from '#core/schedule/dayPlan';
import { usualProjectDays } from '#core/schedule/projectDays';
import { newKeyPair } from '$lib/server/formats/archiveSignature';
import { ROLES, type Role } from '$lib/server/auth/roles';
import {
	call as callAs,
	closingDb,
	hopBody,
	hubBody,
	hubRecord,
	newHub,
	newCaller,
	newHop,
	newSite,
	reading,
	record,
	upload as uploadAs,
	type Caller,
	type TestHop
} from './world';

closingDb();

const callers = {} as Record<Role, Caller>;
let hop: TestHop;
let practiceHop: TestHop;
let siteIds: string[];
let hubId: string;
let realHub: { id: string };
let practiceHub: { id: string };

beforeAll(async () => {
	for (const role of ROLES) callers[role] = await newCaller(role);
	const everyone = Object.values(callers);
	hop = await newHop(callers.planner, everyone, { practice: false });
	practiceHop = await newHop(callers.planner, everyone);
	siteIds = [await newSite(callers.planner), await newSite(callers.planner)];
	hubId = (await callAs<{ id: string }>(callers.planner, 'POST', '/hubs', hubBody(siteIds[0]!)))
		.body.id;
	realHub = await newHub(callers.planner);
	practiceHub = await newHub(callers.planner, { practice: true });
});

const note = (caller: Caller, id: string): Promise<{ status: number }> =>
	call(caller, 'POST', `/hubs/${id}/records`, {
		records: [hubRecord('t1', 'note', { text: 'Seen' })]
	});

/** The smallest PNG there is. */
const PHOTO = Buffer.from(
	'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
	'base64'
);

const CREW = (): object => ({
	...{ name: 'Coast crew', region: '', zone: 'Etc/UTC', fromMin: 420, toMin: 1020, base: null },
	...{ equipment: [] },
	people: [{ id: randomUUID(), name: 'Ada Reef', phone: '', userId: null, skills: [] }]
});

const A_READING = (): object => ({ records: [record('A', 'reading', reading(-60))] });

type Act = (caller: Caller) => Promise<{ status: number }>;
const PLANNERS: Role[] = ['planner', 'administrator'];
/** Who may do it gets as far as the answer that there is nothing to do it to. */
const reaching =
	(act: Act, ...others: number[]): Act =>
	async (caller) => {
		const { status } = await act(caller);
		return { status: others.includes(status) ? 200 : status };
	};
const SOMETHING = { commit: false, text: '' };

/** Every action with the roles that may do it; all others must be refused with 403. */
const TABLE: [string, Role[], Act][] = [
	['read a hop', [...ROLES], (c) => call(c, 'GET', `/hops/${hop.id}`)],
	['list sites', [...ROLES], (c) => call(c, 'GET', '/sites')],
	['read records', [...ROLES], (c) => call(c, 'GET', `/hops/${hop.id}/records`)],
	[
		'make a site',
		['planner', 'administrator'],
		(c) =>
			call(c, 'POST', '/sites', {
				name: `S ${randomUUID()}`,
				latitudeDeg: Math.random() * 60,
				longitudeDeg: Math.random() * 60,
				groundAmslM: 1
			})
	],
	[
		'change a site',
		['planner', 'administrator'],
		(c) =>
			call(c, 'PUT', `/sites/${siteIds[0]}`, {
				name: `S ${randomUUID()}`,
				latitudeDeg: Math.random() * 60,
				longitudeDeg: Math.random() * 60,
				groundAmslM: 1
			})
	],
	[
		'make a hop',
		['planner', 'administrator'],
		(c) =>
			call(
				c,
				'POST',
				'/hops',
				hopBody(siteIds[0]!, siteIds[1]!, { plan: (hopBody('', '') as { plan: object }).plan })
			)
	],
	[
		'put a hop away or bring it back',
		PLANNERS,
		reaching((c) => call(c, 'PUT', `/hops/${hop.id}/archived`, { archived: false }), 204)
	],
	// Of who may, nobody gets further: a plan of it is issued.
	['delete a hop', PLANNERS, reaching((c) => call(c, 'DELETE', `/hops/${hop.id}`), 409)],
	['read the timetable of a hop', [...ROLES], (c) => call(c, 'GET', `/hops/${hop.id}/day-plan`)],
	[
		'change the timetable of a hop',
		['planner', 'technician', 'administrator'],
		reaching(
			(c) =>
				call(c, 'PUT', `/hops/${hop.id}/day-plan`, {
					version: 90_000,
					plan: usualDayPlan('2026-06-15', 'Etc/UTC')
				}),
			409
		)
	],
	['read the crews', [...ROLES], (c) => call(c, 'GET', '/crews')],
	['read a crew', [...ROLES], reaching((c) => call(c, 'GET', `/crews/${randomUUID()}`), 404)],
	[
		'make a crew',
		PLANNERS,
		reaching((c) => call(c, 'PUT', `/crews/${randomUUID()}`, { version: 7, crew: CREW() }), 409)
	],
	['delete a crew', PLANNERS, reaching((c) => call(c, 'DELETE', `/crews/${randomUUID()}`), 404)],
	['read the times of work', [...ROLES], (c) => call(c, 'GET', '/durations')],
	[
		'say how long work takes',
		PLANNERS,
		reaching((c) => call(c, 'PUT', '/durations', { version: 90_000, said: {} }), 409)
	],
	['read the projects', [...ROLES], (c) => call(c, 'GET', '/projects')],
	['read a project', [...ROLES], reaching((c) => call(c, 'GET', `/projects/${randomUUID()}`), 404)],
	[
		'make a project',
		PLANNERS,
		reaching(
			(c) =>
				call(c, 'PUT', `/projects/${randomUUID()}`, {
					version: 7,
					project: { name: 'Coast', region: '', dueDay: null, note: '' }
				}),
			409
		)
	],
	[
		'delete a project',
		PLANNERS,
		reaching((c) => call(c, 'DELETE', `/projects/${randomUUID()}`), 404)
	],
	[
		'put a hop into a project',
		PLANNERS,
		reaching((c) => call(c, 'PUT', '/project-hops', { projectId: null, hopIds: [hop.id] }), 204)
	],
	[
		'read how a project is scheduled',
		[...ROLES],
		reaching((c) => call(c, 'GET', `/projects/${randomUUID()}/schedule`), 404)
	],
	[
		'take a schedule along',
		[...ROLES],
		reaching((c) => call(c, 'GET', `/projects/${randomUUID()}/schedule.csv`), 404)
	],
	[
		'schedule a project',
		PLANNERS,
		reaching(
			(c) =>
				call(c, 'POST', `/projects/${randomUUID()}/schedule`, {
					id: randomUUID(),
					days: usualProjectDays('2026-06-15', 'Etc/UTC', [randomUUID()])
				}),
			404
		)
	],
	[
		'assign crews by a schedule',
		PLANNERS,
		reaching((c) => call(c, 'POST', `/projects/${randomUUID()}/schedule/assignments`), 404)
	],
	['read who is at a hop', [...ROLES], (c) => call(c, 'GET', `/hops/${hop.id}/assignments`)],
	[
		'put a crew at a hop',
		PLANNERS,
		reaching(
			(c) =>
				call(c, 'PUT', `/hops/${hop.id}/assignments/${randomUUID()}`, {
					...{ end: 'A', crewId: randomUUID(), day: '2026-06-15', fromMin: null, note: '' }
				}),
			422
		)
	],
	[
		'take a crew away from a hop',
		PLANNERS,
		reaching((c) => call(c, 'DELETE', `/hops/${hop.id}/assignments/${randomUUID()}`), 204)
	],
	['read the board', [...ROLES], (c) => call(c, 'GET', '/board')],
	['read the views they keep', [...ROLES], (c) => call(c, 'GET', '/me/board-views')],
	[
		'keep a view of the board',
		[...ROLES],
		(c) => call(c, 'PUT', `/me/board-views/${randomUUID()}`, { name: 'Mine', query: '' })
	],
	[
		'drop a view of the board',
		[...ROLES],
		reaching((c) => call(c, 'DELETE', `/me/board-views/${randomUUID()}`), 204)
	],
	['take their own days along', [...ROLES], (c) => call(c, 'GET', '/me/calendar.ics')],
	['see their addresses of calendars', [...ROLES], (c) => call(c, 'GET', '/me/calendars')],
	[
		'make an address of a calendar',
		[...ROLES],
		(c) => call(c, 'POST', '/me/calendars', { id: randomUUID(), crewId: null })
	],
	[
		'take an address of a calendar back',
		[...ROLES],
		reaching((c) => call(c, 'DELETE', `/me/calendars/${randomUUID()}`), 204)
	],
	['see their own work', [...ROLES], (c) => call(c, 'GET', '/me/work')],
	['list hubs', [...ROLES], (c) => call(c, 'GET', '/hubs')],
	['read a hub', [...ROLES], (c) => call(c, 'GET', `/hubs/${hubId}`)],
	['make a hub', PLANNERS, (c) => call(c, 'POST', '/hubs', hubBody(siteIds[0]!))],
	['change a hub', PLANNERS, (c) => call(c, 'PUT', `/hubs/${hubId}`, hubBody(siteIds[0]!))],
	[
		'take a hub out as a file',
		[...ROLES],
		(c) => call(c, 'GET', `/hubs/${hubId}/export?format=csv`)
	],
	[
		'read a file of a hub',
		PLANNERS,
		(c) => call(c, 'POST', '/hubs/reading', { format: 'csv', text: 'name\n' })
	],
	['read the work at a hub', [...ROLES], (c) => call(c, 'GET', `/hubs/${hubId}/revision`)],
	['read records of a hub', [...ROLES], (c) => call(c, 'GET', `/hubs/${hubId}/records`)],
	['check the record of a hub', [...ROLES], (c) => call(c, 'GET', `/hubs/${hubId}/records/check`)],
	['read acceptances of a hub', [...ROLES], (c) => call(c, 'GET', `/hubs/${hubId}/acceptances`)],
	[
		'issue the plan of a hub',
		PLANNERS,
		// Of who may, nobody gets further: it is another version by now.
		reaching(
			(c) => call(c, 'POST', `/hubs/${hubId}/revisions`, { id: randomUUID(), version: 90_000 }),
			409
		)
	],
	[
		'plant troubles at a hub',
		PLANNERS,
		(c) => call(c, 'PUT', `/hubs/${practiceHub.id}/practice`, { practice: true })
	],
	['record at a real hub', ['planner', 'technician', 'administrator'], (c) => note(c, realHub.id)],
	[
		'record at a hub for practice',
		['planner', 'technician', 'administrator', 'trainee'],
		(c) => note(c, practiceHub.id)
	],
	[
		'look at what stands in for a hub',
		['planner', 'technician', 'administrator', 'trainee'],
		(c) =>
			call(c, 'POST', `/hubs/${practiceHub.id}/stand-in`, {
				...{ id: randomUUID(), station: 'u1', look: 'lamp' }
			})
	],
	[
		'accept a terminal of a hub',
		['acceptor'],
		reaching(
			(c) =>
				call(c, 'POST', `/hubs/${realHub.id}/acceptances`, {
					...{ id: randomUUID(), terminal: 't1', lastSeq: 0 },
					signature: { name: 'A. Signer', method: 'typed' }
				}),
			409,
			422
		)
	],
	[
		'take a hub out as an archive',
		[...ROLES],
		(c) => call(c, 'GET', `/hubs/${realHub.id}/archive.zip`)
	],
	[
		'take a hub in from its archive',
		PLANNERS,
		reaching((c) => upload(c, '/hubs/archive', new Uint8Array([1])), 422)
	],
	['delete a hub', PLANNERS, reaching((c) => call(c, 'DELETE', `/hubs/${randomUUID()}`), 404)],
	['delete a site', PLANNERS, reaching((c) => call(c, 'DELETE', `/sites/${randomUUID()}`), 404)],
	[
		'send a hop back',
		['acceptor'],
		(c) =>
			call(c, 'POST', `/hops/${hop.id}/sent-back`, {
				...{ id: randomUUID(), end: 'A', reason: 'The label is missing.' }
			})
	],
	['read the audit trail', ['administrator'], (c) => call(c, 'GET', '/audit')],
	[
		'set members',
		['planner', 'administrator'],
		(c) =>
			call(c, 'PUT', `/hops/${hop.id}/members`, {
				memberIds: Object.values(callers).map((m) => m.userId)
			})
	],
	[
		'issue a revision',
		['planner', 'administrator'],
		(c) => call(c, 'POST', `/hops/${hop.id}/revisions`, { id: randomUUID(), version: hop.version })
	],
	// After a revision is issued: the copy sends on the same channel at the same sites.
	[
		'duplicate a hop',
		PLANNERS,
		(c) => call(c, 'POST', `/hops/${hop.id}/copy`, { name: `Copy ${randomUUID()}` })
	],
	[
		'record on a real hop',
		['planner', 'technician', 'administrator'],
		(c) => call(c, 'POST', `/hops/${hop.id}/records`, A_READING())
	],
	[
		'record on a practice hop',
		['planner', 'technician', 'trainee', 'administrator'],
		(c) => call(c, 'POST', `/hops/${practiceHop.id}/records`, A_READING())
	],
	[
		'use the simulated meter',
		['planner', 'technician', 'trainee', 'administrator'],
		(c) =>
			call(c, 'POST', `/hops/${practiceHop.id}/simulator`, {
				end: 'A',
				action: 'read',
				id: randomUUID(),
				readingId: randomUUID()
			})
	],
	[
		'make an account',
		['administrator'],
		(c) =>
			call(c, 'POST', '/people', {
				signInName: `n-${randomUUID().slice(0, 8)}`,
				displayName: 'New',
				role: 'trainee',
				password: 'long enough for all'
			})
	],
	['list people', ['planner', 'administrator'], (c) => call(c, 'GET', '/people')],
	[
		'keep a photo',
		['technician', 'planner', 'administrator'],
		(c) => upload(c, `/hops/${hop.id}/photos?id=${randomUUID()}&end=A`, PHOTO)
	],
	[
		'hand the baton over',
		['technician', 'planner', 'administrator'],
		async (c) => {
			const answer = await call(c, 'POST', `/hops/${hop.id}/records`, {
				records: [record('A', 'baton', { to: 'B', how: 'handed' })]
			});
			// Who may record gets as far as the rule that no dish moves before both ends are ready.
			return answer.status === 409 ? { ...answer, status: 200 } : answer;
		}
	],
	[
		'add a part',
		PLANNERS,
		reaching((c) => call(c, 'POST', '/parts', { id: randomUUID(), kind: 'feeder', data: {} }), 422)
	],
	[
		'change a part',
		PLANNERS,
		reaching((c) => call(c, 'PUT', `/parts/${randomUUID()}`, { version: 1, data: {} }), 404, 422)
	],
	[
		'retire a part',
		PLANNERS,
		reaching(
			(c) => call(c, 'POST', `/parts/${randomUUID()}/retirement`, { version: 1, retired: true }),
			404
		)
	],
	[
		'bring parts in',
		PLANNERS,
		reaching(
			(c) => call(c, 'POST', '/parts/import', { ...SOMETHING, format: 'json', text: '[]' }),
			422
		)
	],
	[
		'bring sites in',
		PLANNERS,
		reaching(
			(c) =>
				call(c, 'POST', '/import', { ...SOMETHING, subject: 'sites', format: 'csv', text: 'name' }),
			422
		)
	],
	[
		'bring hops in',
		PLANNERS,
		reaching(
			(c) =>
				call(c, 'POST', '/import', { ...SOMETHING, subject: 'hops', format: 'csv', text: 'name' }),
			422
		)
	],
	['see parts', [...ROLES], (c) => call(c, 'GET', '/parts')],
	['take parts along', [...ROLES], (c) => call(c, 'GET', '/parts/export')],
	[
		'attach to a site',
		PLANNERS,
		(c) => upload(c, `/sites/${siteIds[0]}/attachments?id=${randomUUID()}&fileName=a.png`, PHOTO)
	],
	[
		'take an attachment away',
		PLANNERS,
		reaching((c) => call(c, 'DELETE', `/sites/${siteIds[0]}/attachments/${randomUUID()}`), 404)
	],
	[
		'bring terrain in',
		PLANNERS,
		reaching((c) => upload(c, '/terrain?name=Nothing', new Uint8Array([1, 2, 3])), 422)
	],
	[
		'take terrain away',
		PLANNERS,
		reaching((c) => call(c, 'DELETE', `/terrain/${randomUUID()}`), 404)
	],
	[
		'change a hop',
		PLANNERS,
		reaching(
			(c) =>
				call(c, 'PUT', `/hops/${hop.id}`, { ...hopBody(siteIds[0]!, siteIds[1]!), version: 999 }),
			409
		)
	],
	[
		'plan everything again',
		PLANNERS,
		reaching((c) => call(c, 'POST', '/replans', { id: randomUUID() }), 202, 409, 503)
	],
	[
		'stop long work of their own',
		[...ROLES],
		reaching((c) => call(c, 'POST', `/jobs/${randomUUID()}/cancel`), 404)
	],
	[
		'take in a file beside the requests',
		PLANNERS,
		reaching(
			(c) =>
				call(c, 'POST', '/imports', {
					...{ id: randomUUID(), subject: 'sites', format: 'csv', text: 'name' }
				}),
			202,
			409
		)
	],
	[
		'block somebody',
		['administrator'],
		reaching((c) => call(c, 'PUT', `/people/${randomUUID()}/access`, { disabled: true }), 404)
	],
	[
		'change a role',
		['administrator'],
		reaching((c) => call(c, 'PUT', `/people/${randomUUID()}/role`, { role: 'planner' }), 404)
	],
	...(['password-reset', 'sign-out', 'second-factor-removal'] as const).map(
		(what): [string, Role[], Act] => [
			`do ${what} for somebody`,
			['administrator'],
			reaching((c) => call(c, 'POST', `/people/${randomUUID()}/${what}`), 404)
		]
	),
	['see the rules of accounts', ['administrator'], (c) => call(c, 'GET', '/people/rules')],
	[
		'make rules of accounts',
		['administrator'],
		(c) => call(c, 'PUT', '/people/rules', { role: 'trainee', secondFactor: false })
	],
	['see their own account', [...ROLES], (c) => call(c, 'GET', '/me/account')],
	[
		'change their own password',
		[...ROLES],
		reaching((c) => call(c, 'PUT', '/me/password', { current: 'x', password: 'y' }), 422)
	],
	['end their other sessions', [...ROLES], reaching((c) => call(c, 'DELETE', '/me/sessions'), 204)],
	[
		'end one session',
		[...ROLES],
		reaching((c) => call(c, 'DELETE', `/me/sessions/${randomUUID()}`), 404)
	],
	['begin a second factor', [...ROLES], (c) => call(c, 'POST', '/me/second-factor/offer')],
	[
		'turn a second factor on',
		[...ROLES],
		reaching(
			(c) => call(c, 'PUT', '/me/second-factor', { sealed: 'x', code: '1', password: 'y' }),
			422
		)
	],
	[
		'turn a second factor off',
		[...ROLES],
		reaching((c) => call(c, 'POST', '/me/second-factor/removal', { password: 'y' }), 422)
	],
	[
		'begin a passkey, which a server opened by its number has none of',
		[...ROLES],
		reaching((c) => call(c, 'POST', '/me/passkeys/offer'), 409)
	],
	[
		'keep a passkey',
		[...ROLES],
		reaching((c) => call(c, 'POST', '/me/passkeys', { name: 'x', password: 'y' }), 422)
	],
	[
		'take a passkey away',
		[...ROLES],
		reaching((c) => call(c, 'POST', `/me/passkeys/${randomUUID()}/removal`, { password: 'y' }), 422)
	],
	['see the installation', ['administrator'], (c) => call(c, 'GET', '/installation')],
	[
		'trust an installation',
		['administrator'],
		(c) =>
			call(c, 'POST', '/installation/trusted', {
				name: 'Elsewhere',
				publicKey: newKeyPair().publicKey
			})
	],
	[
		'trust an installation no longer',
		['administrator'],
		reaching(
			(c) => call(c, 'POST', `/installation/trusted/${newKeyPair().publicKey}/withdrawal`),
			404
		)
	],
	['see visits', [...ROLES], (c) => call(c, 'GET', `/hops/${hop.id}/visits`)],
	['check the record', [...ROLES], (c) => call(c, 'GET', `/hops/${hop.id}/records/check`)],
	[
		'begin a visit',
		['planner', 'technician', 'administrator'],
		reaching(
			(c) =>
				call(c, 'POST', `/hops/${hop.id}/records`, {
					records: [
						record('A', 'visit-opened', {
							visitId: randomUUID(),
							purpose: 'storm-check',
							why: 'Gale',
							people: ['Ada Crew']
						})
					]
				}),
			409
		)
	],
	...(['/sweeps/analyse', '/guidance/next', '/diagnosis', '/paths/geometry'] as const).map(
		(path): [string, Role[], Act] => [
			`compute ${path}`,
			[...ROLES],
			reaching((c) => call(c, 'POST', path, {}), 422)
		]
	),
	...(['/propagation/attenuation', '/budgets', '/terrain/profile'] as const).map(
		(path): [string, Role[], Act] => [
			`compute ${path}`,
			[...ROLES],
			reaching((c) => call(c, 'POST', path, {}), 422)
		]
	),
	['take the pack', [...ROLES], (c) => call(c, 'GET', `/hops/${hop.id}/pack.pdf`)],
	['take the archive', [...ROLES], (c) => call(c, 'GET', `/hops/${hop.id}/archive.zip`)],
	[
		'bring an archive in',
		['planner', 'administrator'],
		async (c) => {
			const answer = await upload(c, '/hops/archive', new Uint8Array([1, 2, 3]));
			return answer.status === 422 ? { ...answer, status: 201 } : answer;
		}
	]
];

/** What was asked for while the table ran. */
const asked = new Set<string>();
const pattern = (path: string): RegExp => new RegExp(`^${path.replace(/:\w+/g, '[^/?]+')}(\\?|$)`);
function call(...args: Parameters<typeof callAs>): ReturnType<typeof callAs> {
	asked.add(`${args[1]} ${args[2]}`);
	return callAs(...args);
}
function upload(...args: Parameters<typeof uploadAs>): ReturnType<typeof uploadAs> {
	asked.add(`POST ${args[1]}`);
	return uploadAs(...args);
}

describe.each(TABLE)('%s', (_, allowed, act) => {
	it.each([...ROLES])('as %s', async (role) => {
		const { status } = await act(callers[role]);
		if (allowed.includes(role)) expect([200, 201]).toContain(status);
		else expect(status).toBe(403);
	});
});

it.each([...ROLES])('sign as %s: only an acceptor gets as far as the judgement', async (role) => {
	const answer = await call(callers[role], 'POST', `/hops/${hop.id}/acceptance`, {
		id: randomUUID(),
		lastSeq: 0,
		signature: { name: 'Some Body', method: 'typed' }
	});
	expect(answer.status).toBe(role === 'acceptor' ? 409 : 403);
});

it('nothing that changes anything is missing from the table', () => {
	const missing = endpoints
		.filter(({ method, access }) => method !== 'GET' && access !== 'public')
		.filter(({ method, path }) =>
			[...asked].every((one) => {
				const [verb = '', address = ''] = one.split(' ');
				return verb !== method || !pattern(path).test(address);
			})
		)
		.map(({ method, path }) => `${method} ${path}`);
	expect(missing).toEqual([]);
});

it('another user’s hop is as if it did not exist, for every address below it', async () => {
	const stranger = await newCaller('planner');
	for (const endpoint of endpoints.filter((e) => e.path.includes(':hopId') && e.method === 'GET')) {
		const query = endpoint.path.endsWith('/comparison') ? '?from=1&to=1' : '';
		const answer = await call(stranger, 'GET', endpoint.path.replace(':hopId', hop.id) + query);
		expect([endpoint.path, answer.status]).toEqual([endpoint.path, 404]);
	}
	const posted = await call(stranger, 'POST', `/hops/${hop.id}/records`, A_READING());
	expect(posted.status).toBe(404);
	const listed = await callAs<{ rows: { id: string }[] }>(stranger, 'GET', '/hops');
	expect(listed.body.rows).toEqual([]);
});

it('without a session every address but the public ones answers 401', async () => {
	for (const endpoint of endpoints) {
		const path = endpoint.path.replace(/:\w+/g, hop.id);
		const answer = await call(undefined, endpoint.method, path, endpoint.body ? {} : undefined);
		if (endpoint.access === 'public') expect(answer.status).not.toBe(401);
		else expect([endpoint.path, answer.status]).toEqual([endpoint.path, 401]);
	}
	const stale = await call({ userId: '', signInName: '', token: 'x'.repeat(43) }, 'GET', '/me');
	expect(stale.status).toBe(401);
});
