<script lang="ts">
	import Sheet from '../align/Sheet.svelte';
	import Tick from '../form/Tick.svelte';
	import { alarms, type Way } from './alarms.svelte';

	const WAYS: { way: Way; words: string }[] = [
		{ way: 'sound', words: 'Sound' },
		{ way: 'vibration', words: 'Vibration' },
		{ way: 'notification', words: 'Notification while another app is open' }
	];
	let { open = $bindable() }: { open: boolean } = $props();
	let refused = $state(false);

	async function pick(way: Way, on: boolean): Promise<void> {
		await alarms.choose(way, on);
		refused = on && !alarms.ways[way];
	}
</script>

<Sheet
	bind:open
	title="How this device calls you"
	description="When the baton comes, the far end asks, says something or wants a level, or something there means stop."
>
	<div class="flex flex-col gap-1">
		{#each WAYS as { way, words } (way)}
			<Tick size="large" checked={alarms.ways[way]} onpick={(on) => void pick(way, on)}
				>{words}</Tick
			>
		{/each}
		{#if refused}
			<p class="trouble text-sm font-semibold" role="alert">
				▲ This device allows no notifications of this page. Its settings can allow them.
			</p>
		{/if}
		<button
			type="button"
			class="btn mt-2"
			onclick={() => alarms.call({ kind: 'baton', words: 'This is how you are called.' })}
			>Try it</button
		>
	</div>
</Sheet>
