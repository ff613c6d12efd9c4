<script lang="ts">
	import Search from '@lucide/svelte/icons/search';

	interface Props {
		q: string;
		what: string;
	}

	let { q, what }: Props = $props();
</script>

<form method="GET" class="flex min-w-0 flex-1 gap-2" role="search" data-sveltekit-keepfocus>
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
