<script lang="ts">
	import type { EChartsCoreOption } from 'echarts/core';
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
	function option(colour: (name: string) => string): EChartsCoreOption {
		const axis = (name: string, gap: number, from?: number, to?: number): object => ({
			type: 'value',
			scale: true,
			min: from,
			max: to,
			name,
			splitNumber: 4,
			nameLocation: 'middle',
			nameGap: gap,
			nameTextStyle: { color: colour('--quiet') },
			axisLabel: {
				color: colour('--quiet'),
				fontFamily: 'Spline Sans Mono Variable',
				formatter: (value: number) => String(value).replace('-', '−')
			},
			axisLine: { lineStyle: { color: colour('--ink') } },
			splitLine: { lineStyle: { color: colour('--line') } }
		});
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
