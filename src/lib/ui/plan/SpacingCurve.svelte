<script lang="ts">
	import type { EChartsCoreOption } from 'echarts/core';
	import { availabilityText } from '#core/budget/availability';
	import { bestSpacing } from '#core/budget/diversityCurve';
	import { chartAxis, type Colour } from '../chart/axis';
	import Chart from '../chart/Chart.svelte';
	import { fixed } from '../format';
	import { measure, toShown, unitOf } from '../units.svelte';
	import { usePlanEditor } from './editor.svelte';
	import { NOTHING_TO_TELL, WORKING } from './study';
	import { followStudy } from './studyReader.svelte';

	const editor = usePlanEditor();
	const found = followStudy<'spacing'>(
		() => editor.input && { kind: 'spacing', input: editor.input }
	);
	const best = $derived(found.answer && bestSpacing(found.answer));
	const plannedM = $derived(Math.abs(editor.input?.ends.A.secondDishOffsetM ?? 0));

	function option(colour: Colour): EChartsCoreOption {
		return {
			animation: false,
			grid: { left: 64, right: 18, top: 12, bottom: 44 },
			xAxis: chartAxis(colour, {
				name: `between the dishes, ${unitOf('m')}`,
				nameGap: 28,
				min: 0,
				axisLabel: { formatter: (m: number) => fixed(toShown(m, 'm'), 0) }
			}),
			yAxis: chartAxis(colour, { name: 'times fewer fades', nameGap: 44, min: 0 }),
			series: [
				{
					type: 'line',
					showSymbol: false,
					data: (found.answer ?? []).map((point) => [point.spacingM, point.improvement]),
					lineStyle: { color: colour('--ink'), width: 2 },
					markLine: {
						silent: true,
						symbol: 'none',
						label: { formatter: 'planned', color: colour('--ink'), position: 'insideEndTop' },
						lineStyle: { color: colour('--ink'), type: 'dashed', width: 1.6 },
						data: [{ xAxis: plannedM }]
					}
				}
			]
		};
	}
</script>

{#if found.answer?.length && best}
	<figure class="m-0">
		<Chart
			class="h-56 w-full max-w-3xl"
			label="How many times fewer fades, by the spacing of the dishes"
			{option}
		/>
		<figcaption class="max-w-prose" data-testid="best-spacing">
			As good as it gets from <strong class="num">{measure(best.spacingM, 'm', 0)}</strong> on: {fixed(
				best.improvement,
				1
			)} times fewer fades, available {availabilityText(
				best.available.percent,
				best.available.bound
			)}. Both dishes of both ends are counted with what stands in their own paths.
		</figcaption>
	</figure>
{:else}
	<p class="text-quiet">{found.answer === undefined ? WORKING : NOTHING_TO_TELL}</p>
{/if}
