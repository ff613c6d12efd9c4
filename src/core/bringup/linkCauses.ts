import type { LampSeen } from '../catalogue/installation';
import { doubtAfter, entropyBits, LEAST_BITS, SETTLED_BITS, worthOf } from '../diagnose/bits';
import { itemAt } from '../units/lists';
import { numberText } from '../units/text';
import { LINK_TEST_NAMES, LINK_TESTS, type LinkTest } from './linkTests';
import type { TerminalStation } from './stations';

export const LINK_CAUSE_NAMES = [
	'terminal-off',
	'unit-off',
	'blocked',
	'wrong-unit',
	'channel',
	'power-kind',
	'cable',
	'rain'
] as const;
export type LinkCause = (typeof LINK_CAUSE_NAMES)[number];

/** What is known where a terminal does not link, or not as planned. */
export interface LinkSights {
	lamp: LampSeen;
	/** How far the level lies below the plan, dB; null where it has none. */
	shortDb: number | null;
	/** Other terminals of its unit that are linked, and that were looked at and are not. */
	others: { linked: number; not: number };
	tests: Readonly<Partial<Record<LinkTest, boolean>>>;
	/** Causes that were set right already. */
	setRight: readonly LinkCause[];
}

interface CauseRow {
	name: string;
	/** What is done about it. */
	mend: string;
	/** How common it is, against the others. */
	prior: (station: TerminalStation) => number;
	/** Chance of each lamp where it is at work; the rest is shared by those that are not named. */
	lamp: Partial<Record<LampSeen, number>>;
	/** Chance of a yes at a test, where it differs from the usual. */
	yes: Partial<Record<LinkTest, number>>;
	/** Whether it takes the other terminals of the unit with it. */
	takesOthers?: true;
}

const NO_LINK = { searching: 0.8, weak: 0.17 } as const;
const NO_POWER = { dark: 0.75, fault: 0.08, starting: 0.12 } as const;

/** Margins below these make a cause likelier, degrees and dB. */
const NARROW_DEG = 5;
const THIN_DB = 15;

/** Every cause, one row each. */
export const LINK_CAUSES: Readonly<Record<LinkCause, CauseRow>> = {
	'terminal-off': {
		name: 'The terminal does not look at the hub',
		mend: 'Turn and tilt it to the plan, then look at the lamp again.',
		prior: ({ roomDeg }) => ((roomDeg ?? 0) < NARROW_DEG ? 6 : 3),
		lamp: NO_LINK,
		yes: { 'looks-at-hub': 0.1 }
	},
	'unit-off': {
		name: 'The unit of the hub does not look where the plan says',
		mend: 'At the hub: turn the unit to its planned heading and tilt. Every terminal of it is looked at anew.',
		prior: ({ served }) => ((served?.atUnit.marginDeg ?? 0) < NARROW_DEG ? 2 : 1),
		lamp: NO_LINK,
		yes: { 'unit-as-planned': 0.06 },
		takesOthers: true
	},
	blocked: {
		name: 'Something stands in the way',
		mend: 'Move it until the hub is in clear sight, higher or aside, and tell who plans.',
		prior: ({ served, planned }) =>
			planned.profile === null || (served?.path.obstructionDb ?? 0) > 0 ? 4 : 1.5,
		lamp: { searching: 0.6, weak: 0.37 },
		yes: { 'hub-in-sight': 0.1 }
	},
	'wrong-unit': {
		name: 'It looks for another unit',
		mend: 'Set name and key of the unit that the plan gives it.',
		prior: ({ served }) => (served?.others.length ? 2 : 0.7),
		lamp: { searching: 0.7, linked: 0.1, weak: 0.17 },
		yes: { 'right-unit': 0.05 }
	},
	channel: {
		name: 'Channel or width differ',
		mend: 'Set channel and width of the plan at the terminal; at the hub only if the hub is wrong.',
		prior: () => 1,
		lamp: { searching: 0.95 },
		yes: { 'same-channel': 0.04 }
	},
	'power-kind': {
		name: 'The wrong source',
		mend: 'Unplug it at once. Put in the injector or adapter of its sheet, and look whether the terminal still starts.',
		prior: () => 1.5,
		lamp: NO_POWER,
		yes: { 'source-fits': 0.04 }
	},
	cable: {
		name: 'Cable or plug',
		mend: 'Make the plugs anew, test every wire through, and replace the cable if it fails.',
		prior: () => 1.5,
		lamp: { ...NO_POWER, searching: 0.03 },
		yes: { 'short-cable': 0.06 }
	},
	rain: {
		name: 'Too far for the rain that falls now',
		mend: 'Wait until it is over, then read it again; if the plan’s rain was less, tell who plans.',
		prior: ({ served }) =>
			served &&
			Math.min(...[served.down, served.up].map((way) => itemAt(way.margins, 0).marginDb)) < THIN_DB
				? 1
				: 0.2,
		lamp: { searching: 0.45, weak: 0.5 },
		yes: { raining: 0.97 },
		takesOthers: true
	}
};

