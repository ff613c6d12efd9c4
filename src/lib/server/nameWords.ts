/** Longest word that is kept, in characters: as long as a name. */
const LONGEST = 80;
/** Where a word may be begun in the middle: letters meet digits, or the script puts no space between words. */
const INNER_STARTS =
	/(?<=\p{L})(?=\p{N})|(?<=\p{N})(?=\p{L})|(?<=[\p{sc=Han}\p{sc=Hira}\p{sc=Kana}\p{sc=Hang}\p{sc=Thai}])/gu;

function runsOf(text: string): string[] {
	const plain = text.normalize('NFKD').replace(/\p{M}/gu, '').normalize('NFC').toLowerCase();
	return plain.match(/[\p{L}\p{N}]+/gu) ?? [];
}

const cut = (word: string): string => Array.from(word).slice(0, LONGEST).join('');

/**
 * The words by which names are found: small letters without accents; a run of letters and digits each,
 * and its rests from where letters meet digits. Kept in the tables of words, and written the same by
 * the migration that fills them.
 */
export function wordsOf(...names: readonly string[]): string[] {
	const words = new Set<string>();
	for (const run of runsOf(names.join(' '))) {
		words.add(cut(run));
		for (const { index } of run.matchAll(INNER_STARTS)) {
			if (index > 0 && index < run.length) words.add(cut(run.slice(index)));
		}
	}
	return [...words];
}

/** So many words narrow a search down; further ones are not looked at. */
const MOST_SOUGHT = 8;

/** The beginnings of words that are looked for; none where nothing typed is a letter or digit. */
export function soughtWords(typed: string): string[] {
	return [...new Set(runsOf(typed).map(cut))].slice(0, MOST_SOUGHT);
}
