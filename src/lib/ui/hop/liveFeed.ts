import type { Own, OwnPhoto } from './outbox';
import type { Outgoing } from './outgoing.svelte';

/** What the strip over the work shows of the record of a hop or a hub as this device knows it. */
export interface LiveFeed {
	/** Id of the hop or hub. */
	readonly id: string;
	readonly nowMs: number;
	readonly connected: boolean;
	readonly barred: string | undefined;
	readonly waitingCount: number;
	readonly photosWaiting: readonly OwnPhoto[];
	readonly outgoing: Pick<
		Outgoing<Own>,
		'refused' | 'refusedPhotos' | 'others' | 'otherPerson' | 'planRevised' | 'tryAgain' | 'takeOff'
	>;
	readonly planRevised: string | undefined;
	keepAgainstOlder(): Promise<void>;
}
