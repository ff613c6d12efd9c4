<script lang="ts">
	import { resolve } from '$app/paths';
	import { goto } from '$app/navigation';
	import ListSearch from '$lib/ui/frame/ListSearch.svelte';
	import Pager from '$lib/ui/frame/Pager.svelte';
	import SelectField from '$lib/ui/form/SelectField.svelte';
	import { moment } from '$lib/ui/moment.svelte';

	let { data } = $props();
	const action = $derived(data.query.action ?? '');
	const kept = $derived<Record<string, string>>(action ? { action } : {});
	const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
	const actions = $derived([
		{ value: 'any', label: 'Everything' },
		...data.actions.map(({ value, label }) => ({ value, label: upper(label) }))
	]);
	/** What nobody was signed in for was done by the program itself, but for a sign-in that failed. */
	const nobody = (did: string): string => (did.includes('refused') ? 'Somebody' : 'The program');
	function choose(value: string): void {
		const asked = Object.entries({ q: data.query.q, action: value === 'any' ? '' : value });
		const query = new URLSearchParams(asked.filter(([, given]) => given)).toString();
		// eslint-disable-next-line svelte/no-navigation-without-resolve -- a query on the page itself
		void goto(`?${query}`, { keepFocus: true });
	}
</script>

<svelte:head><title>Who did what · Skiaxis</title></svelte:head>
<div class="mb-3 flex flex-wrap items-end gap-x-6 gap-y-3">
	<h1>Who did what</h1>
	<ListSearch q={data.query.q} what="people" keep={kept} />
	<div class="w-72">
		<SelectField
			label="What was done"
			name="action"
			bind:value={() => action || 'any', choose}
			options={actions}
		/>
	</div>
</div>
<p class="text-quiet mb-3 max-w-prose text-sm">
	Kept by the database itself: nobody changes or deletes a line of it. What crews record stands in
	the record of its hop. <a class="underline" href={resolve('/people')}>To the people</a>
</p>
{#if data.lines.rows.length === 0}
	<p class="text-quiet py-10">Nothing of this was done yet.</p>
{:else}
	<ul class="border-line border-t" data-testid="audit-lines">
		{#each data.lines.rows as line (line.id)}
			<li class="border-line grid gap-x-6 border-b px-2 py-2 sm:grid-cols-[1fr_15rem]">
				<span>
					<strong>{line.by ?? nobody(line.did)}</strong>
					{line.did}{#if line.about}&nbsp;<strong>{line.about}</strong>{/if}{line.more
						? `, ${line.more}`
						: ''}
				</span>
				<span class="text-quiet text-sm">{moment(line.at)}</span>
			</li>
		{/each}
	</ul>
{/if}
<Pager
	page={data.lines.page}
	pages={data.lines.pages}
	count={data.lines.count}
	more={data.lines.more}
	next={data.lines.next}
	q={data.query.q}
	keep={kept}
	what={data.lines.count === 1 ? 'line' : 'lines'}
/>
