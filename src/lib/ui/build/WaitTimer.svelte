<script lang="ts">
	import { onMount } from 'svelte';

	interface Props {
		/** Where on this device the beginning is kept, so that it survives a reload. */
		key: string;
		ontake: (minutes: number) => void;
	}

	let { key, ontake }: Props = $props();
	let startedMs: number | undefined = $state();
	let nowMs = $state(0);
	const place = $derived(`skiaxis-wait-${key}`);
	onMount(() => {
		const kept = Number(localStorage.getItem(place));
		if (kept > 0) startedMs = kept;
		nowMs = Date.now();
		const clock = setInterval(() => (nowMs = Date.now()), 1000);
		return () => clearInterval(clock);
	});
	const elapsedS = $derived(
		startedMs === undefined ? 0 : Math.max(0, Math.floor((nowMs - startedMs) / 1000))
	);

	function start(): void {
		startedMs = Date.now();
		localStorage.setItem(place, String(startedMs));
	}
	function take(): void {
		ontake(Math.round(elapsedS / 60));
		localStorage.removeItem(place);
		startedMs = undefined;
	}
</script>

<div class="flex flex-wrap items-center gap-3">
	{#if startedMs === undefined}
		<button type="button" class="btn" onclick={start}>Start the wait</button>
	{:else}
		<span class="num text-2xl font-bold" role="timer">
			{Math.floor(elapsedS / 60)}:{String(elapsedS % 60).padStart(2, '0')}
		</span>
		<button type="button" class="btn" onclick={take}>End it and take the minutes</button>
	{/if}
</div>
