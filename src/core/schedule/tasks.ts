import { CONFIGURATION_RULES } from '../budget/configuration';
import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import { secondHopsOf } from '../budget/secondHop';
import { ENDS, farEnd, type End, type PerEnd } from '../ends';
import type { DishNumber } from '../record/secondDish';
import type { Tool } from '../tower/buildStep';
import { buildSteps, type BuildStep, type Phase } from '../tower/buildSteps';
import type { Job, Skill, Spread, WorkTask } from './problem';
import { sumOf } from './spread';
import type { Limit } from './weather';

/** Work after the building, by what is usual for it. */
export const BENCH_KINDS = [
	'alignment-state',
	'sweep-coarse',
	'sweep-fine',
	'polarize',
	'fix',
	'close',
	'accept'
] as const;
export type BenchKind = (typeof BENCH_KINDS)[number];

/** How long work takes: by the base of a step of the building, or by what is done at the bench. */
export type Durations = Readonly<Record<string, Spread>>;

/** What a step takes that nobody has said anything of. */
export const UNKNOWN_MIN: Spread = { low: 5, likely: 10, high: 30 };

/** Stretches of the building that are done up on the structure, and those with joints open to the rain. */
const ALOFT: readonly Phase[] = ['raise', 'mount', 'waveguide', 'earth', 'cable', 'weatherproof'];
const OPEN_JOINTS: readonly Phase[] = ['mount', 'waveguide', 'foot', 'cable', 'weatherproof'];

const PHASE_TITLES: Record<Phase, string> = {
	office: 'Set up on a desk',
	receive: 'Receive and count',
	assemble: 'Put together on the ground',
	polarization: 'Set the polarization',
	raise: 'Raise',
	mount: 'Mount',
	waveguide: 'Waveguide up',
	foot: 'Foot of the run',
	earth: 'Earth',
	cable: 'Cables',
	weatherproof: 'Weatherproof',
	indoors: 'Indoors',
	'power-up': 'Power up'
};

/** A task of a hop, with what a crew wants to know of it. */
export interface HopTask extends WorkTask {
	hopId: string;
	end: End;
	title: string;
	/** Steps of the building it is made of, by their keys; none of work at the bench. */
	steps: readonly string[];
	/** The stretch of the building; null of work at the bench. */
	phase: Phase | null;
	bench: BenchKind | null;
	dish: DishNumber;
	/** Nothing else at the hop moves meanwhile. */
	moves: boolean;
}

/** A hop as it is scheduled. */
export interface HopToSchedule {
	id: string;
	input: HopPlanInput;
	plan: HopPlan;
	/** Ids of its sites. */
	places: PerEnd<string>;
	/** Whether the acceptor comes to the site; else it is signed elsewhere, at any time after. */
	acceptOnSite: boolean;
}

/** Id of the work of an end: one crew does all of it. */
export const jobId = (hopId: string, what: End | 'accept'): string => `${hopId}/${what}`;

/**
 * What is done at a hop, from its parts and its steps: stretches of the building of either end, then the alignment in
 * turns, in which both ends wait for each other, fixing and closing.
 */
export function hopTasks(hop: HopToSchedule, durations: Durations): HopTask[] {
	const building = { A: buildingOf(hop, 'A', durations), B: buildingOf(hop, 'B', durations) };
	return [...building.A, ...building.B, ...benchOf(hop, building, durations)];
}

/** The spread of a kind of work. */
export const durationOf = (durations: Durations, kind: string): Spread =>
	(Object.hasOwn(durations, kind) ? durations[kind] : undefined) ?? UNKNOWN_MIN;

function taskOf(
	hop: HopToSchedule,
	end: End,
	key: string,
	spread: Spread,
	rest: Pick<HopTask, 'title' | 'after'> & Partial<HopTask>
): HopTask {
	return {
		...{ id: `${hop.id}/${end}/${key}`, hopId: hop.id, end, job: jobId(hop.id, end) },
		...{ place: hop.places[end], minutes: Math.max(1, Math.round(spread.likely)), spread },
		...{ limits: [], light: false, attends: null, pin: null, real: null, moves: false },
		...{ steps: [], phase: null, bench: null, dish: 1 },
		...rest
	};
}

const titleOf = (phase: Phase, part: number): string =>
	part === 1 ? PHASE_TITLES[phase] : `${PHASE_TITLES[phase]}, part ${part}`;

/** What hangs on a rope is not left: these stretches are gone through in one go. */
const IN_ONE_GO: readonly Phase[] = ['raise', 'waveguide'];
/** Other stretches are cut between two steps once they are so long, minutes: the rest can be another day's. */
const CUT_AT_MIN = 30;

/** Steps that follow one another within one stretch of the work, long stretches in parts. */
function stretchesOf(steps: readonly BuildStep[], durations: Durations): BuildStep[][] {
	const stretches: BuildStep[][] = [];
	let minutes = 0;
	for (const step of steps) {
		const last = stretches.at(-1);
		const goesOn =
			last?.[0]?.phase === step.phase && (IN_ONE_GO.includes(step.phase) || minutes < CUT_AT_MIN);
		if (goesOn) last.push(step);
		else {
			stretches.push([step]);
			minutes = 0;
		}
		minutes += durationOf(durations, step.base).likely;
	}
	return stretches;
}

