import type { Location, LocatorInput } from '$core/locate/locator';
import LocateWorker from '$lib/workers/locate.worker?worker';
import { NewestAnswer } from '../newestAnswer';

/** Keeps the probability map off the main thread. */
export class LocateReader extends NewestAnswer<LocatorInput, Location> {
	constructor(answer: (location: Location) => void) {
		super(new LocateWorker(), answer);
	}
}
