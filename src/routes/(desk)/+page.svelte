<script lang="ts">
	import { resolve } from '$app/paths';
	import { onMount } from 'svelte';
	import { hopsOnDevice } from '$lib/ui/hop/onDevice';
	import ListSearch from '$lib/ui/frame/ListSearch.svelte';
	import Pager from '$lib/ui/frame/Pager.svelte';
	import { moment } from '$lib/ui/moment.svelte';
	import WaitingHere from '$lib/ui/hop/WaitingHere.svelte';

	let { data } = $props();
	let here: string[] = $state([]);
	onMount(() => (here = hopsOnDevice().map(({ hopId }) => hopId)));
	type Row = (typeof data.hops.rows)[number];
	function standing(hop: Row): string {
		if (hop.signed) return 'Accepted and signed';
		if (hop.revision === null) return 'Draft, no revision issued';
		if (hop.records === 0) return 'Issued, nothing measured yet';
		return 'Field work under way';
	}
</script>

<svelte:head><title>Hops · Skiaxis</title></svelte:head>

<div class="mb-5 flex flex-wrap items-center gap-x-6 gap-y-3">
	<h1>Hops</h1>
	<ListSearch q={data.query.q} what="hops and sites" />
	{#if data.mayEdit}
		<a class="btn btn-main" href={resolve('/hops/new')}>Plan a new hop</a>
		<a class="btn" href={resolve('/replan')}>Plan all again</a>
	{/if}
</div>

{#if data.actor}<WaitingHere person={data.actor} />{/if}

{#if data.hops.rows.length === 0}
	<p class="text-quiet py-10">
		{data.query.q ? `No hop is named like “${data.query.q}”.` : 'No hop here yet that you work on.'}
	</p>
{:else}
	<ul class="border-line border-t">
		{#each data.hops.rows as hop (hop.id)}
			<li class="border-line border-b">
				<a
					href={resolve('/hops/[hopId]', { hopId: hop.id })}
					class="hover:bg-card grid items-center gap-x-6 gap-y-1 px-2 py-3.5 no-underline sm:grid-cols-[1fr_14rem_12rem]"
				>
					<span class="min-w-0">
						<span class="block truncate text-lg font-semibold">{hop.name}</span>
						<span class="text-quiet block truncate text-sm">
							<span class="text-end-a font-bold">A</span>
							{hop.siteAName}
							<span aria-hidden="true"> — </span>
							<span class="text-end-b font-bold">B</span>
							{hop.siteBName}
						</span>
					</span>
					<span class="text-sm">
						<span class="block font-semibold">{standing(hop)}</span>
						<span class="text-quiet block">
							{hop.revision === null ? 'no revision' : `plan revision ${hop.revision}`}{hop.practice
								? ' · practice hop'
								: ''}{here.includes(hop.id) ? ' · on this device' : ''}
						</span>
					</span>
					<span class="text-quiet text-sm">{moment(hop.updatedAt)}</span>
				</a>
			</li>
		{/each}
	</ul>
{/if}
<Pager
	page={data.hops.page}
	pages={data.hops.pages}
	count={data.hops.count}
	more={data.hops.more}
	next={data.hops.next}
	q={data.query.q}
	what={data.hops.count === 1 ? 'hop' : 'hops'}
/>
