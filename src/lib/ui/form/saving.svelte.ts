import type { Attachment } from 'svelte/attachments';
import { ApiRefusal, type FieldProblem } from '../api';

const idOf = (field: string): string => `field-${field.replaceAll('.', '-')}`;

/** State of a form's saving: busy, what was refused, and at which fields. */
export class Saving {
	busy = $state(false);
	message: string | undefined = $state();
	/** The kind of the refusal, as the server names it. */
	code: string | undefined = $state();
	problems: FieldProblem[] = $state([]);
	#form: HTMLElement | undefined;

	/** Runs the work; afterwards tells whether it went through. */
	async run(work: () => Promise<void>): Promise<boolean> {
		if (this.busy) return false;
		this.busy = true;
		this.message = undefined;
		this.code = undefined;
		this.problems = [];
		try {
			await work();
			return true;
		} catch (error) {
			this.message = error instanceof Error ? error.message : 'It did not work.';
			if (error instanceof ApiRefusal) {
				this.problems = error.fields;
				this.code = error.code;
			}
			// Once it is drawn: a form may first have to open the sheet on which the field stands.
			requestAnimationFrame(() => requestAnimationFrame(() => this.#showFirst()));
			return false;
		} finally {
			this.busy = false;
		}
	}

	/**
	 * For a form: after a refusal its first wrong field is in view and has the focus, and what was said of a
	 * field goes as soon as the field is changed.
	 */
	readonly form: Attachment<HTMLElement> = (form) => {
		this.#form = form;
		const changed = (event: Event): void => {
			const { id, name } = event.target as HTMLInputElement;
			const left = this.problems.filter(({ field }) => field !== name && idOf(field) !== id);
			if (left.length === this.problems.length) return;
			this.problems = left;
			if (left.length === 0) this.message = undefined;
		};
		form.addEventListener('input', changed);
		return () => {
			form.removeEventListener('input', changed);
			this.#form = undefined;
		};
	};

	#showFirst(): void {
		const wrong = this.#form?.querySelector<HTMLElement>('[aria-invalid=true]');
		const shown = wrong ?? this.#form?.querySelector<HTMLElement>('[role=alert]');
		wrong?.focus({ preventScroll: true });
		shown?.scrollIntoView({ block: 'center' });
	}

	errorAt(field: string): string | undefined {
		return this.problems.find((problem) => problem.field === field)?.message;
	}

	/** Problems at fields that are not among the given ones, so that nothing goes unsaid. */
	others(fields: readonly string[]): FieldProblem[] {
		return this.problems.filter((problem) => !fields.includes(problem.field));
	}
}
