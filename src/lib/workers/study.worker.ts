import { study, type StudyQuestion } from '$lib/ui/plan/study';

self.onmessage = ({ data }: MessageEvent<StudyQuestion>) => self.postMessage(study(data));
