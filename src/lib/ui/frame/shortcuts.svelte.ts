import { Opening } from '../form/opening.svelte';

/** One thing that a key does on the page that is open. */
export interface Shortcut {
	key: string;
	/** What it does, as the list of keys says it. */
	does: string;
	run: () => void;
}

const KEY = 'skiaxis-keys';

function wereOn(): boolean {
	try {
		return localStorage.getItem(KEY) !== 'off';
	} catch {
		return true;
	}
}

/** What is typed into a field is typing, and a key that a control uses is the control's. */
const isTaken = (event: KeyboardEvent): boolean =>
	event.defaultPrevented ||
	event.ctrlKey ||
	event.metaKey ||
	event.altKey ||
	(event.target instanceof HTMLElement &&
		event.target.closest(
			'input, textarea, select, [contenteditable], [role=slider], [role=dialog]'
		) !== null);

/** The keys of the page that is open. Whoever speaks to their device can switch them off. */
class Shortcuts {
	on = $state(true);
	/** The list of all keys. */
	readonly list = new Opening();
	#sets: Shortcut[][] = $state.raw([]);

	get all(): Shortcut[] {
		return this.#sets.flat();
	}

	/** Adds the keys of a page or panel; returns how to take them away again. */
	use(set: Shortcut[]): () => void {
		this.#sets = [...this.#sets, set];
		return () => {
			this.#sets = this.#sets.filter((one) => one !== set);
		};
	}

	/** Listens; browser only. */
	start(): () => void {
		this.on = wereOn();
		const pressed = (event: KeyboardEvent): void => {
			if (isTaken(event)) return;
			if (event.key === '?') this.list.open = true;
			else {
				const found = this.on && this.all.find(({ key }) => key === event.key);
				if (!found) return;
				found.run();
			}
			event.preventDefault();
		};
		addEventListener('keydown', pressed);
		return () => removeEventListener('keydown', pressed);
	}

	switch(on: boolean): void {
		this.on = on;
		try {
			localStorage.setItem(KEY, on ? 'on' : 'off');
		} catch {
			// Then it holds for this page.
		}
	}
}

export const shortcuts = new Shortcuts();

/** The one next action of the page, as its main button; the first one in view where there are several. */
export function mainButton(): HTMLElement | undefined {
	const found = document.querySelectorAll<HTMLElement>('#work .btn-main:not(:disabled)');
	return [...found].find((button) => button.offsetParent !== null);
}
