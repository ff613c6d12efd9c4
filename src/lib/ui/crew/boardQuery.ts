/** What the board is asked for, as it stands in its address. */
export type BoardAsked = Partial<
	Record<'q' | 'project' | 'crew' | 'region' | 'stage' | 'waits' | 'flag' | 'sort', string>
>;

const USUAL: BoardAsked = { flag: 'all', sort: 'waiting' };
const NAMES = ['q', 'project', 'crew', 'region', 'stage', 'waits', 'flag', 'sort'] as const;

/** The address of the board with some of its choices changed, from its first page; what is usual is not said. */
export function boardSearch(asked: BoardAsked, change: BoardAsked = {}): string {
	const all = { ...asked, ...change };
	const said = NAMES.flatMap((name) => {
		const value = all[name];
		return value && value !== USUAL[name] ? [[name, value]] : [];
	});
	return new URLSearchParams(said).toString();
}

/** The choices alone, without the page, of a question that holds more. */
export const askedOf = (query: BoardAsked & { page: number }): BoardAsked =>
	Object.fromEntries(
		NAMES.flatMap((name) => (query[name] === undefined ? [] : [[name, query[name]]]))
	);
