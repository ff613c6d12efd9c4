import type { Catalogue } from '#core/catalogue/parts';
import { computeLivePlan, type PlanQuestion } from '$lib/ui/plan/compute';

let parts: Catalogue | undefined;

/** The catalogue comes first, then questions. */
self.onmessage = ({ data }: MessageEvent<{ parts: Catalogue } | PlanQuestion>) => {
	if ('parts' in data) parts = data.parts;
	else self.postMessage(computeLivePlan(data, parts!));
};
