/**
 * Whether the session of this browser has ended while a page of it was open. One place for all pages: the call
 * that is refused says so, every page shows it, and nothing is sent until somebody has signed in again.
 */
export const session = $state({ ended: false });

const backAgain: (() => void)[] = [];

/** Runs `again` each time the session is back; returns how to stop. */
export function onSessionBack(again: () => void): () => void {
	backAgain.push(again);
	return () => void backAgain.splice(backAgain.indexOf(again), 1);
}

/** The server has said that nobody is signed in here. */
export function sessionEnded(): void {
	session.ended = true;
}

/** An answer that needed a session has come: there is one. */
export function sessionStands(): void {
	if (!session.ended) return;
	session.ended = false;
	for (const again of backAgain) again();
}
