<script lang="ts">
	import type { EChartsCoreOption } from 'echarts/core';
	import type { HopPlan } from '#core/budget/hopPlan';
	import { ENDS, type PerEnd } from '#core/ends';
	import { recordsOf, type FieldRecord } from '#core/record/records';
	import { isOfSecond } from '#core/record/secondDish';
	import { chartAxis, endColour, type Colour } from '../chart/axis';
	import Chart from '../chart/Chart.svelte';

	interface Props {
		records: readonly FieldRecord[];
		/** Of the hop of each dish, the first before the second. */
		plans: PerEnd<HopPlan>[];
		/** How many records have passed. */
		position: number;
	}

	let { records, plans, position }: Props = $props();
	/** Levels above plan are drawn no higher than this, dB. */
	const MOST_ABOVE_DB = 4;
	const lines = $derived(
		plans.flatMap((plan, i) =>
			ENDS.map((end) => ({
				end,
				second: i > 0,
				points: recordsOf(records, 'reading', end).flatMap((record) =>
					record.payload.levelDbm === null || isOfSecond(record) !== i > 0
						? []
						: [
								[
									record.seq,
									plan[end].received[end].plannedLevelDbm - record.payload.levelDbm
								] as const
							]
				)
			}))
		)
	);
	const mostDb = $derived(
		Math.max(10, ...lines.flatMap(({ points }) => points.map(([, below]) => below)))
	);
	const batons = $derived(recordsOf(records, 'baton').map(({ seq }) => seq));

	function option(colour: Colour): EChartsCoreOption {
		const upright = (seq: number, style: object): object => ({ xAxis: seq, lineStyle: style });
		return {
			animation: false,
			grid: { left: 48, right: 14, top: 10, bottom: 40 },
			xAxis: chartAxis(colour, {
				name: 'record',
				nameGap: 26,
				min: 0,
				max: Math.max(1, records.length),
				axisLine: { onZero: false, lineStyle: { color: colour('--ink') } },
				splitLine: { show: false }
			}),
			yAxis: chartAxis(colour, {
				name: 'dB below plan',
				nameGap: 32,
				inverse: true,
				min: -MOST_ABOVE_DB,
				max: Math.ceil(mostDb),
				splitNumber: 4,
				axisLabel: { showMinLabel: false }
			}),
			series: lines.map(({ end, second, points }, i) => ({
				type: 'line',
				step: 'end',
				showSymbol: false,
				data: points.map(([seq, below]) => [seq, Math.max(-MOST_ABOVE_DB, below)]),
				lineStyle: {
					color: endColour(colour, end),
					width: second ? 1.2 : 2.5,
					type: end === 'A' ? 'solid' : 'dashed'
				},
				itemStyle: { color: endColour(colour, end) },
				...(i === 0
					? {
							markLine: {
								silent: true,
								symbol: 'none',
								label: { show: false },
								data: [
									...batons.map((seq) =>
										upright(seq, { color: colour('--line'), type: 'solid', width: 1.5 })
									),
									{ yAxis: 0, lineStyle: { color: colour('--ink'), type: 'dashed', width: 1.2 } },
									upright(position, { color: colour('--ink'), type: 'solid', width: 3 })
								]
							}
						}
					: {})
			}))
		};
	}
</script>

<Chart
	class="h-44 w-full"
	label="dB below plan at both ends over the record; 0 at the top, to {mostDb.toFixed(0)} dB"
	{option}
/>
<p class="text-quiet flex flex-wrap gap-x-5 text-sm">
	<span
		><strong class="text-end-a">A</strong> solid, <strong class="text-end-b">B</strong> dashed</span
	>
	{#if plans.length > 1}<span>thin: the second dishes</span>{/if}
	<span>dashed ink: the plan</span>
	<span>pale lines: the baton passes</span>
</p>