/** How often something that was set right is wrong all the same. */
const STILL_THERE = 0.05;
const LAMPS: readonly LampSeen[] = ['dark', 'starting', 'searching', 'linked', 'weak', 'fault'];
const LEAST = 1e-3;

function lampChance({ lamp }: CauseRow, seen: LampSeen): number {
	const named = Object.values(lamp).reduce((sum, p) => sum + p, 0);
	const others = LAMPS.length - Object.keys(lamp).length;
	return lamp[seen] ?? Math.max(LEAST, (1 - named) / others);
}

const testChance = ({ yes }: CauseRow, test: LinkTest, answer: boolean): number => {
	const chance = yes[test] ?? LINK_TESTS[test].usual;
	return answer ? chance : 1 - chance;
};

/** Chance that another terminal of the unit is linked, where a cause takes it along and where not. */
const OTHER_LINKED = { along: 0.25, not: 0.9 };

export interface RankedLinkCause {
	cause: LinkCause;
	name: string;
	mend: string;
	/** What speaks for it, in the words of findings. */
	evidence: string[];
}

export interface LinkRanking {
	/** The likeliest first. */
	causes: RankedLinkCause[];
	/** The test that tells most a minute; null where nothing is left to tell. */
	nextTest: LinkTest | null;
	/** Whether one cause is so much likelier than the others that it is set right before anything else is tested. */
	settled: boolean;
}

/** Shares by which causes are ordered: not for a screen, since they are not calibrated. */
export function linkShares(station: TerminalStation, sights: LinkSights): number[] {
	const weights = LINK_CAUSE_NAMES.map((name) => {
		const row = LINK_CAUSES[name];
		const { linked, not } = sights.others;
		const other = row.takesOthers ? OTHER_LINKED.along : OTHER_LINKED.not;
		const tests = LINK_TEST_NAMES.reduce((product, test) => {
			const answer = sights.tests[test];
			return answer === undefined ? product : product * testChance(row, test, answer);
		}, 1);
		return (
			row.prior(station) *
			(sights.setRight.includes(name) ? STILL_THERE : 1) *
			lampChance(row, sights.lamp) *
			other ** linked *
			(1 - other) ** not *
			tests
		);
	});
	const total = weights.reduce((sum, weight) => sum + weight, 0);
	return weights.map((weight) => weight / total);
}

/**
 * Ranks why a terminal does not link, or links weakly: from the plan, the lamp, the other terminals of its unit and
 * what was tested, with the cheapest test that tells the likeliest apart.
 */
export function rankLink(station: TerminalStation, sights: LinkSights): LinkRanking {
	const shares = linkShares(station, sights);
	const before = entropyBits(shares);
	let best: { test: LinkTest; worth: number } | undefined;
	for (const test of LINK_TEST_NAMES) {
		if (sights.tests[test] !== undefined) continue;
		const gain =
			before -
			doubtAfter(shares, (yes, at) =>
				testChance(LINK_CAUSES[itemAt(LINK_CAUSE_NAMES, at)], test, yes)
			);
		const worth = worthOf(gain, LINK_TESTS[test].minutes);
		if (gain > LEAST_BITS && (!best || worth > best.worth)) best = { test, worth };
	}
	const settled = before < SETTLED_BITS;
	const causes = LINK_CAUSE_NAMES.map((cause, at) => ({ cause, share: itemAt(shares, at) }))
		.sort((p, q) => q.share - p.share)
		.map(({ cause }) => {
			const { name, mend } = LINK_CAUSES[cause];
			return { cause, name, mend, evidence: evidenceFor(cause, sights) };
		});
	return { causes, nextTest: settled ? null : (best?.test ?? null), settled };
}

function evidenceFor(cause: LinkCause, { tests, others, shortDb }: LinkSights): string[] {
	const row = LINK_CAUSES[cause];
	const tested = LINK_TEST_NAMES.flatMap((test) => {
		const answer = tests[test];
		const own = row.yes[test];
		if (answer === undefined || own === undefined) return [];
		return testChance(row, test, answer) > 0.5 ? [LINK_TESTS[test].says[answer ? 0 : 1]] : [];
	});
	return [
		...tested,
		...(row.takesOthers && others.not > 0
			? [`${others.not} more of its unit ${others.not === 1 ? 'is' : 'are'} not linked`]
			: []),
		...(shortDb !== null && shortDb > 0 ? [`${numberText(shortDb, 1)} dB below the plan`] : [])
	];
}
