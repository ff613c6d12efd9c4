import { outcomeUnder } from '#core/diagnose/diagnosis';
import type { TestKey } from '#core/diagnose/sights';
import { measuredInput } from '#core/record/adjusters';
import { worthKeeping } from '#core/meter/levelFollower';
import { makeLevelCurve, readingLevelDbm } from '#core/radio/levelCurve';
import { throughSecondDish } from '#core/budget/configuration';
import { inventoryOf } from '#core/budget/inventory';
import type { HopPlanInput } from '#core/budget/planInput';
import type { Axis, End, PerEnd } from '#core/ends';
import type { LinearPolarization } from '#core/propagation/rain';
import type { FieldRecord, MeterSource, RecordPayloads } from '#core/record/records';
import { inSecondHop, isOfADish, isOfSecond, type DishNumber } from '#core/record/secondDish';
import type { SimulatorActionKind } from '#core/simulate/actions';
import { simulatedHopOf, simulatedSecondsOf, type SimulatedSecond } from '#core/simulate/fromPlan';
import { replayMoves } from '#core/simulate/replay';
import type { HopPosition, SimulatedHop } from '#core/simulate/simulatedHop';
import { adjusterAngleDeg, adjusterTurns } from '#core/sweep/adjusterScale';
import type { SweepSample } from '#core/sweep/analyseSweep';
import type { Actor } from '../auth/actor';
import { inTransaction, type Unit } from '../db/transaction';
import { invalid, refusal } from '../errors';
import { findStoredRecord, newestReading } from '../repositories/feeds';
import {
	appendInTransaction,
	readRecords,
	requireRevision,
	type AppendResult,
	type NewRecord
} from './feed';
import { getHopRow, requireMayRecord } from './hops';
import { simulationOf, type Revision, type Simulation } from './plans';
import { itemAt } from '#core/units/lists';

export interface SimulatorRequest {
	end: End;
	/** Which dish of the end; the first where nothing is said. */
	dish?: 2;
	action: SimulatorActionKind;
	/** Id of the move or of the lock step; for a plain reading the same as `readingId`. */
	id: string;
	readingId: string;
	purpose: 'watch' | 'sweep' | 'final';
	axis?: Axis;
	turns?: number[];
	/** Of `turn-mount`: by how much, degrees, and what the compass then shows. */
	byDeg?: number;
	compassDeg?: number;
	/** Of `turn-feed`: where it is turned to. */
	feedDeg?: number;
	/** Of `both-polarizations`: what the far end sends, on which frequency pair, and whose feed is being turned. */
	sent?: LinearPolarization;
	pair?: 2;
	turned?: End;
	/** Of `carrier`: its number in the plan, 2 or more. */
	carrier?: number;
	/** Of `test`: what somebody goes to look at. */
	test?: TestKey;
	fastenerIndex?: number;
}

export interface SimulatorAnswer {
	samples: SweepSample[];
	volts: number;
	levelDbm: number | null;
	results: AppendResult[];
}

/** Where the dishes of one simulated hop stand. */
interface Standing {
	sim: SimulatedHop;
	position: HopPosition;
	/** The plan's input with adjusters as the crews have measured them. */
	input: HopPlanInput;
}

type SecondStanding = Standing & Pick<SimulatedSecond, 'stands'>;

/** A practice hop with the hops of its second dishes. */
interface Standings {
	revisionId: string;
	lastSeq: number;
	main: Standing;
	second: PerEnd<SecondStanding> | null;
}

/**
 * Where each practice hop's dishes stand, as far as this process has read the feed. Only a cache:
 * the feed holds the truth, and every process comes to the same position from it.
 */
const standings = new Map<string, Standings>();
const MOST_STANDINGS = 500;

const SOURCE: MeterSource = 'simulated';
const ON_MAIN_LOBE_BEAMWIDTHS = 0.9;

