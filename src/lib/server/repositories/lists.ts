/** Which part of a list is asked for. */
export interface Slice {
	limit: number;
	offset: number;
	/** The `next` of the page before: the list goes on from there, however far in that is. */
	after?: string;
}

/** A part of a list. */
export interface Found<T> {
	rows: T[];
	/** How many there are; where `more` is set, at least so many. */
	count: number;
	more?: boolean;
	/** What the next part is asked for with; null on the last one. */
	next?: string | null;
}

/** More than so many are not counted: nobody turns so many pages. */
export const COUNTED = 1000;