function buildingOf(hop: HopToSchedule, end: End, durations: Durations): HopTask[] {
	const stretches = stretchesOf(buildSteps(hop.input, hop.plan, end), durations);
	const taskOfStep = new Map<string, string>();
	const times = new Map<Phase, number>();
	const before = new Map<'office' | 'receive', string[]>([
		['office', []],
		['receive', []]
	]);
	return stretches.map((steps) => {
		const phase = steps[0]?.phase ?? 'office';
		const again = (times.get(phase) ?? 0) + 1;
		times.set(phase, again);
		const key = again === 1 ? phase : `${phase}-${again}`;
		const id = `${hop.id}/${end}/${key}`;
		const after = new Set(
			steps.flatMap((step) => step.after.flatMap((before) => taskOfStep.get(before.key) ?? []))
		);
		for (const step of steps) taskOfStep.set(step.key, id);
		// What is set up on a desk is, before anybody leaves; nothing is put together before it was counted.
		if (phase !== 'office') for (const one of before.get('office') ?? []) after.add(one);
		if (phase !== 'office' && phase !== 'receive') {
			for (const one of before.get('receive') ?? []) after.add(one);
		} else before.get(phase)?.push(id);
		const aloft = ALOFT.includes(phase);
		const limits: Limit[] = [
			...(aloft ? (['climb'] as const) : []),
			...(steps.some(({ gate }) => gate?.kind === 'lift') ? (['lift'] as const) : []),
			...(OPEN_JOINTS.includes(phase) ? (['open'] as const) : [])
		];
		const spread = sumOf(steps.map(({ base }) => durationOf(durations, base)));
		return taskOf(hop, end, key, spread, {
			...{ title: titleOf(phase, again), phase, after: [...after], limits, light: aloft },
			steps: steps.map((step) => step.key),
			...(phase === 'office' ? { place: null } : {})
		});
	});
}

/** Alignment, polarization, fixing and closing: a chain through both ends, since one dish moves at a time. */
function benchOf(
	hop: HopToSchedule,
	building: PerEnd<readonly HopTask[]>,
	durations: Durations
): HopTask[] {
	const tasks: HopTask[] = [];
	const add = (
		end: End,
		bench: BenchKind,
		rest: Pick<HopTask, 'title' | 'after'> & Partial<HopTask>
	): string => {
		const dish = rest.dish ?? 1;
		const key = dish === 2 ? `${bench}-2` : bench;
		const task = taskOf(hop, end, key, durationOf(durations, bench), { ...rest, bench });
		tasks.push(task);
		return task.id;
	};
	// Both powered and in the alignment state before any sweep.
	let last: readonly string[] = ENDS.map((end) =>
		add(end, 'alignment-state', {
			title: 'Alignment state',
			after: building[end].map(({ id }) => id)
		})
	);
	const turn = (
		end: End,
		bench: BenchKind,
		rest: Pick<HopTask, 'title'> & Partial<HopTask>
	): void => {
		last = [
			add(end, bench, {
				...{ after: last, limits: ['climb'], light: true, moves: true },
				// The far end transmits, and watches its own meter.
				attends: { job: jobId(hop.id, farEnd(end)), place: hop.places[farEnd(end)] },
				...rest
			})
		];
	};
	const dual = CONFIGURATION_RULES[hop.input.configuration.kind].coChannelDual;
	// First the first dishes of both ends, then the second ones.
	const dishes: readonly DishNumber[] = secondHopsOf(hop.input, hop.plan) ? [1, 2] : [1];
	for (const dish of dishes) {
		const of = dish === 2 ? ', second dish' : '';
		for (const end of ENDS) turn(end, 'sweep-coarse', { title: `Coarse sweeps${of}`, dish });
		for (const end of ENDS) turn(end, 'sweep-fine', { title: `Fine sweeps${of}`, dish });
		if (dish === 1 && dual)
			for (const end of ENDS) turn(end, 'polarize', { title: 'Discrimination' });
		for (const end of ENDS) turn(end, 'fix', { title: `Fix${of}`, dish });
	}
	const closed = ENDS.map((end) => add(end, 'close', { title: 'Close', after: last }));
	if (hop.acceptOnSite) {
		add('A', 'accept', {
			...{ title: 'Acceptance', after: closed, job: jobId(hop.id, 'accept') }
		});
	}
	return tasks;
}

/** What a job asks for, with the tools of its steps. */
export interface HopJob extends Job {
	tools: readonly Tool[];
}

/** People that work on a structure takes: one who climbs is never alone. */
const ALOFT_PEOPLE = 2;
const none: Readonly<Record<Skill, number>> = { climber: 0, rigger: 0, acceptor: 0 };

/** Who and what the jobs of a hop ask for, from the steps of its ends. */
export function hopJobs(hop: HopToSchedule, crews: Partial<PerEnd<string | null>> = {}): HopJob[] {
	const jobs = ENDS.map((end): HopJob => {
		const steps = buildSteps(hop.input, hop.plan, end);
		const lifts = steps.some(({ gate }) => gate?.kind === 'lift');
		return {
			id: jobId(hop.id, end),
			people: Math.max(ALOFT_PEOPLE, ...steps.map(({ people }) => people)),
			skills: { ...none, climber: 1, rigger: lifts ? 1 : 0 },
			equipment: [],
			crew: crews[end] ?? null,
			tools: [...new Set(steps.flatMap(({ tools }) => tools))]
		};
	});
	const accept = {
		...{ id: jobId(hop.id, 'accept'), people: 1, skills: { ...none, acceptor: 1 } },
		...{ equipment: [], crew: null, tools: [] }
	};
	return hop.acceptOnSite ? [...jobs, accept] : jobs;
}
