import { browser } from '$app/environment';
import type { End } from '#core/ends';

/** Where a form of an end stands: typing is kept for that person, hop, end and form. */
export interface DraftPlace {
	hopId: string;
	end: End;
	/** Which form, with what tells it from others of its kind, such as `step-hoist`. */
	form: string;
	/** Who types: a tablet is shared. */
	userId: string;
}

/** What crews type at an end, kept on the device over a reload until it is recorded or thrown away. */
export class FieldDraft<T extends object> {
	values: T = $state()!;
	/** True when something typed before a reload was put back. */
	restored = $state(false);
	readonly #key: string;
	readonly #empty: string;

	/** @param empty what the form holds before anybody types; only its keys are put back */
	constructor({ hopId, end, form, userId }: DraftPlace, empty: T) {
		this.#key = `skiaxis-field-${userId}-${hopId}-${end}-${form}`;
		this.#empty = JSON.stringify(empty);
		this.values = empty;
		if (!browser) return;
		try {
			const kept = JSON.parse(localStorage.getItem(this.#key) ?? 'null') as Partial<T> | null;
			if (kept && typeof kept === 'object') {
				const known = Object.entries(kept).filter(([key]) => key in empty);
				this.values = { ...empty, ...(Object.fromEntries(known) as Partial<T>) };
				this.restored = JSON.stringify(this.values) !== this.#empty;
			}
		} catch {
			// A draft that cannot be read is no draft.
		}
		$effect(() => {
			const text = JSON.stringify(this.values);
			try {
				if (text === this.#empty) localStorage.removeItem(this.#key);
				else localStorage.setItem(this.#key, text);
			} catch {
				// Storage may be full or forbidden; the form still works.
			}
		});
	}

	/** It is recorded now, or thrown away: the form is empty again. */
	clear(): void {
		this.restored = false;
		this.values = JSON.parse(this.#empty) as T;
		try {
			if (browser) localStorage.removeItem(this.#key);
		} catch {
			// Nothing to forget then.
		}
	}
}
