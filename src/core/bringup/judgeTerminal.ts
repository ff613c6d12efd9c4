import { LAMP_WORDS } from '../catalogue/installation';
import { levelText, numberText } from '../units/text';
import { LEVEL_TOLERANCE_DB, type StationProgress } from './bringUp';
import { unsafeAnswers, STOP_CARD_WORDS } from '../safety/stopCards';

/** One line of the acceptance of a terminal. */
export interface TerminalLine {
	key: string;
	title: string;
	/** What the plan or a promise asks; empty where nothing is asked. */
	asked: string;
	found: string;
	/** `open`: not looked at yet; `off` is signed for only with a cause. */
	verdict: 'good' | 'off' | 'open';
}

export interface TerminalJudgement {
	terminal: { id: string; name: string };
	/** Name of the unit that serves it; null where none does by the plan. */
	unit: string | null;
	lines: TerminalLine[];
	/** What was taken on by name against a card, a judgement or an order. */
	overrides: string[];
	/** Place of the last record of the two that was judged. */
	lastSeq: number;
	verdict: 'good' | 'off' | 'open';
}

/** Judges a terminal of a hub by its id; undefined where the plan has none of it. */
export function judgeTerminalOf(
	all: readonly StationProgress[],
	id: string
): TerminalJudgement | undefined {
	const progress = all.find(({ station }) => station.kind === 'terminal' && station.id === id);
	const unit = all.find(({ station }) => station.id === progress?.unit?.id);
	return progress && judgeTerminal(progress, unit ?? null);
}

/**
 * Whether what was signed for is what stands: every line asks and finds the same. A later plan that changes nothing
 * of this terminal, or a note at its unit, leaves an acceptance as it is.
 *
 * @param signed the judgement that was signed
 * @param now the same terminal as it is judged now; undefined where the plan has none of it any more
 */
export function acceptanceStands(
	signed: TerminalJudgement,
	now: TerminalJudgement | undefined
): boolean {
	const said = ({ unit, lines }: TerminalJudgement): string =>
		JSON.stringify([
			unit,
			lines.map(({ key, asked, found, verdict }) => [key, asked, found, verdict])
		]);
	return now !== undefined && said(signed) === said(now);
}

/** What a rate is short of a promise and is not for the eye of a page, share. */
const RATE_ROUNDING = 0.005;

/**
 * Judges a terminal against its plan: its steps, lamp, level and rate, and those of its unit that it stands on.
 *
 * @param progress of the terminal
 * @param unit of the unit that serves it; null where none does
 */
export function judgeTerminal(
	progress: StationProgress,
	unit: StationProgress | null
): TerminalJudgement {
	const { station } = progress;
	const lines = [
		...(unit ? [stepsLine('unit-steps', `Steps at ${unit.station.name}`, unit)] : []),
		stepsLine('steps', 'Steps at the terminal', progress),
		lampLine(progress),
		...linkLines(progress)
	];
	const has = (verdict: TerminalLine['verdict']): boolean =>
		lines.some((line) => line.verdict === verdict);
	return {
		terminal: { id: station.id, name: station.name },
		unit: unit?.station.name ?? null,
		lines,
		overrides: [...(unit ? overridesOf(unit) : []), ...overridesOf(progress)],
		lastSeq: Math.max(progress.own.lastSeq, unit?.own.lastSeq ?? 0),
		verdict: has('open') ? 'open' : has('off') ? 'off' : 'good'
	};
}

function stepsLine(key: string, title: string, { build }: StationProgress): TerminalLine {
	const left = build.steps.filter(({ state }) => state === 'skipped');
	const open = build.steps.filter(({ state }) => state === 'open' || state === 'blocked');
	const trouble = build.steps.filter(({ state }) => state === 'trouble');
	const said = [
		`${build.done} of ${build.steps.length} done`,
		...left.map(({ step, reason }) => `left out: ${step.title} (${reason})`),
		...trouble.map(({ step, reason }) => `${step.title}: ${reason}`)
	].join('; ');
	return {
		...{ key, title, asked: 'all done, or left out with a cause' },
		found: open.length ? `${said}; open: ${open.map(({ step }) => step.title).join(', ')}` : said,
		verdict: open.length ? 'open' : trouble.length ? 'off' : 'good'
	};
}

function lampLine({ lamp }: StationProgress): TerminalLine {
	return {
		...{ key: 'lamp', title: 'Lamp', asked: LAMP_WORDS.linked },
		found:
			lamp === null ? 'not seen as it stands now' : lamp === 'dark' ? 'dark' : LAMP_WORDS[lamp],
		verdict: lamp === null ? 'open' : lamp === 'linked' ? 'good' : 'off'
	};
}

function linkLines({ station, level }: StationProgress): TerminalLine[] {
	if (station.kind !== 'terminal') return [];
	const { planned, served } = station;
	const levels = (['down', 'up'] as const).map((way): TerminalLine => {
		const plannedDbm = served?.[way].used.levelDbm ?? null;
		const found = (way === 'down' ? level?.downDbm : level?.upDbm) ?? null;
		return {
			key: `level-${way}`,
			title: way === 'down' ? 'Level at the terminal' : 'Level at the hub',
			asked:
				plannedDbm === null
					? 'the plan serves it by no unit'
					: `${levelText(plannedDbm)} ± ${numberText(LEVEL_TOLERANCE_DB, 0)} dB`,
			found: found === null ? 'not read' : levelText(found),
			verdict:
				found === null
					? 'open'
					: plannedDbm !== null && Math.abs(found - plannedDbm) <= LEVEL_TOLERANCE_DB
						? 'good'
						: 'off'
		};
	});
	const rates = (['down', 'up'] as const).map((way): TerminalLine => {
		const promised = way === 'down' ? planned.downMbitS : planned.upMbitS;
		const found = (way === 'down' ? level?.downMbitS : level?.upMbitS) ?? null;
		return {
			key: `rate-${way}`,
			title: way === 'down' ? 'Rate towards it' : 'Rate from it',
			asked: `${numberText(promised, 0)} Mbit/s promised`,
			found: found === null ? 'not read' : `${numberText(found, 0)} Mbit/s`,
			verdict: found === null ? 'open' : found >= promised * (1 - RATE_ROUNDING) ? 'good' : 'off'
		};
	});
	return [...levels, ...rates];
}

function overridesOf({ station, own, build }: StationProgress): string[] {
	return [
		...own.cardOverrides.map(({ card, answers, override }) => {
			const asks = unsafeAnswers(card, answers).join('; ');
			return `${station.name}, “${STOP_CARD_WORDS[card].title}”: ${asks}. On the word of ${override?.name ?? ''}: ${override?.why ?? ''}`;
		}),
		...build.steps
			.filter(({ step, state }) => state === 'skipped' && step.gate)
			.map(({ step, reason }) => `${station.name}, left out: ${step.title} (${reason})`)
	];
}
