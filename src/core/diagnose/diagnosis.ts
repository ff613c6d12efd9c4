import { ENDS, type End } from '../ends';
import { numberText } from '../units/text';
import { CAUSES, type Cause } from './causes/keys';
import { atMaximumByChance } from './causes/row';
import { CAUSE_PAIRS, CAUSE_TABLE } from './causes/table';
import { addedLosses, crossPolarFit, levelFit, standsAtMaximum } from './levels';
import type { DiagnosisInput } from './question';
import {
	findTest,
	SIGHT_KEYS,
	SIGHTS,
	type DiagnosisTest,
	type SightKey,
	type TestKey
} from './sights';
import { itemAt } from '../units/lists';
import { doubtAfter, entropyBits, LEAST_BITS, SETTLED_BITS, worthOf } from './bits';

export interface RankedCause {
	cause: Cause;
	name: string;
	/** How likely it is at work, alone or beside another: two faults together may exceed 1 in sum. */
	probability: number;
	evidence: string[];
	predicts: string;
}

export interface Diagnosis {
	causes: RankedCause[];
	/** The test that tells the likeliest causes apart at the least effort; null when nothing is left to tell. */
	nextTest: DiagnosisTest | null;
	reasons: string[];
}

/** How often something that was set right is wrong all the same. */
const STILL_THERE = 0.06;
/** Two causes at once are so much rarer than their own rarities say. */
const PAIR_SHARE = 0.5;
/** No sight is quite impossible under any cause. */
const LEAST_CHANCE = 1e-4;
/** A sight is evidence for a cause that makes it likelier than not … */
const LIKELY = 0.5;
/** … and so many times likelier than some other cause does. */
const TELLS_APART = 0.25;
/** Directions that differ by more than this do not share one loss, dB. */
const ALIKE_DB = 2.5;

/** What is wrong: one cause, or two at once. */
type Hypothesis = readonly [Cause] | readonly [Cause, Cause];

interface Weighed {
	hypothesis: Hypothesis;
	probability: number;
}

/** Chance of a yes at a sight when one cause is at work. */
const yesUnder = (key: SightKey, cause: Cause): number =>
	CAUSE_TABLE[cause].marks[key] ?? SIGHTS[key].usual;

/** Chance of an answer when one cause is at work. */
function chanceOf(key: SightKey, yes: boolean, cause: Cause): number {
	const chance = yesUnder(key, cause);
	return yes ? chance : 1 - chance;
}

/** Under two causes a sight is what the one makes of it that bends it more. */
function chanceUnder(key: SightKey, yes: boolean, hypothesis: Hypothesis): number {
	const usual = yes ? SIGHTS[key].usual : 1 - SIGHTS[key].usual;
	return hypothesis
		.map((cause) => chanceOf(key, yes, cause))
		.reduce((p, q) => (Math.abs(p - usual) >= Math.abs(q - usual) ? p : q));
}

/** What has been seen, with what it says. */
function seenIn({ observations }: DiagnosisInput): { key: SightKey; yes: boolean; says: string }[] {
	return SIGHT_KEYS.flatMap((key) => {
		const yes = SIGHTS[key].seen(observations);
		return yes === undefined ? [] : [{ key, yes, says: SIGHTS[key].says[yes ? 0 : 1] }];
	});
}

/** Every hypothesis that is possible on this hop with its probability; they sum to 1. */
function posterior(hop: DiagnosisInput): Weighed[] {
	const seen = seenIn(hop);
	const atMaximum = standsAtMaximum(hop);
	const setRight = hop.observations.setRight ?? [];
	const prior = (cause: Cause): number =>
		CAUSE_TABLE[cause].prior * (setRight.includes(cause) ? STILL_THERE : 1);
	const singles = CAUSES.map((cause) => [cause] as const);
	const hypotheses: Hypothesis[] = [...singles, ...CAUSE_PAIRS].filter((hypothesis) =>
		hypothesis.every((cause) => CAUSE_TABLE[cause].possible?.(hop) ?? true)
	);
	const logs = hypotheses.map((hypothesis) => {
		const rows = hypothesis.map((cause) => CAUSE_TABLE[cause]);
		const rarity = hypothesis.reduce((product, cause) => product * prior(cause), 1);
		const losses = rows.map((row) => row.losses(hop)).reduce(addedLosses);
		const polar = rows
			.map((row) => row.crossPolar)
			.reduce((p, q) => ((q?.decides ?? 0) > (p?.decides ?? 0) ? q : p));
		const pinned = Math.min(
			...rows.map((row) => (row.atMaximum ?? atMaximumByChance)(atMaximum, hop))
		);
		const sights = seen.reduce(
			(sum, { key, yes }) =>
				sum + Math.log(Math.max(LEAST_CHANCE, chanceUnder(key, yes, hypothesis))),
			0
		);
		return (
			Math.log(rarity * (hypothesis.length === 2 ? PAIR_SHARE : 1)) +
			levelFit(losses, hop) +
			crossPolarFit(polar?.expects(hop), hop) +
			Math.log(pinned) +
			sights
		);
	});
	const top = Math.max(...logs);
	const weights = logs.map((log) => Math.exp(log - top));
	const total = weights.reduce((sum, weight) => sum + weight, 0);
	return hypotheses.map((hypothesis, i) => ({
		hypothesis,
		probability: itemAt(weights, i) / total
	}));
}

