import type { End } from '#core/ends';
import type { StopCard } from '#core/safety/stopCards';
import type { BenchHop } from '../hop/benchHop';
import { cardStands } from './stepPlace';

/** Whether a card must be answered at an end before its crew goes on; not asked of who only follows. */
export const mustAsk = (live: BenchHop, end: End, card: StopCard): boolean =>
	live.mayRecord && cardStands(live.whole.stepPlace(end), card);
