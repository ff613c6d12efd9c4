import type { End } from '../ends';
import type { HopState } from '../record/hopState';
import { allFixed } from '../record/hopState';
import { buildStateOf } from '../tower/buildState';
import { partsList, type PartsLine } from '../tower/partsList';
import { judgeReceived } from '../tower/receiving';
import { toolLines } from '../tower/tools';

export type { PartsLine };

/**
 * What a crew takes along to an end, as it stands now: parts that were not counted there yet or are short, and the tools
 * of the steps that are left. Nothing of an end that is built and fixed.
 */
export function toBring(state: HopState, end: End): PartsLine[] {
	const built = buildStateOf(state, end);
	const left = built.steps.filter((one) => one.state !== 'done' && one.state !== 'skipped');
	if (left.length === 0 && allFixed(state, end)) return [];
	const found = new Map(
		judgeReceived(state, end).map((line) => [
			line.code,
			line.condition === 'good' ? (line.found ?? 0) : 0
		])
	);
	const parts = built.complete
		? []
		: partsList(state.input, end).flatMap((line) => {
				const count = line.count - (found.get(line.code) ?? 0);
				return count > 0 ? [{ ...line, count }] : [];
			});
	return [
		...parts,
		...toolLines(
			state.input,
			end,
			left.map(({ step }) => step)
		)
	];
}
