import type { End } from '../ends';
import type { HopState } from '../record/hopState';
import type { RecordPayloads } from '../record/records';
import { buildSteps, type BuildStep } from './buildSteps';
import { chainState } from './chainState';
import { judgeStep } from './judgeStep';
import { judgeLabels, judgeReceived } from './receiving';
import { present } from '../units/lists';

export interface BuildStepState {
	step: BuildStep;
	state: 'done' | 'trouble' | 'skipped' | 'open' | 'blocked';
	/** What was found, why it is trouble, why it was skipped, or what it waits for. */
	reason: string;
	value: number | null;
	note: string;
	photoIds: readonly string[];
	recordedBy: string;
	recordedAt: string | null;
}

export interface BuildState {
	steps: BuildStepState[];
	/** The step to do now: the first that is open, or undefined when none is. */
	next: BuildStepState | undefined;
	done: number;
	skipped: number;
	trouble: number;
	/** Nothing open, blocked or in trouble. */
	complete: boolean;
	/** Whether anything of the building was recorded at all. */
	begun: boolean;
}

/** Stands for every step of an end that was not done when it was recorded. */
export const ALL_REMAINING = '*';

/** A payload with its place in a feed, when it was recorded and by whom. */
type Said<T> = T & { seq: number; at: string; by: string };

/** What was recorded of steps: the latest of each that was not taken back by a reopening. */
export interface StepFacts {
	steps: Readonly<Record<string, Said<RecordPayloads['build-step']>>>;
	reopenedAt: Readonly<Record<string, number>>;
	skips: readonly Said<RecordPayloads['step-skipped']>[];
}

/** Where the building of one end stands, from its records. Pure. */
export function buildStateOf(state: HopState, end: End): BuildState {
	const steps = buildSteps(state.input, state.plan, end);
	const { building } = state.ends[end];
	return buildStateFrom(
		steps,
		(step) => stepStateOf(step, building, derivedOf(state, step, end)),
		building.begun
	);
}

/**
 * Where a building stands, from where each of its steps does: one that is open and waits for another is blocked.
 *
 * @param steps in their order
 * @param stateOf where a step stands by itself
 */
export function buildStateFrom(
	steps: readonly BuildStep[],
	stateOf: (step: BuildStep) => BuildStepState,
	begun: boolean
): BuildState {
	const found = new Map(steps.map((step) => [step.key, stateOf(step)]));
	const states = steps.map((step): BuildStepState => {
		const own = present(found.get(step.key), 'step');
		if (own.state !== 'open') return own;
		const waits = step.after.find(({ key }) => {
			const before = found.get(key)?.state;
			return before === 'open' || before === 'trouble' || before === 'blocked';
		});
		if (!waits) return own;
		const title = present(
			steps.find((other) => other.key === waits.key),
			'step'
		).title;
		return { ...own, state: 'blocked', reason: `After “${title}”: ${waits.reason}.` };
	});
	const count = (kind: BuildStepState['state']): number =>
		states.filter((state) => state.state === kind).length;
	return {
		steps: states,
		next: states.find((state) => state.state === 'open' || state.state === 'trouble'),
		done: count('done'),
		skipped: count('skipped'),
		trouble: count('trouble'),
		complete: states.every((state) => state.state === 'done' || state.state === 'skipped'),
		begun
	};
}

/**
 * Where a step stands by what was recorded of it.
 *
 * @param derived what follows for it from records of another kind, where it is recorded by those
 */
export function stepStateOf(
	step: BuildStep,
	building: StepFacts,
	derived?: Pick<BuildStepState, 'state' | 'reason' | 'value'>
): BuildStepState {
	const { skips } = building;
	const base: BuildStepState = {
		step,
		state: 'open',
		reason: '',
		value: null,
		note: '',
		photoIds: [],
		recordedBy: '',
		recordedAt: null
	};
	if (derived?.state === 'trouble') {
		// What came short can be accepted in words; it stays in the record as it was found.
		const accepted = skips.findLast((skip) => skip.step === step.key);
		return accepted
			? { ...base, state: 'skipped', reason: `${causeOf(accepted)} (${derived.reason})` }
			: { ...base, ...derived };
	}
	if (derived?.state === 'done') return { ...base, ...derived };
	const reopenedAt = building.reopenedAt[step.key] ?? 0;
	const latest = building.steps[step.key];
	const skip = skips.findLast(
		(one) =>
			one.seq > Math.max(reopenedAt, latest?.seq ?? 0) &&
			(one.step === step.key || (one.step === ALL_REMAINING && !latest)) &&
			// What can hurt or destroy is closed by a named person only.
			(!step.gate || one.authorisedBy !== undefined)
	);
	if (skip) return { ...base, state: 'skipped', reason: causeOf(skip) };
	if (!latest) return { ...base, ...derived };
	const { value, note, photoIds } = latest;
	const kept = {
		...base,
		value,
		note,
		photoIds,
		recordedBy: latest.by,
		recordedAt: latest.at
	};
	const { verdict, reason } = judgeStep(step, latest);
	return { ...kept, state: verdict === 'good' ? 'done' : 'trouble', reason };
}

/** Why a step was left out, with who took it on where somebody had to. */
function causeOf({ cause, authorisedBy }: { cause: string; authorisedBy?: string }): string {
	return authorisedBy ? `${cause}, on the word of ${authorisedBy}` : cause;
}

/** Steps that are done elsewhere: their state follows from what was recorded there. */
function derivedOf(
	state: HopState,
	step: BuildStep,
	end: End
): Pick<BuildStepState, 'state' | 'reason' | 'value'> | undefined {
	switch (step.work) {
		case 'parties': {
			const latest = state.ends[end].building.parties;
			if (!latest) return { state: 'open', reason: '', value: null };
			const { present, absent } = latest;
			return {
				state: 'done',
				reason: [
					...present.map(({ name, party }) => `${name}, ${party}`),
					...absent.map(({ party, authorisedBy }) => `${party} absent, by leave of ${authorisedBy}`)
				].join('; '),
				value: null
			};
		}
		case 'packing': {
			const lines = judgeReceived(state, end);
			const open = lines.filter((line) => line.verdict === 'open').length;
			const odd = lines.filter((line) => line.verdict !== 'open' && line.verdict !== 'good');
			const value = lines.length - open;
			if (open) return { state: 'open', reason: `${open} of ${lines.length} lines left.`, value };
			const bad = odd.filter((line) => line.verdict !== 'surplus');
			return {
				state: bad.length ? 'trouble' : 'done',
				reason: odd.length
					? odd.map((line) => `${line.code}: ${line.reason}`).join(' ')
					: 'Everything as listed.',
				value
			};
		}
		case 'labels': {
			const labels = judgeLabels(state, end);
			const open = labels.filter((label) => label.verdict === 'open').length;
			const problems = labels.flatMap((label) =>
				label.problems.map((problem) => `${label.expected.name}: ${problem}`)
			);
			const value = labels.length - open;
			if (problems.length) return { state: 'trouble', reason: problems.join(' '), value };
			return open
				? { state: 'open', reason: `${open} of ${labels.length} labels left.`, value }
				: { state: 'done', reason: 'All as planned.', value };
		}
		case 'chain': {
			const { joints, problems } = chainState(state, end, step.joints);
			const value = joints.filter((joint) => joint.shows !== null).length;
			if (problems.length) return { state: 'trouble', reason: problems.join(' '), value };
			return value === joints.length
				? { state: 'done', reason: 'Every joint agrees with the plan.', value }
				: { state: 'open', reason: `${joints.length - value} joints left.`, value };
		}
		case 'confirm':
			return undefined;
	}
}
