interface Sentinel {
	released: boolean;
	release(): Promise<void>;
}

/**
 * Keeps the screen awake while a page is in use; taken again whenever the page comes back into view.
 *
 * @param tell says whether the screen is kept awake just now
 * @returns lets the screen sleep again
 */
export function keepAwake(tell: (awake: boolean) => void): () => void {
	const wakeLock = (
		navigator as unknown as { wakeLock?: { request(kind: 'screen'): Promise<Sentinel> } }
	).wakeLock;
	if (!wakeLock) {
		tell(false);
		return () => undefined;
	}
	let sentinel: Sentinel | undefined;
	let over = false;
	const isOver = (): boolean => over;
	const take = async (): Promise<void> => {
		if (isOver() || document.visibilityState !== 'visible') return;
		try {
			sentinel = await wakeLock.request('screen');
			if (isOver()) await sentinel.release();
			tell(!isOver());
		} catch {
			// Battery saving or a browser that wants a touch first: the screen may sleep.
			tell(false);
		}
	};
	const onVisible = (): void => void take();
	document.addEventListener('visibilitychange', onVisible);
	void take();
	return () => {
		over = true;
		document.removeEventListener('visibilitychange', onVisible);
		void sentinel?.release();
	};
}
