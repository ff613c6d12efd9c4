<script lang="ts">
	import { STAGE_WORDS } from '$lib/ui/hop/stageWords';
	import { page } from '$app/state';
	import { SecondDishHop } from '$lib/ui/hop/secondDishHop.svelte';
	import { useLiveHop } from '$lib/ui/hop/liveHop.svelte';

	let { data } = $props();
	const view = $derived(data.view);
	const liveHop = useLiveHop();
	const live = $derived(liveHop());
	/** What the bench works on: a second dish where the address asks for it and the plan has one. */
	const ofSecond = $derived(
		page.url.searchParams.get('dish') === '2' && live !== undefined && live.state.second !== null
	);
	const bench = $derived(live && ofSecond ? new SecondDishHop(live, data.end) : live);
</script>

<svelte:head>
	<title>{STAGE_WORDS[data.stage]} {data.end} · {data.hop.name} · Skiaxis</title>
</svelte:head>

{#key `${data.end}${bench?.dish ?? 0}`}
	{#if view.shown === 'plan'}
		<view.View
			end={data.end}
			hop={data.hop}
			{live}
			planning={data.planning!}
			planChanged={data.planChanged}
			newerParts={data.newerParts}
			accepted={data.acceptances.length > 0}
		/>
	{:else if view.shown === 'prepare'}
		<view.View end={data.end} hop={data.hop} {live} newerParts={data.newerParts} />
	{:else if !live || !bench}
		<h1 class="pt-6">{STAGE_WORDS[data.stage]}</h1>
		<p class="text-quiet max-w-prose py-4 text-lg">
			No plan revision is issued for this hop yet. Nothing is powered, aligned or measured before:
			without a planned level nobody can tell a side lobe from the main lobe.
		</p>
	{:else if view.shown === 'build'}
		<view.View end={data.end} {live} />
	{:else if view.shown === 'polarize'}
		<view.View end={data.end} {live} practice={data.hop.practice} />
	{:else if view.shown === 'power'}
		<view.View end={data.end} {live} />
	{:else if view.shown === 'align'}
		<view.View end={data.end} live={bench} practice={data.hop.practice} />
	{:else if view.shown === 'fix'}
		<view.View end={data.end} live={bench} practice={data.hop.practice} />
	{:else}
		<view.View
			end={data.end}
			{live}
			hopId={data.hop.id}
			practice={data.hop.practice}
			provenance={data.hop.provenance}
			acceptances={data.acceptances}
			maySign={data.rights.sign}
			signerName={data.actor?.displayName ?? ''}
		/>
	{/if}
{/key}
