import { pino } from 'pino';

/** A frame of a stack names a place in the code, never a value. */
const framesOf = (stack: string | undefined): string =>
	(stack ?? '')
		.split('\n')
		.filter((line) => /^\s+at /.test(line))
		.join('\n');

/**
 * An error as the log keeps it. What the database says of a failure quotes values, and its error carries the
 * statement with its parameters, hashes of passwords among them: of such an error only its code is kept.
 */
export function loggedError(error: unknown): object {
	if (!(error instanceof Error)) return { type: typeof error };
	const { name, stack } = error;
	const driver = (error as { parent?: { code?: string } }).parent;
	const ofDatabase = driver !== undefined || 'sql' in error;
	return {
		type: name,
		message: ofDatabase ? (driver?.code ?? 'refused by the database') : error.message,
		stack: framesOf(stack)
	};
}

export const log = pino({
	level: process.env.SKIAXIS_LOG_LEVEL ?? 'info',
	serializers: { err: loggedError }
});
