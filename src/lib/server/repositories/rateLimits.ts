import { RateLimiterMySQL } from 'rate-limiter-flexible';
import type { Sequelize } from 'sequelize';
import { db } from '../db/connection';

/** By the pool that they count in: a pool that was closed and opened anew is another. */
const limiters = new WeakMap<Sequelize, Map<string, RateLimiterMySQL>>();

/** Counts attempts under a prefix in the database, so that every process counts the same ones. */
export function rateLimiter(keyPrefix: string, points: number, duration: number): RateLimiterMySQL {
	const ofPool = limiters.get(db()) ?? new Map<string, RateLimiterMySQL>();
	limiters.set(db(), ofPool);
	let known = ofPool.get(keyPrefix);
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
		ofPool.set(keyPrefix, known);
	}
	return known;
}
