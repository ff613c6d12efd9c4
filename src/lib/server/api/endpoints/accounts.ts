import { listAudit, type AuditQuery } from '../../services/auditTrail';
import { countAddressAttempt } from '../../auth/signInLimit';
import type { Role } from '../../auth/roles';
import {
	accountRules,
	createAccount,
	endSessions,
	listPeople,
	offerReset,
	resetPassword,
	setAccountDisabled,
	setAccountRules,
	setRole,
	signIn,
	takeSecondFactorAway,
	type Credentials
} from '../../services/accounts';
import {
	changePassword,
	endOwnSessions,
	offerSecondFactor,
	turnOffSecondFactor,
	turnOnSecondFactor,
	viewOwnAccount
} from '../../services/ownAccount';
import { addPasskey, offerPasskey, removePasskey } from '../../services/passkeys';
import {
	accountSchema,
	auditSchema,
	ownPasswordSchema,
	pageSchema,
	passkeySchema,
	passwordSchema,
	resetSchema,
	roleSchema,
	secondFactorSchema,
	signInSchema
} from '../../schemas/inputs';
import { joi } from '../../schemas/joi';
import { endpoint } from '../endpoint';

const originOf = (request: Request): string => new URL(request.url).origin;

export const accountEndpoints = [
	endpoint<Credentials>({
		method: 'POST',
		path: '/tokens',
		tag: 'Accounts',
		summary: 'Sign in a script: gives a bearer token for 12 hours',
		access: 'public',
		before: ({ address }) => countAddressAttempt(address),
		body: signInSchema,
		status: 201,
		handle: async ({ body, address }) => {
			const { token, expiresAt } = await signIn(body, address, 'script');
			return { token, tokenType: 'Bearer', expiresAt };
		}
	}),
	endpoint({
		method: 'GET',
		path: '/me',
		tag: 'Accounts',
		summary: 'Who is signed in',
		access: 'signed-in',
		handle: ({ actor: { userId, displayName, role } }) => ({ userId, displayName, role })
	}),
	endpoint({
		method: 'GET',
		path: '/me/account',
		tag: 'Accounts',
		summary: 'One’s own account: sessions, tokens, second factor',
		access: 'signed-in',
		handle: ({ actor }) => viewOwnAccount(actor)
	}),
	endpoint<{ current: string; password: string }>({
		method: 'PUT',
		path: '/me/password',
		tag: 'Accounts',
		summary: 'Change one’s own password; every other session ends',
		access: 'signed-in',
		body: passwordSchema,
		status: 204,
		handle: ({ actor, body, address }) => changePassword(actor, body, address)
	}),
	endpoint({
		method: 'DELETE',
		path: '/me/sessions',
		tag: 'Accounts',
		summary: 'End every session and token of one’s own but the one that asks',
		access: 'signed-in',
		status: 204,
		handle: ({ actor }) => endOwnSessions(actor)
	}),
	endpoint({
		method: 'DELETE',
		path: '/me/sessions/:sessionId',
		tag: 'Accounts',
		summary: 'End a session or token of one’s own',
		access: 'signed-in',
		status: 204,
		handle: ({ actor, param }) => endOwnSessions(actor, param('sessionId'))
	}),
	endpoint({
		method: 'POST',
		path: '/me/second-factor/offer',
		tag: 'Accounts',
		summary: 'A secret for an authenticator; nothing is kept until its first code comes back',
		access: 'signed-in',
		handle: ({ actor }) => offerSecondFactor(actor)
	}),
	endpoint<{ sealed: string; code: string; password: string }>({
		method: 'PUT',
		path: '/me/second-factor',
		tag: 'Accounts',
		summary: 'Turn the second factor on by its first code; gives recovery codes once',
		access: 'signed-in',
		body: secondFactorSchema,
		handle: ({ actor, body, address }) => turnOnSecondFactor(actor, body, address)
	}),
	endpoint<{ password: string }>({
		method: 'POST',
		path: '/me/second-factor/removal',
		tag: 'Accounts',
		summary: 'Turn one’s own second factor off, unless the role asks for one',
		access: 'signed-in',
		body: ownPasswordSchema,
		status: 204,
		handle: ({ actor, body, address }) => turnOffSecondFactor(actor, body, address)
	}),
	endpoint({
		method: 'POST',
		path: '/me/passkeys/offer',
		tag: 'Accounts',
		summary:
			'What a device is asked to make a passkey with; nothing is kept until its answer comes back',
		access: 'signed-in',
		handle: ({ actor, request }) => offerPasskey(actor, originOf(request))
	}),
	endpoint<Parameters<typeof addPasskey>[1]>({
		method: 'POST',
		path: '/me/passkeys',
		tag: 'Accounts',
		summary:
			'Keep a passkey that a device made; gives recovery codes where there was no second factor',
		access: 'signed-in',
		body: passkeySchema,
		status: 201,
		handle: ({ actor, body, address, request }) =>
			addPasskey(actor, body, { address, origin: originOf(request) })
	}),
	endpoint<{ password: string }>({
		method: 'POST',
		path: '/me/passkeys/:passkeyId/removal',
		tag: 'Accounts',
		summary:
			'Take one of one’s own passkeys away, unless the role asks for a second factor and it is the last',
		access: 'signed-in',
		body: ownPasswordSchema,
		status: 204,
		handle: ({ actor, body, address, param }) =>
			removePasskey(actor, { id: param('passkeyId'), password: body.password }, address)
	}),
	endpoint<{ signInName: string; code: string; password: string }>({
		method: 'POST',
		path: '/password-resets',
		tag: 'Accounts',
		summary: 'Set a new password by a code that an administrator gave',
		access: 'public',
		before: ({ address }) => countAddressAttempt(address),
		body: resetSchema,
		status: 204,
		handle: ({ body, address }) => resetPassword(body, address)
	}),
	endpoint({
		method: 'GET',
		path: '/people/rules',
		tag: 'Accounts',
		summary: 'Which roles must sign in with a second factor (administrators)',
		access: 'signed-in',
		handle: ({ actor }) => accountRules(actor)
	}),
	endpoint<{ role: Role; secondFactor: boolean }>({
		method: 'PUT',
		path: '/people/rules',
		tag: 'Accounts',
		summary: 'Ask a role for a second factor, or no longer (administrators)',
		access: 'signed-in',
		body: joi.object({
			role: roleSchema(),
			secondFactor: joi.boolean().required().label('Second factor')
		}),
		handle: ({ actor, body }) => setAccountRules(actor, body)
	}),
	endpoint<{ role: Role }>({
		method: 'PUT',
		path: '/people/:personId/role',
		tag: 'Accounts',
		summary: 'Give somebody another role; their sessions end (administrators)',
		access: 'signed-in',
		body: joi.object({ role: roleSchema() }),
		handle: ({ actor, param, body }) => setRole(actor, param('personId'), body.role)
	}),
	endpoint({
		method: 'POST',
		path: '/people/:personId/password-reset',
		tag: 'Accounts',
		summary: 'A code by which somebody sets a new password within a day (administrators)',
		access: 'signed-in',
		status: 201,
		handle: ({ actor, param }) => offerReset(actor, param('personId'))
	}),
	endpoint({
		method: 'POST',
		path: '/people/:personId/sign-out',
		tag: 'Accounts',
		summary: 'End every session and token of somebody (administrators)',
		access: 'signed-in',
		handle: ({ actor, param }) => endSessions(actor, param('personId'))
	}),
	endpoint({
		method: 'POST',
		path: '/people/:personId/second-factor-removal',
		tag: 'Accounts',
		summary: 'Take the second factor of somebody away who has lost it (administrators)',
		access: 'signed-in',
		handle: ({ actor, param }) => takeSecondFactorAway(actor, param('personId'))
	}),
	endpoint<unknown, { q: string; page: number }>({
		method: 'GET',
		path: '/people',
		tag: 'Accounts',
		summary: 'Accounts by name, or those named so',
		access: 'signed-in',
		query: pageSchema,
		handle: ({ actor, query }) => listPeople(actor, query)
	}),
	endpoint<unknown, AuditQuery>({
		method: 'GET',
		path: '/audit',
		tag: 'Accounts',
		summary: 'Who did what, newest first, a page at a time (administrators)',
		access: 'signed-in',
		query: auditSchema,
		handle: ({ actor, query }) => listAudit(actor, query)
	}),
	endpoint<Parameters<typeof createAccount>[1]>({
		method: 'POST',
		path: '/people',
		tag: 'Accounts',
		summary: 'Make an account (administrators)',
		access: 'signed-in',
		body: accountSchema,
		status: 201,
		handle: ({ actor, body }) => createAccount(actor, body)
	}),
	endpoint<{ disabled: boolean }>({
		method: 'PUT',
		path: '/people/:personId/access',
		tag: 'Accounts',
		summary: 'Block an account or let it in again (administrators)',
		access: 'signed-in',
		body: joi.object({ disabled: joi.boolean().required().label('Blocked') }),
		handle: ({ actor, param, body }) => setAccountDisabled(actor, param('personId'), body.disabled)
	})
];
