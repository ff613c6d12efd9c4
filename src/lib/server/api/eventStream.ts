import type { Actor } from '../auth/actor';
import { keepWhileAllowed } from '../services/openStreams';
import { followFeed } from '../services/liveFeed';

/**
 * A beat a second: a page that hears none for some seconds knows that it is cut off, which a connection that
 * merely went silent never tells. It keeps proxies from closing a quiet stream, too.
 */
const HEARTBEAT_MS = 1000;
const BEAT = 'event: beat\ndata: 1\n\n';

/** Streams a hop's feed as server-sent events, each with its place as event id. */
export function eventStream(
	actor: Actor,
	hopId: string,
	afterSeq: number,
	signal: AbortSignal
): Response {
	let close = (): void => {};
	const forget = keepWhileAllowed(actor, hopId, () => close());
	const stream = new ReadableStream<Uint8Array>({
		start(controller) {
			const encoder = new TextEncoder();
			let open = true;
			const send = (text: string): void => {
				if (!open) return;
				try {
					controller.enqueue(encoder.encode(text));
				} catch {
					close();
				}
			};
			send(`retry: 1000\n\n${BEAT}`);
			const stop = followFeed(hopId, afterSeq, (records) => {
				send(records.map((r) => `id: ${r.seq}\ndata: ${JSON.stringify(r)}\n\n`).join(''));
			});
			const heartbeat = setInterval(() => send(BEAT), HEARTBEAT_MS);
			// On disconnect both the stream's cancel and the request's abort fire; clean up once.
			close = () => {
				if (!open) return;
				open = false;
				stop();
				forget();
				clearInterval(heartbeat);
				try {
					controller.close();
				} catch {
					// Already closed from the other side.
				}
			};
			signal.addEventListener('abort', () => close());
		},
		cancel: () => close()
	});
	return new Response(stream, {
		headers: {
			'content-type': 'text/event-stream',
			'cache-control': 'no-store, no-transform',
			'x-accel-buffering': 'no'
		}
	});
}
