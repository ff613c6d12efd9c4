import type { End } from '#core/ends';
import { viewerOf, requireMay, type Actor } from '../auth/actor';
import { TakenError } from '../db/taken';
import { inTransaction } from '../db/transaction';
import { refusal } from '../errors';
import { assignmentsOf, type Assignment } from '../repositories/assignments';
import {
	countBoard,
	pageOfBoard,
	regionsOfProjects,
	type BoardChoice,
	type BoardCounts,
	type BoardLine
} from '../repositories/board';
import { keepView, removeView, viewsOf, type BoardView } from '../repositories/boardViews';
import { allCrews } from '../repositories/crews';
import { pageOf, type ListQuery, type Page } from './paging';
import { freshStands } from './stands';

export type { BoardChoice, BoardCounts, BoardLine, BoardView };

/** A crew at an end, as the board shows it. */
export interface CrewThere {
	end: End;
	crewId: string;
	name: string;
	day: string;
}

export interface BoardRow extends BoardLine {
	/** At each end the crew that comes next, or was there last. */
	crews: CrewThere[];
}

export interface Board extends Page<BoardRow> {
	counts: BoardCounts;
	/** Hops whose records are not read yet: they stand as they did before. */
	behind: number;
}

export type BoardQuery = BoardChoice & ListQuery;

const todayText = (): string => new Date().toISOString().slice(0, 10);

/** Every hop by where its ends stand, a page at a time. */
export async function readBoard(actor: Actor, query: BoardQuery): Promise<Board> {
	requireMay(actor, 'read-hops');
	const behind = await freshStands();
	const today = todayText();
	const viewer = viewerOf(actor);
	const page = await pageOf(query, (slice) => pageOfBoard(viewer, query, slice, today));
	const crews = await crewsAt(
		page.rows.map(({ id }) => id),
		today
	);
	return {
		...page,
		rows: page.rows.map((row) => ({ ...row, crews: crews.get(row.id) ?? [] })),
		counts: await countBoard(viewer, query, today),
		behind
	};
}

/** At each end of some hops the crew of the next day it is assigned for, else of the last one. */
async function crewsAt(
	hopIds: readonly string[],
	today: string
): Promise<ReadonlyMap<string, CrewThere[]>> {
	const all = await assignmentsOf(hopIds);
	const names = new Map((await allCrews()).map(({ id, name }) => [id, name]));
	const found = new Map<string, Assignment>();
	for (const one of all) {
		const key = `${one.hopId}${one.end}`;
		const before = found.get(key);
		if (!before || before.day < today) found.set(key, one);
	}
	const byHop = new Map<string, CrewThere[]>();
	for (const { hopId, end, crewId, day } of found.values()) {
		const there = { end, crewId, day, name: names.get(crewId) ?? '' };
		byHop.set(hopId, [...(byHop.get(hopId) ?? []), there]);
	}
	return byHop;
}

/** What the board can be narrowed to beside what stands on it. */
export const boardRegions = (): Promise<string[]> => regionsOfProjects();

export const listViews = (actor: Actor): Promise<BoardView[]> => viewsOf(actor.userId);

/** More views than this nobody finds their way in. */
const MOST_VIEWS = 30;

/** Keeps a way to look at the board, for who asks. A repeat does nothing more. */
export async function saveView(actor: Actor, view: BoardView): Promise<BoardView[]> {
	try {
		return await inTransaction(async (unit) => {
			await keepView(actor.userId, view, unit);
			const kept = await viewsOf(actor.userId, unit);
			if (kept.length > MOST_VIEWS) throw refusal('too-many-views', MOST_VIEWS);
			return kept;
		});
	} catch (error) {
		if (error instanceof TakenError) throw refusal('name-taken', 'view').at('name');
		throw error;
	}
}

export async function deleteView(actor: Actor, id: string): Promise<void> {
	await removeView(actor.userId, id);
}
