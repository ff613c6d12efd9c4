import { feedsBeyond, recordsAfter, recordsBeyond } from '../repositories/feeds';
import { feedFollower } from './feedFollower';

/** The feeds of hops that somebody follows on this process. */
export const hopFeeds = feedFollower('hops', {
	after: recordsAfter,
	moved: feedsBeyond,
	beyond: recordsBeyond
});
