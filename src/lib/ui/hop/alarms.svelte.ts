import type { Alert } from '#core/record/alerts';

/** The ways in which a device calls somebody who is not looking. */
export type Way = 'sound' | 'vibration' | 'notification';

const KEY = 'skiaxis-alerts';
const FIRST: Record<Way, boolean> = { sound: true, vibration: true, notification: false };

/** Two tones up where it is one's turn, two the same and low where it means stop: heard without looking. */
const TONES: Record<Alert['kind'], readonly number[]> = {
	baton: [660, 990],
	asked: [660, 660],
	'level-wanted': [660, 880, 660],
	message: [880],
	stop: [330, 330, 330]
};
const TONE_S = 0.22;
const PULSES: Record<Alert['kind'], number[]> = {
	baton: [200, 120, 200],
	asked: [200],
	'level-wanted': [120, 80, 120],
	message: [120],
	stop: [600, 150, 600]
};

/** What this device does when somebody is called, and the calls that nobody has answered yet. */
class Alarms {
	ways: Record<Way, boolean> = $state({ ...FIRST });
	/** The newest call of an end, until it is seen. */
	open: Alert | undefined = $state.raw();
	#context: AudioContext | undefined;

	/** Takes up what is chosen on this device, and readies the sound at the first touch: browsers want one. */
	start(): () => void {
		try {
			const kept = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Record<Way, boolean>>;
			this.ways = { ...FIRST, ...kept };
		} catch {
			// As at first, then.
		}
		const touched = (): void => {
			this.#context ??= new AudioContext();
			void this.#context.resume();
		};
		addEventListener('pointerdown', touched);
		addEventListener('keydown', touched);
		return () => {
			removeEventListener('pointerdown', touched);
			removeEventListener('keydown', touched);
			this.open = undefined;
		};
	}

	/** Switches a way on or off; a notification only where the device allows it. */
	async choose(way: Way, on: boolean): Promise<void> {
		const allowed =
			way !== 'notification' ||
			!on ||
			('Notification' in globalThis && (await Notification.requestPermission()) === 'granted');
		this.ways[way] = on && allowed;
		try {
			localStorage.setItem(KEY, JSON.stringify(this.ways));
		} catch {
			// Then it holds for this page.
		}
	}

	call(alert: Alert): void {
		// What somebody says takes no stop off the screen.
		if (!(this.open?.kind === 'stop' && alert.kind === 'message')) this.open = alert;
		if (this.ways.sound) this.#sound(TONES[alert.kind]);
		if (this.ways.vibration && 'vibrate' in navigator) navigator.vibrate(PULSES[alert.kind]);
		if (this.ways.notification && document.visibilityState === 'hidden') void notify(alert.words);
	}

	#sound(tones: readonly number[]): void {
		const context = this.#context;
		if (!context) return;
		tones.forEach((hz, i) => {
			const oscillator = context.createOscillator();
			const gain = context.createGain();
			const at = context.currentTime + i * (TONE_S + 0.06);
			oscillator.frequency.value = hz;
			gain.gain.setValueAtTime(0.25, at);
			gain.gain.setTargetAtTime(0, at + TONE_S * 0.7, 0.03);
			oscillator.connect(gain).connect(context.destination);
			oscillator.start(at);
			oscillator.stop(at + TONE_S);
		});
	}

	seen(): void {
		this.open = undefined;
	}
}

/** By the service worker where there is one: a phone shows no other. */
async function notify(words: string): Promise<void> {
	try {
		const worker = await navigator.serviceWorker.getRegistration();
		if (worker) await worker.showNotification('Skiaxis', { body: words, tag: 'skiaxis-call' });
		else new Notification('Skiaxis', { body: words });
	} catch {
		// What the screen and the sound say stands.
	}
}

export const alarms = new Alarms();
