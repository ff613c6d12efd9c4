import { HubWork, type HubQuestion } from '$lib/ui/hub/hubWork';

const work = new HubWork();

self.onmessage = ({ data }: MessageEvent<HubQuestion>) => self.postMessage(work.answer(data));
