import type { Origin } from '#core/provenance/provenance';
import type { StationProgress } from '#core/bringup/bringUp';
import {
	acceptanceStands,
	judgeTerminalOf,
	type TerminalJudgement
} from '#core/bringup/judgeTerminal';
import { LAMP_WORDS, type LampSeen } from '#core/catalogue/installation';
import { fixed } from '../format';

/** What is shown of a signed acceptance. */
export interface SignedTerminal {
	id: string;
	terminal: string;
	number: number;
	revisionNumber: number;
	lastSeq: number;
	judgement: TerminalJudgement;
	causes: Record<string, string>;
	signature: { name: string; method: string; drawing?: string };
	signedBy: string;
	signedAt: Date;
	origin: Origin;
}

/** An acceptance as long as what was signed for is what stands; undefined of none. */
export const standingOf = (
	stations: readonly StationProgress[],
	signed: SignedTerminal | undefined
): SignedTerminal | undefined =>
	signed && acceptanceStands(signed.judgement, judgeTerminalOf(stations, signed.terminal))
		? signed
		: undefined;

/**
 * Where a station stands, in a few words.
 *
 * @param accepted its acceptance, of {@link standingOf}
 */
export function stageWords(
	{ station, stage, build, unit, shortDb, lamp }: StationProgress,
	accepted?: SignedTerminal
): string {
	const isUnit = station.kind === 'unit';
	switch (stage) {
		case 'building':
			return build.begun
				? `${build.done + build.skipped} of ${build.steps.length} steps${build.trouble ? `, ${build.trouble} in trouble` : ''}`
				: 'To be put up';
		case 'waits':
			return `Waits for ${unit?.name ?? 'its unit'}`;
		case 'look':
			return 'Lamp to be looked at';
		case 'no-link':
			return isUnit ? 'Not up' : 'No link';
		case 'read':
			return 'Linked, level to be read';
		case 'off':
			return lamp === 'weak' || shortDb === null
				? 'Linked, weak'
				: `Linked, ${fixed(Math.abs(shortDb), 1)} dB ${shortDb > 0 ? 'below' : 'above'} the plan`;
		case 'close':
			return isUnit ? 'Up, cover to be closed' : 'Linked, cover to be closed';
		case 'done':
			if (isUnit) return 'Up';
			return accepted ? 'Accepted' : 'Linked, to be accepted';
	}
}

/** Sign of a station on the board: no colour alone says it. */
export function stageMark({ stage, station }: StationProgress, accepted: boolean): string {
	if (stage === 'no-link' || stage === 'off') return '▲';
	if (stage === 'done') return accepted || station.kind === 'unit' ? '✓' : '●';
	if (stage === 'close' || stage === 'read') return '●';
	return '○';
}

/** Whether a terminal is linked now, by its lamp. */
export const isLinked = ({ station, lamp }: StationProgress): boolean =>
	station.kind === 'terminal' && (lamp === 'linked' || lamp === 'weak');

/** What a lamp is telling, with how it looks on this part where its sheet says. */
export function lampText(
	state: LampSeen,
	lamps: readonly { state: LampSeen; shows: string }[]
): string {
	if (state === 'dark') return 'Dark';
	const shows = lamps.find((lamp) => lamp.state === state)?.shows;
	return shows ? `${LAMP_WORDS[state]}: ${shows}` : LAMP_WORDS[state];
}
