import { weigh, type GuidanceInput } from '#core/guide/guidance';

/** `key` comes back with the answer, so that the screen knows what it was about. */
self.onmessage = ({ data }: MessageEvent<{ key: string; input: GuidanceInput }>) =>
	self.postMessage({ key: data.key, ...weigh(data.input) });
