import { browser } from '$app/environment';

/** Typing that survives a reload and a lost connection: kept on the device until it is saved. */
export class Draft<T extends object> {
	values: T = $state()!;
	/** True when something typed earlier was found and put back. */
	restored = $state(false);
	readonly #key: string;

	constructor(key: string, saved: T) {
		this.#key = `skiaxis-draft-${key}`;
		this.values = saved;
		if (!browser) return;
		try {
			const kept = localStorage.getItem(this.#key);
			if (kept && kept !== JSON.stringify(saved)) {
				this.values = merged(saved, JSON.parse(kept));
				this.restored = true;
			}
		} catch {
			// A draft that cannot be read is no draft.
		}
		$effect(() => {
			const text = JSON.stringify(this.values);
			try {
				localStorage.setItem(this.#key, text);
			} catch {
				// Storage may be full or forbidden; the form still works.
			}
		});
	}

	/** What was typed is saved on the server now, or thrown away. */
	clear(): void {
		this.restored = false;
		try {
			localStorage.removeItem(this.#key);
		} catch {
			// Nothing to forget then.
		}
	}

	replace(values: T): void {
		this.values = values;
		this.clear();
	}
}

/** Values kept by an older form take only the keys that the form still has. */
function merged<T extends object>(saved: T, kept: unknown): T {
	const result = structuredClone(saved) as Record<string, unknown>;
	for (const [key, value] of Object.entries((kept ?? {}) as Record<string, unknown>)) {
		if (!(key in result)) continue;
		const own = result[key];
		result[key] =
			own !== null && typeof own === 'object' && !Array.isArray(own) ? merged(own, value) : value;
	}
	return result as T;
}
