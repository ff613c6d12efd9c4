import { ENDS, type End } from '../ends';
import type { CardsStanding } from '../safety/cardRule';
import { STOP_CARD_WORDS, type StopCard } from '../safety/stopCards';
import type { RecordKind, RecordPayloads } from './records';

/** The snags of a hop that are open: the day each is due (YYYY-MM-DD), by its id. */
export type OpenSnags = Readonly<Record<string, string>>;

/** The open snags after a record: the same object when it is about none. */
export function openSnagsAfter(
	open: OpenSnags,
	{ kind, payload }: { kind: RecordKind; payload: RecordPayloads[RecordKind] }
): OpenSnags {
	if (kind === 'snag') {
		const { snagId, due } = payload as RecordPayloads['snag'];
		return { ...open, [snagId]: due };
	}
	if (kind === 'snag-closed') {
		const { snagId } = payload as RecordPayloads['snag-closed'];
		return Object.fromEntries(Object.entries(open).filter(([id]) => id !== snagId));
	}
	return open;
}

/** The open snags as the records of a hop leave them, in their order. */
export const openSnagsOf = (
	records: readonly { kind: RecordKind; payload: RecordPayloads[RecordKind] }[]
): OpenSnags => records.reduce<OpenSnags>(openSnagsAfter, {});

/** What is known of a hop without going through its record. */
export interface HopAtAGlance {
	cards: CardsStanding | null;
	openSnags: OpenSnags;
	visitOpen: boolean;
	/** The acceptor has sent it back, and has not signed since. */
	sentBack: boolean;
}

/**
 * What whoever runs the job has to see to on a hop, in words, the gravest first; nothing where all is
 * well as far as this tells. A level that deviates is not looked at here.
 *
 * @param today YYYY-MM-DD: a snag is overdue from the day after it is due
 */
export function hopTrouble(
	{ cards, openSnags, visitOpen, sentBack }: HopAtAGlance,
	today: string
): string[] {
	const stops = ENDS.flatMap((end: End) =>
		Object.entries(cards?.[end] ?? {})
			.filter(([, standing]) => !standing.go)
			.map(([card]) => `“${STOP_CARD_WORDS[card as StopCard].title}” says stop at ${end}`)
	);
	const due = Object.values(openSnags);
	const late = due.filter((day) => day < today).length;
	const snags = `${due.length} ${due.length === 1 ? 'snag' : 'snags'} open`;
	return [
		...stops,
		...(sentBack ? ['Sent back by the acceptor'] : []),
		...(due.length ? [late ? `${snags}, ${late} overdue` : snags] : []),
		...(visitOpen ? ['A visit is open'] : [])
	];
}
