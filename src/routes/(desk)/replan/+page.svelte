<script lang="ts">
	import { resolve } from '$app/paths';
	import { onMount } from 'svelte';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { fixed } from '$lib/ui/format';
	import { FollowedWork } from '$lib/ui/longWork/longWork.svelte';
	import WorkProgress from '$lib/ui/longWork/WorkProgress.svelte';

	interface Figures {
		levelADbm: number;
		levelBDbm: number;
		availabilityPercent: number;
	}
	interface Outcome {
		id: string;
		name: string;
		before: Figures | null;
		after: Figures | null;
		errors: number;
		openWarnings: number;
		trouble: string | null;
	}
	interface Result {
		notable: Outcome[];
		moved: number;
		withErrors: number;
		withOpenWarnings: number;
	}

	const work = new FollowedWork<Result>('replan');
	onMount(() => work.takeUp());
	const result = $derived(work.current?.result);
	const moved = (outcome: Outcome): string =>
		outcome.before && outcome.after
			? `A ${fixed(outcome.after.levelADbm - outcome.before.levelADbm, 1, true)} dB, B ${fixed(outcome.after.levelBDbm - outcome.before.levelBDbm, 1, true)} dB, ${fixed(outcome.after.availabilityPercent - outcome.before.availabilityPercent, 4, true)} %`
			: outcome.before
				? 'cannot be computed any more'
				: 'no revision yet';
</script>

<svelte:head><title>Replan · Skiaxis</title></svelte:head>
<h1 class="mb-2">Plan every hop again</h1>
<p class="text-quiet mb-5 max-w-prose">
	Computes the draft of every hop you work on with the sites and parts as they are now, reviews it,
	and names those whose figures have moved against their newest revision. Nothing is changed.
</p>
<div class="flex flex-wrap items-center gap-4">
	<button
		type="button"
		class="btn btn-main"
		disabled={work.running}
		onclick={() => void work.start('/replans')}
		>{work.running ? 'Planning …' : 'Plan them again'}</button
	>
	{#if work.running}
		<button type="button" class="btn" onclick={() => void work.stop()}>Stop</button>
	{/if}
</div>
{#if work.problem}<div class="mt-4"><Notice kind="trouble">{work.problem}</Notice></div>{/if}
{#if work.current}
	<div class="mt-5" data-testid="replan">
		<WorkProgress {work} words="planned" />
		{#if work.current.trouble}<Notice kind="trouble">{work.current.trouble}</Notice>{/if}
	</div>
	{#if result}
		<p class="mt-3 text-lg">
			<strong class="num">{result.moved}</strong> moved,
			<strong class="num">{result.withErrors}</strong>
			with errors,
			<strong class="num">{result.withOpenWarnings}</strong> with open warnings.
		</p>
		<ul class="mt-3">
			{#each result.notable.slice(0, 200) as outcome (outcome.id)}
				<li class="border-line grid gap-x-5 border-b py-2 sm:grid-cols-[16rem_1fr]">
					<a
						class="flex min-h-11 items-center font-semibold"
						href={resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
							hopId: outcome.id,
							end: 'a',
							stage: 'prepare'
						})}>{outcome.name}</a
					>
					<span>
						<span class="num block text-sm">{moved(outcome)}</span>
						{#if outcome.trouble}<span class="text-sm"
								><span class="trouble">▲</span> {outcome.trouble}</span
							>{/if}
					</span>
				</li>
			{/each}
		</ul>
	{/if}
{/if}
