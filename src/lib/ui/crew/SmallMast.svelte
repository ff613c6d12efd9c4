<script lang="ts">
	import type { End } from '#core/ends';
	import { STAGES, type Stage, type StageState } from '#core/stage/stages';

	interface Props {
		end: End;
		stage: Stage;
		state: StageState;
	}

	/** A mast as the hop shows it, small: what is done is filled from the foot up. */
	let { end, stage, state }: Props = $props();
	const at = $derived(STAGES.indexOf(stage));
	const BAY_PX = 6;
	const HEIGHT_PX = STAGES.length * BAY_PX;
	/** A bay is narrower the higher it stands. */
	const widthOf = (bay: number): number => 12 - bay;
	const done = $derived(state === 'done' ? STAGES.length : at);
</script>

<svg
	class="end-{end} shrink-0"
	viewBox="0 0 14 {HEIGHT_PX + 2}"
	width="17"
	height="53"
	aria-hidden="true"
>
	{#each STAGES as bay, i (bay)}
		<rect
			x={7 - widthOf(i) / 2}
			y={HEIGHT_PX - (i + 1) * BAY_PX + 1}
			width={widthOf(i)}
			height={BAY_PX - 1}
			fill={i < done ? 'var(--ink)' : i === at ? 'var(--end)' : 'var(--paper)'}
			stroke={i < done ? 'var(--ink)' : i === at ? 'var(--end)' : 'var(--line)'}
			fill-opacity={i === at && state !== 'open' ? 0.001 : 1}
		/>
	{/each}
	{#if state === 'trouble'}
		<path
			d="M7 {HEIGHT_PX - (at + 1) * BAY_PX - 0.5} l4 7 h-8 z"
			fill="var(--trouble)"
			stroke="var(--paper)"
			stroke-width="0.6"
		/>
	{/if}
</svg>
