import { planHop, type HopPlan, type HopPlanResult } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import type { HubPlan } from '#core/hub/hubFigures';
import type { HubInput } from '#core/hub/hubInput';
import { hubPathsOf, planHub } from '#core/hub/hubPlan';
import type { TerrainGrid } from '#core/path/terrainGrid';
import { guide, type Guidance, type GuidanceInput } from '#core/guide/guidance';
import { find, weighedState, type Finding, type FindingQuestion } from '#core/guide/weigh';
import type { Findings } from '#core/record/findings';
import type { FieldRecord } from '#core/record/records';
import { standingOf, type HopStanding } from '#core/stage/standing';
import type { StageInput } from '#core/stage/stages';
import { toBring, type PartsLine } from '#core/crew/dayBrief';
import type { End, PerEnd } from '#core/ends';
import { observedKinds, withProgress } from '#core/schedule/progress';
import type { Observed } from '#core/schedule/spread';
import { hopJobs, hopTasks, type Durations, type HopJob, type HopTask } from '#core/schedule/tasks';
import { analyseSweep, type SweepAnalysis, type SweepInput } from '#core/sweep/analyseSweep';
import type { UnitSystem } from '#core/units/systems';
import { passwordTrouble } from '../auth/passwordRules';
import { invalid } from '../errors';
import { readArchive, writeArchive, type ReadArchive } from '../formats/hopArchive';
import { readHubArchive, writeHubArchive, type ReadHubArchive } from '../formats/hubArchive';
import { readHubFile, type HubFormat, type ReadHub } from '../formats/hubTable';
import { readImport } from '../formats/importFile';
import { networkInterference, type NetworkAnswer, type NetworkTask } from '../interference/network';
import { packPdf } from '../pdf/packPdf';
import { sheetPdf } from '../pdf/sheetPdf';
import { packTerrain, unpackHeights, type PackedTerrain } from '../terrain/packHeights';
import { shadeTerrain } from '../terrain/shade';
import { moveKept } from '../schedule/basis';
import { BODY_SCHEMAS, type BodyName } from '../schemas/bodies';
import { validate } from '../schemas/joi';
import type { Pack } from '../pdf/pack';
import type { PreparedSheet } from '../services/sheets';

/** A hop with its record and what was found out of it. */
interface RecordedHop {
	input: HopPlanInput;
	plan: HopPlan;
	records: FieldRecord[];
	findings: Findings;
}

interface HopTasksTask extends RecordedHop {
	id: string;
	/** Ids of its sites. */
	places: PerEnd<string>;
	/** Minutes since 1970 UTC. */
	now: number;
	durations: Durations;
	accepted: boolean;
	acceptOnSite: boolean;
}

type StandTask = RecordedHop & Omit<StageInput, 'issued'>;

/**
 * Everything that takes so long that it would keep others waiting: done beside the event loop, each from its
 * arguments alone. What is handed over is copied, so no class and no function goes in or comes out.
 */
export const TASKS = {
	/** A body too long to be read and checked in passing. */
	'check-body': ({ name, bytes }: { name: BodyName; bytes: Uint8Array }): unknown =>
		validate(BODY_SCHEMAS[name], parsed(bytes)),
	'analyse-sweep': (input: SweepInput): SweepAnalysis => analyseSweep(input),
	guide: (input: GuidanceInput): Guidance => guide(input),
	find: (question: FindingQuestion): Finding => find(question),
	plan: (input: HopPlanInput): HopPlanResult => planHop(input),
	/** Where both ends of a hop stand, for lists, and how long its work took. */
	stand: ({
		input,
		plan,
		records,
		findings,
		...rest
	}: StandTask): { standing: HopStanding; seen: Record<string, Observed> } => {
		const issued = weighedState(input, plan, records, findings);
		return {
			standing: standingOf({ issued, ...rest }),
			seen: observedKinds(issued, records)
		};
	},
	/** What a crew takes along to an end. */
	'to-bring': ({ input, plan, records, findings, end }: RecordedHop & { end: End }): PartsLine[] =>
		toBring(weighedState(input, plan, records, findings), end),
	/** What is done and left to do at a hop, and whom it asks for. */
	'hop-tasks': ({
		input,
		plan,
		records,
		findings,
		...hop
	}: HopTasksTask): { tasks: HopTask[]; jobs: HopJob[] } => {
		const { id, places, now, durations, accepted, acceptOnSite } = hop;
		const toSchedule = { id, input, plan, places, acceptOnSite };
		const state = weighedState(input, plan, records, findings);
		const about = { now, durations, accepted };
		return {
			tasks: withProgress(hopTasks(toSchedule, durations), state, records, about),
			jobs: hopJobs(toSchedule)
		};
	},
	'move-schedule': moveKept,
	'network-interference': (task: NetworkTask): NetworkAnswer => networkInterference(task),
	'pack-pdf': async ({ pack, system }: { pack: Pack; system: UnitSystem }): Promise<Uint8Array> =>
		new Uint8Array(await packPdf(pack, system)),
	'sheet-pdf': async ({
		sheet,
		system
	}: {
		sheet: PreparedSheet;
		system: UnitSystem;
	}): Promise<Uint8Array> => new Uint8Array(await sheetPdf(sheet, system)),
	'password-trouble': ({ password, own }: { password: string; own: string[] }): string | null =>
		passwordTrouble(password, own) ?? null,
	/** A raster of terrain as it is kept, from the file that somebody sent. */
	'read-terrain': async (bytes: Uint8Array): Promise<PackedTerrain> => {
		// Loaded when needed: its library takes the build's own worker thread for one of its own.
		const { decodeGeoTiff } = await import('../terrain/decodeGeoTiff');
		return packTerrain(await decodeGeoTiff(bytes));
	},
	'unpack-terrain': ({
		packed,
		columns
	}: {
		packed: Uint8Array;
		columns: number;
	}): Promise<Float32Array> => unpackHeights(Buffer.from(packed), columns),
	'shade-terrain': async (grid: TerrainGrid): Promise<Uint8Array> =>
		new Uint8Array(await shadeTerrain(grid)),
	'read-import': readImport,
	'read-hub': ({ format, text }: { format: HubFormat; text: string }): ReadHub =>
		readHubFile(format, text),
	'plan-hub': (hub: HubInput): HubPlan => planHub(hub, hubPathsOf(hub)),
	'zip-archive': writeArchive,
	'read-archive': (bytes: Uint8Array): ReadArchive => readArchive(bytes),
	'zip-hub-archive': writeHubArchive,
	'read-hub-archive': (bytes: Uint8Array): ReadHubArchive => readHubArchive(bytes)
} as const;

export type TaskName = keyof typeof TASKS;
export type TaskInput<N extends TaskName> = Parameters<(typeof TASKS)[N]>[0];
export type TaskOutput<N extends TaskName> = Awaited<ReturnType<(typeof TASKS)[N]>>;

/** The JSON of a body. Throws the 422 where it is none. */
export function parsed(bytes: Uint8Array): unknown {
	try {
		return JSON.parse(new TextDecoder().decode(bytes)) as unknown;
	} catch {
		throw invalid([{ field: '', message: 'The input is not valid JSON.' }]);
	}
}
