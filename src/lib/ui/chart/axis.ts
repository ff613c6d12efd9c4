import type { End } from '#core/ends';

/** Colours of the theme by their names. */
export type Colour = (name: string) => string;

/** The colour of an end, as everywhere. */
export const endColour = (colour: Colour, end: End): string =>
	colour(end === 'A' ? '--end-a' : '--end-b');

/** What every axis of the charts has in common; labels keep their look whatever else they are told. */
export function chartAxis(
	colour: Colour,
	{ axisLabel, ...change }: { axisLabel?: object; [option: string]: unknown }
): object {
	return {
		type: 'value',
		nameLocation: 'middle',
		nameTextStyle: { color: colour('--quiet') },
		axisLabel: {
			color: colour('--quiet'),
			fontFamily: 'Spline Sans Mono Variable',
			formatter: (value: number) => String(value).replace('-', '−'),
			...axisLabel
		},
		axisLine: { lineStyle: { color: colour('--ink') } },
		splitLine: { lineStyle: { color: colour('--line') } },
		...change
	};
}
