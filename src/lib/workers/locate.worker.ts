import { locate, type LocatorInput } from '$core/locate/locator';

self.onmessage = (event: MessageEvent<LocatorInput>) => self.postMessage(locate(event.data));