/** Moves the simulated dish, reads the simulated meter, and keeps both as field records. */
export async function actOnSimulator(
	actor: Actor,
	hopId: string,
	request: SimulatorRequest
): Promise<SimulatorAnswer> {
	const hop = await getHopRow(actor, hopId);
	requireMayRecord(actor, hop);
	const simulation = simulationOf(hop);
	const revision = await requireRevision(hopId);
	const repeated = await findRepeated(hopId, request.readingId);
	if (repeated) return repeated;
	return inTransaction(async (unit) => {
		let answer: Omit<SimulatorAnswer, 'results'> | undefined;
		const results = await appendInTransaction(unit, actor, hopId, revision, async (lastSeq) => {
			const all = await standingOf(unit, hopId, simulation, revision, lastSeq);
			const made =
				request.action === 'carrier'
					? readCarrier(all.main, revision, request, lastSeq)
					: perform(dishOf(all, request), request, lastSeq);
			answer = made.answer;
			if (request.action === 'watch') {
				const last = await findLastReading(unit, hopId, request);
				if (last && !worthKeeping(last, made.answer.levelDbm, Date.now())) return [];
			}
			return request.dish ? made.records.map(ofSecond) : made.records;
		});
		return { ...answer!, results };
	});
}

/** Another carrier that comes in through the first dish, read at the port of its own radio. */
function readCarrier(
	{ sim, position }: Standing,
	{ input, plan }: Revision,
	{ end, carrier: number, readingId }: SimulatorRequest,
	sequence: number
): { answer: Omit<SimulatorAnswer, 'results'>; records: NewRecord[] } {
	const carrier = plan.carriers.find((one) => one.number === number && !throughSecondDish(one));
	const radio = inventoryOf(input, end).radios.find((one) => one.number === number);
	if (!carrier || !radio) {
		throw invalid([
			{ field: 'carrier', message: 'No such carrier comes in through the first dish.' }
		]);
	}
	const now = new Date();
	const above = carrier.received[end].plannedLevelDbm - plan.received[end].plannedLevelDbm;
	const elapsedS = (now.getTime() / 1000) % 86_400;
	const trueDbm = sim.carrierLevelDbm(position, end, above, { elapsedS, sequence });
	const { curve, resolutionV } = radio.part.levelPort;
	const port = makeLevelCurve(curve);
	const volts = Math.round(port.voltsAt(trueDbm) / resolutionV) * resolutionV;
	const levelDbm = Number((readingLevelDbm(port.read(volts)) ?? trueDbm).toFixed(2));
	return {
		answer: { samples: [], volts, levelDbm },
		records: [
			{
				...{ id: readingId, end, recordedAt: now.toISOString() },
				kind: 'carrier-level',
				payload: { carrier: carrier.number, levelDbm, source: SOURCE }
			}
		]
	};
}

/** A record that the hop of a second dish made, as the feed of the whole hop has it. */
const ofSecond = (record: NewRecord): NewRecord =>
	isOfADish(record.kind) ? { ...record, payload: { ...record.payload, dish: 2 } } : record;

/** What is asked of a feed that a second dish does not have turned by hand here. */
const FIRST_DISH_ONLY: ReadonlySet<SimulatorActionKind> = new Set([
	'turn-feed',
	'both-polarizations',
	'carrier'
]);

function dishOf({ main, second }: Standings, { end, dish, action }: SimulatorRequest): Standing {
	if (!dish) return main;
	if (!second) throw refusal('no-second-dish').at('dish');
	if (FIRST_DISH_ONLY.has(action)) {
		throw invalid([{ field: 'action', message: 'Feeds are compared at the first dish.' }]);
	}
	return second[end];
}

/** The answer of the first time, when the same request comes again after a lost answer. */
async function findRepeated(
	hopId: string,
	readingId: string
): Promise<SimulatorAnswer | undefined> {
	const row = await findStoredRecord(hopId, readingId);
	if (!row) return undefined;
	const { volts, levelDbm } =
		row.kind === 'reading'
			? (JSON.parse(row.payload) as RecordPayloads['reading'])
			: { volts: null, levelDbm: null };
	return {
		samples: [],
		volts: volts ?? 0,
		levelDbm,
		results: [{ id: readingId, seq: row.seq, repeated: true }]
	};
}

interface LastReading {
	levelDbm: number | null;
	recordedAtMs: number;
}

async function findLastReading(
	unit: Unit,
	hopId: string,
	{ end, dish = 1 }: { end: End; dish?: DishNumber }
): Promise<LastReading | undefined> {
	const last = await newestReading({ hopId, end, dish }, unit);
	return last && { levelDbm: last.payload.levelDbm, recordedAtMs: last.recordedAt.getTime() };
}

