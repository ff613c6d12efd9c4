import { analyseSweep, type SweepInput } from '$core/sweep/analyseSweep';

self.onmessage = (event: MessageEvent<{ id: string; input: SweepInput }>) => {
	const { id, input } = event.data;
	self.postMessage({ id, analysis: analyseSweep(input) });
};
