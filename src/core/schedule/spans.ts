/** A stretch of time, minutes since 1970 UTC; `to` is no longer in it. */
export interface Span {
	from: number;
	to: number;
}

/** Stretches that are in order and apart. */
export type Spans = readonly Span[];

/**
 * The same stretches in order, those that touch as one, empty ones left out.
 *
 * @param spans in any order, over one another or not
 */
export function joined(spans: Spans): Span[] {
	const result: Span[] = [];
	for (const { from, to } of [...spans].sort((p, q) => p.from - q.from)) {
		if (to <= from) continue;
		const last = result.at(-1);
		if (last && from <= last.to) last.to = Math.max(last.to, to);
		else result.push({ from, to });
	}
	return result;
}

/** What is in both. */
export function inBoth(some: Spans, others: Spans): Span[] {
	const result: Span[] = [];
	let i = 0;
	let j = 0;
	for (;;) {
		const one = some[i];
		const other = others[j];
		if (!one || !other) return result;
		const from = Math.max(one.from, other.from);
		const to = Math.min(one.to, other.to);
		if (to > from) result.push({ from, to });
		if (one.to < other.to) i += 1;
		else j += 1;
	}
}

/** What is in the first and not in the second. */
export function without(some: Spans, taken: Spans): Span[] {
	const result: Span[] = [];
	for (const { from, to } of some) {
		let at = from;
		for (const gone of taken) {
			if (gone.to <= Math.max(at, gone.from)) continue;
			if (gone.from >= to) break;
			if (gone.from > at) result.push({ from: at, to: gone.from });
			at = Math.max(at, gone.to);
		}
		if (at < to) result.push({ from: at, to });
	}
	return result;
}

/**
 * Place of the first stretch that ends after a moment; their number where none does.
 *
 * @param moment minutes since 1970 UTC, any
 */
export function firstEndingAfter(spans: Spans, moment: number): number {
	let low = 0;
	let high = spans.length;
	while (low < high) {
		const middle = (low + high) >> 1;
		const span = spans[middle];
		if (span && span.to <= moment) low = middle + 1;
		else high = middle;
	}
	return low;
}

/**
 * The earliest moment from which a stretch of some length lies wholly within one of the spans.
 *
 * @param notBefore minutes since 1970 UTC, any
 * @param minutes length, 0 or more
 * @returns undefined where none is long enough
 */
export function earliestWithin(
	spans: Spans,
	notBefore: number,
	minutes: number
): number | undefined {
	for (let at = firstEndingAfter(spans, notBefore); at < spans.length; at += 1) {
		const span = spans[at];
		if (!span) return undefined;
		const start = Math.max(span.from, notBefore);
		if (start + minutes <= span.to) return start;
	}
	return undefined;
}

/**
 * Minutes of the spans up to a moment.
 *
 * @param moment minutes since 1970 UTC, any
 */
export function minutesUntil(spans: Spans, moment: number): number {
	let sum = 0;
	for (const { from, to } of spans) {
		if (from >= moment) break;
		sum += Math.min(to, moment) - from;
	}
	return sum;
}
