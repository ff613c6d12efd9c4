import type { Found, Slice } from '../repositories/lists';

/** One page of a list, cut on the server. */
export interface Page<T> {
	rows: T[];
	/** How many there are; where `more` is set, at least so many. */
	count: number;
	page: number;
	/** The same of pages. */
	pages: number;
	/** Whether there are more than were counted. */
	more: boolean;
	/** The `after` with which the next page is asked for; null on the last one, or where pages are numbered only. */
	next: string | null;
}

/** What is asked of a list. */
export interface ListQuery {
	/** Words looked for; empty for everything. */
	q: string;
	page: number;
	/** The `next` of the page before, where there is one. */
	after?: string;
}

export const PAGE_SIZE = 20;

export async function pageOf<T>(
	{ page, after }: Pick<ListQuery, 'page' | 'after'>,
	load: (slice: Slice) => Promise<Found<T>>
): Promise<Page<T>> {
	const slice = { limit: PAGE_SIZE, offset: (page - 1) * PAGE_SIZE, ...(after ? { after } : {}) };
	const { rows, count, more = false, next = null } = await load(slice);
	return { rows, count, page, pages: Math.max(1, Math.ceil(count / PAGE_SIZE)), more, next };
}
