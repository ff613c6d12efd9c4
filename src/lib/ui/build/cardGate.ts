import type { End } from '#core/ends';
import { stopStateOf, type StopCard } from '#core/safety/stopCards';
import type { LiveHop } from '../hop/liveHop.svelte';

/** Whether a card must be answered at an end before its crew goes on; not asked of who only follows. */
export function mustAsk(live: LiveHop, end: End, card: StopCard): boolean {
	const answered = live.recorded.ends[end].stopCards[card];
	return live.mayRecord && stopStateOf(card, answered, live.nowMs).kind !== 'go';
}
