<script lang="ts">
	import { resolve } from '$app/paths';
	import { ENDS } from '#core/ends';
	import HopTools from '$lib/ui/hop/HopTools.svelte';
	import KeepHere from '$lib/ui/hop/KeepHere.svelte';
	import { STAGE_WORDS } from '$lib/ui/hop/stageWords';

	let { data } = $props();
	const present = $derived(
		ENDS.map((end) => ({
			end,
			site: data.hop.sites[end],
			bay: data.stages[end].find((bay) => bay.state !== 'done') ?? data.stages[end].at(-1)!
		}))
	);
</script>

<svelte:head><title>{data.hop.name} · Skiaxis</title></svelte:head>

<main id="work" class="mx-auto flex min-h-dvh max-w-3xl flex-col justify-center gap-6 px-5 py-10">
	<div>
		<a href={resolve('/')} class="text-quiet inline-flex min-h-12 items-center text-sm">All hops</a>
		<h1>{data.hop.name}</h1>
		<p class="text-quiet mt-1">
			{data.revisionNumber === null
				? 'No plan revision is issued yet.'
				: `Plan revision ${data.revisionNumber} is in force.`}
			{data.hop.practice ? ' A practice hop with a simulated meter.' : ''}
		</p>
	</div>
	<h2>At which end do you stand?</h2>
	<div class="grid gap-4 sm:grid-cols-2">
		{#each present as { end, site, bay } (end)}
			<a
				href={resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
					hopId: data.hop.id,
					end: end === 'A' ? 'a' : 'b',
					stage: bay.stage
				})}
				class="end-{end} bg-card flex min-h-40 flex-col gap-1 rounded-xl border-2 p-5 no-underline hover:outline-3"
				style:border-color="var(--end)"
				style:outline-color="var(--end)"
			>
				<span class="text-end-own text-5xl leading-none font-bold">{end}</span>
				<span class="mt-1 text-xl font-bold">{site.name}</span>
				<span class="text-quiet">{STAGE_WORDS[bay.stage]}: {bay.note}</span>
			</a>
		{/each}
	</div>
	{#if data.revisionNumber !== null}
		<p>
			<a
				class="inline-flex min-h-11 items-center"
				href={resolve('/hops/[hopId]/[end=end]/timetable', { hopId: data.hop.id, end: 'a' })}
				>Timetable of both ends</a
			>
		</p>
	{/if}
	<KeepHere hop={data.hop} standing={data.standing} />
	{#if data.mayPlan}
		<HopTools hop={data.hop} hasHistory={data.revisionNumber !== null} />
	{/if}
	<p class="text-quiet text-sm">
		At a desk, take either end: the other one stays in view on the right.
	</p>
</main>
