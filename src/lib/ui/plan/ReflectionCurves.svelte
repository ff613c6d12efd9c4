<script lang="ts">
	import type { EChartsCoreOption } from 'echarts/core';
	import type { LevelCurveOver } from '#core/budget/reflectionFigures';
	import { ENDS, type End } from '#core/ends';
	import { chartAxis, endColour, type Colour } from '../chart/axis';
	import Chart from '../chart/Chart.svelte';
	import { fixed } from '../format';
	import { measure, toShown, unitOf } from '../units.svelte';
	import { usePlanEditor } from './editor.svelte';
	import { NOTHING_TO_TELL, WORKING } from './study';
	import { followStudy } from './studyReader.svelte';

	let { carrierNumber, end }: { carrierNumber: number; end: End } = $props();
	const editor = usePlanEditor();
	const found = followStudy<'reflection'>(
		() => editor.input && { kind: 'reflection', input: editor.input, carrierNumber, end }
	);
	const figures = $derived(found.answer);
	const tidal = $derived(figures?.againstInverseK.some(({ tide }) => tide !== null) ?? false);
	const DASHES = { '-1': 'dotted', '0': 'solid', '1': 'dashed' } as const;
	const dashOf = (tide: number | null): string =>
		tide === null ? 'solid' : DASHES[String(tide) as keyof typeof DASHES];
	/** A null is deeper than a chart need show, dB. */
	const LEAST_DB = -30;

	function option(
		colour: Colour,
		curves: readonly LevelCurveOver[],
		x: object,
		line: string,
		planned: number | null
	): EChartsCoreOption {
		return {
			animation: false,
			grid: { left: 56, right: 14, top: 10, bottom: 44 },
			xAxis: chartAxis(colour, { nameGap: 28, min: 'dataMin', max: 'dataMax', ...x }),
			yAxis: chartAxis(colour, { name: 'dB', nameGap: 38 }),
			series: curves.map(({ tide, points }, i) => ({
				type: 'line',
				showSymbol: false,
				data: points.map(([at, db]) => [at, Math.max(LEAST_DB, db)]),
				lineStyle: { color: line, width: 2, type: dashOf(tide) },
				...(i === 0 && planned !== null
					? {
							markLine: {
								silent: true,
								symbol: 'none',
								label: { formatter: 'planned', color: colour('--ink'), position: 'insideEndTop' },
								lineStyle: { color: colour('--ink'), type: 'solid', width: 1 },
								data: [{ xAxis: planned }]
							}
						}
					: {})
			}))
		};
	}
	/** k is read on an axis of 1/k: so the bending of the ray is spread evenly. */
	const kText = (inverse: number): string => (inverse < 0.02 ? '∞' : fixed(1 / inverse, 2));
</script>

{#if figures}
	{#if tidal}
		<p class="text-quiet text-sm">
			Dotted at low water, solid at mean water, dashed at high water.
		</p>
	{/if}
	<div class="grid gap-4 lg:grid-cols-3">
		<figure class="m-0">
			<figcaption class="text-sm font-semibold">Level against k</figcaption>
			<Chart
				class="h-52 w-full"
				label="Level against k of the air"
				option={(colour: Colour) =>
					option(
						colour,
						figures.againstInverseK,
						{ name: 'k', axisLabel: { formatter: kText } },
						colour('--ink'),
						1 / (editor.input?.kFactor ?? 4 / 3)
					)}
			/>
		</figure>
		{#each ENDS as at (at)}
			<figure class="m-0">
				<figcaption class="text-sm font-semibold">Level against the height at {at}</figcaption>
				<Chart
					class="h-52 w-full"
					label="Level against the height of the antenna at {at}"
					option={(colour: Colour) =>
						option(
							colour,
							figures.againstHeight[at],
							{
								name: `above ground, ${unitOf('m')}`,
								axisLabel: {
									formatter: (m: number) => fixed(toShown(m, 'm'), 1),
									hideOverlap: true
								}
							},
							endColour(colour, at),
							editor.input?.ends[at].antennaHeightAglM ?? null
						)}
				/>
			</figure>
		{/each}
	</div>
	<p class="mt-2 max-w-prose">
		A second dish hears best where the first hears least when it stands
		<strong class="num">{measure(figures.spacingM.A, 'm', 1)}</strong> higher or lower at A, or
		<strong class="num">{measure(figures.spacingM.B, 'm', 1)}</strong> at B; three or five times as much
		serve as well. Lower antennas behind a rise that hides the water are better still.
	</p>
{:else}
	<p class="text-quiet">{figures === null ? NOTHING_TO_TELL : WORKING}</p>
{/if}
