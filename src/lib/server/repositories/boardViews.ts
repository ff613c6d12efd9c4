import { boardViews } from '../db/tables';
import type { Unit } from '../db/transaction';

/** A way to look at the board that somebody keeps. */
export interface BoardView {
	id: string;
	name: string;
	/** What it asks for, as it stands in an address. */
	query: string;
}

export async function viewsOf(userId: string, unit?: Unit): Promise<BoardView[]> {
	const rows = await boardViews.all(
		{ userId },
		{ order: [['name', 'ASC']], ...(unit ? { unit } : {}) }
	);
	return rows.map(({ id, name, query }) => ({ id, name, query }));
}

/** Keeps a view, in place of one under the same id. Throws TakenError where its name is another one's. */
export async function keepView(userId: string, view: BoardView, unit: Unit): Promise<void> {
	await boardViews.remove({ id: view.id, userId }, unit);
	await boardViews.add({ ...view, userId }, unit);
}

export const removeView = (userId: string, id: string): Promise<number> =>
	boardViews.remove({ id, userId });
