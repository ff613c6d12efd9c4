<script lang="ts">
	import type { End } from '#core/ends';
	import type { LiftingGear, PowerSource } from '#core/safety/gear';
	import type { BuildStepState } from '#core/tower/buildState';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import ChainForm from './ChainForm.svelte';
	import LabelsForm from './LabelsForm.svelte';
	import PackingForm from './PackingForm.svelte';
	import PhotoStrip from './PhotoStrip.svelte';
	import StepForm from './StepForm.svelte';
	import StepSheet from './StepSheet.svelte';

	interface Props {
		end: End;
		live: LiveHop;
		state: BuildStepState;
		ondone: () => void;
	}

	let { end, live, state: own, ondone }: Props = $props();
	const step = $derived(own.step);
	const place = $derived(live.stepPlace(end));
	let sheetForm: ReturnType<typeof StepSheet> | undefined = $state();
	let gear: LiftingGear | undefined = $state();
	let source: PowerSource | undefined = $state();
</script>

<StepForm {place} state={own} {ondone} onrecorded={() => sheetForm?.recorded()}>
	{#snippet work()}
		{#if step.work === 'packing'}
			<PackingForm {end} {live} />
		{:else if step.work === 'labels'}
			<LabelsForm {end} {live} />
		{:else if step.work === 'parties'}
			<!-- Seldom opened: it comes when it is asked for. -->
			{#await import('./PartiesForm.svelte') then { default: PartiesForm }}
				<PartiesForm {end} {live} />
			{/await}
		{:else if step.work === 'chain'}
			<ChainForm {end} {live} joints={step.joints} />
		{/if}
	{/snippet}
	{#snippet photos(ids, change)}
		{#if change}
			<PhotoStrip
				{end}
				{live}
				about={step.key}
				bind:photoIds={() => ids, change}
				label="Take the photo"
			/>
		{:else}
			<PhotoStrip {end} {live} about={step.key} photoIds={ids} readonly />
		{/if}
	{/snippet}
	{#snippet sheet(take)}
		<StepSheet
			{end}
			{live}
			{step}
			bind:this={sheetForm}
			bind:gear={
				() => gear,
				(typed) => {
					gear = typed;
					take({ gear, source });
				}
			}
			bind:source={
				() => source,
				(typed) => {
					source = typed;
					take({ gear, source });
				}
			}
		/>
	{/snippet}
</StepForm>
