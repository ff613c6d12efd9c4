<script lang="ts">
	import type { EChartsCoreOption } from 'echarts/core';
	import { chartAxis, type Colour } from './axis';
	import Chart from './Chart.svelte';

	interface Props {
		label: string;
		/** Names of the axes with their units. */
		x: string;
		y: string;
		lines: readonly { points: readonly (readonly [number, number])[]; dots?: boolean }[];
		/** Lowest and highest value drawn on y; from the points where not given. */
		yFrom?: number;
		yTo?: number;
	}

	let { label, x, y, lines, yFrom, yTo }: Props = $props();
	function option(colour: Colour): EChartsCoreOption {
		const axis = (name: string, nameGap: number, min?: number, max?: number): object =>
			chartAxis(colour, { scale: true, splitNumber: 4, name, nameGap, min, max });
		const dashes = ['solid', 'dashed', 'dotted'];
		return {
			animation: false,
			grid: { left: 58, right: 14, top: 12, bottom: 46 },
			xAxis: axis(x, 28),
			yAxis: axis(y, 42, yFrom, yTo),
			series: lines.map(({ points, dots = false }, i) => ({
				type: 'line',
				showSymbol: dots,
				symbolSize: 7,
				data: points.map((point) => [...point]),
				lineStyle: { color: colour('--ink'), width: 2, type: dashes[i % dashes.length] },
				itemStyle: { color: colour('--ink') }
			}))
		};
	}
</script>

<Chart {label} class="h-56 w-full" {option} />
