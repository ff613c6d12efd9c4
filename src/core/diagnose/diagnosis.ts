import { numberText } from '../units/text';
import { CAUSE_WORDS, CAUSES, type Cause, type DiagnosisInput, type Observations } from './causes';

/** A test somebody can make, cheapest first, and what it can come out as. */
export interface DiagnosisTest {
	key: TestKey;
	what: string;
	/** Effort, minutes on the mast or at a desk. */
	minutes: number;
	outcomes: readonly { value: string; words: string; observation: Observations }[];
}

export type TestKey =
	| 'rain'
	| 'power-control'
	| 'adaptive-modulation'
	| 'power-a'
	| 'power-b'
	| 'meter-a'
	| 'meter-b'
	| 'units'
	| 'line-of-sight'
	| 'follows-pointing'
	| 'sweep-a'
	| 'sweep-b'
	| 'polarization'
	| 'arm'
	| 'dishes'
	| 'films'
	| 'feeder'
	| 'locking';

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

/** How often each cause is met, before anything is known of this hop. */
const PRIOR: Record<Cause, number> = {
	'side-lobe-a': 0.13,
	'side-lobe-b': 0.13,
	'side-lobe-both': 0.06,
	'crossed-polarization': 0.1,
	'wrong-arm': 0.04,
	'power-low-a': 0.06,
	'power-low-b': 0.06,
	'wrong-sub-band': 0.04,
	'power-control-on': 0.05,
	'adaptive-modulation-on': 0.03,
	'wrong-curve-a': 0.03,
	'wrong-curve-b': 0.03,
	'pick-up': 0.03,
	'film-left-in': 0.05,
	'feeder-bad': 0.05,
	obstruction: 0.05,
	rain: 0.04,
	'wrong-dish': 0.03,
	'moved-while-locking': 0.05,
	overload: 0.02,
	none: 0.05
};

/** How often something that was set right is wrong all the same. */
const STILL_THERE = 0.06;

/** Spread of levels when all is as planned, dB: parts, meters, air. */
const SOUND_SIGMA_DB = 0.9;

/** A loss as [mean, spread], dB: what both directions share, and what either has for itself. */
interface Loss {
	common: readonly [mean: number, sigma: number];
	a: readonly [mean: number, sigma: number];
	b: readonly [mean: number, sigma: number];
}

const NOTHING = [0, 0] as const;

/** Loss of both directions under a cause. Several options stand for what the cause may strike. */
function lossOf(cause: Cause, input: DiagnosisInput): readonly Loss[] {
	const { firstSideLobeDb: lobe, crossPolarDiscriminationDb: xpd } = input;
	const both = (mean: number, sigma: number): Loss => ({
		common: [mean, sigma],
		a: NOTHING,
		b: NOTHING
	});
	const one = (end: 'a' | 'b', mean: number, sigma: number): Loss => ({
		common: [0, SOUND_SIGMA_DB],
		a: end === 'a' ? [mean, sigma] : NOTHING,
		b: end === 'b' ? [mean, sigma] : NOTHING
	});
	const silent = 45;
	switch (cause) {
		case 'side-lobe-a':
			return [both(lobe.a, 3)];
		case 'side-lobe-b':
			return [both(lobe.b, 3)];
		case 'side-lobe-both':
			return [both(lobe.a + lobe.b, 4.5)];
		case 'crossed-polarization':
			return [both(xpd, 4)];
		case 'wrong-arm': {
			const d = Math.max(1, input.armDifferenceDb);
			return [both(d, 0.8), both(2 * d, 1), one('a', d, 0.8), one('b', d, 0.8)];
		}
		case 'power-low-a':
			return [one('b', 9, 5)];
		case 'power-low-b':
			return [one('a', 9, 5)];
		case 'wrong-sub-band':
			return [both(silent, 8), one('a', silent, 8), one('b', silent, 8)];
		case 'power-control-on':
			return [both(5, 7), one('a', 5, 7), one('b', 5, 7)];
		case 'adaptive-modulation-on':
			return [both(-2.5, 1.5), one('a', -2.5, 1.5), one('b', -2.5, 1.5)];
		case 'wrong-curve-a':
			return [one('a', 0, 14)];
		case 'wrong-curve-b':
			return [one('b', 0, 14)];
		case 'pick-up':
			return [one('a', 0, 30), one('b', 0, 30)];
		case 'film-left-in':
			return [both(7, 4)];
		case 'feeder-bad':
			return [both(7, 5)];
		case 'obstruction':
			return [both(13, 7)];
		case 'rain':
			return [both(8, 5)];
		case 'wrong-dish':
			return [both(input.dishSizeStepDb, 1.2), both(-input.dishSizeStepDb, 1.2)];
		case 'moved-while-locking':
			return [both(6, 5)];
		case 'overload':
			// The one that is drowned stands at its maximum, whatever was planned.
			return [both(0, 6), one('a', 0, 25), one('b', 0, 25)];
		case 'none':
			return [both(0, SOUND_SIGMA_DB)];
	}
}

