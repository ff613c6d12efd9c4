import { find, type FindingQuestion } from '#core/guide/weigh';

self.onmessage = (event: MessageEvent<FindingQuestion>) => self.postMessage(find(event.data));
