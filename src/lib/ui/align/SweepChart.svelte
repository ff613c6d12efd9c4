<script lang="ts">
	import type { EChartsCoreOption } from 'echarts/core';
	import type { Adjuster } from '#core/catalogue/parts';
	import type { End } from '#core/ends';
	import type { LevelCurve } from '#core/radio/levelCurve';
	import { adjusterTurns } from '#core/sweep/adjusterScale';
	import type { SweepAnalysis, SweepSample } from '#core/sweep/analyseSweep';
	import Chart from '../chart/Chart.svelte';
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

	const option = (colour: (name: string) => string): EChartsCoreOption =>
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
		});
</script>

<figure class="m-0">
	<figcaption class="flex flex-wrap justify-between gap-x-4">
		<span class="font-bold">{title}</span>
		<span class="text-quiet num text-sm">{summary}</span>
	</figcaption>
	<Chart label="{title}: {summary}" class="h-64 w-full" {option} />
</figure>
