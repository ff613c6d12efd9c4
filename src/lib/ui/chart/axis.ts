/** Colours of the theme by their names. */
export type Colour = (name: string) => string;

/** What every axis of the charts has in common. */
export function chartAxis(colour: Colour, change: object): object {
	return {
		type: 'value',
		nameLocation: 'middle',
		nameTextStyle: { color: colour('--quiet') },
		axisLabel: {
			color: colour('--quiet'),
			fontFamily: 'Spline Sans Mono Variable',
			formatter: (value: number) => String(value).replace('-', '−')
		},
		axisLine: { lineStyle: { color: colour('--ink') } },
		splitLine: { lineStyle: { color: colour('--line') } },
		...change
	};
}
