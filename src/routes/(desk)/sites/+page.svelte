<script lang="ts">
	import { resolve } from '$app/paths';
	import ListSearch from '$lib/ui/frame/ListSearch.svelte';
	import Pager from '$lib/ui/frame/Pager.svelte';
	import { fixed } from '$lib/ui/format';

	let { data } = $props();
</script>

<svelte:head><title>Sites · Skiaxis</title></svelte:head>

<div class="mb-5 flex flex-wrap items-center gap-x-6 gap-y-3">
	<h1>Sites</h1>
	<ListSearch q={data.query.q} what="sites" />
	{#if data.mayEdit}<a class="btn btn-main" href={resolve('/sites/new')}>Add a site</a>{/if}
</div>

{#if data.sites.rows.length === 0}
	<p class="text-quiet py-10">
		{data.query.q ? `No site is named like “${data.query.q}”.` : 'No site yet.'}
	</p>
{:else}
	<div class="overflow-x-auto">
		<table class="w-full text-left">
			<thead class="text-quiet border-line border-b text-sm">
				<tr>
					<th class="px-2 py-2 font-semibold">Name</th>
					<th class="px-2 py-2 text-right font-semibold">Latitude, °</th>
					<th class="px-2 py-2 text-right font-semibold">Longitude, °</th>
					<th class="px-2 py-2 text-right font-semibold">Ground, m a.m.s.l.</th>
					<th class="hidden px-2 py-2 font-semibold md:table-cell">Notes</th>
				</tr>
			</thead>
			<tbody>
				{#each data.sites.rows as site (site.id)}
					<tr class="border-line hover:bg-card border-b align-baseline">
						<td class="px-2 py-1">
							<a
								class="flex min-h-11 items-center font-semibold"
								href={resolve('/(desk)/sites/[siteId]', { siteId: site.id })}>{site.name}</a
							>
						</td>
						<td class="num px-2 text-right">{fixed(site.latitudeDeg, 5)}</td>
						<td class="num px-2 text-right">{fixed(site.longitudeDeg, 5)}</td>
						<td class="num px-2 text-right">{fixed(site.groundAmslM, 1)}</td>
						<td class="text-quiet hidden max-w-md truncate px-2 text-sm md:table-cell"
							>{site.notes}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
{/if}
<Pager
	page={data.sites.page}
	pages={data.sites.pages}
	count={data.sites.count}
	more={data.sites.more}
	next={data.sites.next}
	q={data.query.q}
	what={data.sites.count === 1 ? 'site' : 'sites'}
/>
