<script lang="ts">
	import Bell from '@lucide/svelte/icons/bell';
	import NotHere from '../form/NotHere.svelte';
	import { Opening } from '../form/opening.svelte';

	const opening = new Opening();
</script>

<button
	type="button"
	class="inline-flex h-12 w-12 items-center justify-center rounded-lg"
	aria-label="How this device calls you"
	title="How this device calls you"
	onclick={() => (opening.open = true)}><Bell size={22} aria-hidden="true" /></button
>

{#if opening.ever}
	{#await import('./AlertSheet.svelte') then { default: AlertSheet }}
		<AlertSheet bind:open={opening.open} />
	{:catch}<NotHere />{/await}
{/if}
