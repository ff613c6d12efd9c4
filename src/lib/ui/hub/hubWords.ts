import { availabilityText, BOUND_OF } from '#core/budget/availability';
import type { RainOutage } from '#core/propagation/rainOutage';
import type { HubDirection, TerminalPlan } from '#core/hub/hubFigures';
import { fixed } from '../format';

/** Strokes by which the units of a hub are told apart, in every theme and on paper. */
export const UNIT_STROKES = ['none', '9 5', '2 4', '12 4 2 4'] as const;

export const strokeOf = (unit: number): string => UNIT_STROKES[unit % UNIT_STROKES.length]!;

/** What a unit or a terminal is put up on. */
export const HOW_WORDS = { pole: 'a pole', wall: 'a wall', bracket: 'a tilting bracket' } as const;

/** Share of the year in which rain leaves a terminal its link. */
export const rainText = ({ percent, range }: RainOutage): string =>
	availabilityText(100 - percent, BOUND_OF[range]);

export const rateText = ({ rateMbitS }: HubDirection): string => `${fixed(rateMbitS, 0)} Mbit/s`;

/** Degrees outside a window, never said to be none. */
const outside = (deg: number): string => `${fixed(Math.max(0.1, deg), 1)}°`;

/** How far a terminal lies inside its window, or what keeps it from being served, in a few words. */
export function standingOf({ served, why }: TerminalPlan): string {
	if (served) return `${fixed(served.atUnit.marginDeg, 1)}° inside`;
	switch (why?.code) {
		case 'no-window':
			return why.unitName === null ? 'no unit' : `${outside(why.outsideDeg)} outside`;
		case 'terminal-window':
			return 'looks elsewhere';
		case 'blocked':
			return 'blocked';
		case 'too-weak':
			return 'too weak';
		case 'full':
			return 'no room';
		default:
			return 'drowned';
	}
}
