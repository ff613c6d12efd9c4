import { ENDS } from '#core/ends';
import { itemAt } from '#core/units/lists';
import { run, select } from '../db/sql';
import type { Unit } from '../db/transaction';
import { wordsOf } from '../nameWords';
import { COUNTED } from './lists';

/** What is found by the words of its name. */
type Named = 'site' | 'hop';

const ROWS_AT_ONCE = 500;

async function insertWords(
	of: Named,
	rows: readonly [string, string][],
	unit: Unit
): Promise<void> {
	for (let at = 0; at < rows.length; at += ROWS_AT_ONCE) {
		const part = rows.slice(at, at + ROWS_AT_ONCE);
		await run(`INSERT INTO ${of}_words (${of}_id, word) VALUES ?`, [part], unit);
	}
}

/** Sites are found by their names from here on. */
export async function addSiteWords(
	sites: readonly { id: string; name: string }[],
	unit: Unit
): Promise<void> {
	const rows = sites.flatMap(({ id, name }) =>
		wordsOf(name).map((word): [string, string] => [id, word])
	);
	await insertWords('site', rows, unit);
}

/** Hops that were not there before are found by their own names and those of both sites from here on. */
export async function addHopWords(ids: readonly string[], unit: Unit): Promise<void> {
	if (ids.length === 0) return;
	const hops = await select<{ id: string; name: string; siteA: string; siteB: string }>(
		`SELECT h.id, h.name, a.name AS siteA, b.name AS siteB FROM hops h
		JOIN sites a ON a.id = h.site_a_id JOIN sites b ON b.id = h.site_b_id WHERE h.id IN (?)`,
		[ids],
		unit
	);
	const rows = hops.flatMap(({ id, name, siteA, siteB }) =>
		wordsOf(name, siteA, siteB).map((word): [string, string] => [id, word])
	);
	await insertWords('hop', rows, unit);
}

/** The same of hops named anew or moved to other sites: they are found by what they were called no more. */
export async function renewHopWords(ids: readonly string[], unit: Unit): Promise<void> {
	if (ids.length === 0) return;
	await run('DELETE FROM hop_words WHERE hop_id IN (?)', [ids], unit);
	await addHopWords(ids, unit);
}

/** The same of a site that is named anew, and of the hops that stand at it. */
export async function renewSiteWords(id: string, name: string, unit: Unit): Promise<void> {
	await run('DELETE FROM site_words WHERE site_id = ?', [id], unit);
	await addSiteWords([{ id, name }], unit);
	const hops = new Set<string>();
	for (const end of ENDS) {
		const column = { A: 'site_a_id', B: 'site_b_id' }[end];
		const found = await select<{ id: string }>(
			`SELECT id FROM hops WHERE ${column} = ?`,
			[id],
			unit
		);
		for (const hop of found) hops.add(hop.id);
	}
	await renewHopWords([...hops], unit);
}

/** How to look for words: by the rarest of them, or one after the other in the order of the list. */
export interface WordSearch {
	/** Whether so many are named like the rarest word that the list is better read in its order. */
	common: boolean;
	/** Beginnings of words as `LIKE` takes them, the rarest first. */
	patterns: string[];
}

/** Which of the words to begin with; they are letters and digits, so that no wildcard is among them. */
export async function planSearch(of: Named, words: readonly string[]): Promise<WordSearch> {
	const one = `SELECT COUNT(*) AS count FROM (SELECT 1 FROM ${of}_words WHERE word LIKE ? LIMIT ?) x`;
	const patterns = words.map((word) => `${word}%`);
	const found = await select<{ count: number }>(
		patterns.map((_, at) => `SELECT ${at} AS nth, c.count FROM (${one}) c`).join(' UNION ALL ') +
			' ORDER BY nth',
		patterns.flatMap((pattern) => [pattern, COUNTED + 1])
	);
	const counts = patterns
		.map((pattern, at) => ({ pattern, count: itemAt(found, at).count }))
		.sort((a, b) => a.count - b.count);
	return {
		common: itemAt(counts, 0).count > COUNTED,
		patterns: counts.map(({ pattern }) => pattern)
	};
}

/**
 * A condition on `row.id` that it has words which begin so. A value and no EXISTS: it is looked up row by
 * row, where the optimizer would gather every row with such a word first.
 */
export function hasWords(of: Named, row: string, patterns: readonly string[]): string {
	const one = `(SELECT 1 FROM ${of}_words w WHERE w.${of}_id = ${row}.id AND w.word LIKE ? LIMIT 1)`;
	return patterns.map(() => `${one} IS NOT NULL`).join(' AND ');
}
