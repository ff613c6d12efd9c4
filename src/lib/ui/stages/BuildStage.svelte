<script lang="ts">
	import { buildStateOf } from '#core/tower/buildState';
	import type { End } from '#core/ends';
	import { resolve } from '$app/paths';
	import { PHASE_WORDS, STATE_MARK } from '../build/phaseWords';
	import StepForm from '../build/StepForm.svelte';
	import { tick } from 'svelte';
	import { focusHeading } from '../frame/focus';
	import type { LiveHop } from '../hop/liveHop.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();
	const building = $derived(buildStateOf(live.recorded, end));
	/** Chosen by hand; else the next one to do. */
	let chosen: string | undefined = $state();
	const current = $derived(
		building.steps.find((state) => state.step.key === chosen) ?? building.next
	);
	let top: HTMLElement | undefined = $state();

	function choose(key: string | undefined): void {
		chosen = key;
		// Once the new step stands there: reading goes on at its title.
		void tick().then(() => focusHeading(top));
	}
	const phases = $derived(
		// In the order in which this hop meets them: what goes up as one is put together before it is raised.
		[...new Set(building.steps.map(({ step }) => step.phase))].map((phase) => ({
			phase,
			steps: building.steps.filter((state) => state.step.phase === phase)
		}))
	);
</script>

<div class="end-{end} grid gap-8 pt-4 xl:grid-cols-[minmax(0,1fr)_20rem]">
	<div bind:this={top} class="scroll-mt-16">
		<p class="text-quiet mb-2 text-sm font-semibold" data-testid="build-progress">
			{building.done + building.skipped} of {building.steps.length} steps{building.trouble
				? `, ${building.trouble} in trouble`
				: ''}
		</p>
		{#if current}
			{#key current.step.key}
				<StepForm {end} {live} state={current} ondone={() => choose(undefined)} />
			{/key}
			{#if chosen && building.next && building.next.step.key !== chosen}
				<button class="btn mt-4" onclick={() => choose(undefined)}
					>Go to the next step: {building.next.step.title}</button
				>
			{/if}
		{:else}
			<h1>{end} is built</h1>
			<p class="mt-2">
				{building.skipped
					? `${building.skipped} steps were left out, each with its cause.`
					: 'Every step is done, every quantity as expected.'}
			</p>
			<a
				class="btn btn-main btn-big mt-4"
				href={resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
					hopId: live.hopId,
					end: end === 'A' ? 'a' : 'b',
					stage: 'power'
				})}>Go on to power</a
			>
		{/if}
	</div>

	<nav aria-label="Steps of the building" class="flex flex-col gap-4">
		{#each phases as { phase, steps } (phase)}
			{@const done = steps.filter((s) => s.state === 'done' || s.state === 'skipped').length}
			<section>
				<h2 class="flex justify-between text-base!">
					<span>{PHASE_WORDS[phase]}</span>
					<span class="num text-quiet font-normal">{done}/{steps.length}</span>
				</h2>
				<ul class="border-line mt-1 border-t">
					{#each steps as state (state.step.key)}
						<li class="border-line border-b">
							<button
								class="grid min-h-12 w-full grid-cols-[1.6rem_1fr] items-center py-1 text-left {current
									?.step.key === state.step.key
									? 'text-end-own font-bold'
									: state.state === 'blocked'
										? 'text-quiet'
										: ''}"
								aria-current={current?.step.key === state.step.key ? 'step' : undefined}
								data-step={state.step.key}
								onclick={() => choose(state.step.key)}
							>
								<span class={state.state === 'trouble' ? 'trouble' : ''} aria-hidden="true"
									>{STATE_MARK[state.state]}</span
								>
								<span class="leading-tight"
									>{state.step.title}<span class="sr-only">, {state.state}</span></span
								>
							</button>
						</li>
					{/each}
				</ul>
			</section>
		{/each}
	</nav>
</div>
