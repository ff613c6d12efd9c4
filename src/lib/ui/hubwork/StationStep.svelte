<script lang="ts">
	import { untrack } from 'svelte';
	import type { BuildStepState } from '#core/tower/buildState';
	import { matchPower } from '#core/tower/towerArithmetic';
	import { sourceOf, type TypedSource } from '../build/source';
	import SourceFields from '../build/SourceFields.svelte';
	import StepForm from '../build/StepForm.svelte';
	import { Draft } from '../form/draft.svelte';
	import type { LiveHub } from './liveHub.svelte';

	interface Props {
		live: LiveHub;
		station: string;
		state: BuildStepState;
		ondone: () => void;
	}

	let { live, station, state: own, ondone }: Props = $props();
	const place = $derived(live.stepPlace(station));
	const draft = untrack(
		() =>
			new Draft<TypedSource>(live.placeOf(station, `plates-${own.step.key}`), {
				...{ kind: 'poe-passive', volts: '', watts: '' }
			})
	);
	const source = $derived(sourceOf(draft.values));
	const match = $derived(
		source && own.step.gate?.kind === 'source'
			? matchPower(source, own.step.gate.unit, own.step.gate.cableLengthM)
			: undefined
	);
</script>

<StepForm {place} state={own} {ondone} onrecorded={() => draft.clear()}>
	{#snippet sheet(take)}
		{#if own.step.gate?.kind === 'source'}
			<SourceFields
				bind:typed={draft.values}
				{match}
				ontyped={() => take({ source: sourceOf(draft.values) })}
			/>
		{/if}
	{/snippet}
</StepForm>
