import { browser } from '$app/environment';
import { page } from '$app/state';
import { broughtOnto } from './threeWay';

/** Where a form in the field stands: typing is kept for that person, hop or hub, end or station, and form. */
export interface DraftPlace {
	/** Id of the hop, or of the hub. */
	hopId: string;
	/** The end of the hop, or the unit or terminal of the hub. */
	end: string;
	/** Which form, with what tells it from others of its kind, such as `step-hoist`. */
	form: string;
	/** Who types: a tablet is shared. */
	userId: string;
}

/** What is kept of a form: what was typed, and on top of what. */
interface Kept {
	base: unknown;
	typed: unknown;
}

/**
 * Typing that survives a reload, a lost connection and an ended session: kept on the device, for the person who
 * types, until it is saved or thrown away. What somebody else saves meanwhile is taken over wherever this
 * person has typed nothing.
 */
export class Draft<T extends object> {
	values: T = $state()!;
	/** Something typed earlier was found and put back. */
	restored = $state(false);
	/** What was put back was typed on top of values that somebody has changed since. */
	savedMeanwhile = $state(false);
	/** What was thrown away last, until something else is typed or saved. */
	#thrownAway: T | undefined = $state.raw();
	#base: string = $state('');
	readonly #key: string;

	/** @param saved what the form holds before anybody types; gives its fields */
	constructor(place: string | DraftPlace, saved: T) {
		this.#key =
			typeof place === 'string'
				? `skiaxis-draft-${(page.data as { actor?: { userId: string } }).actor?.userId ?? ''}-${place}`
				: `skiaxis-field-${place.userId}-${place.hopId}-${place.end}-${place.form}`;
		this.#base = JSON.stringify(saved);
		this.values = saved;
		if (!browser) return;
		this.#takeUp(saved);
		$effect(() => this.#keep(JSON.stringify(this.values)));
	}

	#takeUp(saved: T): void {
		try {
			const kept = JSON.parse(localStorage.getItem(this.#key) ?? 'null') as Kept | object | null;
			if (!kept || typeof kept !== 'object') return;
			// An earlier version of this page kept what was typed alone.
			const { base, typed } = 'typed' in kept ? kept : { base: saved, typed: kept };
			this.values = broughtOnto(base, typed, saved);
			this.restored = this.changed;
			this.savedMeanwhile = this.restored && JSON.stringify(base) !== this.#base;
		} catch {
			// A draft that cannot be read is no draft.
		}
	}

	#keep(text: string): void {
		try {
			if (text === this.#base) localStorage.removeItem(this.#key);
			else localStorage.setItem(this.#key, `{"base":${this.#base},"typed":${text}}`);
		} catch {
			// Storage may be full or forbidden; the form still works.
		}
	}

	/** Whether anything is typed that is not saved. */
	get changed(): boolean {
		return JSON.stringify(this.values) !== this.#base;
	}

	/** It is saved or recorded now: the form is as it was before anybody typed. */
	clear(): void {
		this.values = JSON.parse(this.#base) as T;
		this.#settled();
	}

	/** The server has these values now; what was typed since they were sent stays typed. */
	savedAs(sent: T): void {
		this.#base = JSON.stringify(sent);
		this.#settled();
	}

	/** Throws away what is typed; {@link undo} brings it back. */
	discard(): void {
		const typed = JSON.parse(JSON.stringify(this.values)) as T;
		this.clear();
		this.#thrownAway = typed;
	}

	get mayUndo(): boolean {
		return this.#thrownAway !== undefined && !this.changed;
	}

	undo(): void {
		if (!this.#thrownAway) return;
		this.values = this.#thrownAway;
		this.#thrownAway = undefined;
	}

	#settled(): void {
		this.restored = false;
		this.savedMeanwhile = false;
		this.#thrownAway = undefined;
		if (browser) this.#keep(JSON.stringify(this.values));
	}
}
