import { crewSignatureAt } from '../accept/closingSteps';
import { discriminationOf } from '../guide/polarizationBench';
import { ENDS, type End, type PerEnd } from '../ends';
import { hopsAt, isFixed, type HopState } from '../record/hopState';
import type { FieldRecord, RecordKind } from '../record/records';
import { buildStateOf, type BuildState } from '../tower/buildState';
import { durationOf, type BenchKind, type Durations, type HopTask } from './tasks';
import { gathered, sumOf, type Observed } from './spread';

const MINUTE_MS = 60_000;

/** Kinds of record that are made while work at the bench is done. */
const MADE_BY: Record<BenchKind, readonly RecordKind[]> = {
	'alignment-state': ['alignment-state'],
	'sweep-coarse': ['reading', 'move', 'sweep', 'mount-turn'],
	'sweep-fine': ['reading', 'move', 'sweep', 'baton'],
	polarize: ['discrimination', 'feed-turn'],
	fix: ['lock-step'],
	close: ['operating-state', 'carrier-level', 'service-check', 'closing-check', 'crew-signature'],
	accept: []
};

/** Whether work at the bench is done, as record and plan stand. */
function benchDone(state: HopState, task: HopTask, accepted: boolean): boolean {
	if (accepted) return true;
	const { end, dish } = task;
	const own = state.ends[end];
	const hop = hopsAt(state, end).find((one) => one.dish === dish)?.hop ?? state;
	const fixed = isFixed(hop, end);
	switch (task.bench) {
		case 'alignment-state':
			return own.alignmentStateConfirmed || own.operatingState !== null || fixed;
		case 'sweep-coarse':
			return hop.ends[end].turnsTaken > 0 || hop.ends[end].aim !== null || fixed;
		case 'sweep-fine':
			return hop.ends[end].aim !== null || fixed;
		case 'polarize':
			return (
				fixed ||
				discriminationOf(state)
					.directions.filter((direction) => direction.end === end)
					.every(({ verdict }) => verdict === 'reached')
			);
		case 'fix':
			return fixed;
		case 'close':
			return crewSignatureAt(state, end) !== null;
		default:
			return false;
	}
}

const minuteOf = (iso: string): number => Math.floor(Date.parse(iso) / MINUTE_MS);

/**
 * The tasks of a hop as they really went: what is done stands at the time of its records, what is begun is expected to
 * end by what is left of it. What waits for something that is not done cannot be done itself.
 *
 * @param now minutes since 1970 UTC
 * @param accepted whether the hop was accepted as it stands
 */
export function withProgress(
	tasks: readonly HopTask[],
	state: HopState,
	records: readonly FieldRecord[],
	{ now, durations, accepted }: { now: number; durations: Durations; accepted: boolean }
): HopTask[] {
	const built: PerEnd<BuildState> = { A: buildStateOf(state, 'A'), B: buildStateOf(state, 'B') };
	const timesOf = (end: End, kinds: readonly RecordKind[]): number[] =>
		records
			.filter((record) => record.end === end && kinds.includes(record.kind))
			.map(({ recordedAt }) => minuteOf(recordedAt));
	const lastAt = (end: End): number =>
		Math.min(
			now,
			minuteOf(records.findLast((record) => record.end === end)?.recordedAt ?? '1970-01-01')
		);
	return tasks.map((task) => {
		if (task.phase !== null) return ofBuilding(task, built[task.end], { now, durations, accepted });
		if (!task.bench) return task;
		const times = timesOf(task.end, MADE_BY[task.bench]);
		if (benchDone(state, task, accepted)) {
			const to = times.length ? Math.max(...times) : lastAt(task.end);
			const from = times.length ? Math.min(...times) : to;
			return { ...task, real: { from, to, done: true } };
		}
		return task;
	});
}

function ofBuilding(
	task: HopTask,
	built: BuildState,
	{ now, durations, accepted }: { now: number; durations: Durations; accepted: boolean }
): HopTask {
	const own = built.steps.filter(({ step }) => task.steps.includes(step.key));
	const settled = own.filter(({ state }) => state === 'done' || state === 'skipped');
	const times = own.flatMap(({ recordedAt }) =>
		recordedAt === null ? [] : [minuteOf(recordedAt)]
	);
	if (settled.length === own.length || accepted) {
		const to = times.length ? Math.max(...times) : now;
		return { ...task, real: { from: times.length ? Math.min(...times) : to, to, done: true } };
	}
	if (settled.length === 0) return task;
	const left = sumOf(
		own.filter((one) => !settled.includes(one)).map(({ step }) => durationOf(durations, step.base))
	);
	// What was left out has no time: the rest is still to begin, and takes that much less.
	if (times.length === 0) {
		return { ...task, spread: left, minutes: Math.max(1, Math.round(left.likely)) };
	}
	const to = Math.max(now, Math.max(...times) + Math.round(left.likely));
	return { ...task, real: { from: Math.min(...times), to, done: false } };
}

/** Work at the bench that is begun once what came before is recorded, and in which nobody waits for the far end. */
const ALONE_AT_THE_BENCH = ['alignment-state', 'fix'] as const;

/**
 * Minutes that work really took, by its kind: a step of the building from the record before to its own, work at the
 * bench from the record before its first to its last, where no long pause lies between. Sweeps tell nothing: their
 * records lie between the turns of the far end.
 */
export function observedMinutes(
	state: HopState,
	records: readonly FieldRecord[]
): { kind: string; minutes: number }[] {
	const told = ({ minutes }: { minutes: number }): boolean =>
		minutes >= SHORTEST_MIN && minutes <= LONGEST_MIN;
	return ENDS.flatMap((end) => {
		const baseOf = new Map(buildStateOf(state, end).steps.map(({ step }) => [step.key, step.base]));
		const own = records.filter((record) => record.end === end);
		const at = (i: number): number => Date.parse(own[i]?.recordedAt ?? '') / MINUTE_MS;
		const steps = own.flatMap((record, i) => {
			if (record.kind !== 'build-step') return [];
			const kind = baseOf.get(record.payload.step);
			return kind === undefined ? [] : [{ kind, minutes: at(i) - at(i - 1) }];
		});
		const bench = ALONE_AT_THE_BENCH.flatMap((kind) => {
			const its = own.flatMap((record, i) => (MADE_BY[kind].includes(record.kind) ? [i] : []));
			const first = its[0];
			const last = its.at(-1);
			if (first === undefined || last === undefined) return [];
			const paused = own.some((_, i) => i >= first && i <= last && at(i) - at(i - 1) > LONGEST_MIN);
			return paused ? [] : [{ kind, minutes: at(last) - at(first - 1) }];
		});
		return [...steps, ...bench].filter(told);
	});
}

/** What was seen of each kind of work at a hop. */
export function observedKinds(
	state: HopState,
	records: readonly FieldRecord[]
): Record<string, Observed> {
	const minutes = new Map<string, number[]>();
	for (const one of observedMinutes(state, records)) {
		minutes.set(one.kind, [...(minutes.get(one.kind) ?? []), one.minutes]);
	}
	return Object.fromEntries([...minutes].map(([kind, times]) => [kind, gathered(times)]));
}

/** Steps that are ticked one after the other say nothing of their time; nor does one with a pause in it. */
const SHORTEST_MIN = 1;
const LONGEST_MIN = 180;
