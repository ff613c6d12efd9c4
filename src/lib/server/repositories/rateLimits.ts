import { RateLimiterMySQL } from 'rate-limiter-flexible';
import { db } from '../db/connection';

const limiters = new Map<string, RateLimiterMySQL>();

/** Counts attempts under a prefix in the database, so that every process counts the same ones. */
export function rateLimiter(keyPrefix: string, points: number, duration: number): RateLimiterMySQL {
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
			duration
		});
		limiters.set(keyPrefix, known);
	}
	return known;
}
