<script lang="ts">
	import { untrack } from 'svelte';
	import Search from '@lucide/svelte/icons/search';

	interface Props {
		q: string;
		what: string;
		/** Further values of the address that a search keeps. */
		keep?: Record<string, string>;
	}

	let { q, what, keep = {} }: Props = $props();
	let typed = $state(untrack(() => q));
	/** What the list was last asked for. */
	let asked = untrack(() => q);
	// The list of an earlier question arrives while the next one is typed: that stays.
	$effect.pre(() => {
		const answered = q;
		untrack(() => {
			if (typed === asked) typed = answered;
			asked = answered;
		});
	});
</script>

<form
	method="GET"
	class="flex min-w-0 flex-1 gap-2"
	role="search"
	data-sveltekit-keepfocus
	onsubmit={() => (asked = typed)}
>
	{#each Object.entries(keep) as [name, value] (name)}<input type="hidden" {name} {value} />{/each}
	<label class="sr-only" for="list-search">Search {what}</label>
	<input
		id="list-search"
		name="q"
		bind:value={typed}
		type="search"
		maxlength="80"
		placeholder="Search {what} by name"
		class="input max-w-md"
	/>
	<button class="btn" aria-label="Search"><Search size={20} /></button>
</form>
