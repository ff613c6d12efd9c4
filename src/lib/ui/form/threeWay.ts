const isGroup = (value: unknown): value is Record<string, unknown> =>
	value !== null && typeof value === 'object' && !Array.isArray(value);

const same = (a: unknown, b: unknown): boolean =>
	a === b || JSON.stringify(a) === JSON.stringify(b);

/**
 * What somebody typed on top of what was saved then, brought onto what is saved now: at each field the typed
 * value where they had changed it, else the value of now. A list is one field. A field that the typing began
 * with and that is gone now stays gone: a form of an older version of this page may have had others.
 *
 * @param base what was saved when the typing began
 * @param typed what was typed on top of it
 * @param now what is saved now; gives the fields
 */
export function broughtOnto<T extends object>(base: unknown, typed: unknown, now: T): T {
	const result: Record<string, unknown> = {};
	const was = isGroup(base) ? base : {};
	const meant = isGroup(typed) ? typed : {};
	for (const [key, value] of Object.entries(now)) {
		if (!(key in meant)) result[key] = value;
		else if (isGroup(value) && isGroup(meant[key])) {
			result[key] = broughtOnto(was[key], meant[key], value);
		} else result[key] = same(meant[key], was[key]) ? value : meant[key];
	}
	// Answers are kept by what they answer: such a field is there only once it is answered.
	for (const key of Object.keys(meant)) {
		if (!(key in now) && !(key in was)) result[key] = meant[key];
	}
	return result as T;
}
