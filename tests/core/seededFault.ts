import { CAUSES, type Cause } from '#core/diagnose/causes/keys';
import { diagnose } from '#core/diagnose/diagnosis';
import type { End } from '#core/ends';
import { withObservation, type DiagnosisInput, type Observations } from '#core/diagnose/question';
import type { DiagnosisTest } from '#core/diagnose/sights';
import { between, makeRandomStream, normalDeviate } from '#core/simulate/random';

export interface FaultCase {
	truth: Cause;
	/** A second fault at the same time, or the same as the first. */
	second: Cause;
	input: DiagnosisInput;
	answer: (test: DiagnosisTest) => Observations;
}

/** Faults that are told by what people find rather than by a state of the world alone. */
const FAULTS = CAUSES.filter((cause) => cause !== 'none');

/** A hop with one seeded fault (or two), its levels, and honest answers to every test. */
export function faultCase(seed: number, double = false): FaultCase {
	const random = makeRandomStream(seed * 6151 + 5);
	const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
	let truth = pick(FAULTS);
	let second = truth;
	// Two that could not stand together, or that hide each other wholly, are drawn again.
	while (double && (second === truth || !together(truth, second))) {
		truth = pick(FAULTS);
		second = pick(FAULTS);
	}
	const lobe = { A: between(random, 18, 23), B: between(random, 18, 23) };
	const xpd = between(random, 28, 34);
	const armDb = between(random, 3, 6);
	const stepDb = between(random, 2.8, 5);
	const plannedDbm = { A: between(random, -46, -32), B: between(random, -46, -32) };
	const floor = { A: between(random, -93, -86), B: between(random, -93, -86) };
	const maxInput = { A: -20, B: -20 };
	const loss = { A: 0.5 * normalDeviate(random), B: 0.5 * normalDeviate(random) };
	const has = (cause: Cause): boolean => cause === truth || cause === second;
	let implausible: End | undefined;
	const common = (db: number): void => {
		loss.A += db;
		loss.B += db;
	};
	let pinned: End | undefined;
	for (const cause of new Set([truth, second])) {
		switch (cause) {
			case 'side-lobe-a':
				common(lobe.A + 2 * normalDeviate(random));
				break;
			case 'side-lobe-b':
				common(lobe.B + 2 * normalDeviate(random));
				break;
			case 'side-lobe-both':
				common(lobe.A + lobe.B + 2.5 * normalDeviate(random));
				break;
			case 'crossed-polarization':
				common(xpd + 2 * normalDeviate(random));
				break;
			case 'wrong-arm':
				common(random() < 0.5 ? armDb : 2 * armDb);
				break;
			case 'power-low-a':
				loss.B += between(random, 3, 15);
				break;
			case 'power-low-b':
				loss.A += between(random, 3, 15);
				break;
			case 'wrong-sub-band':
				common(60);
				break;
			case 'power-control-on':
				loss[random() < 0.5 ? 'A' : 'B'] += between(random, -4, 12);
				break;
			case 'adaptive-modulation-on':
				loss[random() < 0.5 ? 'A' : 'B'] -= between(random, 1.5, 4);
				break;
			case 'wrong-curve-a':
				loss.A += (random() < 0.5 ? -1 : 1) * between(random, 4, 20);
				break;
			case 'wrong-curve-b':
				loss.B += (random() < 0.5 ? -1 : 1) * between(random, 4, 20);
				break;
			case 'pick-up':
				implausible = random() < 0.5 ? 'A' : 'B';
				break;
			case 'film-left-in':
				common(between(random, 3, 14));
				break;
			case 'feeder-bad':
				common(between(random, 2.5, 15));
				break;
			case 'obstruction':
				common(between(random, 6, 24));
				break;
			case 'rain':
				common(between(random, 3, 16));
				break;
			case 'wrong-dish':
				common((random() < 0.7 ? 1 : -1) * stepDb);
				break;
			case 'moved-while-locking':
				common(between(random, 2.5, 12));
				break;
			case 'crossed-cables':
				loss[random() < 0.5 ? 'A' : 'B'] += xpd + 2 * normalDeviate(random);
				break;
			case 'overload':
				pinned = random() < 0.5 ? 'A' : 'B';
				break;
		}
	}
	const measured = (end: End): number | null => {
		if (implausible === end) return null;
		if (pinned === end) return maxInput[end] + 0.3 * normalDeviate(random);
		return Math.max(floor[end], plannedDbm[end] - loss[end]) + 0.3 * normalDeviate(random);
	};
	const input: DiagnosisInput = {
		plannedDbm,
		measuredDbm: { A: measured('A'), B: measured('B') },
		crossPolarDbm: { A: null, B: null },
		toleranceDb: 2,
		floorDbm: floor,
		firstSideLobeDb: lobe,
		crossPolarDiscriminationDb: xpd,
		crossedCablesLossDb: { A: xpd, B: xpd },
		armDifferenceDb: armDb,
		dishSizeStepDb: stepDb,
		maxInputDbm: maxInput,
		observations: implausible ? { implausibleVoltage: implausible } : {}
	};
	const beside = (end: 'a' | 'b'): boolean => has(`side-lobe-${end}`) || has('side-lobe-both');
	const truths: Record<DiagnosisTest['key'], boolean> = {
		rain: has('rain'),
		'power-control': has('power-control-on'),
		'adaptive-modulation': has('adaptive-modulation-on'),
		'power-a': !has('power-low-a'),
		'power-b': !has('power-low-b'),
		'meter-a': !has('wrong-curve-a') && implausible !== 'A',
		'meter-b': !has('wrong-curve-b') && implausible !== 'B',
		units: !has('wrong-sub-band'),
		'line-of-sight': !has('obstruction'),
		'follows-pointing':
			!has('power-control-on') && !has('pick-up') && !has('overload') && !has('wrong-sub-band'),
		'sweep-a': !beside('a'),
		'sweep-b': !beside('b'),
		polarization: !has('crossed-polarization'),
		arm: !has('wrong-arm'),
		cables: !has('crossed-cables'),
		dishes: !has('wrong-dish'),
		films: !has('film-left-in'),
		feeder: !has('feeder-bad'),
		locking: has('moved-while-locking')
	};
	return {
		truth,
		second,
		input,
		answer: (test) => test.outcomes[truths[test.key] ? 0 : 1]!.observation
	};
}

/** Two faults of which neither hides the other wholly. */
function together(p: Cause, q: Cause): boolean {
	const alone: Cause[] = ['wrong-sub-band', 'overload', 'pick-up', 'side-lobe-both'];
	if (alone.includes(p) || alone.includes(q)) return false;
	const placeless = (cause: Cause): string => cause.replace(/-[ab]$/, '');
	return placeless(p) !== placeless(q);
}

export interface FaultRun {
	ranked: Cause[];
	tests: number;
}

/** Makes the tests that the diagnosis names, until it names none or is sure. */
export function runTests(fault: FaultCase, most = 9): FaultRun {
	let input = fault.input;
	for (let tests = 0; ; tests++) {
		const { causes, nextTest } = diagnose(input);
		if (!nextTest || tests === most) {
			return { ranked: causes.map((cause) => cause.cause), tests };
		}
		input = { ...input, observations: withObservation(input.observations, fault.answer(nextTest)) };
	}
}