/** Meters of the two ends agree this well when the loss is common, dB. */
const METER_SIGMA_DB = 0.8;
/** Something that no cause here predicts: so much of a density is spread over everything. */
const STRAY = 1e-4;

/** What is wrong: one cause, or two at once. */
type Hypothesis = readonly [Cause] | readonly [Cause, Cause];

/** Losses of two causes add; their spreads as squares. */
function lossesOf(hypothesis: Hypothesis, input: DiagnosisInput): readonly Loss[] {
	const [first, second] = hypothesis.map((cause) => lossOf(cause, input));
	if (!second) return first!;
	const sum = (
		p: readonly [number, number],
		q: readonly [number, number]
	): readonly [number, number] => [p[0] + q[0], Math.hypot(p[1], q[1])];
	return first!.flatMap((p) =>
		second.map((q) => ({ common: sum(p.common, q.common), a: sum(p.a, q.a), b: sum(p.b, q.b) }))
	);
}

interface MeasuredLoss {
	value: number;
	/** At the receiver's floor the loss is at least what is seen. */
	censored: boolean;
}

function logLevels(hypothesis: Hypothesis, input: DiagnosisInput): number {
	const { planned, measured, floorDbm } = input;
	const loss = (end: 'a' | 'b'): MeasuredLoss | null => {
		const level = end === 'a' ? measured.aDbm : measured.bDbm;
		if (level === null) return null;
		const plan = end === 'a' ? planned.aDbm : planned.bDbm;
		return { value: plan - level, censored: level < floorDbm[end] + 4 };
	};
	const a = loss('a');
	const b = loss('b');
	const options = lossesOf(hypothesis, input);
	const total = options.reduce((sum, option) => sum + densityOf(option, a, b), 0);
	return Math.log(total / options.length + 1e-9);
}

/** Density of what both meters show: two normal deviates that share the common part. */
function densityOf(option: Loss, a: MeasuredLoss | null, b: MeasuredLoss | null): number {
	const common = option.common[1] ** 2;
	const meter = METER_SIGMA_DB ** 2;
	const varianceA = common + option.a[1] ** 2 + meter;
	const varianceB = common + option.b[1] ** 2 + meter;
	const offA = a === null ? 0 : a.value - option.common[0] - option.a[0];
	const offB = b === null ? 0 : b.value - option.common[0] - option.b[0];
	const alone = (seen: MeasuredLoss | null, off: number, variance: number): number => {
		if (seen === null) return 1;
		const sigma = Math.sqrt(variance);
		if (seen.censored)
			return off < 2 * sigma ? 0.35 : Math.exp((-0.5 * off * off) / variance) / sigma;
		return (Math.exp((-0.5 * off * off) / variance) + STRAY) / sigma;
	};
	if (!a || !b || a.censored || b.censored) {
		return alone(a, offA, varianceA) * alone(b, offB, varianceB);
	}
	const determinant = varianceA * varianceB - common * common;
	const square =
		(varianceB * offA * offA - 2 * common * offA * offB + varianceA * offB * offB) / determinant;
	return (Math.exp(-0.5 * square) + STRAY * STRAY) / Math.sqrt(determinant);
}

