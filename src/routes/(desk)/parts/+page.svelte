<script lang="ts">
	import { resolve } from '$app/paths';
	import { PART_KIND_NAMES, PART_KINDS } from '#core/catalogue/partKinds';
	import Pager from '$lib/ui/frame/Pager.svelte';
	import { fixed } from '$lib/ui/format';
	import Pick from '$lib/ui/form/Pick.svelte';
	import Tick from '$lib/ui/form/Tick.svelte';

	let { data } = $props();
	const { query } = $derived(data);
	const KINDS = [
		{ value: '', label: 'All kinds' },
		...PART_KIND_NAMES.map((kind) => ({ value: kind, label: PART_KINDS[kind].many }))
	];
	let kind = $derived(query.kind ?? '');
	let retired = $derived(query.retired);
	const filtered = $derived(
		query.q !== '' || query.kind !== undefined || query.ghz !== undefined || query.retired
	);
</script>

<svelte:head><title>Parts · Skiaxis</title></svelte:head>

<div class="mb-4 flex flex-wrap items-center gap-x-6 gap-y-3">
	<h1 class="flex-1">Parts</h1>
	{#if data.mayEdit}
		<a class="btn" href={resolve('/parts/import')}>Import and export</a>
		<a class="btn btn-main" href={resolve('/parts/new')}>Add a part</a>
	{/if}
</div>

<form
	method="GET"
	class="mb-5 flex flex-wrap items-end gap-3"
	role="search"
	data-sveltekit-keepfocus
>
	<label class="flex min-w-48 flex-1 flex-col gap-1 text-[0.95rem] font-semibold"
		>Code or name
		<input name="q" value={query.q} type="search" maxlength="80" class="input" />
	</label>
	<div class="flex w-52 flex-col gap-1">
		<label for="parts-kind" class="text-[0.95rem] font-semibold">Kind</label>
		<Pick id="parts-kind" name="kind" options={KINDS} bind:value={kind} />
	</div>
	<label class="flex w-36 flex-col gap-1 text-[0.95rem] font-semibold"
		>Works at, GHz
		<input
			name="ghz"
			value={query.ghz ?? ''}
			inputmode="decimal"
			autocomplete="off"
			class="input num"
		/>
	</label>
	<Tick name="retired" value="true" bind:checked={retired}>Retired ones</Tick>
	<button class="btn">Show</button>
</form>

{#if data.parts.rows.length === 0}
	{#if filtered}
		<p class="text-quiet py-10">No part is like that.</p>
	{:else}
		<div class="max-w-prose py-8" data-testid="no-parts">
			<p class="text-lg">This installation has no parts yet.</p>
			<p class="text-quiet mt-2">
				A plan is made of the radios, dishes and mounts you own. {data.mayEdit
					? 'Add the first one by its data sheet, or import a file of them: a hop needs at least a radio, a dish, a mount and a feeder.'
					: 'A planner adds them.'}
			</p>
			{#if data.mayEdit}
				<p class="mt-4 flex flex-wrap gap-3">
					<a class="btn btn-main" href={resolve('/parts/new')}>Add the first part</a>
					<a class="btn" href={resolve('/parts/import')}>Import a file of parts</a>
				</p>
			{/if}
		</div>
	{/if}
{:else}
	<div class="overflow-x-auto">
		<table class="w-full text-left">
			<thead class="text-quiet border-line border-b text-sm">
				<tr>
					<th class="px-2 py-2 font-semibold">Code</th>
					<th class="px-2 py-2 font-semibold">Name</th>
					<th class="px-2 py-2 font-semibold">Kind</th>
					<th class="px-2 py-2 text-right font-semibold">Frequencies, GHz</th>
					<th class="px-2 py-2 text-right font-semibold">Version</th>
				</tr>
			</thead>
			<tbody>
				{#each data.parts.rows as part (part.id)}
					<tr class="border-line hover:bg-card border-b align-baseline">
						<td class="px-2 py-1">
							<a
								class="num flex min-h-11 items-center font-semibold whitespace-nowrap"
								href={resolve('/(desk)/parts/[partId]', { partId: part.id })}>{part.code}</a
							>
						</td>
						<td class="px-2">{part.name}</td>
						<td class="px-2 whitespace-nowrap">{PART_KINDS[part.kind].one}</td>
						<td class="num px-2 text-right whitespace-nowrap"
							>{part.bandGhz
								? `${fixed(part.bandGhz[0], 2)} to ${fixed(part.bandGhz[1], 2)}`
								: '—'}</td
						>
						<td class="num px-2 text-right">{part.version}</td>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
{/if}
<Pager
	page={data.parts.page}
	pages={data.parts.pages}
	count={data.parts.count}
	q={query.q}
	keep={{
		kind: query.kind ?? '',
		ghz: query.ghz === undefined ? '' : String(query.ghz),
		retired: query.retired ? 'true' : ''
	}}
	what={data.parts.count === 1 ? 'part' : 'parts'}
/>
