<script lang="ts">
	import { findLevelCurveProblem, type LevelCurvePoint } from '#core/radio/levelCurve';
	import LineChart from '../chart/LineChart.svelte';

	let { points }: { points: readonly LevelCurvePoint[] } = $props();
	const sorted = $derived([...points].sort((p, q) => p[0] - q[0]));
	const sound = $derived(findLevelCurveProblem(points) === undefined);
	const rises = $derived(sound && sorted.at(-1)![1] > sorted[0]![1]);
</script>

<figure class="m-0" data-testid="level-curve">
	<figcaption>
		<strong>Level port</strong>
		<span class="block text-sm">
			{#if points.length < 2}
				Two points and more make a curve.
			{:else if !sound}
				<span class="trouble font-semibold"
					>▲ The volts must rise all along, or fall all along.</span
				>
			{:else}
				{rises
					? 'Rises with the level: turn for more volts.'
					: 'Falls with the level: turn for less volts.'}
			{/if}
		</span>
	</figcaption>
	<LineChart
		label="Level curve of the port"
		x="level, dBm"
		y="port, V"
		lines={[{ points: sorted, dots: true }]}
	/>
</figure>
