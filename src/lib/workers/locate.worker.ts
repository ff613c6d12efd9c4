import { locate, type LocatorInput } from '$core/locate/locator';

self.onmessage = (event: MessageEvent<{ id: number; input: LocatorInput }>) => {
	const { id, input } = event.data;
	self.postMessage({ id, location: locate(input) });
};