/** How a cause sees an observation: probability of `value` under it. */
type Likelihood = (cause: Cause) => number;

const is = (cause: Cause, ...list: readonly Cause[]): boolean => list.includes(cause);

/** Likelihood of each observation that has been made. */
function likelihoods(o: Observations): [string, Likelihood][] {
	const list: [string, Likelihood][] = [];
	const add = (words: string, of: Likelihood): number => list.push([words, of]);
	const boolean = (
		value: boolean | undefined,
		words: [yes: string, no: string],
		yesUnder: (cause: Cause) => number
	): void => {
		if (value === undefined) return;
		add(value ? words[0] : words[1], (cause) => (value ? yesUnder(cause) : 1 - yesUnder(cause)));
	};
	for (const end of ['a', 'b'] as const) {
		const seen = end === 'a' ? o.sweepA : o.sweepB;
		if (seen !== 'main-lobe' && seen !== 'beside-main-lobe') continue;
		const onSide = (cause: Cause): boolean => is(cause, `side-lobe-${end}`, 'side-lobe-both');
		const beside = (cause: Cause): number =>
			onSide(cause)
				? 0.96
				: is(cause, 'moved-while-locking')
					? 0.15
					: is(cause, 'wrong-sub-band')
						? 0.2
						: 0.03;
		add(
			`the sweep at ${end.toUpperCase()} ran ${seen === 'main-lobe' ? 'over' : 'beside'} the main lobe`,
			(cause) => (seen === 'beside-main-lobe' ? beside(cause) : 1 - beside(cause))
		);
	}
	if (o.implausibleVoltage) {
		add(
			`${o.implausibleVoltage.toUpperCase()}’s meter shows volts that its port cannot give`,
			(cause) =>
				is(cause, 'pick-up') ? 0.93 : is(cause, `wrong-curve-${o.implausibleVoltage!}`) ? 0.2 : 0.01
		);
	}
	boolean(
		o.followsPointing,
		['the level follows the pointing', 'the level does not follow the pointing'],
		(cause) =>
			is(cause, 'pick-up')
				? 0.05
				: is(cause, 'power-control-on')
					? 0.12
					: is(cause, 'overload')
						? 0.2
						: is(cause, 'wrong-sub-band')
							? 0.1
							: 0.97
	);
	boolean(
		o.powerControlOn,
		['automatic power control is on', 'automatic power control is off'],
		(cause) => (is(cause, 'power-control-on') ? 0.99 : 0.01)
	);
	boolean(
		o.adaptiveModulationOn,
		['adaptive modulation is on', 'adaptive modulation is off'],
		(cause) => (is(cause, 'adaptive-modulation-on') ? 0.99 : 0.01)
	);
	boolean(o.raining, ['it rains on the path', 'it does not rain'], (cause) =>
		is(cause, 'rain') ? 0.98 : 0.06
	);
	boolean(o.lineOfSight, ['the line of sight is seen', 'the line of sight is not seen'], (cause) =>
		is(cause, 'obstruction') ? 0.06 : 0.96
	);
	boolean(
		o.polarizationsAgree,
		['both feeds are set alike', 'the feeds are set crosswise'],
		(cause) => (is(cause, 'crossed-polarization') ? 0.03 : 0.98)
	);
	boolean(
		o.filmsCounted,
		['every film and cap is counted off', 'a film or cap is missing from the count'],
		(cause) => (is(cause, 'film-left-in') ? 0.06 : 0.96)
	);
	for (const end of ['a', 'b'] as const) {
		const END = end.toUpperCase();
		boolean(
			o.powerAsPlanned?.[end],
			[`${END} sends as planned`, `${END} does not send as planned`],
			(cause) => (is(cause, `power-low-${end}`) ? 0.03 : is(cause, 'power-control-on') ? 0.6 : 0.97)
		);
		boolean(
			o.meterAgrees?.[end],
			[`${END}’s meter agrees with its radio`, `${END}’s meter disagrees with its radio`],
			(cause) => (is(cause, `wrong-curve-${end}`) ? 0.04 : is(cause, 'pick-up') ? 0.4 : 0.97)
		);
	}
	boolean(
		o.unitsAsPlanned,
		['the sub-band units are as planned', 'a sub-band unit is not as planned'],
		(cause) => (is(cause, 'wrong-sub-band') ? 0.02 : 0.99)
	);
	boolean(
		o.fellWhileLocking,
		['the level fell while tightening', 'the level held while tightening'],
		(cause) => (is(cause, 'moved-while-locking') ? 0.97 : 0.04)
	);
	boolean(o.dishesAsPlanned, ['the dishes are as planned', 'a dish is not as planned'], (cause) =>
		is(cause, 'wrong-dish') ? 0.03 : 0.99
	);
	boolean(o.unsteady, ['the level is unsteady', 'the level is steady'], (cause) =>
		is(cause, 'feeder-bad')
			? 0.6
			: is(cause, 'rain', 'adaptive-modulation-on', 'pick-up')
				? 0.55
				: 0.08
	);
	boolean(
		o.armAsPlanned,
		['the branching arms are as planned', 'a branching arm is not as planned'],
		(cause) => (is(cause, 'wrong-arm') ? 0.03 : 0.99)
	);
	boolean(o.feederSound, ['the feeders are sound', 'a feeder is not sound'], (cause) =>
		is(cause, 'feeder-bad') ? 0.05 : 0.96
	);
	return list;
}

