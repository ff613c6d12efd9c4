import { CAUSES } from '../src/core/diagnose/causes/keys';
import { faultCase, runTests } from '../tests/core/seededFault';

/** Seeded single and double faults, the tests that the tool names made honestly: a confusion table. */
export function diagnosisTable(count: number): string {
	const lines: string[] = [];
	const confusion = new Map<string, number>();
	let first = 0;
	let two = 0;
	let tests = 0;
	const singles = Math.floor(count / 2);
	for (let seed = 1; seed <= singles; seed++) {
		const fault = faultCase(seed);
		const run = runTests(fault);
		if (run.ranked[0] === fault.truth) first += 1;
		if (run.ranked.slice(0, 2).includes(fault.truth)) two += 1;
		tests += run.tests;
		const key = `${fault.truth.padEnd(24)} ${run.ranked[0]}`;
		confusion.set(key, (confusion.get(key) ?? 0) + 1);
	}
	const share = (n: number, of: number): string => `${((100 * n) / of).toFixed(1)} %`;
	lines.push(
		`${singles} single faults: first ${share(first, singles)}, among the first two ${share(two, singles)}, ${(tests / singles).toFixed(1)} tests each`
	);
	let both = 0;
	let one = 0;
	let firstOfTwo = 0;
	let testsOfTwo = 0;
	for (let seed = 1; seed <= count - singles; seed++) {
		const fault = faultCase(100_000 + seed, true);
		const run = runTests(fault, 14);
		const top = run.ranked.slice(0, 2);
		const truths = [fault.truth, fault.second].filter((cause) => cause !== undefined);
		const hits = truths.filter((cause) => top.includes(cause)).length;
		if (truths.includes(top[0]!)) firstOfTwo += 1;
		testsOfTwo += run.tests;
		if (hits >= 1) one += 1;
		if (hits === 2) both += 1;
	}
	const doubles = count - singles;
	lines.push(
		`${doubles} double faults: one of them first ${share(firstOfTwo, doubles)}, one among the first two ${share(one, doubles)}, both ${share(both, doubles)}, ${(testsOfTwo / doubles).toFixed(1)} tests each`
	);
	lines.push('', 'fault                    taken for                 times');
	for (const cause of CAUSES) {
		for (const [key, n] of confusion)
			if (key.startsWith(cause.padEnd(24))) lines.push(`${key.padEnd(50)} ${n}`);
	}
	return lines.join('\n');
}
