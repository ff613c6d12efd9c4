import { createHash } from 'node:crypto';
import { isIP } from 'node:net';
import {
	generateAuthenticationOptions,
	generateRegistrationOptions,
	verifyAuthenticationResponse,
	verifyRegistrationResponse,
	type AuthenticationResponseJSON,
	type PublicKeyCredentialCreationOptionsJSON,
	type PublicKeyCredentialRequestOptionsJSON,
	type RegistrationResponseJSON
} from '@simplewebauthn/server';
import { seal, unseal } from './oneTimeCode';

export type { AuthenticationResponseJSON, RegistrationResponseJSON };

const RP_NAME = 'Skiaxis';
/** How long a challenge may be answered, minutes: a page of signing in is left open for a while. */
const MINUTES = 30;

/** What a challenge was made for: whose passkey is added, or that somebody signs in. */
type Purpose = { add: string } | 'sign-in';

/** What a device is asked, and the same sealed, to be sent back with its answer. */
export interface Offer<Options> {
	options: Options;
	sealed: string;
}

/** Whether the address of this server is a name: passkeys belong to one, never to a number (WebAuthn level 3, 5.1.3). */
export function hasPasskeys(origin: string): boolean {
	const { hostname } = new URL(origin);
	return isIP(hostname.replace(/^\[|\]$/g, '')) === 0;
}

const rpIdOf = (origin: string): string => new URL(origin).hostname;
const purposeText = (purpose: Purpose): string =>
	purpose === 'sign-in' ? purpose : `add ${purpose.add}`;

function sealed(challenge: string, purpose: Purpose, at: Date): string {
	const until = at.getTime() + MINUTES * 60_000;
	return seal(JSON.stringify([challenge, purposeText(purpose), until]));
}

/** A challenge that is still to be answered, or undefined: made for something else, by another, or too long ago. */
export interface Challenge {
	text: string;
	hash: string;
	expiresAt: Date;
}

export function openChallenge(
	sealedText: string,
	purpose: Purpose,
	at: Date
): Challenge | undefined {
	try {
		const [text, made, until] = JSON.parse(unseal(sealedText)) as [string, string, number];
		if (made !== purposeText(purpose) || until < at.getTime()) return undefined;
		const hash = createHash('sha256').update(text).digest('hex');
		return { text, hash, expiresAt: new Date(until) };
	} catch {
		return undefined;
	}
}

/** What a device is asked to make a new passkey with; it asks for finger, face or PIN itself. */
export async function offerToAdd(
	person: { id: string; signInName: string; displayName: string },
	present: readonly string[],
	origin: string,
	at: Date
): Promise<Offer<PublicKeyCredentialCreationOptionsJSON>> {
	const options = await generateRegistrationOptions({
		rpName: RP_NAME,
		rpID: rpIdOf(origin),
		userID: new TextEncoder().encode(person.id),
		userName: person.signInName,
		userDisplayName: person.displayName,
		attestationType: 'none',
		excludeCredentials: present.map((id) => ({ id })),
		authenticatorSelection: { residentKey: 'required', userVerification: 'required' }
	});
	return { options, sealed: sealed(options.challenge, { add: person.id }, at) };
}

/** What any device is asked that has a passkey of this server. */
export async function offerToSignIn(
	origin: string,
	at: Date
): Promise<Offer<PublicKeyCredentialRequestOptionsJSON>> {
	const options = await generateAuthenticationOptions({
		rpID: rpIdOf(origin),
		userVerification: 'required'
	});
	return { options, sealed: sealed(options.challenge, 'sign-in', at) };
}

/** What is kept of a passkey. */
export interface PublicPart {
	credentialId: string;
	publicKey: Buffer;
	/** How often the device says it was used; 0 for ever where it does not count. */
	useCount: number;
}

/** The public part of a new passkey, or undefined where the device's answer does not hold. */
export async function newPublicPart(
	response: RegistrationResponseJSON,
	challenge: string,
	origin: string
): Promise<PublicPart | undefined> {
	try {
		const { verified, registrationInfo } = await verifyRegistrationResponse({
			response,
			expectedChallenge: challenge,
			expectedOrigin: origin,
			expectedRPID: rpIdOf(origin),
			requireUserVerification: true
		});
		if (!verified) return undefined;
		const { id, publicKey, counter } = registrationInfo.credential;
		return { credentialId: id, publicKey: Buffer.from(publicKey), useCount: counter };
	} catch {
		return undefined;
	}
}

/** The count of uses that the device now says, or undefined where its answer does not hold. */
export async function useCountAnswered(
	response: AuthenticationResponseJSON,
	challenge: string,
	origin: string,
	{ credentialId, publicKey, useCount }: PublicPart
): Promise<number | undefined> {
	try {
		const { verified, authenticationInfo } = await verifyAuthenticationResponse({
			response,
			expectedChallenge: challenge,
			expectedOrigin: origin,
			expectedRPID: rpIdOf(origin),
			requireUserVerification: true,
			credential: { id: credentialId, publicKey: new Uint8Array(publicKey), counter: useCount }
		});
		return verified ? authenticationInfo.newCounter : undefined;
	} catch {
		return undefined;
	}
}

/** By which a passkey is found: its id may be longer than an index takes. */
export const credentialHash = (credentialId: string): string =>
	createHash('sha256').update(credentialId).digest('hex');
