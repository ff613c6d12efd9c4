<script lang="ts">
	import { buildStateOf } from '#core/tower/buildState';
	import type { End } from '#core/ends';
	import { resolve } from '$app/paths';
	import HopStepForm from '../build/HopStepForm.svelte';
	import StepNav from '../build/StepNav.svelte';
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
				<HopStepForm {end} {live} state={current} ondone={() => choose(undefined)} />
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

	<StepNav {building} current={current?.step.key} onchoose={choose} />
</div>
