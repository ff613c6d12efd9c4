<script lang="ts">
	import type { EChartsCoreOption } from 'echarts/core';
	import { MINUTES_PER_YEAR, type HopAvailability } from '#core/budget/availability';
	import { ENDS, farEnd } from '#core/ends';
	import { chartAxis, endColour, type Colour } from '../chart/axis';
	import Chart from '../chart/Chart.svelte';
	import { fixed } from '../format';

	let { availability, carrier }: { availability: HopAvailability; carrier: number } = $props();

	/** Less than this is drawn as this: a logarithm has no nought. */
	const LEAST_MIN = 0.01;
	const allowedMin = $derived((1 - availability.requiredPercent / 100) * MINUTES_PER_YEAR);
	const bars = $derived(
		ENDS.map((end) => ({
			end,
			directions: availability.directions.filter(
				(d) => d.receivingEnd === end && d.carrierNumber === carrier
			)
		}))
	);
	/** The bars stand on the power of ten below the least of them. */
	const floorMin = $derived(
		10 **
			Math.floor(
				Math.log10(
					Math.max(
						LEAST_MIN,
						Math.min(1, ...bars.flatMap((bar) => bar.directions.map((d) => d.outageMinutesPerYear)))
					)
				)
			)
	);
	const modulations = $derived(bars[0]?.directions.map((d) => d.modulation) ?? []);

	function option(colour: Colour): EChartsCoreOption {
		return {
			animation: false,
			grid: { left: 64, right: 14, top: 12, bottom: 34 },
			xAxis: chartAxis(colour, {
				type: 'category',
				data: modulations,
				axisLabel: { interval: 0, formatter: (name: string) => name },
				splitLine: { show: false }
			}),
			yAxis: chartAxis(colour, {
				type: 'log',
				name: 'min out, a year',
				nameGap: 44,
				min: floorMin,
				startValue: floorMin
			}),
			series: bars.map(({ end, directions }, i) => ({
				type: 'bar',
				barMaxWidth: 26,
				data: directions.map((d) => Math.max(floorMin, d.outageMinutesPerYear)),
				itemStyle: { color: endColour(colour, end) },
				...(i === 0
					? {
							markLine: {
								silent: true,
								symbol: 'none',
								label: {
									formatter: 'asked for',
									position: 'insideStartTop',
									color: colour('--ink')
								},
								data: [
									{
										yAxis: Math.max(floorMin, allowedMin),
										lineStyle: { color: colour('--ink'), type: 'dashed', width: 1.6 }
									}
								]
							}
						}
					: {})
			}))
		};
	}
</script>

<figure class="m-0 mt-5">
	<figcaption class="flex flex-wrap gap-x-5 text-sm">
		<span class="font-semibold">Out in a year, by modulation</span>
		{#each ENDS as end (end)}
			<span class="flex items-center gap-1.5"
				><span
					class="end-{end} inline-block h-3 w-3"
					style:background="var(--end)"
					aria-hidden="true"
				></span>{farEnd(end)} to {end}</span
			>
		{/each}
		<span class="text-quiet">below the dashed line is what was asked for</span>
	</figcaption>
	<Chart
		class="h-52 w-full"
		label="Minutes out in a year by modulation, of {fixed(
			allowedMin,
			0
		)} allowed; the figures stand in the table below"
		{option}
	/>
</figure>