function crossPolarLog(cause: Cause, input: DiagnosisInput): number {
	const { crossPolar, measured, crossPolarDiscriminationDb: xpd } = input;
	let log = 0;
	for (const [own, other] of [
		[measured.aDbm, crossPolar.aDbm],
		[measured.bDbm, crossPolar.bDbm]
	] as const) {
		if (own === null || other === null) continue;
		const difference = own - other;
		// Crossed, the other polarization is the stronger one; else it is weaker, on a side lobe less so.
		const mean = is(cause, 'crossed-polarization')
			? -xpd
			: is(cause, 'side-lobe-a', 'side-lobe-b', 'side-lobe-both')
				? 10
				: xpd;
		const sigma = is(cause, 'side-lobe-a', 'side-lobe-b', 'side-lobe-both') ? 7 : 6;
		log += Math.log(Math.exp(-0.5 * ((difference - mean) / sigma) ** 2) / sigma + 1e-5);
	}
	return log;
}

/** Of two causes, the one that decides what the other polarization reads: crossing, then a side lobe. */
function polarCauseOf(hypothesis: Hypothesis): Cause {
	const decides = (cause: Cause): number =>
		is(cause, 'crossed-polarization')
			? 2
			: is(cause, 'side-lobe-a', 'side-lobe-b', 'side-lobe-both')
				? 1
				: 0;
	return hypothesis.reduce<Cause>((p, q) => (decides(q) > decides(p) ? q : p), hypothesis[0]);
}

/** A receiver at its maximum reads just that. */
function overloadLog(cause: Cause, input: DiagnosisInput): number {
	const at = [
		input.measured.aDbm !== null && Math.abs(input.measured.aDbm - input.maxInputDbm.a) < 1.5,
		input.measured.bDbm !== null && Math.abs(input.measured.bDbm - input.maxInputDbm.b) < 1.5
	].some(Boolean);
	if (is(cause, 'overload')) return at ? 0 : Math.log(0.01);
	// Volts that a port can give are seldom a broadcaster's.
	if (is(cause, 'pick-up') && !input.observations.implausibleVoltage) return Math.log(0.1);
	return at ? Math.log(0.15) : 0;
}

function applicable(cause: Cause, input: DiagnosisInput): boolean {
	return cause !== 'wrong-arm' || input.armDifferenceDb > 0;
}

/** Causes that drown out or exclude every other one. */
const ALONE: ReadonlySet<Cause> = new Set([
	'none',
	'wrong-sub-band',
	'overload',
	'pick-up',
	'side-lobe-both'
]);
/** Two causes at once are so much rarer than their own rarities say, or more frequent. */
const PAIR_SHARE = 0.5;

