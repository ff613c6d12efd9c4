<script lang="ts">
	import { untrack } from 'svelte';
	import type { PowerSource } from '#core/safety/gear';
	import type { BuildStep } from '#core/tower/buildStep';
	import { matchPower } from '#core/tower/towerArithmetic';
	import { sourceOf, type TypedSource } from '../build/source';
	import SourceFields from '../build/SourceFields.svelte';
	import { Draft } from '../form/draft.svelte';
	import type { LiveHub } from './liveHub.svelte';

	interface Props {
		live: LiveHub;
		station: string;
		step: BuildStep;
		/** Gets the source as typed, to be judged with the step. */
		take: (typed: { source: PowerSource | undefined }) => void;
	}

	let { live, station, step, take }: Props = $props();
	const draft = untrack(
		() =>
			new Draft<TypedSource>(live.placeOf(station, `plates-${step.key}`), {
				...{ kind: 'poe-passive', volts: '', watts: '' }
			})
	);
	const source = $derived(sourceOf(draft.values));
	const match = $derived(
		source && step.gate?.kind === 'source'
			? matchPower(source, step.gate.unit, step.gate.cableLengthM)
			: undefined
	);
	const give = (): void => take({ source: sourceOf(draft.values) });
	// What was typed before a reload is judged, too.
	untrack(give);

	/** The step is recorded: what was typed here is with it. */
	export function recorded(): void {
		draft.clear();
	}
</script>

<SourceFields bind:typed={draft.values} {match} ontyped={give} />
