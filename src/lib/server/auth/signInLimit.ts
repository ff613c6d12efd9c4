import { RateLimiterRes } from 'rate-limiter-flexible';
import { refusal } from '../errors';
import { rateLimiter } from '../repositories/rateLimits';

/** Failed attempts for one name from one address before a pause, and the pause in seconds. */
export const ATTEMPTS_PER_NAME = 8;
const NAME_WINDOW_S = 10 * 60;
/** Failed attempts from one address, whatever the name. */
export const ATTEMPTS_PER_ADDRESS = 60;

/** Wrong codes of a second factor, from wherever they come. */
const ATTEMPTS_PER_CODE = 10;

const byCode = (): ReturnType<typeof rateLimiter> =>
	rateLimiter('second-factor', ATTEMPTS_PER_CODE, NAME_WINDOW_S);
const byName = (): ReturnType<typeof rateLimiter> =>
	rateLimiter('sign-in-name', ATTEMPTS_PER_NAME, NAME_WINDOW_S);
const byAddress = (): ReturnType<typeof rateLimiter> =>
	rateLimiter('sign-in-address', ATTEMPTS_PER_ADDRESS, NAME_WINDOW_S);

/** Counts one attempt of an address, before anything of it is read; throws 429 once there were too many. */
export function countAddressAttempt(address: string): Promise<void> {
	return counted(() => byAddress().consume(address));
}

/** Counts one attempt for a name; throws 429 with the time to wait once there were too many. */
export function countNameAttempt(name: string, address: string): Promise<void> {
	return counted(() => byName().consume(`${name}@${address}`));
}

async function counted(count: () => Promise<unknown>): Promise<void> {
	try {
		await count();
	} catch (limit) {
		if (!(limit instanceof RateLimiterRes)) throw limit;
		const minutes = Math.max(1, Math.ceil(limit.msBeforeNext / 60_000));
		throw refusal('too-many-attempts', minutes);
	}
}

/** Whoever knew their password begins to count anew. */
export async function clearNameAttempts(name: string, address: string): Promise<void> {
	await byName().delete(`${name}@${address}`);
}

/** A successful sign-in clears the count of its name, and takes its own attempt off the address. */
export async function clearSignInAttempts(name: string, address: string): Promise<void> {
	await clearNameAttempts(name, address);
	await rewardAddress(address);
}

/** Takes an attempt that led in off its address. */
export async function rewardAddress(address: string): Promise<void> {
	await byAddress().reward(address);
}

/** Counts one code of a second factor; throws 429 once too many were wrong. */
export function countCodeAttempt(userId: string): Promise<void> {
	return counted(() => byCode().consume(userId));
}

export async function clearCodeAttempts(userId: string): Promise<void> {
	await byCode().delete(userId);
}
