import { AppError, type FieldError } from '../errors';
import { TASKS, type TaskInput, type TaskName } from './tasks';

export interface Job<N extends TaskName = TaskName> {
	name: N;
	input: TaskInput<N>;
}

/** What comes back: a value, or a refusal in its parts, since a class does not survive the copy. */
export type Outcome =
	| { value: unknown }
	| { refused: { status: number; code: string; message: string; fields: FieldError[] } };

/** Does one job in a worker thread. */
export default async function work({ name, input }: Job): Promise<Outcome> {
	try {
		return { value: await (TASKS[name] as (input: unknown) => unknown)(input) };
	} catch (error) {
		if (!(error instanceof AppError)) throw error;
		const { status, code, message, fields } = error;
		return { refused: { status, code, message, fields } };
	}
}
