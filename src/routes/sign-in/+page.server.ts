import { fail, redirect } from '@sveltejs/kit';
import { BROWSER_SESSION_DAYS, SESSION_COOKIE } from '$lib/server/auth/sessions';
import { config } from '$lib/server/config';
import { DEMO_PASSWORD } from '$lib/server/demo/load';
import { AppError, refusal } from '$lib/server/errors';
import { countAddressAttempt } from '$lib/server/auth/signInLimit';
import { safeNext } from '$lib/server/safeNext';
import { passkeySignInSchema, signInSchema } from '$lib/server/schemas/inputs';
import { validate } from '$lib/server/schemas/joi';
import { signIn, type Credentials } from '$lib/server/services/accounts';
import { offerPasskeySignIn, signInByPasskey } from '$lib/server/services/passkeys';
import people from '#demo/people.json';
import type { Actions, PageServerLoad } from './$types';

/** To what was asked for; who asked for nothing begins where their work does. */
function onwards(url: URL): string {
	const next = safeNext(url.searchParams.get('next'));
	return next === '/' ? '/home' : next;
}

export const load: PageServerLoad = async ({ locals, url }) => {
	if (locals.actor) redirect(303, onwards(url));
	return {
		passkey: await offerPasskeySignIn(url.origin),
		/** Where this server is set up to be opened; what comes from another address it refuses. */
		origin: url.origin,
		passwordSet: url.searchParams.has('set'),
		demo: config.demo
			? {
					password: DEMO_PASSWORD,
					people: people.map(({ signInName, displayName, role, does }) => ({
						signInName,
						displayName,
						role,
						does
					}))
				}
			: null
	};
};

/** What the device answered stands in one field as JSON; what cannot be read is no answer. */
async function byPasskey(
	answer: string,
	sealed: string,
	origin: string,
	address: string
): Promise<{ token: string }> {
	let response: unknown;
	try {
		response = JSON.parse(answer);
	} catch {
		throw refusal('passkey-refused').at('passkey');
	}
	const input = validate<Parameters<typeof signInByPasskey>[0]>(passkeySignInSchema, {
		sealed,
		response
	});
	return signInByPasskey(input, { address, origin });
}

export const actions: Actions = {
	default: async ({ request, cookies, url, getClientAddress }) => {
		try {
			await countAddressAttempt(getClientAddress());
		} catch (error) {
			if (!(error instanceof AppError)) throw error;
			return fail(error.status, { signInName: '', message: error.message, fields: [] });
		}
		// What cannot be read as a form holds nothing, and is refused as such.
		const form = await request.formData().catch(() => new FormData());
		const typed = (name: string): string => {
			const value = form.get(name);
			return typeof value === 'string' ? value : '';
		};
		const signInName = typed('signInName').slice(0, 200);
		try {
			const { token } = typed('passkey')
				? await byPasskey(typed('passkey'), typed('sealed'), url.origin, getClientAddress())
				: await signIn(
						validate<Credentials>(signInSchema, {
							signInName,
							password: typed('password'),
							code: typed('code')
						}),
						getClientAddress(),
						'browser'
					);
			cookies.set(SESSION_COOKIE, token, {
				path: '/',
				httpOnly: true,
				sameSite: 'lax',
				// Plain http is used on loopback only, where some browsers drop secure cookies.
				secure: url.protocol === 'https:',
				maxAge: BROWSER_SESSION_DAYS * 86_400
			});
		} catch (error) {
			if (!(error instanceof AppError)) throw error;
			return fail(error.status, { signInName, message: error.message, fields: error.fields });
		}
		redirect(303, onwards(url));
	}
};
