import type { End } from '../ends';
import { chainOf } from '../polarization/chain';
import type { HopState } from '../record/hopState';
import type { RecordNames } from '../record/kinds';
import { buildSteps } from './buildSteps';
import { partsToReplace } from './partsToReplace';
import { partsToLabel } from './labels';

/** What the plan in force calls the steps, parts and carriers that records name by key. */
export function recordNamesOf({
	input,
	plan,
	snags
}: Pick<HopState, 'input' | 'plan' | 'snags'>): RecordNames {
	const steps = perEndOnce((end) => new Map(buildSteps(input, plan, end).map((s) => [s.key, s])));
	const parts = perEndOnce(
		(end) =>
			new Map([
				...partsToReplace({ input }, end).map(({ key, name }): [string, string] => [key, name]),
				...partsToLabel(input, end).map(({ part, name }): [string, string] => [part, name]),
				...chainOf(input, end).map(({ key, part }): [string, string] => [key, part])
			])
	);
	return {
		step: (end, key) => {
			const step = steps(end).get(key);
			return step && { title: step.title, unit: step.quantity?.unit ?? '' };
		},
		part: (end, key) => parts(end).get(key),
		carrier: (number) => plan.carriers.find((carrier) => carrier.number === number)?.name,
		snag: (snagId) => snags.find(({ opened }) => opened.snagId === snagId)?.opened.text
	};
}

/** Worked out for an end when it is first asked for. */
function perEndOnce<T>(make: (end: End) => T): (end: End) => T {
	const made = new Map<End, T>();
	return (end) => {
		const known = made.get(end) ?? make(end);
		made.set(end, known);
		return known;
	};
}
