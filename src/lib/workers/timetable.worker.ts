import { timetableOf, type DayQuestion } from '#core/schedule/dayPlan';

self.onmessage = ({ data }: MessageEvent<DayQuestion>) => self.postMessage(timetableOf(data));