async function standingOf(
	unit: Unit,
	hopId: string,
	simulation: Simulation,
	revision: Revision,
	lastSeq: number
): Promise<Standings> {
	let standing = standings.get(hopId);
	if (!standing || standing.revisionId !== revision.id || standing.lastSeq > lastSeq) {
		standing = standingsAtFirst(revision, simulation);
	}
	while (standing.lastSeq < lastSeq) {
		const records = await readRecords(hopId, standing.lastSeq, { unit });
		const next = records.at(-1);
		if (!next) break;
		standing = { ...standingsAfter(standing, records), lastSeq: next.seq };
	}
	standings.delete(hopId);
	standings.set(hopId, standing);
	if (standings.size > MOST_STANDINGS) standings.delete(standings.keys().next().value!);
	return standing;
}

function standingsAtFirst({ id, input, plan }: Revision, { seed, faults }: Simulation): Standings {
	const sim = simulatedHopOf(input, plan, seed, faults);
	const seconds = simulatedSecondsOf({ input, plan, main: sim }, seed, faults);
	const atFirst = ({ sim, input, stands }: SimulatedSecond): SecondStanding => ({
		...{ sim, input, stands },
		position: sim.start
	});
	return {
		revisionId: id,
		lastSeq: 0,
		main: { sim, position: sim.start, input },
		second: seconds && { A: atFirst(seconds.A), B: atFirst(seconds.B) }
	};
}

function standingsAfter(before: Standings, records: readonly FieldRecord[]): Standings {
	const after = <S extends Standing>(standing: S, own: readonly FieldRecord[]): S => ({
		...standing,
		position: replayMoves(standing.sim, own, standing.position),
		input: measuredInput(standing.input, own)
	});
	const { second } = before;
	const secondAt = (standing: SecondStanding, end: End): SecondStanding => {
		const own = records.flatMap((record) => inSecondHop(record, end, standing.stands) ?? []);
		return after(standing, own);
	};
	const ofMain = (record: FieldRecord): boolean => !isOfSecond(record) || record.kind === 'remedy';
	return {
		...before,
		main: after(before.main, records.filter(ofMain)),
		second: second && { A: secondAt(second.A, 'A'), B: secondAt(second.B, 'B') }
	};
}

function perform(
	standing: Standing,
	request: SimulatorRequest,
	lastSeq: number
): { answer: Omit<SimulatorAnswer, 'results'>; records: NewRecord[] } {
	const { sim } = standing;
	const { end } = request;
	const now = new Date();
	const recordedAt = now.toISOString();
	// Seconds of the day: slow fading moves on between readings and stays the same in a repeat.
	const startS = (now.getTime() / 1000) % 86_400;
	const curve = makeLevelCurve(standing.input.ends[end].radio.levelPort.curve);
	const read = (position: HopPosition, i: number): number =>
		Math.max(
			0,
			Number(sim.meterVolts(position, end, startS + i * 0.5, lastSeq * 50 + i).toFixed(4))
		);
	const levelOf = (volts: number): number | null => readingLevelDbm(curve.read(volts)) ?? null;
	const reading = (volts: number): NewRecord => ({
		id: request.readingId,
		end,
		kind: 'reading',
		payload: { volts, levelDbm: levelOf(volts), source: SOURCE, purpose: request.purpose },
		recordedAt
	});

	if (request.action === 'read' || request.action === 'watch') {
		const volts = read(standing.position, 0);
		return {
			answer: { samples: [], volts, levelDbm: levelOf(volts) },
			records: [reading(volts)]
		};
	}
	if (request.action === 'test') {
		const { test } = request;
		const payload = { test: test!, value: outcomeOf(standing, test!) };
		return {
			answer: { samples: [], volts: 0, levelDbm: null },
			records: [{ id: request.readingId, end, kind: 'test-result', payload, recordedAt }]
		};
	}
	if (request.action === 'turn-mount') {
		const byDeg = request.byDeg!;
		const volts = read(sim.turnMount(standing.position, end, byDeg), 0);
		const payload = { byDeg, compassDeg: request.compassDeg ?? null, source: SOURCE };
		return {
			answer: { samples: [], volts, levelDbm: levelOf(volts) },
			records: [{ id: request.id, end, kind: 'mount-turn', payload, recordedAt }, reading(volts)]
		};
	}
	if (request.action === 'turn-feed') {
		const volts = read(sim.turnFeed(standing.position, end, request.feedDeg!), 0);
		const payload = { toDeg: request.feedDeg!, source: SOURCE };
		return {
			answer: { samples: [], volts, levelDbm: levelOf(volts) },
			records: [{ id: request.readingId, end, kind: 'feed-turn', payload, recordedAt }]
		};
	}
	if (request.action === 'both-polarizations') {
		const { co, cross } = sim.polarizationVolts(standing.position, end, request.sent!, {
			elapsedS: startS,
			sequence: lastSeq
		});
		const levelIn = (volts: number): number =>
			Number((levelOf(volts) ?? curve.lowestLevelDbm).toFixed(2));
		const turned = request.turned!;
		const payload: RecordPayloads['discrimination'] = {
			sent: request.sent!,
			...(request.pair ? { pair: request.pair } : {}),
			turned,
			feedDeg: standing.position[turned].feedDeg,
			coDbm: levelIn(co),
			crossDbm: levelIn(cross),
			...{ coVolts: co, crossVolts: cross },
			source: SOURCE
		};
		return {
			answer: { samples: [], volts: co, levelDbm: levelOf(co) },
			records: [{ id: request.readingId, end, kind: 'discrimination', payload, recordedAt }]
		};
	}
	if (request.action === 'tighten') {
		return tighten(standing, request, { read, levelOf, reading, recordedAt });
	}
	const axis = request.axis!;
	const adjuster = standing.input.ends[end].mount[axis];
	const limit = adjusterTurns(adjuster, adjuster.travelDeg);
	const turns = request.turns!.map((to) => Math.min(limit, Math.max(-limit, to)));
	let position = standing.position;
	const samples = turns.map((to, i) => {
		position = sim.turn(position, end, axis, to);
		return {
			elapsedS: i * 0.5,
			positionDeg: adjusterAngleDeg(adjuster, to),
			levelV: read(position, i)
		};
	});
	const volts = samples.at(-1)!.levelV;
	const move: RecordPayloads['move'] = {
		axis,
		toTurns: turns.at(-1)!,
		// A sweep's positions rise evenly, so its first one tells the whole way.
		viaTurns: turns.length > 1 ? [itemAt(turns, 0)] : [],
		source: SOURCE
	};
	return {
		answer: { samples, volts, levelDbm: levelOf(volts) },
		records: [{ id: request.id, end, kind: 'move', payload: move, recordedAt }, reading(volts)]
	};
}

