import type { BatonRefusal } from '#core/record/baton';
import { REFUSALS, type RefusalCase, type RefusalCode } from './refusals';

/** A mistake at one field of an input. */
export interface FieldError {
	field: string;
	message: string;
}

/** Something that went wrong in a way the user can be told: code, message and HTTP status. */
export class AppError extends Error {
	override readonly name = 'AppError';

	constructor(
		readonly status: number,
		readonly code: string,
		message: string,
		readonly fields: FieldError[] = []
	) {
		super(message);
	}

	/** The same refusal, at the field it concerns. */
	at(field: string): AppError {
		return this.with([{ field, message: this.message }]);
	}

	/** The same refusal, with what is wrong at each field. */
	with(fields: FieldError[]): AppError {
		return new AppError(this.status, this.code, this.message, fields);
	}
}

/** A refusal of the catalogue, in the words of this case. */
export function refusal<C extends RefusalCode>(code: C, ...about: RefusalCase<C>): AppError {
	const { status, words } = REFUSALS[code];
	return new AppError(status, code, (words as (...about: RefusalCase<C>) => string)(...about));
}

/** A refusal that was made elsewhere, such as in a worker thread, thrown here. */
export const refusedAgain = (made: {
	status: number;
	code: string;
	message: string;
	fields: FieldError[];
}): AppError => new AppError(made.status, made.code, made.message, made.fields);

/** Errors of the driver that say that the database is not there, or has gone amid a query. */
const GONE = new Set([
	'ECONNREFUSED',
	'ECONNRESET',
	'EPIPE',
	'ENOENT',
	'ETIMEDOUT',
	'PROTOCOL_CONNECTION_LOST',
	'ER_SERVER_SHUTDOWN',
	'ER_CONNECTION_KILLED',
	// A node that is cut off from its cluster, or still joins it, refuses every statement so.
	'ER_UNKNOWN_COM_ERROR'
]);

/** Whether an error is the database being away, and nothing of the request. */
export function isDatabaseGone(error: unknown): boolean {
	const { name = '', parent } = (error ?? {}) as { name?: string; parent?: { code?: string } };
	return name.startsWith('SequelizeConnection') || GONE.has(parent?.code ?? '');
}

/** Errors that say that others were in the way for longer than it was tried again. */
const CONTENDED = new Set(['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT']);

/** Whether an error is others being in the way: nothing was done, and the same may be asked again. */
export const isContended = (error: unknown): boolean =>
	CONTENDED.has((error as { parent?: { code?: string } } | undefined)?.parent?.code ?? '');

export const notFound = (what: string): AppError => refusal('not-found', what);

export const forbidden = (what: string): AppError => refusal('forbidden', what);

export const unauthenticated = (): AppError => refusal('signed-out');

export const invalid = (fields: FieldError[]): AppError =>
	refusal('invalid-input', fields).with(fields);

/** A rule across the two ends refuses, in its own words. */
export const againstRule = ({ code, message }: BatonRefusal): AppError =>
	new AppError(409, code, message);
