import { may, type Actor } from '../auth/actor';
import { refusal } from '../errors';
import { gauge } from '../metrics';
import { memberships } from '../repositories/hops';
import { livingSessions } from '../repositories/sessions';

/** How long somebody who lost a right may go on seeing what comes in, at most. */
const LOOK_MS = 1000;
/** A device shows a hop in a few tabs; a loop that opens streams without end is stopped here. */
export const MOST_STREAMS_PER_SESSION = 20;

interface OpenStream {
	actor: Actor;
	/** The hop that must be theirs to see; undefined of what everybody signed in sees. */
	hopId: string | undefined;
	close: () => void;
}

const open = new Set<OpenStream>();
let timer: ReturnType<typeof setInterval> | undefined;
let looking = false;

gauge('skiaxis_open_streams', 'Event streams open on this process', () => open.size);

/**
 * Keeps an event stream open only as long as its session lives, its account is not blocked and its hop, if it is
 * one of a hop, still theirs to see, on whichever process these were ended. Gives what forgets it once it is closed.
 * Throws where the session has too many already.
 */
export function keepWhileAllowed(
	actor: Actor,
	hopId: string | undefined,
	close: () => void
): () => void {
	const ofSession = [...open].filter((stream) => stream.actor.sessionId === actor.sessionId);
	if (ofSession.length >= MOST_STREAMS_PER_SESSION) throw refusal('too-many-streams');
	const stream = { actor, hopId, close };
	open.add(stream);
	timer ??= setInterval(() => void look(), LOOK_MS);
	return () => {
		open.delete(stream);
		if (open.size > 0) return;
		clearInterval(timer);
		timer = undefined;
	};
}

/** One look at all that are open: two statements, however many there are. */
async function look(): Promise<void> {
	if (looking) return;
	looking = true;
	try {
		const streams = [...open];
		const ids = new Set(streams.flatMap(({ actor }) => actor.sessionId ?? []));
		const living = await livingSessions([...ids], new Date());
		const members = await memberships(
			[...new Set(streams.flatMap(({ hopId }) => hopId ?? []))],
			[...new Set(streams.map(({ actor }) => actor.userId))]
		);
		for (const { actor, hopId, close } of streams) {
			const signedIn = actor.sessionId !== undefined && living.has(actor.sessionId);
			const theirs =
				hopId === undefined ||
				may(actor, 'manage-people') ||
				members.has(`${hopId} ${actor.userId}`);
			if (!signedIn || !theirs) close();
		}
	} catch {
		// The database is away: nothing comes in either, and the next look comes soon.
	} finally {
		looking = false;
	}
}