/** What somebody finds who makes a test at the simulated hop. */
function outcomeOf({ sim, position }: Standing, test: TestKey): 'yes' | 'no' {
	if (test === 'sweep-a' || test === 'sweep-b') {
		const off = sim.offAxisBeamwidths(position, test === 'sweep-a' ? 'A' : 'B');
		return off < ON_MAIN_LOBE_BEAMWIDTHS ? 'yes' : 'no';
	}
	const usual = outcomeUnder(test, 'none');
	const other = sim
		.faultsOf(position)
		.map(({ fault }) => outcomeUnder(test, fault))
		.find((outcome) => outcome !== usual);
	return other ?? usual;
}

function tighten(
	standing: Standing,
	request: SimulatorRequest,
	meter: {
		read: (position: HopPosition, i: number) => number;
		levelOf: (volts: number) => number | null;
		reading: (volts: number) => NewRecord;
		recordedAt: string;
	}
): { answer: Omit<SimulatorAnswer, 'results'>; records: NewRecord[] } {
	const { end } = request;
	const index = request.fastenerIndex!;
	const fastener = standing.input.ends[end].mount.fasteners[index];
	if (!fastener)
		throw invalid([{ field: 'fastenerIndex', message: 'The mount has no such fastener.' }]);
	const before = meter.levelOf(meter.read(standing.position, 0));
	const position = standing.sim.tighten(standing.position, end, fastener.locks, index);
	const volts = meter.read(position, 1);
	const after = meter.levelOf(volts);
	if (before === null || after === null) {
		throw refusal('no-level');
	}
	const payload: RecordPayloads['lock-step'] = {
		fastenerIndex: index,
		fastener: fastener.name,
		locks: fastener.locks,
		torqueNm: fastener.torqueNm,
		beforeDbm: Number(before.toFixed(2)),
		afterDbm: Number(after.toFixed(2)),
		source: SOURCE
	};
	return {
		answer: { samples: [], volts, levelDbm: after },
		records: [
			{ id: request.id, end, kind: 'lock-step', payload, recordedAt: meter.recordedAt },
			meter.reading(volts)
		]
	};
}
