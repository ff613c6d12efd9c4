/**
 * The entry at a place that the caller knows to be there. A place outside is a mistake in the program
 * and says so, where an assertion would let `undefined` run on as a number.
 *
 * @param place from 0 to length − 1
 * @throws RangeError for a place outside the list
 */
export function itemAt<T>(list: ArrayLike<T>, place: number): T {
	const item = list[place];
	if (item === undefined && !(place in list)) {
		throw new RangeError(`no place ${place} in a list of ${list.length}`);
	}
	return item as T;
}

/**
 * The last entry of a list that the caller knows to hold one.
 *
 * @throws RangeError for an empty list
 */
export function lastOf<T>(list: ArrayLike<T>): T {
	return itemAt(list, list.length - 1);
}

/**
 * What a look-up found that the caller knows to be there, such as an entry of a table it has just
 * filled.
 *
 * @param what of what it is, for the message
 * @throws RangeError where it is missing
 */
export function present<T>(found: T | null | undefined, what: string): T {
	if (found === null || found === undefined) throw new RangeError(`no ${what}`);
	return found;
}

/**
 * A list in parts of so many entries, the last with what is left.
 *
 * @param size 1 or more
 * @throws RangeError for a size below 1
 */
export function partsOf<T>(list: readonly T[], size: number): T[][] {
	if (size < 1) throw new RangeError(`parts of ${size}`);
	return Array.from({ length: Math.ceil(list.length / size) }, (_, i) =>
		list.slice(i * size, (i + 1) * size)
	);
}
