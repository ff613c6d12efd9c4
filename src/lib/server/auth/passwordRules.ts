import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';

export const SHORTEST_PASSWORD = 12;
/** Of 0 to 4: from here a password withstands guessing at the rate that the sign-in limit leaves. */
const GOOD_ENOUGH = 3;
/** So much of a password is looked at: what is longer is no easier to guess. */
const LOOKED_AT = 72;

let checker: ZxcvbnFactory | undefined;

/**
 * What is wrong with a new password; undefined where nothing is.
 *
 * @param own words that others know of its owner: their names
 */
export function passwordTrouble(password: string, own: readonly string[]): string | undefined {
	if (password.trim().length < SHORTEST_PASSWORD) {
		return `Take at least ${SHORTEST_PASSWORD} characters; blanks at its ends do not count.`;
	}
	checker ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
	const words = own
		.flatMap((word) => [word, ...word.split(/\s+/)])
		.filter((word) => word.length > 2);
	const { score } = checker.check(password.slice(0, LOOKED_AT), [...words, 'skiaxis']);
	return score < GOOD_ENOUGH
		? 'This password is easily guessed: it is common, or made of a pattern or of names. Take a few words that do not belong together.'
		: undefined;
}
