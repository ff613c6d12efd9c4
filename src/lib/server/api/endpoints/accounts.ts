import { countAddressAttempt } from '../../auth/signInLimit';
import { createAccount, listPeople, setAccountDisabled, signIn } from '../../services/accounts';
import { accountSchema, pageSchema, signInSchema } from '../../schemas/inputs';
import { joi } from '../../schemas/joi';
import { endpoint } from '../endpoint';

export const accountEndpoints = [
	endpoint<{ signInName: string; password: string }>({
		method: 'POST',
		path: '/tokens',
		tag: 'Accounts',
		summary: 'Sign in a script: gives a bearer token for 12 hours',
		access: 'public',
		before: ({ address }) => countAddressAttempt(address),
		body: signInSchema,
		status: 201,
		handle: async ({ body, address }) => {
			const { token, expiresAt } = await signIn(body.signInName, body.password, address, 'script');
			return { token, tokenType: 'Bearer', expiresAt };
		}
	}),
	endpoint({
		method: 'GET',
		path: '/me',
		tag: 'Accounts',
		summary: 'Who is signed in',
		access: 'signed-in',
		handle: ({ actor }) => actor
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
