/** One page of a list, cut on the server. */
export interface Page<T> {
	rows: T[];
	count: number;
	page: number;
	pages: number;
}

export const PAGE_SIZE = 20;

export async function pageOf<T>(
	page: number,
	load: (limit: number, offset: number) => Promise<{ rows: T[]; count: number }>
): Promise<Page<T>> {
	const { rows, count } = await load(PAGE_SIZE, (page - 1) * PAGE_SIZE);
	return { rows, count, page, pages: Math.max(1, Math.ceil(count / PAGE_SIZE)) };
}
