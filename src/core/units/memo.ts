/**
 * Remembers what was made of an object that nobody changes, such as a frozen plan, for as long as the
 * object is held; `key` tells several things made of one object apart.
 */
export function remembered<Made>(): (of: object, key: string, make: () => Made) => Made {
	const made = new WeakMap<object, Map<string, Made>>();
	return (of, key, make) => {
		const known = made.get(of) ?? new Map<string, Made>();
		made.set(of, known);
		const found = known.get(key);
		if (found !== undefined) return found;
		const fresh = make();
		known.set(key, fresh);
		return fresh;
	};
}
