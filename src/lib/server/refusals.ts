import { BATON_REFUSALS } from '#core/record/baton';
import { itemAt } from '#core/units/lists';

/**
 * Everything the server refuses, by the code that scripts and screens know it by: status and words.
 * Words that depend on the case are a function of it.
 */
export const REFUSALS = {
	'not-found': row(404, (what: string) => `There is no such ${what}, or it is not yours to see.`),
	'method-not-allowed': row(405, (method: string) => `This address does not take ${method}.`),
	'not-json': row(415, 'Send the input as application/json.'),
	'not-a-file': row(
		415,
		(types: readonly string[]) => `Send the file as ${types.join(' or ')}, not as a form or text.`
	),
	'too-large': row(
		413,
		(mostBytes: number) =>
			`The input is larger than ${mostBytes < 1e6 ? `${Math.round(mostBytes / 1e3)} kB` : `${Math.round(mostBytes / 1e6)} MB`} and was not read.`
	),
	'invalid-input': row(422, (fields: readonly { message: string }[]) =>
		fields.length === 1 ? itemAt(fields, 0).message : `${fields.length} fields need another look.`
	),

	'database-gone': row(
		503,
		'The database does not answer just now; nothing was changed. Try again in a few seconds.'
	),
	busy: row(503, 'The server has too much to do just now. Try again in a few seconds.'),
	'too-much-work': row(
		422,
		'This takes too long, or too much memory, to be worked out. Give a smaller input.'
	),
	internal: row(500, 'Something went wrong here; nothing was changed. Try again.'),

	'signed-out': row(401, 'Sign in first: there is no session, or it has ended.'),
	'sign-in-refused': row(401, 'Name or password is wrong.'),
	'too-many-attempts': row(
		429,
		(minutes: number) =>
			`Too many attempts. Try again in ${minutes} minute${minutes === 1 ? '' : 's'}.`
	),
	forbidden: row(403, (what: string) => `Your role may not ${what}.`),
	'other-origin': row(403, 'This comes from a page of another site and was not done.'),
	'other-person': row(
		409,
		(name: string) =>
			`${name} is signed in on this device by now: nothing of yours is sent in another name. Sign in again to go on.`
	),
	'practice-only': row(403, 'A trainee records on practice hops only.'),
	'own-account': row(409, 'You cannot block your own account.'),
	'last-administrator': row(409, 'This is the last administrator: make another one first.'),
	'code-needed': row(401, 'Type the code of your authenticator, or a recovery code.'),
	'passkey-needed': row(
		401,
		'This account signs in with a passkey. Without one at hand, type a recovery code.'
	),
	'passkey-refused': row(
		401,
		'This passkey is not known here, or was taken away. Sign in by name and password.'
	),
	'passkey-late': row(401, 'This page was open for too long. Try once more.'),
	'passkey-needs-name': row(
		409,
		'Passkeys belong to the name of a server, and this one was opened by its number.'
	),
	'too-many-passkeys': row(
		409,
		(most: number) => `An account has ${most} passkeys at most: take one away first.`
	),
	'code-wrong': row(401, 'This code is wrong, was used before, or its time is over.'),
	'second-factor-due': row(
		403,
		'Your role signs in with a second factor. Set it up under your account first.'
	),
	'second-factor-asked': row(409, 'Your role signs in with a second factor: it stays on.'),
	'too-many-streams': row(429, 'Too many pages of this session follow a hop. Close some of them.'),

	'name-taken': row(
		409,
		(
			what: 'person' | 'hop' | 'hub' | 'site' | 'raster' | 'archive' | 'crew' | 'project' | 'view'
		) =>
			({
				person: 'That sign-in name is taken.',
				hop: 'Another hop has this name.',
				hub: 'Another hub has this name.',
				site: 'Another site has this name.',
				crew: 'Another crew has this name.',
				project: 'Another project has this name.',
				view: 'You keep another view under this name.',
				raster: 'Another raster has this name.',
				archive:
					'A hop, hub or site of that name, or a part of this archive, is here already; nothing was imported.'
			})[what]
	),
	'position-taken': row(409, 'Another site stands at exactly this position.'),
	'changed-meanwhile': row(409, (changed: ChangedMeanwhile) => {
		switch (changed.what) {
			case 'part':
				return `${changed.by ?? 'Somebody'} changed this part after you looked at it: it is version ${changed.version} now. What you typed stays here.`;
			case 'plan':
				return 'The plan was changed after you looked at it. Look again, then issue.';
			default:
				return `Somebody else has changed this ${changed.what} meanwhile. What you typed stays here: show what is saved now, and save again.`;
		}
	}),
	'id-used': row(
		409,
		(what: 'record' | 'photo' | 'revision' | 'assignment' | 'calendar') =>
			({
				record: 'A different record was already kept under this id.',
				photo: 'A different photo was already kept under this id.',
				revision: 'This id belongs to another hop.',
				assignment: 'This id belongs to another hop.',
				calendar: 'An address was made under this id already; its secret is shown once.'
			})[what]
	),
	'practice-fixed': row(
		409,
		'Something is recorded on this hop: whether it is for practice stays as it is. Plan another hop.'
	),
	'hop-has-history': row(
		409,
		'A plan of this hop is issued or something is recorded on it: that stays. Put the hop away instead.'
	),
	'site-in-use': row(409, ({ hops, hubs }: { hops: number; hubs: number }) => {
		const standing = [
			...(hops ? [`${hops} ${hops === 1 ? 'hop' : 'hops'}`] : []),
			...(hubs ? [`${hubs} ${hubs === 1 ? 'hub' : 'hubs'}`] : [])
		];
		const one = hops + hubs === 1;
		return `${standing.join(' and ')} ${one ? 'stands' : 'stand'} at this site: it stays as long as ${one ? 'that does' : 'they do'}.`;
	}),
	'project-empty': row(409, 'No hop is in this project that you see: put some into it first.'),
	'project-too-large': row(
		409,
		(most: number) => `A project is scheduled with up to ${most} hops: make two of it.`
	),
	'crew-gone': row(422, 'One of these crews is not there any more.'),
	'no-schedule': row(409, 'This project was not scheduled yet: work its schedule out first.'),
	'crew-in-use': row(
		409,
		'This crew is assigned to an end, or was: as long as that stands, the crew stays.'
	),
	'assigned-already': row(409, 'This crew is at that end on that day already.'),
	'accepted-fixed': row(
		409,
		'This hop is accepted: its name and sites stay as they were signed. Its plan changes by a new revision.'
	),
	'simulated-on-real': row(
		422,
		'A simulated reading is kept on practice hops only; this is a real one.'
	),
	'hop-exists': row(409, 'This hop is here already; nothing was imported.'),
	'hub-exists': row(409, 'This hub is here already; nothing was imported.'),
	'too-many-calendars': row(
		409,
		(most: number) => `A person has ${most} addresses of calendars at most: withdraw one first.`
	),
	'too-many-views': row(409, (most: number) => `${most} views are kept at most: drop one first.`),
	'too-many': row(
		409,
		(holder: 'site' | 'hop', most: string) => `A ${holder} holds at most ${most}.`
	),

	'plan-has-errors': row(422, 'The plan has errors; mend them before issuing.'),
	'plan-has-open-warnings': row(
		422,
		'The plan has warnings; mend them or accept them in writing before issuing.'
	),
	'no-revision': row(
		409,
		'No plan revision is issued for this hop yet: nothing can be measured against it.'
	),
	'hub-not-issued': row(
		409,
		'No plan of this hub is issued yet: nothing can be recorded against it.'
	),
	'hub-practice-fixed': row(
		409,
		'Something is recorded at this hub: whether it is for practice stays as it is.'
	),
	'hub-not-practice': row(409, 'This hub is a real one: nothing stands in for it.'),
	'hub-no-link': row(409, 'Its page shows no link: there is no level to read.'),
	'terminal-accepted': row(409, 'This terminal is accepted as it stands.'),
	'hub-has-history': row(409, 'A plan of this hub is issued: that stays, and the hub with it.'),
	'plan-revised': row(409, (revised: { to?: number; measuredAgainst: number | 'judged' }) =>
		revised.measuredAgainst === 'judged'
			? 'A plan revision was issued after you looked. Look at the judgement again, then sign.'
			: `Plan revision ${revised.to} was issued meanwhile; this was measured against revision ${revised.measuredAgainst}.`
	),
	'job-running': row(409, 'The same work of yours is still running: wait for it, or stop it.'),
	'no-workers': row(503, 'This installation was built without its workers.'),

	'record-moved-on': row(
		409,
		'New field records arrived after you looked. Look at the judgement again, then sign.'
	),
	'already-signed': row(409, 'This hop is already accepted and signed.'),
	'acceptance-incomplete': row(422, (reasons: readonly string[]) => {
		const listed = reasons.map((reason) => reason.replace(/\.$/, '').toLowerCase()).join('; ');
		return `Not ready to sign: ${listed}.`;
	}),
	'not-accepted-yet': row(
		409,
		'A visit begins once the hop is accepted; until then it is the installation.'
	),
	'hop-accepted': row(409, 'This hop is accepted and signed: begin a visit, then record in it.'),
	'visit-open': row(
		409,
		(asked: 'another' | 'acceptance') =>
			({
				another: 'A visit to this hop is open already: record in it, or close it first.',
				acceptance: 'A visit to this hop goes on: close it, then accept the hop.'
			})[asked]
	),
	'visit-not-open': row(409, 'This visit is not open.'),
	'visit-not-safe': row(
		409,
		(reasons: readonly string[]) => `The visit cannot be closed so: ${reasons.join(' ')}`
	),

	'no-second-dish': row(422, () => 'By the plan in force this end has one dish only.'),
	'not-these-radios': row(422, (message: string) => message),
	'against-gate': row(422, (message: string) => message),

	'not-a-practice-hop': row(409, 'Only a practice hop has a simulated meter.'),
	'no-level': row(409, 'The meter gives no level; tightening cannot be judged.')
} as const;

export type RefusalCode = keyof typeof REFUSALS;

/** Every code an answer may carry, with its status: those above, and the core's own rules. */
export const REFUSAL_STATUSES: ReadonlyMap<string, number> = new Map([
	...Object.entries(REFUSALS).map(([code, { status }]) => [code, status] as const),
	...BATON_REFUSALS.map((code) => [code, 409] as const)
]);

type ChangedMeanwhile =
	| { what: 'hop' | 'hub' | 'site' | 'plan' | 'timetable' | 'crew' | 'project' | 'list of times' }
	| { what: 'part'; by: string | null; version: number };

interface Row<Args extends unknown[]> {
	status: number;
	words: (...args: Args) => string;
}

function row<Args extends unknown[]>(
	status: number,
	words: string | ((...args: Args) => string)
): Row<Args> {
	return { status, words: typeof words === 'string' ? () => words : words };
}

/** What the words of a refusal depend on. */
export type RefusalCase<C extends RefusalCode> = Parameters<(typeof REFUSALS)[C]['words']>;
