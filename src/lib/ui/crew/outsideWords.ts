import type { DayOutside } from '#core/crew/dayOutside';
import type { Limit } from '#core/schedule/weather';
import { clockAt } from '../timetable/timetableWords';

const FORBIDS: Record<Limit, string> = {
	climb: 'no climbing',
	lift: 'no lifting',
	open: 'no open joints'
};

const DAY_MIN = 1440;

/** Light and weather of a day in words, by the clock of a zone. */
export function outsideWords(
	{ light, forbidden, weatherKnown }: DayOutside,
	zone: string
): { light: string; weather: string; forbids: boolean } {
	const spanWords = ({ from, to }: { from: number; to: number }): string =>
		`${clockAt(from, zone)} to ${clockAt(to, zone)}`;
	const all = light.reduce((sum, { from, to }) => sum + to - from, 0);
	// A day of a change of clocks is an hour shorter or longer.
	const whole = all >= DAY_MIN - 60;
	const said = forbidden.map(
		({ limit, spans }) => `${FORBIDS[limit]} ${spans.map(spanWords).join(', ')}`
	);
	const sentence = said.join('; ');
	return {
		light:
			light.length === 0
				? 'Dark all day.'
				: whole
					? 'Light all day.'
					: `${light.map(spanWords).join(', ')}.`,
		weather: !weatherKnown
			? 'Nobody has said: look before you climb.'
			: said.length
				? `${sentence.charAt(0).toUpperCase()}${sentence.slice(1)}.`
				: 'Nothing over the limits is expected.',
		forbids: said.length > 0
	};
}
