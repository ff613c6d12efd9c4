import { find, type FindingQuestion } from '#core/guide/findings';

self.onmessage = (event: MessageEvent<FindingQuestion>) => self.postMessage(find(event.data));
