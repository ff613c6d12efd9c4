<script lang="ts">
	import Ear from '@lucide/svelte/icons/ear';
	import Maximize2 from '@lucide/svelte/icons/maximize-2';
	import Volume2 from '@lucide/svelte/icons/volume-2';
	import { onMount, untrack } from 'svelte';
	import { LevelTone, levelInSpokenWords, say } from './sound';
	import { keepAwake } from './wakeLock';

	interface Props {
		belowPlanDb: number | null;
		/** What to do, as the screen says it. */
		stepWords: string;
		onlarge: () => void;
	}

	let { belowPlanDb, stepWords, onlarge }: Props = $props();
	let toneOn = $state(false);
	let speechOn = $state(false);
	let awake = $state(false);
	const tone = new LevelTone();

	onMount(() => {
		const letSleep = keepAwake((now) => (awake = now));
		return () => {
			letSleep();
			tone.stop();
			if ('speechSynthesis' in globalThis) speechSynthesis.cancel();
		};
	});

	function toggleTone(): void {
		toneOn = !toneOn;
		if (toneOn) tone.start(belowPlanDb);
		else tone.stop();
	}
	$effect(() => {
		if (toneOn) tone.follow(belowPlanDb);
	});

	/** A level is said again when it has changed by this much, dB, but not sooner than this, ms. */
	const SAY_CHANGE_DB = 0.7;
	const SAY_EVERY_MS = 2500;
	let said: { db: number | null; step: string; atMs: number } | undefined;
	let later: ReturnType<typeof setTimeout> | undefined;
	function speak(): void {
		const now = Date.now();
		const newStep = said?.step !== stepWords;
		const changed =
			said === undefined ||
			(said.db === null) !== (belowPlanDb === null) ||
			Math.abs((said.db ?? 0) - (belowPlanDb ?? 0)) >= SAY_CHANGE_DB;
		if (!newStep && !changed) return;
		clearTimeout(later);
		if (said && now - said.atMs < SAY_EVERY_MS) {
			later = setTimeout(speak, SAY_EVERY_MS - (now - said.atMs));
			return;
		}
		say(`${levelInSpokenWords(belowPlanDb)}${newStep ? ` ${stepWords}.` : ''}`);
		said = { db: belowPlanDb, step: stepWords, atMs: now };
	}
	$effect(() => {
		void belowPlanDb;
		void stepWords;
		if (speechOn) untrack(speak);
	});
	function toggleSpeech(): void {
		speechOn = !speechOn;
		said = undefined;
		clearTimeout(later);
		if (!speechOn) speechSynthesis.cancel();
	}
</script>

<div
	class="grid grid-cols-3 gap-2 text-[0.95rem] [&_.btn]:gap-1.5 [&_.btn]:px-1 [&_.btn]:whitespace-nowrap"
	role="group"
	aria-label="For the eyes on the nut"
>
	<button class="btn" aria-pressed={toneOn} onclick={toggleTone}
		><Volume2 size={20} /> {toneOn ? 'Tone off' : 'Tone'}</button
	>
	<button class="btn" aria-pressed={speechOn} onclick={toggleSpeech}
		><Ear size={20} /> {speechOn ? 'Silent' : 'Say it'}</button
	>
	<button class="btn" onclick={onlarge}><Maximize2 size={20} /> Large</button>
</div>
<p class="text-quiet -mt-1 text-sm" data-testid="awake">
	{awake ? 'The screen stays awake here.' : 'This browser may let the screen sleep.'}
</p>
