import { expect } from 'vitest';
import { closeDb } from '$lib/server/db/connection';
import { call, newCaller, type Caller } from './world';

/** The databases of three installations of the same program. */
export const HOME = process.env.SKIAXIS_DATABASE_URL!;
export const SECOND = process.env.SKIAXIS_EMPTY_DATABASE_URL!;
export const THIRD = process.env.SKIAXIS_THIRD_DATABASE_URL!;

/** Goes to another installation: another database under the same program. */
export async function goTo(url: string): Promise<void> {
	await closeDb();
	process.env.SKIAXIS_DATABASE_URL = url;
}

export interface OwnKey {
	publicKey: string;
	fingerprint: string;
	trusted: { publicKey: string; name: string; withdrawnAt: string | null }[];
}

/** Public key of the installation that is gone to. */
export async function keyOf(): Promise<string> {
	const administrator = await newCaller('administrator');
	return (await call<OwnKey>(administrator, 'GET', '/installation')).body.publicKey;
}

/** Trusts a key in the installation that is gone to; gives the administrator who did. */
export async function trust(publicKey: string, name: string): Promise<Caller> {
	const administrator = await newCaller('administrator');
	const done = await call(administrator, 'POST', '/installation/trusted', { name, publicKey });
	expect(done.status).toBe(201);
	return administrator;
}
