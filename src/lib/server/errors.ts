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
}

export const notFound = (what: string): AppError =>
	new AppError(404, 'not-found', `There is no such ${what}, or it is not yours to see.`);

export const forbidden = (what: string): AppError =>
	new AppError(403, 'forbidden', `Your role may not ${what}.`);

export const unauthenticated = (): AppError =>
	new AppError(401, 'signed-out', 'Sign in first: there is no session, or it has ended.');

export const invalid = (fields: FieldError[]): AppError =>
	new AppError(
		422,
		'invalid-input',
		fields.length === 1 ? fields[0]!.message : `${fields.length} fields need another look.`,
		fields
	);

export const conflict = (code: string, message: string, fields: FieldError[] = []): AppError =>
	new AppError(409, code, message, fields);
