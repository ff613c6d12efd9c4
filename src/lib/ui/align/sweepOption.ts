import type { EChartsCoreOption } from 'echarts/core';
import type { LevelCurve } from '#core/radio/levelCurve';
import type { SweepAnalysis, SweepSample } from '#core/sweep/analyseSweep';
import { fixed } from '../format';

export interface SweepOptionInput {
	samples: readonly SweepSample[];
	curve: LevelCurve;
	/** Degrees to the unit of the drawing. */
	toAxis: (deg: number) => number;
	unit: string;
	beamwidthDeg: number;
	plannedDbm: number;
	analysis: SweepAnalysis | undefined;
	colours: Record<'end' | 'ink' | 'quiet' | 'line' | 'paper', string>;
}

/** The drawing of a sweep: level over position, lobes numbered, middle dashed, one beam as a ruler. */
export function sweepOption(input: SweepOptionInput): EChartsCoreOption {
	const { samples, curve, toAxis, analysis, colours, plannedDbm } = input;
	const points = samples
		.map(({ positionDeg, levelV }) => {
			const reading = curve.read(levelV);
			return reading.kind === 'implausible' ? undefined : [toAxis(positionDeg), reading.levelDbm];
		})
		.filter((point) => point !== undefined)
		.sort((p, q) => p[0]! - q[0]!);
	const levels = points.map((point) => point[1]!);
	const lowest = levels.length ? Math.min(...levels) : plannedDbm - 50;
	const highest = Math.max(plannedDbm, ...levels);
	const axisText = { color: colours.quiet, fontFamily: 'Spline Sans Mono Variable', fontSize: 12 };
	const rulerAt = analysis?.centreDeg ?? 0;
	const rulerLevel = Math.floor(lowest - 3);
	return {
		animation: false,
		grid: { left: 52, right: 12, top: 14, bottom: 44 },
		xAxis: {
			type: 'value',
			scale: true,
			splitNumber: 4,
			min: points.length ? Math.min(...points.map((p) => p[0]!)) : -5,
			max: points.length ? Math.max(...points.map((p) => p[0]!)) : 5,
			name: input.unit,
			nameLocation: 'middle',
			nameGap: 26,
			nameTextStyle: axisText,
			axisLabel: { ...axisText, hideOverlap: true, formatter: (value: number) => fixed(value, 1) },
			axisLine: { lineStyle: { color: colours.ink, width: 2 } },
			splitLine: { show: false }
		},
		yAxis: {
			type: 'value',
			min: Math.floor(lowest - 6),
			max: Math.ceil(highest + 4),
			axisLabel: { ...axisText, formatter: (value: number) => fixed(value, 0) },
			axisLine: { show: true, onZero: false, lineStyle: { color: colours.ink } },
			splitLine: { lineStyle: { color: colours.line, width: 0.6 } }
		},
		series: [
			{
				type: 'line',
				data: points,
				showSymbol: points.length < 40,
				symbolSize: 5,
				lineStyle: { color: colours.end, width: 2.2 },
				itemStyle: { color: colours.end },
				markLine: {
					silent: true,
					symbol: 'none',
					label: { color: colours.ink, fontSize: 12, position: 'insideEndTop' },
					data: [
						{
							yAxis: plannedDbm,
							lineStyle: { color: colours.ink, type: 'dotted', width: 1.2 },
							label: { formatter: 'plan', position: 'insideStartTop' }
						},
						...(analysis?.centreDeg === null || analysis === undefined
							? []
							: [
									{
										xAxis: toAxis(analysis.centreDeg),
										lineStyle: { color: colours.ink, type: 'dashed', width: 1.6 },
										label: { formatter: '', show: false }
									}
								])
					]
				}
			},
			{
				type: 'scatter',
				silent: true,
				symbolSize: 20,
				z: 5,
				data: (analysis?.lobes ?? []).map((lobe, i) => ({
					value: [toAxis(lobe.positionDeg), lobe.levelDbm],
					label: {
						show: true,
						formatter: String(i + 1),
						color: colours.ink,
						fontWeight: 'bold',
						fontSize: 12
					}
				})),
				itemStyle: { color: colours.paper, borderColor: colours.ink, borderWidth: 1.4 },
				symbolOffset: [0, -14]
			},
			{
				type: 'line',
				silent: true,
				data: points.length
					? [
							[toAxis(rulerAt - input.beamwidthDeg / 2), rulerLevel],
							[toAxis(rulerAt + input.beamwidthDeg / 2), rulerLevel]
						]
					: [],
				symbol: 'rect',
				symbolSize: [2, 12],
				lineStyle: { color: colours.ink, width: 2 },
				itemStyle: { color: colours.ink },
				label: { show: false },
				endLabel: {
					show: true,
					formatter: 'one beam of this dish',
					color: colours.ink,
					fontSize: 12
				}
			}
		]
	};
}
