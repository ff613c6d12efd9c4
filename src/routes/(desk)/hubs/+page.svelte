<script lang="ts">
	import { resolve } from '$app/paths';
	import ListSearch from '$lib/ui/frame/ListSearch.svelte';
	import Pager from '$lib/ui/frame/Pager.svelte';

	let { data } = $props();
	const counted = (count: number, one: string): string =>
		`${count} ${count === 1 ? one : `${one}s`}`;
</script>

<svelte:head><title>Hubs · Skiaxis</title></svelte:head>

<div class="mb-5 flex flex-wrap items-center gap-x-6 gap-y-3">
	<h1>Hubs</h1>
	<ListSearch q={data.query.q} what="hubs and sites" />
	<a class="btn" href={resolve('/possible')}>Is a link possible?</a>
	{#if data.mayEdit}<a class="btn btn-main" href={resolve('/hubs/new')}>Plan a hub</a>{/if}
</div>

{#if data.hubs.rows.length === 0}
	<p class="text-quiet max-w-prose py-10">
		{data.query.q
			? `No hub and no site is named like “${data.query.q}”.`
			: 'No hub yet. A hub is one site whose units steer their beams to many terminals; a hop joins two sites.'}
	</p>
{:else}
	<ul class="border-line border-t">
		{#each data.hubs.rows as hub (hub.id)}
			<li class="border-line border-b">
				<a
					class="hover:bg-card flex min-h-16 flex-wrap items-center gap-x-6 px-2 py-2 no-underline"
					href={resolve('/(desk)/hubs/[hubId]', { hubId: hub.id })}
				>
					<span class="grow">
						<strong class="text-lg">{hub.name}</strong>
						<span class="text-quiet block text-sm">at {hub.siteName}</span>
					</span>
					<span class="num text-sm"
						>{counted(hub.units, 'unit')}, {counted(hub.terminals, 'terminal')}</span
					>
				</a>
			</li>
		{/each}
	</ul>
{/if}
<Pager
	page={data.hubs.page}
	pages={data.hubs.pages}
	count={data.hubs.count}
	more={data.hubs.more}
	next={data.hubs.next}
	q={data.query.q}
	what={data.hubs.count === 1 ? 'hub' : 'hubs'}
/>
