import { RateLimiterMySQL, RateLimiterRes } from 'rate-limiter-flexible';
import { db } from '../db/connection';
import { refusal } from '../errors';

/** Failed attempts for one name from one address before a pause, and the pause in seconds. */
export const ATTEMPTS_PER_NAME = 8;
const NAME_WINDOW_S = 10 * 60;
/** Failed attempts from one address, whatever the name. */
export const ATTEMPTS_PER_ADDRESS = 60;

const limiters = new Map<string, RateLimiterMySQL>();

function limiter(keyPrefix: string, points: number): RateLimiterMySQL {
	let known = limiters.get(keyPrefix);
	if (!known) {
		known = new RateLimiterMySQL({
			storeClient: db(),
			storeType: 'sequelize',
			dbName: db().getDatabaseName(),
			tableName: 'rate_limits',
			tableCreated: true,
			keyPrefix,
			points,
			duration: NAME_WINDOW_S
		});
		limiters.set(keyPrefix, known);
	}
	return known;
}

const byName = (): RateLimiterMySQL => limiter('sign-in-name', ATTEMPTS_PER_NAME);
const byAddress = (): RateLimiterMySQL => limiter('sign-in-address', ATTEMPTS_PER_ADDRESS);

/** Counts one attempt; throws 429 with the time to wait once there were too many. */
export async function countSignInAttempt(name: string, address: string): Promise<void> {
	try {
		await byAddress().consume(address);
		await byName().consume(`${name}@${address}`);
	} catch (limit) {
		if (!(limit instanceof RateLimiterRes)) throw limit;
		const minutes = Math.max(1, Math.ceil(limit.msBeforeNext / 60_000));
		throw refusal('too-many-attempts', minutes);
	}
}

/** A successful sign-in clears the count of its name. */
export async function clearSignInAttempts(name: string, address: string): Promise<void> {
	await byName().delete(`${name}@${address}`);
}
