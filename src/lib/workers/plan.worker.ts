import type { Catalogue } from '$core/catalogue/parts';
import { computeLivePlan, type PlanQuestion } from '$lib/ui/plan/compute';

let parts: Catalogue | undefined;

self.onmessage = (
	event: MessageEvent<{ parts: Catalogue } | { id: number; question: PlanQuestion }>
) => {
	if ('parts' in event.data) {
		parts = event.data.parts;
		return;
	}
	const { id, question } = event.data;
	self.postMessage({ id, live: computeLivePlan(question, parts!) });
};