/** How likely each cause is at work, alone or beside another. */
function marginals(weighed: readonly Weighed[]): Map<Cause, number> {
	const sums = new Map<Cause, number>();
	for (const { hypothesis, probability } of weighed) {
		for (const cause of hypothesis) sums.set(cause, (sums.get(cause) ?? 0) + probability);
	}
	return sums;
}

/** How a test comes out when one cause is at work: the outcome that it makes likelier. */
export function outcomeUnder(key: TestKey, cause: Cause): 'yes' | 'no' {
	return chanceOf(key, true, cause) >= chanceOf(key, false, cause) ? 'yes' : 'no';
}

/** A cause this likely is set right rather than tested for beside another. */
const SURE_TO_MEND = 0.97;

/** The test that tells most a minute, by what its outcomes would do to the ranking. */
function bestTest(hop: DiagnosisInput, now: readonly Weighed[]): DiagnosisTest | null {
	const weights = now.map(({ probability }) => probability);
	const before = entropyBits(weights);
	if (before < SETTLED_BITS) return null;
	// What is this sure is set right before anything else is opened: what is left then shows by itself.
	if (Math.max(...marginals(now).values()) > SURE_TO_MEND) return null;
	let best: { key: SightKey; worth: number } | undefined;
	for (const key of SIGHT_KEYS) {
		const { test, seen } = SIGHTS[key];
		if (!test || seen(hop.observations) !== undefined) continue;
		if (!(test.asked?.(hop) ?? true)) continue;
		const gain =
			before - doubtAfter(weights, (yes, i) => chanceUnder(key, yes, itemAt(now, i).hypothesis));
		const worth = worthOf(gain, test.minutes);
		if (gain > LEAST_BITS && (!best || worth > best.worth)) best = { key, worth };
	}
	return best ? (findTest(best.key) ?? null) : null;
}

/**
 * Ranks what may be wrong with a hop, from levels of both directions and polarizations and from what
 * people have seen; names what each cause predicts and the cheapest test that tells the likeliest apart.
 *
 * A loss common to both directions is in the path, the pointing, the polarization or a shared feeder;
 * a loss in one direction is in one transmitter, one receiver or one meter.
 */
export function diagnose(hop: DiagnosisInput): Diagnosis {
	const now = posterior(hop);
	const seen = seenIn(hop);
	const causes = [...marginals(now)]
		.map(([cause, probability]): RankedCause => {
			const { name, predicts } = CAUSE_TABLE[cause];
			const evidence = seen
				.filter(({ key, yes }) => {
					const here = chanceOf(key, yes, cause);
					return (
						here > LIKELY && CAUSES.some((other) => chanceOf(key, yes, other) < TELLS_APART * here)
					);
				})
				.map(({ says }) => says);
			return { cause, probability, evidence, name, predicts };
		})
		.sort((p, q) => q.probability - p.probability);
	return { causes, nextTest: bestTest(hop, now), reasons: levelReasons(hop) };
}

function levelReasons(hop: DiagnosisInput): string[] {
	const short = (end: End): number | null => {
		const level = hop.measuredDbm[end];
		return level === null ? null : hop.plannedDbm[end] - level;
	};
	const words = (end: End): string => {
		const db = short(end);
		return db === null
			? `${end} has no reading of the present pointing`
			: `${end} is ${numberText(Math.abs(db), 1)} dB ${db >= 0 ? 'below' : 'above'} the plan`;
	};
	return [`${ENDS.map(words).join(', ')}.`, meaningOf(short('A'), short('B'), hop.toleranceDb)];
}

/** What the two shortfalls say of where the loss is. */
function meaningOf(aDb: number | null, bDb: number | null, toleranceDb: number): string {
	if (aDb === null || bDb === null) {
		return 'Read both ends as they stand: whether both directions are short alike tells more than anything else.';
	}
	if (Math.max(Math.abs(aDb), Math.abs(bDb)) <= toleranceDb) return 'Both are inside the window.';
	return Math.abs(aDb - bDb) < ALIKE_DB
		? 'Both directions are off alike: path, pointing, polarization or a shared feeder.'
		: 'The directions differ: one transmitter, one receiver or one meter.';
}
