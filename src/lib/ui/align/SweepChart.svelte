<script lang="ts">
	import type { EChartsType } from 'echarts/core';
	import type { Adjuster } from '#core/catalogue/parts';
	import type { End } from '#core/ends';
	import type { LevelCurve } from '#core/radio/levelCurve';
	import { adjusterTurns } from '#core/sweep/adjusterScale';
	import type { SweepAnalysis, SweepSample } from '#core/sweep/analyseSweep';
	import { fixed } from '../format';
	import { sweepOption } from './sweepOption';

	interface Props {
		end: End;
		title: string;
		samples: readonly SweepSample[];
		curve: LevelCurve;
		adjuster: Adjuster;
		beamwidthDeg: number;
		plannedDbm: number;
		analysis: SweepAnalysis | undefined;
		inTurns: boolean;
	}

	let { end, title, samples, curve, adjuster, beamwidthDeg, plannedDbm, analysis, inTurns }: Props =
		$props();
	let box: HTMLDivElement | undefined = $state();
	let chart: EChartsType | undefined = $state.raw();

	const toAxis = (deg: number): number => (inTurns ? adjusterTurns(adjuster, deg) : deg);
	const summary = $derived.by(() => {
		if (!analysis) return samples.length ? `${samples.length} readings` : '';
		const unit = inTurns ? ' turns' : '°';
		const centre =
			analysis.centreDeg === null
				? ''
				: `, even about ${fixed(toAxis(analysis.centreDeg), 2, true)}${unit}`;
		const count = analysis.lobes.length;
		return `${count} ${count === 1 ? 'lobe' : 'lobes'}${centre}`;
	});

	$effect(() => {
		if (!box) return;
		let gone = false;
		let made: EChartsType | undefined;
		let observer: ResizeObserver | undefined;
		void import('./echartsParts').then(({ init }) => {
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
		chart.setOption(
			sweepOption({
				samples,
				curve,
				toAxis,
				unit: inTurns ? 'turns' : '°',
				beamwidthDeg,
				plannedDbm,
				analysis,
				colours: {
					end: colour(`--end-${end.toLowerCase()}`),
					ink: colour('--ink'),
					quiet: colour('--quiet'),
					line: colour('--line'),
					paper: colour('--paper')
				}
			}),
			{ notMerge: true }
		);
	});
</script>

<figure class="m-0">
	<figcaption class="flex flex-wrap justify-between gap-x-4">
		<span class="font-bold">{title}</span>
		<span class="text-quiet num text-sm">{summary}</span>
	</figcaption>
	<div bind:this={box} class="h-64 w-full" role="img" aria-label="{title}: {summary}"></div>
</figure>
