<script lang="ts">
	import { resolve } from '$app/paths';
	import { onDestroy } from 'svelte';
	import { callApi, troubleOf } from '$lib/ui/api';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { fixed } from '$lib/ui/format';

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
	interface Replan {
		id: string;
		status: 'running' | 'done' | 'cancelled' | 'failed';
		total: number;
		done: number;
		result: {
			notable: Outcome[];
			moved: number;
			withErrors: number;
			withOpenWarnings: number;
		} | null;
	}

	let replan: Replan | undefined = $state.raw();
	let problem: string | undefined = $state();
	let timer: ReturnType<typeof setTimeout> | undefined;
	onDestroy(() => clearTimeout(timer));

	async function guarded(work: () => Promise<Replan>): Promise<void> {
		problem = undefined;
		try {
			replan = await work();
			clearTimeout(timer);
			if (replan.status === 'running') {
				const { id } = replan;
				timer = setTimeout(() => void guarded(() => callApi<Replan>('GET', `/replans/${id}`)), 400);
			}
		} catch (error) {
			problem = troubleOf(error);
		}
	}
	const start = (): Promise<void> =>
		guarded(() => callApi<Replan>('POST', '/replans', { id: crypto.randomUUID() }));
	const cancel = (): Promise<void> =>
		guarded(() => callApi<Replan>('POST', `/replans/${replan!.id}/cancel`));
	const running = $derived(replan?.status === 'running');
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
	<button type="button" class="btn btn-main" disabled={running} onclick={() => void start()}
		>{running ? 'Planning …' : 'Plan them again'}</button
	>
	{#if running}<button type="button" class="btn" onclick={() => void cancel()}>Stop</button>{/if}
</div>
{#if problem}<div class="mt-4"><Notice kind="trouble">{problem}</Notice></div>{/if}
{#if replan}
	<div class="mt-5" role="status" data-testid="replan">
		<progress
			class="h-3 w-full max-w-xl accent-(--ink)"
			max={Math.max(1, replan.total)}
			value={replan.done}
		></progress>
		<p>
			<span class="num">{replan.done} of {replan.total}</span>
			{replan.status === 'done'
				? 'planned'
				: replan.status === 'cancelled'
					? 'planned, then stopped'
					: replan.status === 'failed'
						? 'planned, then it failed'
						: ''}
		</p>
	</div>
	{#if replan.result}
		<p class="mt-3 text-lg">
			<strong class="num">{replan.result.moved}</strong> moved,
			<strong class="num">{replan.result.withErrors}</strong>
			with errors,
			<strong class="num">{replan.result.withOpenWarnings}</strong> with open warnings.
		</p>
		<ul class="mt-3">
			{#each replan.result.notable.slice(0, 200) as outcome (outcome.id)}
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
