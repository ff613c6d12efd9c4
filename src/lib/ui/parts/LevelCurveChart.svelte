<script lang="ts">
	import type { EChartsType } from 'echarts/core';
	import { findLevelCurveProblem, type LevelCurvePoint } from '#core/radio/levelCurve';

	let { points }: { points: readonly LevelCurvePoint[] } = $props();
	const sound = $derived(findLevelCurveProblem(points) === undefined);
	const rises = $derived.by(() => {
		const sorted = [...points].sort((p, q) => p[0] - q[0]);
		return sound && sorted.at(-1)![1] > sorted[0]![1];
	});
	let box: HTMLDivElement | undefined = $state();
	let chart: EChartsType | undefined = $state.raw();

	$effect(() => {
		if (!box) return;
		let gone = false;
		let made: EChartsType | undefined;
		let observer: ResizeObserver | undefined;
		void import('../align/echartsParts').then(({ init }) => {
			if (gone || !box) return;
			made = init(box);
			chart = made;
			observer = new ResizeObserver(() => made?.resize());
			observer.observe(box);
		});
		return () => {
			gone = true;
			observer?.disconnect();
			made?.dispose();
			chart = undefined;
		};
	});
	$effect(() => {
		if (!chart || !box) return;
		const style = getComputedStyle(box);
		const colour = (name: string): string => style.getPropertyValue(name).trim();
		const axis = (name: string, gap: number): object => ({
			type: 'value',
			scale: true,
			name,
			nameLocation: 'middle',
			nameGap: gap,
			nameTextStyle: { color: colour('--quiet') },
			axisLabel: { color: colour('--quiet'), fontFamily: 'Spline Sans Mono Variable' },
			axisLine: { lineStyle: { color: colour('--ink') } },
			splitLine: { lineStyle: { color: colour('--line') } }
		});
		chart.setOption(
			{
				animation: false,
				grid: { left: 58, right: 14, top: 12, bottom: 46 },
				xAxis: axis('level, dBm', 28),
				yAxis: axis('port, V', 40),
				series: [
					{
						type: 'line',
						symbolSize: 7,
						data: [...points].sort((p, q) => p[0] - q[0]).map((point) => [...point]),
						lineStyle: { color: colour('--ink'), width: 2 },
						itemStyle: { color: colour('--ink') }
					}
				]
			},
			{ notMerge: true }
		);
	});
</script>

<figure class="m-0" data-testid="level-curve">
	<figcaption class="text-sm">
		{#if points.length < 2}
			Two points and more make a curve.
		{:else if !sound}
			<span class="trouble font-semibold">▲ The volts must rise all along, or fall all along.</span>
		{:else}
			{rises
				? 'Rises with the level: turn for more volts.'
				: 'Falls with the level: turn for less volts.'}
		{/if}
	</figcaption>
	<div bind:this={box} class="h-56 w-full" role="img" aria-label="Level curve of the port"></div>
</figure>
