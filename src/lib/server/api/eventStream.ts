import type { Actor } from '../auth/actor';
import { keepWhileAllowed } from '../services/openStreams';
import type { FeedFollower } from '../services/feedFollower';

/**
 * A beat a second: a page that hears none for some seconds knows that it is cut off, which a connection that
 * merely went silent never tells. It keeps proxies from closing a quiet stream, too.
 */
const HEARTBEAT_MS = 1000;
const BEAT = 'event: beat\ndata: 1\n\n';

/** What is streamed, and to whom. */
interface StreamOf<R> {
	actor: Actor;
	feed: FeedFollower<R>;
	/** Id of the hop or hub whose feed it is. */
	id: string;
	/** The hop that must stay theirs to see; absent of what everybody signed in sees. */
	hopId?: string;
}

/**
 * Streams a feed as server-sent events, each with its place as event id, after the last that the request says it
 * has, or after a place.
 */
export function eventStream<R extends { seq: number }>(
	{ actor, feed, id, hopId }: StreamOf<R>,
	{ headers, signal }: Request,
	afterSeq: number
): Response {
	const resumed = Number(headers.get('last-event-id') ?? Number.NaN);
	const after = Number.isSafeInteger(resumed) && resumed >= 0 ? resumed : afterSeq;
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
			const stop = feed.follow(id, after, (records) => {
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
