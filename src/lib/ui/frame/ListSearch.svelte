<script lang="ts">
	import Search from '@lucide/svelte/icons/search';

	interface Props {
		q: string;
		what: string;
		/** Further values of the address that a search keeps. */
		keep?: Record<string, string>;
	}

	let { q, what, keep = {} }: Props = $props();
</script>

<form method="GET" class="flex min-w-0 flex-1 gap-2" role="search" data-sveltekit-keepfocus>
	{#each Object.entries(keep) as [name, value] (name)}<input type="hidden" {name} {value} />{/each}
	<label class="sr-only" for="list-search">Search {what}</label>
	<input
		id="list-search"
		name="q"
		value={q}
		type="search"
		maxlength="80"
		placeholder="Search {what} by name"
		class="input max-w-md"
	/>
	<button class="btn" aria-label="Search"><Search size={20} /></button>
</form>
