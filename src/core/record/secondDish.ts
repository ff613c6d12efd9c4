import type { End } from '../ends';
import type { FieldRecord, OfDish, RecordKind, RecordPayloads } from './records';

/** Dishes of an end that are aligned, each by itself. */
export type DishNumber = 1 | 2;

/** What tells the second dish from the first in a name, and in a sentence. */
export const dishSuffix = (dish: DishNumber): string => (dish === 2 ? '-second' : '');
export const dishWords = (dish: DishNumber): string => (dish === 2 ? ', second dish' : '');

/** Kinds of record that are about one dish of their end. */
export const KINDS_OF_A_DISH = [
	'reading',
	'move',
	'sweep',
	'baton',
	'aimed',
	'advice',
	'mount-turn',
	'calibration',
	'remedy',
	'lock-step',
	'loosen',
	'test-result'
] as const satisfies readonly RecordKind[];

const OF_A_DISH: ReadonlySet<RecordKind> = new Set(KINDS_OF_A_DISH);

/** Whether a record of this kind is about one dish of its end, and may say that it is the second. */
export const isOfADish = (kind: RecordKind): boolean => OF_A_DISH.has(kind);

type Recorded = { kind: RecordKind; payload: RecordPayloads[RecordKind] };

/** Whether a record is about the second dish of its end. */
export function isOfSecond({ payload }: Recorded): boolean {
	return (payload as OfDish).dish === 2;
}

/** A record about a second dish as the hop of that dish alone would have it. */
export function asOfFirst(record: FieldRecord): FieldRecord {
	const payload = Object.fromEntries(
		Object.entries(record.payload).filter(([key]) => key !== 'dish')
	);
	return { ...record, payload } as FieldRecord;
}

/** What the parts of a second dish are called in the hop of that dish alone. */
const NAMES_THERE: Readonly<Record<string, string>> = {
	'second-dish': 'dish',
	'second-mount': 'mount'
};

/** Parts of the first dish alone: changed for others, they are nothing to the second. */
const OF_FIRST: ReadonlySet<string> = new Set(['dish', 'mount', 'coupling']);

/**
 * What a record that is not about a second dish itself says to the hop of that dish; undefined where it
 * says nothing to it.
 *
 * @param stands end whose first dish it looks at; null where both second dishes look at each other
 */
export function saidToSecond(record: FieldRecord, stands: End | null): FieldRecord | undefined {
	// A fault that was set right on one dish’s hop is right on the other’s, for all that they share.
	if (record.kind === 'remedy') return asOfFirst(record);
	if (record.end === stands) return isOfSecond(record) ? undefined : record;
	switch (record.kind) {
		case 'feed-turn':
			return undefined;
		case 'part-replaced': {
			const { part } = record.payload;
			if (OF_FIRST.has(part)) return undefined;
			const there = NAMES_THERE[part] ?? part;
			return { ...record, payload: { ...record.payload, part: there } };
		}
		case 'baton':
			return record;
		default:
			return isOfADish(record.kind) ? undefined : record;
	}
}

/**
 * A record as the hop of an end’s second dish has it, about that dish itself or about what it looks at;
 * undefined where it says nothing to it.
 *
 * @param stands as of {@link saidToSecond}
 */
export function inSecondHop(
	record: FieldRecord,
	end: End,
	stands: End | null
): FieldRecord | undefined {
	if (!isOfSecond(record) || record.kind === 'remedy') return saidToSecond(record, stands);
	return stands === null || record.end === end ? asOfFirst(record) : undefined;
}
