import type { GuidanceInput, Weighed } from '#core/guide/guidance';
import GuideWorker from '$lib/workers/guide.worker?worker';
import { NewestAnswer } from '../newestAnswer';

export type GuideAnswer = Weighed & { key: string };

/** Keeps probability map and guidance off the main thread. */
export class GuideReader extends NewestAnswer<{ key: string; input: GuidanceInput }, GuideAnswer> {
	constructor(answer: (answer: GuideAnswer) => void) {
		super(new GuideWorker(), answer);
	}
}