/** Whether two causes can be at work at once and be told apart. */
function goTogether(p: Cause, q: Cause): boolean {
	return !ALONE.has(p) && !ALONE.has(q) && p.slice(0, 9) !== q.slice(0, 9);
}

const PAIRS: readonly (readonly [Cause, Cause])[] = CAUSES.flatMap((p, i) =>
	CAUSES.slice(i + 1).flatMap((q) => (goTogether(p, q) ? [[p, q] as const] : []))
);

/** Under two causes an observation is what the one makes of it that bends it more. */
function under(of: Likelihood, hypothesis: Hypothesis): number {
	const [first, second] = hypothesis;
	if (!second) return of(first);
	const usual = of('none');
	const [p, q] = [of(first), of(second)];
	return Math.abs(p - usual) >= Math.abs(q - usual) ? p : q;
}

interface Weighed {
	hypothesis: Hypothesis;
	probability: number;
}

function posterior(input: DiagnosisInput): Weighed[] {
	const seen = likelihoods(input.observations);
	const setRight = input.observations.setRight ?? [];
	const prior = (cause: Cause): number =>
		PRIOR[cause] * (setRight.includes(cause) ? STILL_THERE : 1);
	const hypotheses: Hypothesis[] = [...CAUSES.map((cause) => [cause] as const), ...PAIRS].filter(
		(hypothesis) => hypothesis.every((cause) => applicable(cause, input))
	);
	const logs = hypotheses.map((hypothesis) => {
		const observed = seen.reduce(
			(sum, [, of]) => sum + Math.log(Math.max(1e-4, under(of, hypothesis))),
			0
		);
		const rarity = hypothesis.reduce((product, cause) => product * prior(cause), 1);
		const polar = crossPolarLog(polarCauseOf(hypothesis), input);
		const pinned = Math.min(...hypothesis.map((cause) => overloadLog(cause, input)));
		return (
			Math.log(rarity * (hypothesis.length === 2 ? PAIR_SHARE : 1)) +
			logLevels(hypothesis, input) +
			polar +
			pinned +
			observed
		);
	});
	const top = Math.max(...logs);
	const total = logs.reduce((sum, log) => sum + Math.exp(log - top), 0);
	return hypotheses.map((hypothesis, i) => ({
		hypothesis,
		probability: Math.exp(logs[i]! - top) / total
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

const yesNo = (
	key: TestKey,
	what: string,
	minutes: number,
	yes: [string, Observations],
	no: [string, Observations]
): DiagnosisTest => ({
	key,
	what,
	minutes,
	outcomes: [
		{ value: 'yes', words: yes[0], observation: yes[1] },
		{ value: 'no', words: no[0], observation: no[1] }
	]
});

const TESTS: readonly DiagnosisTest[] = [
	yesNo(
		'rain',
		'Ask both ends whether it rains on the path.',
		1,
		['It rains', { raining: true }],
		['It is dry', { raining: false }]
	),
	yesNo(
		'power-control',
		'Look on both radios whether automatic power control is on.',
		2,
		['It is on', { powerControlOn: true }],
		['It is off', { powerControlOn: false }]
	),
	yesNo(
		'adaptive-modulation',
		'Look on both radios whether adaptive modulation is on.',
		2,
		['It is on', { adaptiveModulationOn: true }],
		['It is off', { adaptiveModulationOn: false }]
	),
	yesNo(
		'power-a',
		'Read the transmit power on A’s radio.',
		2,
		['As planned', { powerAsPlanned: { a: true } }],
		['Not as planned', { powerAsPlanned: { a: false } }]
	),
	yesNo(
		'power-b',
		'Read the transmit power on B’s radio.',
		2,
		['As planned', { powerAsPlanned: { b: true } }],
		['Not as planned', { powerAsPlanned: { b: false } }]
	),
	yesNo(
		'meter-a',
		'Compare the meter at A with the level the radio itself shows.',
		3,
		['They agree', { meterAgrees: { a: true } }],
		['They disagree', { meterAgrees: { a: false } }]
	),
	yesNo(
		'meter-b',
		'Compare the meter at B with the level the radio itself shows.',
		3,
		['They agree', { meterAgrees: { b: true } }],
		['They disagree', { meterAgrees: { b: false } }]
	),
	yesNo(
		'units',
		'Read the sub-band units from the labels of both radios.',
		4,
		['As planned', { unitsAsPlanned: true }],
		['Not as planned', { unitsAsPlanned: false }]
	),
	yesNo(
		'line-of-sight',
		'Look along the path with binoculars, or by a mirror from the far end.',
		4,
		['It is seen', { lineOfSight: true }],
		['Something stands in it', { lineOfSight: false }]
	),
	yesNo(
		'follows-pointing',
		'Turn one dish by half a beam and back: does the level follow?',
		5,
		['It follows', { followsPointing: true }],
		['It does not', { followsPointing: false }]
	),
	yesNo(
		'arm',
		'Read the labels of the branching arms at both ends.',
		5,
		['As planned', { armAsPlanned: true }],
		['Not as planned', { armAsPlanned: false }]
	),
	yesNo(
		'dishes',
		'Read the type of the dish at both ends.',
		5,
		['As planned', { dishesAsPlanned: true }],
		['Not as planned', { dishesAsPlanned: false }]
	),
	yesNo(
		'films',
		'Count films and caps taken off against the parts, at both ends.',
		6,
		['All are there', { filmsCounted: true }],
		['One is missing', { filmsCounted: false }]
	),
	yesNo(
		'locking',
		'Look in the record whether the level fell while tightening.',
		2,
		['It fell', { fellWhileLocking: true }],
		['It held', { fellWhileLocking: false }]
	),
	yesNo(
		'polarization',
		'Compare the feeds of both ends: short wall of the waveguide upright is vertical.',
		8,
		['Both alike', { polarizationsAgree: true }],
		['Crosswise', { polarizationsAgree: false }]
	),
	yesNo(
		'sweep-a',
		'Sweep A over both axes, each through its middle.',
		12,
		['Over the main lobe', { sweepA: 'main-lobe' }],
		['Beside it', { sweepA: 'beside-main-lobe' }]
	),
	yesNo(
		'sweep-b',
		'Sweep B over both axes, each through its middle.',
		12,
		['Over the main lobe', { sweepB: 'main-lobe' }],
		['Beside it', { sweepB: 'beside-main-lobe' }]
	),
	yesNo(
		'feeder',
		'Open or measure the feeders: dry, joints tight?',
		25,
		['Sound', { feederSound: true }],
		['Not sound', { feederSound: false }]
	)
];

/** Names of the tests, as they stand in the record. */
export const TEST_KEYS: readonly TestKey[] = TESTS.map((test) => test.key);

/** What an answer to a test says; undefined when there is no such test or answer. */
export function observationOf(key: string, value: string): Observations | undefined {
	return TESTS.find((test) => test.key === key)?.outcomes.find((o) => o.value === value)
		?.observation;
}

/** A test by its name, for showing what was asked. */
export function findTest(key: string): DiagnosisTest | undefined {
	return TESTS.find((test) => test.key === key);
}

/** How a test comes out when one cause is at work: the outcome that it makes likeliest. */
export function outcomeUnder(key: TestKey, cause: Cause): string {
	const { outcomes } = findTest(key)!;
	const likelihood = (observation: Observations): number => likelihoods(observation)[0]![1](cause);
	return outcomes.reduce((p, q) => (likelihood(q.observation) > likelihood(p.observation) ? q : p))
		.value;
}

/** Two observations made one: what is newer wins, field by field. */
export function withObservation(known: Observations, more: Observations): Observations {
	return {
		...known,
		...more,
		powerAsPlanned: { ...known.powerAsPlanned, ...more.powerAsPlanned },
		meterAgrees: { ...known.meterAgrees, ...more.meterAgrees }
	};
}

/** Whether a test has been answered already. */
function answered(test: DiagnosisTest, o: Observations): boolean {
	const [key, value] = Object.entries(test.outcomes[0]!.observation)[0]! as [
		keyof Observations,
		unknown
	];
	const known = o[key];
	if (known === undefined || known === 'not-swept') return false;
	if (typeof value !== 'object' || value === null) return true;
	const [inner] = Object.keys(value);
	return (known as Record<string, unknown>)[inner!] !== undefined;
}

const entropy = (p: Iterable<number>): number =>
	[...p].reduce((sum, x) => (x > 1e-9 ? sum - x * Math.log2(x) : sum), 0);

/** Bits that are worth a minute: below this nothing is left to tell. */
const LEAST_BITS = 0.04;

/** The test that tells most a minute, by what its outcomes would do to the ranking. */
function bestTest(input: DiagnosisInput, now: readonly Weighed[]): DiagnosisTest | null {
	const before = entropy(now.map(({ probability }) => probability));
	if (before < 0.25) return null;
	let best: { test: DiagnosisTest; worth: number } | undefined;
	for (const test of TESTS) {
		if (answered(test, input.observations)) continue;
		if (test.key === 'arm' && input.armDifferenceDb === 0) continue;
		let after = 0;
		let mass = 0;
		for (const outcome of test.outcomes) {
			const [[, of]] = likelihoods(outcome.observation) as [[string, Likelihood]];
			const joint = now.map((each) => each.probability * under(of, each.hypothesis));
			const probability = joint.reduce((sum, p) => sum + p, 0);
			const then = joint.map((p) => p / Math.max(1e-12, probability));
			after += probability * entropy(then);
			mass += probability;
		}
		const gain = before - after / mass;
		const worth = gain / Math.sqrt(test.minutes + 2);
		if (gain > LEAST_BITS && (!best || worth > best.worth)) best = { test, worth };
	}
	return best?.test ?? null;
}

/**
 * Ranks what may be wrong with a hop, from levels of both directions and polarizations and from what
 * people have seen; names what each cause predicts and the cheapest test that tells the likeliest apart.
 *
 * A loss common to both directions is in the path, the pointing, the polarization or a shared feeder;
 * a loss in one direction is in one transmitter, one receiver or one meter.
 */
export function diagnose(input: DiagnosisInput): Diagnosis {
	const now = posterior(input);
	const seen = likelihoods(input.observations);
	const causes = [...marginals(now)]
		.map(([cause, probability]): RankedCause => {
			const evidence = seen
				.filter(([, of]) => of(cause) > 0.5 && CAUSES.some((other) => of(other) < 0.25 * of(cause)))
				.map(([words]) => words);
			return {
				cause,
				probability,
				evidence,
				name: CAUSE_WORDS[cause].name,
				predicts: CAUSE_WORDS[cause].predicts
			};
		})
		.sort((p, q) => q.probability - p.probability);
	return { causes, nextTest: bestTest(input, now), reasons: levelReasons(input) };
}

function levelReasons({ planned, measured, toleranceDb }: DiagnosisInput): string[] {
	const short = [
		measured.aDbm === null ? null : planned.aDbm - measured.aDbm,
		measured.bDbm === null ? null : planned.bDbm - measured.bDbm
	];
	const words = (end: string, db: number | null): string =>
		db === null
			? `${end} has no reading of the present pointing`
			: `${end} is ${numberText(Math.abs(db), 1)} dB ${db >= 0 ? 'below' : 'above'} the plan`;
	const reasons = [`${words('A', short[0]!)}, ${words('B', short[1]!)}.`];
	const [a, b] = short;
	if (a === null || b === null || a === undefined || b === undefined) {
		reasons.push(
			'Read both ends as they stand: whether both directions are short alike tells more than anything else.'
		);
	} else if (Math.max(Math.abs(a), Math.abs(b)) <= toleranceDb) {
		reasons.push('Both are inside the window.');
	} else if (Math.abs(a - b) < 2.5) {
		reasons.push('Both directions are off alike: path, pointing, polarization or a shared feeder.');
	} else {
		reasons.push('The directions differ: one transmitter, one receiver or one meter.');
	}
	return reasons;
}
