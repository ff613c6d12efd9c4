/** A row with one of these values is there already; nothing was written. */
export class TakenError extends Error {
	/** @param key the unique key that it would have broken, as the schema names it */
	constructor(readonly key: string) {
		super(`taken: ${key}`);
		this.name = 'TakenError';
	}
}

/** Other rows stand on one that was to be removed; nothing was written. */
export class InUseError extends Error {}

/** Runs what writes; where a unique key stands against it, gives what `otherwise` says. */
export async function unlessTaken<T>(
	work: () => Promise<T>,
	otherwise: (taken: TakenError) => T | Promise<T>
): Promise<T> {
	try {
		return await work();
	} catch (error) {
		if (!(error instanceof TakenError)) throw error;
		return otherwise(error);
	}
}
