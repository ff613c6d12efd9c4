<script lang="ts">
	import AcceptStage from '$lib/ui/stages/AcceptStage.svelte';
	import AlignStage from '$lib/ui/stages/AlignStage.svelte';
	import BuildStage from '$lib/ui/stages/BuildStage.svelte';
	import PolarizeStage from '$lib/ui/stages/PolarizeStage.svelte';
	import FixStage from '$lib/ui/stages/FixStage.svelte';
	import PowerStage from '$lib/ui/stages/PowerStage.svelte';
	import PrepareStage from '$lib/ui/stages/PrepareStage.svelte';
	import { STAGE_WORDS } from '$lib/ui/hop/stageWords';
	import { page } from '$app/state';
	import { SecondDishHop } from '$lib/ui/hop/secondDishHop.svelte';
	import { useLiveHop } from '$lib/ui/hop/liveHop.svelte';

	let { data } = $props();
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
	{#if data.stage === 'prepare'}
		<PrepareStage
			end={data.end}
			hop={data.hop}
			{live}
			planning={data.planning}
			planChanged={data.planChanged}
			newerParts={data.newerParts}
			accepted={data.acceptances.length > 0}
		/>
	{:else if !live || !bench}
		<h1 class="pt-6">{STAGE_WORDS[data.stage]}</h1>
		<p class="text-quiet max-w-prose py-4 text-lg">
			No plan revision is issued for this hop yet. Nothing is powered, aligned or measured before:
			without a planned level nobody can tell a side lobe from the main lobe.
		</p>
	{:else if data.stage === 'build'}
		<BuildStage end={data.end} {live} />
	{:else if data.stage === 'polarize'}
		<PolarizeStage end={data.end} {live} practice={data.hop.practice} />
	{:else if data.stage === 'power'}
		<PowerStage end={data.end} {live} />
	{:else if data.stage === 'align'}
		<AlignStage end={data.end} live={bench} practice={data.hop.practice} />
	{:else if data.stage === 'fix'}
		<FixStage end={data.end} live={bench} practice={data.hop.practice} />
	{:else}
		<AcceptStage
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
