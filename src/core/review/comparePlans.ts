import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import { ENDS } from '../ends';
import { fieldWords } from './fieldWords';

/** One value that differs between two revisions. */
export interface ChangedValue {
	/** Path of the input, such as `ends.A.antennaHeightAglM`. */
	field: string;
	/** The same in words with its unit, such as "A: Antenna height, m". */
	words: string;
	before: string;
	after: string;
}

export interface RevisionComparison {
	changed: ChangedValue[];
	effects: { name: string; unit: string; before: number; after: number; digits: number }[];
}

/** Two revisions side by side: what was changed, and what it did to level and availability. */
export function comparePlans(
	before: { input: HopPlanInput; plan: HopPlan },
	after: { input: HopPlanInput; plan: HopPlan }
): RevisionComparison {
	const changed: ChangedValue[] = [];
	walk('', before.input, after.input, changed);
	return {
		changed,
		effects: [
			...ENDS.flatMap((end) => [
				{
					name: `Planned level at ${end}`,
					unit: 'dBm',
					before: before.plan.received[end].plannedLevelDbm,
					after: after.plan.received[end].plannedLevelDbm,
					digits: 1
				},
				{
					name: `Tilt at ${end}`,
					unit: '°',
					before: before.plan.pointing[end].tiltDeg,
					after: after.plan.pointing[end].tiltDeg,
					digits: 2
				}
			]),
			{
				name: 'Availability',
				unit: '%',
				before: before.plan.availability.achievedPercent,
				after: after.plan.availability.achievedPercent,
				digits: 4
			},
			{
				name: 'Least clearance',
				unit: 'F1',
				before: leastClearance(before.plan),
				after: leastClearance(after.plan),
				digits: 2
			}
		].filter((effect) => Number.isFinite(effect.before) && Number.isFinite(effect.after))
	};
}

function leastClearance(plan: HopPlan): number {
	return Math.min(...(plan.clearance?.checks.map((check) => check.worstRatio) ?? [Number.NaN]));
}

const isPlain = (value: unknown): value is Record<string, unknown> =>
	typeof value === 'object' && value !== null && !Array.isArray(value) && !(value instanceof Date);

/** Parts and lists are one value each: compared whole, shown by code or in one line. */
function walk(path: string, before: unknown, after: unknown, changed: ChangedValue[]): void {
	if (isPlain(before) && isPlain(after)) {
		const named = (value: Record<string, unknown>): boolean => typeof value.code === 'string';
		if (!named(before) && !named(after)) {
			for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) {
				walk(path ? `${path}.${key}` : key, before[key], after[key], changed);
			}
			return;
		}
	}
	if (asStored(before, after) === asStored(after, before)) return;
	const [was, is] = [inWords(before), inWords(after)];
	// What reads alike and is not alike is said to be other.
	changed.push({
		field: path,
		words: fieldWords(path),
		before: was,
		after: was === is ? `${is}, other values` : is
	});
}

/** The value as it is stored, whatever the order of its keys; nothing said is all one. */
function asStored(value: unknown, other: unknown): string {
	if (value === null || value === undefined || value === '') return '';
	// Plans older than versions say none: they are compared by their values alone.
	const versioned = isPlain(other) && other.version !== undefined;
	return JSON.stringify(value, (_, part: unknown) =>
		isPlain(part)
			? Object.fromEntries(
					Object.entries(part)
						// Whether a part is retired says nothing of the plan that has it.
						.filter(([key]) => key !== 'retired' && (versioned || key !== 'version'))
						.sort(([p], [q]) => (p < q ? -1 : 1))
				)
			: part
	);
}

function inWords(value: unknown): string {
	if (value === null || value === undefined || value === '') return '—';
	if (value instanceof Date) return value.toISOString().slice(0, 10);
	if (Array.isArray(value) && value.length > 12) return `${value.length} values`;
	if (Array.isArray(value)) return value.map(inWords).join(', ') || '—';
	if (isPlain(value)) {
		if (typeof value.code !== 'string') return nameOf(value);
		return typeof value.version === 'number' && value.version > 1
			? `${value.code}, version ${value.version}`
			: value.code;
	}
	return typeof value === 'string' ? value : JSON.stringify(value);
}

/** What a list calls one of its rows: its name, else its kind, else what it holds. */
function nameOf(row: Record<string, unknown>): string {
	const name = [row.name, row.kind].find((word) => typeof word === 'string' && word !== '');
	return typeof name === 'string' ? name : JSON.stringify(row);
}
