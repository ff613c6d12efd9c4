<script lang="ts">
	import type { BuildStepState } from '#core/tower/buildState';
	import StepForm from '../build/StepForm.svelte';
	import type { LiveHub } from './liveHub.svelte';
	import SourceSheet from './SourceSheet.svelte';

	interface Props {
		live: LiveHub;
		station: string;
		state: BuildStepState;
		ondone: () => void;
	}

	let { live, station, state: own, ondone }: Props = $props();
	const place = $derived(live.stepPlace(station));
	let plates: ReturnType<typeof SourceSheet> | undefined = $state();
</script>

<StepForm {place} state={own} {ondone} onrecorded={() => plates?.recorded()}>
	{#snippet sheet(take)}
		{#if own.step.gate?.kind === 'source'}
			<SourceSheet {live} {station} step={own.step} {take} bind:this={plates} />
		{/if}
	{/snippet}
</StepForm>
