<script lang="ts">
	import { VOCABULARY } from '#core/words/vocabulary';

	let wanted = $state('');
	const found = $derived(
		VOCABULARY.filter(({ term, standsFor, means }) =>
			`${term} ${standsFor} ${means}`.toLowerCase().includes(wanted.trim().toLowerCase())
		)
	);
</script>

<svelte:head><title>Glossary · Skiaxis</title></svelte:head>

<div class="mb-5 flex flex-wrap items-center gap-x-6 gap-y-3">
	<h1>Glossary</h1>
	<label class="min-w-0 flex-1">
		<span class="sr-only">Search the glossary</span>
		<input
			id="list-search"
			type="search"
			class="input max-w-md"
			placeholder="Search the glossary"
			bind:value={wanted}
		/>
	</label>
</div>
<dl class="border-line max-w-4xl border-t">
	{#each found as { term, standsFor, means, unit, when } (term)}
		<div
			id={term}
			class="border-line target:bg-land grid scroll-mt-4 gap-x-6 border-b px-2 py-3 sm:grid-cols-[11rem_1fr]"
		>
			<dt>
				<strong class="text-lg">{term}</strong>
				{#if standsFor}<span class="text-quiet block text-sm">{standsFor}</span>{/if}
			</dt>
			<dd class="m-0">
				{means}
				<span class="text-quiet mt-1 block text-sm">{unit ? `In ${unit}. ` : ''}{when}</span>
			</dd>
		</div>
	{:else}
		<p class="text-quiet py-8">No term has “{wanted}” in it.</p>
	{/each}
</dl>
