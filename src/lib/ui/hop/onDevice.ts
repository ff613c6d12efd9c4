import { forgetFeed } from './outbox';

/** A hop or hub whose pages are on this device, for work without connection. */
export interface HopOnDevice {
	hopId: string;
	name: string;
	/** Ends whose pages are here, as they stand in an address; none of a hub. */
	ends: ('a' | 'b')[];
	/** Set where it is a hub: then one page is here for all of it. */
	hub?: true;
	/** When they were last brought here, ms. */
	at: number;
}

const KEY = 'skiaxis-on-device';

/** What is on this device, the last one first; nothing where there is no storage. */
export function hopsOnDevice(): HopOnDevice[] {
	try {
		const kept = JSON.parse(localStorage.getItem(KEY) ?? '[]') as HopOnDevice[];
		return [...kept].sort((p, q) => q.at - p.at);
	} catch {
		return [];
	}
}

function write(hops: readonly HopOnDevice[]): void {
	try {
		localStorage.setItem(KEY, JSON.stringify(hops));
	} catch {
		// Without storage no page is kept either.
	}
}

/** The pages of an end are here now. */
export function noteOnDevice(hopId: string, name: string, end: 'a' | 'b'): void {
	const before = hopsOnDevice();
	const ends = before.find((hop) => hop.hopId === hopId)?.ends ?? [];
	write([
		{ hopId, name, ends: [...new Set([...ends, end])].sort(), at: Date.now() },
		...before.filter((hop) => hop.hopId !== hopId)
	]);
}

/** The page of the work at a hub is here now. */
export function noteHubOnDevice(hubId: string, name: string): void {
	const others = hopsOnDevice().filter(({ hopId }) => hopId !== hubId);
	write([{ hopId: hubId, name, ends: [], hub: true, at: Date.now() }, ...others]);
}

/** Absent where the page is not served securely. */
const workerOf = (): ServiceWorkerContainer | undefined =>
	'serviceWorker' in navigator ? navigator.serviceWorker : undefined;

/** Whether pages can be kept here at all. */
export const canKeep = (): boolean => workerOf() !== undefined;

/** Asks for the pages of ends of a hop to be kept; `heard` gets the key of each that is here. */
export function keepOnDevice(wanted: readonly { key: string; paths: string[] }[]): void {
	void workerOf()?.ready.then(({ active }) => {
		for (const { key, paths } of wanted) active?.postMessage({ kind: 'keep', key, paths });
	});
}

/** Calls `heard` with the key of whatever has been kept; returns how to stop. */
export const onKept = (heard: (key: string) => void): (() => void) => onAnswer('kept', heard);

function onAnswer(kind: 'kept' | 'taken-off', heard: (key: string) => void): () => void {
	const listen = (event: MessageEvent<{ kind?: string; key?: string } | undefined>): void => {
		if (event.data?.kind === kind && event.data.key) heard(event.data.key);
	};
	const worker = workerOf();
	worker?.addEventListener('message', listen);
	return () => worker?.removeEventListener('message', listen);
}

/** Takes the pages of a hop off this device, done once they are gone; what waits to be sent stays. */
export async function takeOffDevice(hopId: string): Promise<void> {
	write(hopsOnDevice().filter((hop) => hop.hopId !== hopId));
	await forgetFeed(hopId).catch(() => undefined);
	const active = (await workerOf()?.ready)?.active;
	if (!active) return;
	await new Promise<void>((gone) => {
		const stop = onAnswer('taken-off', (key) => {
			if (key !== hopId) return;
			stop();
			gone();
		});
		active.postMessage({ kind: 'take-off', base: `/hops/${hopId}` });
	});
}

/** Nothing of any hop is on this device any more. */
export function forgetHopsOnDevice(): void {
	write([]);
	workerOf()?.controller?.postMessage({ kind: 'forget' });
}
