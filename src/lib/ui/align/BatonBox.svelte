<script lang="ts">
	import { farEnd, type End } from '#core/ends';
	import { SILENCE_S } from '#core/record/baton';
	import { agoInWords } from '../format';
	import type { BenchHop } from '../hop/benchHop';
	import type { AlignBench } from './bench.svelte';
	import Sheet from './Sheet.svelte';

	interface Props {
		end: End;
		live: BenchHop;
		bench: AlignBench;
	}

	let { end, live, bench }: Props = $props();
	const far = $derived(farEnd(end));
	const { baton, batonPassed, crews } = $derived(live.state);
	const holds = $derived(baton === end);
	const own = $derived(live.state.ends[end]);
	const other = $derived(live.state.ends[far]);
	/** When the far end was last heard of: by a record of its own, or when it got the baton. */
	const heardMs = $derived(
		Math.max(
			...[other.lastRecordAt, batonPassed?.at].map((at) => (at ? Date.parse(at) : -Infinity))
		)
	);
	const silentS = $derived(live.nowMs === 0 ? 0 : (live.nowMs - heardMs) / 1000);
	const mayTake = $derived(!holds && silentS >= SILENCE_S);
	let asking = $state(false);
</script>

{#if holds}
	{#if bench.step.kind !== 'hand-over' && bench.step.kind !== 'lock'}
		<button class="btn btn-dashed" disabled={bench.busy} onclick={() => void bench.handOver()}>
			{crews === 1 ? `Go to ${far} now` : `Hand over the baton to ${far}`}
		</button>
	{/if}
{:else if crews === 1}
	<button class="btn btn-dashed" disabled={bench.busy || !mayTake} onclick={() => (asking = true)}
		>The crew is at {end} now</button
	>
{:else}
	<button
		class="btn btn-dashed"
		disabled={bench.busy || own.asksForBaton}
		onclick={() => void live.add(end, 'baton-request', {})}
		>{own.asksForBaton ? `${far} was asked for the baton` : 'Ask for the baton'}</button
	>
	{#if mayTake}
		<button class="btn btn-dashed" disabled={bench.busy} onclick={() => (asking = true)}>
			Take the baton over
		</button>
		<p class="text-quiet text-sm">
			{Number.isFinite(silentS)
				? `${far} recorded last ${agoInWords(silentS)}.`
				: `${far} has recorded nothing.`}
		</p>
	{/if}
{/if}

{#if crews === 2}
	<button
		class="btn btn-dashed"
		disabled={bench.busy || own.asksForLevel}
		onclick={() => void live.add(end, 'level-request', {})}
		>{own.asksForLevel ? `${far} was asked for its level` : `Ask ${far} for its level`}</button
	>
{/if}

<Sheet
	bind:open={asking}
	title="Take the baton over"
	description="{far} has been silent. Only when you know that nobody moves or tightens its dish."
>
	<div class="flex flex-col gap-4">
		<p>
			Call {far} first. Two dishes that move at once lose the signal, and neither end can tell why. {far}’s
			screen will say that you took over.
		</p>
		<button
			class="btn btn-main btn-big"
			disabled={bench.busy}
			onclick={async () => {
				await bench.takeOver();
				asking = false;
			}}>Nobody moves at {far}: take over</button
		>
	</div>
</Sheet>
