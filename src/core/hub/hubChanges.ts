import { numberText } from '../units/text';
import type { HubPlan, ServedTerminal, TerminalPlan, UnitPlan } from './hubFigures';

/** What becomes worse for a terminal that a hub had before. */
export interface SlowedTerminal {
	terminalId: string;
	name: string;
	message: string;
}

/** Rates and shares closer than this are the same. */
const SAME_SHARE = 0.005;

/**
 * Whom a change of a hub slows down: terminals of the plan before that lose their unit, their modulation, or
 * part of what they were promised, since their unit has more to carry. Who gains is not told.
 */
export function slowedBy(before: HubPlan, after: HubPlan): SlowedTerminal[] {
	return before.terminals.flatMap((was): SlowedTerminal[] => {
		const { id, name } = was.terminal;
		const now = after.terminals.find(({ terminal }) => terminal.id === id);
		if (!was.served || !now) return [];
		const message = worseFor(before, was.served, after, now);
		return message === undefined ? [] : [{ terminalId: id, name, message }];
	});
}

function worseFor(
	before: HubPlan,
	was: ServedTerminal,
	after: HubPlan,
	{ served, terminal }: TerminalPlan
): string | undefined {
	if (!served) return 'is no longer served';
	for (const [way, from] of [
		['down', 'to it'],
		['up', 'from it']
	] as const) {
		const [old, now] = [was[way].rateMbitS, served[way].rateMbitS];
		if (now < old * (1 - SAME_SHARE)) {
			return `${numberText(old, 0)} → ${numberText(now, 0)} Mbit/s ${from}`;
		}
	}
	if (terminal.downMbitS + terminal.upMbitS === 0) return undefined;
	const [old, now] = [promisedShare(before, was), promisedShare(after, served)];
	if (now < old - SAME_SHARE) {
		return `gets ${numberText(Math.floor(100 * now), 0)} % of its promise when all want theirs at once`;
	}
	return undefined;
}

/** Share of its promise that a terminal gets when all of its unit want theirs at once, 0 to 1. */
function promisedShare({ units }: HubPlan, { unit }: ServedTerminal): number {
	const own: UnitPlan | undefined = units.find((one) => one.unit.id === unit.id);
	return own && own.airTime > own.airTimeThere ? own.airTimeThere / own.airTime : 1;
}
