/// <reference types="@sveltejs/kit" />
/// <reference no-default-lib="true"/>
/// <reference lib="esnext" />
/// <reference lib="webworker" />

/**
 * What lets a hop be worked on without connection after one visit: the program and its assets are
 * kept when it is installed, pages as they are visited. With a connection the server is always asked
 * first; records never pass through here, they have their own outbox.
 */
import { build, files, version } from '$service-worker';

const worker = self as unknown as ServiceWorkerGlobalScope;
const ASSETS = `skiaxis-assets-${version}`;
const PAGES = 'skiaxis-pages';
const PHOTOS = 'skiaxis-photos';
/** What is shown in place of a page that is not here: what is. */
const ON_THIS_DEVICE = '/on-this-device';
const kept = new Set([...build, ...files]);
/** A server that is slower than this on a mast is as good as none, ms. */
const PATIENCE_MS = 6000;

worker.addEventListener('install', (event) => {
	event.waitUntil(
		(async () => {
			const cache = await caches.open(ASSETS);
			await cache.addAll([...kept]);
			// As nobody's page: it reads what is on the device when it is shown.
			await cache.add(new Request(ON_THIS_DEVICE, { credentials: 'omit' }));
			await worker.skipWaiting();
		})()
	);
});

worker.addEventListener('activate', (event) => {
	event.waitUntil(
		(async () => {
			for (const name of await caches.keys()) {
				if (name.startsWith('skiaxis-assets-') && name !== ASSETS) await caches.delete(name);
			}
			await worker.clients.claim();
		})()
	);
});

worker.addEventListener('message', (event) => {
	const { data } = event as {
		data?: { kind?: string; key?: string; paths?: string[]; base?: string };
	};
	if (data?.kind === 'keep' && data.paths && data.key) {
		event.waitUntil(keepPages(data.key, data.paths));
	}
	if (data?.kind === 'take-off' && data.base) event.waitUntil(takeOff(data.base));
	if (data?.kind === 'forget') {
		event.waitUntil(Promise.all([caches.delete(PAGES), caches.delete(PHOTOS)]));
	}
});

worker.addEventListener('fetch', (event) => {
	const { request } = event;
	const url = new URL(request.url);
	if (request.method !== 'GET' || url.origin !== worker.location.origin) return;
	if (kept.has(url.pathname) || url.pathname.startsWith('/_app/immutable/')) {
		event.respondWith(keptFirst(request, ASSETS));
	} else if (/^\/api\/v1\/hops\/[^/]+\/photos\/[^/]+$/.test(url.pathname)) {
		event.respondWith(keptFirst(request, PHOTOS));
	} else if (isFieldPage(url.pathname)) {
		event.respondWith(serverFirst(request, url));
	} else if (url.pathname === ON_THIS_DEVICE) {
		event.respondWith(keptOnly(request));
	} else if (request.mode === 'navigate') {
		event.respondWith(fetch(request).catch(() => Response.redirect(ON_THIS_DEVICE)));
	}
});

function isFieldPage(pathname: string): boolean {
	return (
		pathname === '/' ||
		pathname === '/__data.json' ||
		pathname === '/my-work' ||
		pathname === '/my-work/__data.json' ||
		pathname.startsWith('/hops/') ||
		/^\/hubs\/[^/]+\/work(\/|$)/.test(pathname)
	);
}

async function keptFirst(request: Request, name: string): Promise<Response> {
	const cache = await caches.open(name);
	const found = await cache.match(request);
	if (found) return found;
	const answer = await fetch(request);
	if (answer.status === 200) await cache.put(request, answer.clone());
	return answer;
}

async function keptOnly(request: Request): Promise<Response> {
	const found = await (await caches.open(ASSETS)).match(ON_THIS_DEVICE);
	return found ?? fetch(request);
}

/** Pages are kept under their path alone: which parts of the data a page asked for does not matter. */
async function serverFirst(request: Request, url: URL): Promise<Response> {
	const cache = await caches.open(PAGES);
	const whole = url.search === '';
	try {
		const answer = await fetch(request, { signal: AbortSignal.timeout(PATIENCE_MS) });
		if (whole && answer.status === 200 && !answer.redirected) {
			await cache.put(url.pathname, answer.clone());
		}
		return answer;
	} catch (error) {
		const found = await cache.match(url.pathname);
		if (found) return found;
		if (request.mode === 'navigate') return Response.redirect(ON_THIS_DEVICE);
		throw error;
	}
}

/** How often each hop was taken off: what is still being fetched for it then is not kept any more. */
const takenOff = new Map<string, number>();

/** Forgets the pages of one hop, and says when they are gone. */
async function takeOff(base: string): Promise<void> {
	const hopId = base.split('/').at(-1)!;
	takenOff.set(hopId, (takenOff.get(hopId) ?? 0) + 1);
	const cache = await caches.open(PAGES);
	for (const { url } of await cache.keys()) {
		const { pathname } = new URL(url);
		const isOfHop = pathname === base || pathname.startsWith(`${base}/`);
		if (isOfHop || pathname.startsWith(`/kept/${hopId}/`)) await cache.delete(pathname);
	}
	await tell({ kind: 'taken-off', key: hopId });
}

/**
 * Fetches the pages of a hop that is being visited, so that all of it is there later; once for a plan
 * revision, since what was recorded meanwhile is kept on the device by the page itself.
 */
async function keepPages(key: string, paths: readonly string[]): Promise<void> {
	const cache = await caches.open(PAGES);
	const mark = `/kept/${key}`;
	const hopId = key.split('/')[0]!;
	const before = takenOff.get(hopId);
	if (!(await cache.match(mark))) {
		for (const path of paths) {
			for (const address of [path, `${path === '/' ? '' : path}/__data.json`]) {
				try {
					const answer = await fetch(address);
					if (takenOff.get(hopId) !== before) return;
					if (answer.status !== 200 || answer.redirected) continue;
					await cache.put(address, answer);
				} catch {
					return;
				}
			}
		}
		await cache.put(mark, new Response('kept'));
	}
	await tell({ kind: 'kept', key });
}

/** Also to a page that was open before this worker took charge: it asked, and waits for the answer. */
async function tell(message: { kind: 'kept' | 'taken-off'; key: string }): Promise<void> {
	const pages = await worker.clients.matchAll({ includeUncontrolled: true });
	for (const client of pages) client.postMessage(message);
}
