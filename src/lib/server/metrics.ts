import { Counter, Gauge, Histogram, Registry, collectDefaultMetrics } from 'prom-client';

/**
 * What this process tells whoever watches over it, in the open text format. Nothing of a person, a hop or a
 * place is in a label: what was asked is named by the pattern of its path.
 */
const registry = new Registry();
collectDefaultMetrics({ register: registry });

const requests = new Histogram({
	name: 'skiaxis_request_seconds',
	help: 'Time from a request to its answer, seconds; of a stream until it is open',
	labelNames: ['method', 'route', 'status'],
	buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10],
	registers: [registry]
});

const recordsStored = new Counter({
	name: 'skiaxis_records_stored_total',
	help: 'Field records taken in by this process, repeats not counted',
	registers: [registry]
});

/** Counts one request once its answer is there. */
export function observeRequest(
	asked: { method: string; route: string },
	status: number,
	seconds: number
): void {
	requests.observe({ ...asked, status: String(status) }, seconds);
}

export function countRecords(stored: number): void {
	if (stored > 0) recordsStored.inc(stored);
}

/** A figure that is looked up whenever somebody asks. */
export function gauge(name: string, help: string, read: () => number): void {
	new Gauge({
		name,
		help,
		registers: [registry],
		collect() {
			this.set(read());
		}
	});
}

export const metricsText = (): Promise<string> => registry.metrics();
export const METRICS_TYPE = registry.contentType;
