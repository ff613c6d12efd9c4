import { forgetHopsOnDevice } from '../hop/onDevice';
import { forgetFeeds } from '../hop/outbox';

const PERSON_KEY = 'skiaxis-person';

/** What the device has of hops goes with the person; what waits to be sent stays for them. */
export function forgetOnDevice(): void {
	forgetHopsOnDevice();
	void forgetFeeds().catch(() => undefined);
}

/**
 * Says who uses this device. Where it was somebody else before, whose session has only ended, what the device
 * has of their hops is forgotten.
 */
export function usedBy(userId: string): void {
	try {
		const before = localStorage.getItem(PERSON_KEY);
		if (before && before !== userId) forgetOnDevice();
		localStorage.setItem(PERSON_KEY, userId);
	} catch {
		// Without storage nothing was kept either.
	}
}
