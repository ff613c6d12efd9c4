<script lang="ts">
	import { relativeGainDb } from '#core/antenna/taperedAperture';
	import type { DishBand } from '#core/catalogue/parts';
	import { fixed } from '../format';
	import LineChart from '../chart/LineChart.svelte';

	let { bands }: { bands: readonly DishBand[] } = $props();
	/** Beams drawn to either side of the axis. */
	const REACH = 4;
	const STEPS = 160;
	const shown = $derived(bands.slice(0, 3));
	const lines = $derived(
		shown.map(({ beamwidthDeg }) => ({
			points: Array.from({ length: STEPS + 1 }, (_, i): [number, number] => {
				const beams = (2 * i * REACH) / STEPS - REACH;
				return [beams * beamwidthDeg, Math.max(-50, relativeGainDb(beams))];
			})
		}))
	);
</script>

<figure class="m-0" data-testid="dish-pattern">
	<figcaption>
		<strong>Pattern by the model</strong>
		<span class="block text-sm"
			>{shown.length === 0
				? 'Needs a beamwidth.'
				: shown
						.map(({ atGhz, beamwidthDeg }, i) => {
							const line = ['solid', 'dashed', 'dotted'][i] ?? '';
							return `${line}: ${fixed(beamwidthDeg, 2)}° at ${fixed(atGhz, 2)} GHz`;
						})
						.join('; ')}</span
		>
	</figcaption>
	{#if shown.length}
		<LineChart
			label="Co-polar pattern by the model, dB under the main lobe over degrees off axis"
			x="off the axis, °"
			y="dB"
			{lines}
			yFrom={-50}
			yTo={0}
		/>
	{/if}
</figure>
