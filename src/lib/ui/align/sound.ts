/** Pitch of the tone, Hz: rises with the level, an octave for every 12 dB nearer the plan. */
export function toneHz(belowPlanDb: number): number {
	const top = 1320;
	return Math.max(90, Math.min(1.3 * top, top * 2 ** (-belowPlanDb / 12)));
}

/** The level as a tone that rises with it. Off until started by a touch, as browsers want it. */
export class LevelTone {
	#context: AudioContext | undefined;
	#oscillator: OscillatorNode | undefined;
	#gain: GainNode | undefined;

	start(belowPlanDb: number | null): void {
		this.#context = new AudioContext();
		this.#oscillator = this.#context.createOscillator();
		this.#gain = this.#context.createGain();
		this.#gain.gain.value = 0;
		this.#oscillator.type = 'triangle';
		this.#oscillator.connect(this.#gain).connect(this.#context.destination);
		this.#oscillator.start();
		this.follow(belowPlanDb);
	}

	/** A drop is heard at once, a rise as fast as the ear follows; no level is silence. */
	follow(belowPlanDb: number | null): void {
		if (!this.#context || !this.#oscillator || !this.#gain) return;
		const now = this.#context.currentTime;
		this.#gain.gain.setTargetAtTime(belowPlanDb === null ? 0 : 0.12, now, 0.02);
		if (belowPlanDb !== null) {
			this.#oscillator.frequency.setTargetAtTime(toneHz(belowPlanDb), now, 0.03);
		}
	}

	stop(): void {
		void this.#context?.close();
		this.#context = undefined;
	}
}

const numberInWords = (value: number): string =>
	`${value < 0 ? 'minus ' : ''}${Math.abs(value).toFixed(1).replace('.', ' point ')}`;

/** What is said of a level: short enough for one breath. */
export function levelInSpokenWords(belowPlanDb: number | null): string {
	if (belowPlanDb === null) return 'No level.';
	if (Math.abs(belowPlanDb) < 0.05) return 'On plan.';
	return `${numberInWords(Math.abs(belowPlanDb))} ${belowPlanDb > 0 ? 'below' : 'above'}.`;
}

/** Says a text aloud; what is still being said gives way to it. */
export function say(text: string): void {
	if (!('speechSynthesis' in globalThis)) return;
	speechSynthesis.cancel();
	const utterance = new SpeechSynthesisUtterance(text);
	utterance.lang = 'en';
	utterance.rate = 1.05;
	speechSynthesis.speak(utterance);
}
