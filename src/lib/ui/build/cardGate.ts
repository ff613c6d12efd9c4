import type { End } from '#core/ends';
import { stopStateOf, type StopCard } from '#core/safety/stopCards';
import type { BenchHop } from '../hop/benchHop';

/** Whether a card must be answered at an end before its crew goes on; not asked of who only follows. */
export function mustAsk(live: BenchHop, end: End, card: StopCard): boolean {
	const answered = live.recorded.ends[end].stopCards[card];
	return live.mayRecord && stopStateOf(card, answered, live.nowMs).kind !== 'go';
}
