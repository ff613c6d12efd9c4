import { ApiRefusal, type FieldProblem } from '../api';

/** State of a form's saving: busy, what was refused, and at which fields. */
export class Saving {
	busy = $state(false);
	message: string | undefined = $state();
	problems: FieldProblem[] = $state([]);

	/** Runs the work; afterwards tells whether it went through. */
	async run(work: () => Promise<void>): Promise<boolean> {
		if (this.busy) return false;
		this.busy = true;
		this.message = undefined;
		this.problems = [];
		try {
			await work();
			return true;
		} catch (error) {
			this.message = error instanceof Error ? error.message : 'It did not work.';
			if (error instanceof ApiRefusal) this.problems = error.fields;
			return false;
		} finally {
			this.busy = false;
		}
	}

	errorAt(field: string): string | undefined {
		return this.problems.find((problem) => problem.field === field)?.message;
	}

	/** Problems at fields that are not among the given ones, so that nothing goes unsaid. */
	others(fields: readonly string[]): FieldProblem[] {
		return this.problems.filter((problem) => !fields.includes(problem.field));
	}
}
