<script lang="ts">
	import { resolve } from '$app/paths';
	import { onMount } from 'svelte';
	import { hopsOnDevice } from '$lib/ui/hop/onDevice';
	import FirstSteps from '$lib/ui/frame/FirstSteps.svelte';
	import ListSearch from '$lib/ui/frame/ListSearch.svelte';
	import Pager from '$lib/ui/frame/Pager.svelte';
	import { fixed } from '$lib/ui/format';
	import { moment } from '$lib/ui/moment.svelte';
	import { measure } from '$lib/ui/units.svelte';
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
	const STANDINGS = [
		['open', 'All'],
		['draft', 'Drafts'],
		['issued', 'Issued'],
		['field', 'Under way'],
		['accepted', 'Accepted'],
		['trouble', 'With trouble'],
		['archived', 'Put away']
	] as const;
	const SORTS = [
		['changed', 'plan changed last'],
		['name', 'name']
	] as const;
	const kept = $derived({
		...(data.query.standing === 'open' ? {} : { standing: data.query.standing }),
		...(data.query.sort === 'changed' ? {} : { sort: data.query.sort })
	});
	/** The list as it is but for one choice, from its first page. */
	function chosen(choice: Partial<Record<'standing' | 'sort', string>>): string {
		const asked = Object.entries({ q: data.query.q, ...kept, ...choice }).filter(
			([, value]) => value
		);
		return `?${new URLSearchParams(asked).toString()}`;
	}
	const NOTHING: Record<string, string> = {
		open: 'No hop here yet that you work on.',
		draft: 'No draft waits to be issued.',
		issued: 'No issued plan waits for its crew.',
		field: 'No field work is under way.',
		accepted: 'No hop is accepted yet.',
		trouble: 'Nothing to see to: no card says stop, no snag and no visit is open.',
		archived: 'No hop is put away.'
	};
</script>

<svelte:head><title>Hops · Skiaxis</title></svelte:head>

<div class="mb-5 flex flex-wrap items-center gap-x-6 gap-y-3">
	<h1>Hops</h1>
	<ListSearch q={data.query.q} what="hops and sites" keep={kept} />
	{#if data.mayEdit}
		<a class="btn btn-main" href={resolve('/hops/new')}>Plan a new hop</a>
		<a class="btn" href={resolve('/replan')}>Plan all again</a>
	{/if}
</div>

{#if data.actor}<WaitingHere person={data.actor} />{/if}

{#snippet list()}
	<div class="mb-3 flex flex-wrap items-center gap-x-6 gap-y-1">
		<!-- eslint-disable svelte/no-navigation-without-resolve -- queries on the page itself -->
		<nav
			aria-label="Which hops"
			class="flex max-w-full gap-x-1 overflow-x-auto whitespace-nowrap sm:flex-wrap"
		>
			{#each STANDINGS as [standing, label] (standing)}
				<a
					class="inline-flex min-h-11 items-center px-2 {data.query.standing === standing
						? 'font-bold no-underline'
						: 'underline'}"
					aria-current={data.query.standing === standing ? 'page' : undefined}
					href={chosen({ standing })}>{label}</a
				>
			{/each}
		</nav>
		<p class="text-quiet flex flex-wrap items-center gap-x-2 text-sm">
			By
			{#each SORTS as [sort, label] (sort)}
				<a
					class="inline-flex min-h-11 items-center {data.query.sort === sort
						? 'text-ink font-bold no-underline'
						: 'underline'}"
					aria-current={data.query.sort === sort ? 'true' : undefined}
					href={chosen({ sort })}>{label}</a
				>
			{/each}
		</p>
		<!-- eslint-enable svelte/no-navigation-without-resolve -->
	</div>

	{#if data.hops.rows.length === 0}
		<p class="text-quiet py-10">
			{data.query.q ? `No hop is named like “${data.query.q}”.` : NOTHING[data.query.standing]}
			{#if !data.query.q && data.query.standing === 'open' && data.mayEdit}
				Plan the first one: two sites and what stands at them.
			{/if}
		</p>
	{:else}
		<ul class="border-line border-t">
			{#each data.hops.rows as hop (hop.id)}
				<li class="border-line border-b">
					<a
						href={resolve('/hops/[hopId]', { hopId: hop.id })}
						class="hover:bg-card grid items-start gap-x-6 gap-y-1 px-2 py-3 no-underline sm:grid-cols-[1fr_8rem_15rem_13rem]"
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
						<span class="num text-sm sm:pt-1">
							{hop.frequencyGhz === null ? '' : `${fixed(hop.frequencyGhz, 1)} GHz`}
							<span class="text-quiet sm:block">{measure(hop.distanceKm, 'km', 1)}</span>
						</span>
						<span class="text-sm sm:pt-1">
							<span class="block font-semibold">{standing(hop)}</span>
							<span class="text-quiet block">
								{hop.revision === null
									? 'no revision'
									: `plan revision ${hop.revision}`}{hop.practice
									? ' · practice hop'
									: ''}{here.includes(hop.id) ? ' · on this device' : ''}
							</span>
							{#each hop.trouble as trouble (trouble)}
								<span class="trouble block font-semibold">▲ {trouble}</span>
							{/each}
						</span>
						<span class="text-quiet text-sm sm:pt-1">
							{#if hop.last}
								<span class="text-ink block">{hop.last.by} at {hop.last.end}</span>
								{moment(hop.last.at)}
							{:else}
								plan {moment(hop.updatedAt)}
							{/if}
						</span>
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
		keep={kept}
		what={data.hops.count === 1 ? 'hop' : 'hops'}
	/>
{/snippet}

{#if data.actor}
	<FirstSteps role={data.actor.role} seen={data.firstStepsSeen}>{@render list()}</FirstSteps>
{:else}
	{@render list()}
{/if}
