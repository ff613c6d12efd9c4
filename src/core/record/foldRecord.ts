import type { HopPlanInput } from '../budget/planInput';
import type { MountPart } from '../catalogue/parts';
import { ENDS, farEnd, type Axis, type End } from '../ends';
import { makeLevelCurve, readingLevelDbm } from '../radio/levelCurve';
import { adjusterAngleDeg } from '../sweep/adjusterScale';
import { withMeasuredAdjuster } from './adjusters';
import { voids, type Change } from './changes';
import { givesUp, type Aim, type Findings } from './findings';
import type {
	BuildingFacts,
	EndState,
	HopState,
	Noted,
	PlacedReading,
	SnagState
} from './hopState';
import { changesOf, isOfBuilding } from './kinds';
import { levelOfReading } from './levelOfReading';
import { readyAfter } from './baton';
import { radiosInAfter } from './radioStates';
import type { FieldRecord, FieldRecordOf } from './records';
import { asOfFirst, isOfSecond, saidToSecond } from './secondDish';
import { watchAnew, watchReading } from './unasked';
import { lastOf } from '../units/lists';

/**
 * The state after some more records, in order. What sweeps and closed turns say is taken from the
 * findings; one that is not there yet counts as not said.
 */
export function advanced(
	state: HopState,
	records: readonly FieldRecord[],
	findings: Findings
): HopState {
	return records.reduce((before, record) => foldRecord(before, record, findings), state);
}

/**
 * The state after one more record: first what it changes and thereby makes void, then what it says; and
 * the same for the hop of every second dish. Never writes into the state it is given.
 */
export function foldRecord(before: HopState, record: FieldRecord, findings: Findings): HopState {
	const main = isOfSecond(record) ? besideIt(before, record) : foldOwn(before, record, findings);
	const { second } = before;
	if (!second) return main;
	const A = foldSecond({ before, main }, second.A, 'A', { record, findings });
	const B =
		second.A === second.B ? A : foldSecond({ before, main }, second.B, 'B', { record, findings });
	return { ...main, second: { A, B } };
}

/** The hop of the first dishes after a record about them, or about the end as a whole. */
function foldOwn(before: HopState, record: FieldRecord, findings: Findings): HopState {
	const heard = heardOf(changed(before, record), record);
	const closing = givesUp(record);
	const aim = closing && findings.aims.get(record.id);
	const turned = closing && aim ? turnClosed(heard, closing, aim) : heard;
	return said(turned, record, findings);
}

function heardOf(state: HopState, { seq, end, kind, recordedAt }: FieldRecord): HopState {
	const worked = kind === 'message' ? {} : { lastWorkAt: recordedAt };
	return withEnd({ ...state, lastSeq: seq }, end, { lastRecordAt: recordedAt, ...worked });
}

/** The hop of the first dishes after a record about a second one: who holds the baton, and that somebody worked there. */
function besideIt(before: HopState, record: FieldRecord): HopState {
	const heard = answered(heardOf(changed(before, record), record), record);
	return record.kind === 'baton' ? batonPassed(heard, record) : heard;
}

/** The hop of an end’s second dish after any record. */
function foldSecond(
	hop: { before: HopState; main: HopState },
	second: HopState,
	end: End,
	{ record, findings }: { record: FieldRecord; findings: Findings }
): HopState {
	const { stands } = second;
	const own = isOfSecond(record) && (stands === null || record.end === end);
	if (own) return shared(hop, foldOwn(second, asOfFirst(record), findings));
	const heard = saidToSecond(record, stands);
	return shared(hop, heard ? changed(second, heard) : second);
}

/** What is one for all dishes of a hop, and what stands: taken from the hop of the first ones. */
function shared(
	{ before, main }: { before: HopState; main: HopState },
	second: HopState
): HopState {
	const { lastSeq, baton, batonPassed, crews, snags, visits, sentBack } = main;
	const endOf = (at: End): EndState => {
		const of = main.ends[at];
		if (second.stands === at) return of;
		if (of === before.ends[at]) return second.ends[at];
		return {
			...second.ends[at],
			alignmentState: of.alignmentState,
			operatingState: of.operatingState,
			radiosIn: of.radiosIn,
			alignmentStateConfirmed: of.alignmentStateConfirmed,
			lastRecordAt: of.lastRecordAt,
			lastWorkAt: of.lastWorkAt,
			asksForBaton: of.asksForBaton,
			asksForLevel: of.asksForLevel,
			torqueTool: of.torqueTool,
			stopCards: of.stopCards,
			cardOverrides: of.cardOverrides,
			building:
				of.building === before.ends[at].building
					? second.ends[at].building
					: buildingOfSecond(of.building)
		};
	};
	const ends = { A: endOf('A'), B: endOf('B') };
	const { stands } = second;
	const input =
		stands && main.input !== before.input
			? withMount(second.input, stands, main.input.ends[stands].mount)
			: second.input;
	return {
		...{ ...second, input, lastSeq, baton, batonPassed, crews, snags, visits, sentBack, ends },
		unasked: ends[baton].watch.found
	};
}

const withMount = (input: HopPlanInput, end: End, mount: MountPart): HopPlanInput => ({
	...input,
	ends: { ...input.ends, [end]: { ...input.ends[end], mount } }
});

/** Key of the step in which the tilt of a dish is set by the level, of the first and of the second. */
const LEVELLED = 'tilt-preset';
const SECOND_LEVELLED = 'tilt-preset-second-dish';

/** The building of an end as its second dish sees it: its own levelling stands for the first one’s. */
function buildingOfSecond(building: BuildingFacts): BuildingFacts {
	const steps: BuildingFacts['steps'] = Object.fromEntries(
		Object.entries(building.steps).flatMap(([key, step]) =>
			key === LEVELLED ? [] : key === SECOND_LEVELLED ? [[LEVELLED, step]] : [[key, step]]
		)
	);
	return { ...building, steps };
}

/** The state with some fields of one end replaced. */
function withEnd(state: HopState, end: End, fields: Partial<EndState>): HopState {
	return { ...state, ends: { ...state.ends, [end]: { ...state.ends[end], ...fields } } };
}

/** What a record changes in the world, noted and carried to all that it makes void. */
function changed(state: HopState, record: FieldRecord): HopState {
	const changes = changesOf(record);
	let next = state;
	if (changes.length) {
		const { changedAt } = state.ends[record.end];
		next = withEnd(next, record.end, {
			changedAt: {
				...changedAt,
				...Object.fromEntries(changes.map((change) => [change, record.seq]))
			}
		});
		for (const end of ENDS)
			next = withEnd(next, end, voided(next.ends[end], changes, end === record.end));
	}
	const ofLevel = changes.some((change) => change !== 'other-dish-worked');
	if (ofLevel || record.kind === 'baton') {
		for (const end of ENDS) {
			const explained = record.end === end || record.kind === 'baton';
			next = withEnd(next, end, {
				watch: watchAnew(next.ends[end].watch, explained),
				guidanceSeq: record.seq,
				guidanceRead: false
			});
		}
		next = { ...next, unasked: next.ends[next.baton].watch.found };
	}
	return next;
}

/** What an end loses by changes at itself or at the far end. */
function voided(end: EndState, changes: readonly Change[], own: boolean): Partial<EndState> {
	const where = own ? 'own' : 'far';
	const lost = (evidence: Parameters<typeof voids>[1]): boolean =>
		changes.some((change) => voids(change, evidence, where));
	return {
		...(lost('fresh-level') ? { levelIsFresh: false } : {}),
		...(lost('aim') ? { aim: null, aimedAtAimedEnd: false } : {}),
		...(lost('found-place') ? { foundAt: null } : {}),
		...(lost('comparison') ? { comparable: [] } : {}),
		...(lost('alignment-state') ? { alignmentStateConfirmed: false, radiosIn: {} } : {}),
		...(changes.some((change) => change === 'fault-mended' || change === 'levels-mended')
			? { turnsTaken: 0, silentTurns: 0 }
			: {}),
		// What hangs there now is as delivered: nothing of it was turned yet.
		...(own && changes.includes('dish-replaced')
			? {
					turns: { azimuth: 0, tilt: 0 },
					angleDeg: { azimuth: 0, tilt: 0 },
					mountTurnedDeg: 0,
					feedDeg: 0
				}
			: {})
	};
}

function turnClosed(state: HopState, end: End, aim: Aim): HopState {
	const own = state.ends[end];
	const turnsTaken = own.turnsTaken + 1;
	// An aim without an uncertainty is that of an end which heard nothing.
	const silentTurns = aim.sigmaBeamwidths === null ? own.silentTurns + 1 : 0;
	// An end that has not moved since it was aimed stays aimed, however few readings compare now.
	if (!aim.onMainLobe) return withEnd(state, end, { turnsTaken, silentTurns });
	const sigmaDeg = (aim.sigmaBeamwidths ?? 0) * state.plan.dish[end].beamwidthDeg;
	return withEnd(state, end, {
		turnsTaken,
		silentTurns,
		aim,
		foundAt: aim.place ? { ...aim.place, sigmaDeg } : own.foundAt,
		aimedAtAimedEnd: state.ends[farEnd(end)].aim !== null,
		roundsDone: own.roundsDone + 1
	});
}

/** A payload with where and when it was said. */
function noted<T extends object>(
	{ seq, end, recordedAt, recordedBy }: FieldRecord,
	payload: T
): Noted<T> {
	return { ...payload, seq, end, at: recordedAt, by: recordedBy };
}

/** What a record says, put where it is looked for. */
function said(state: HopState, record: FieldRecord, findings: Findings): HopState {
	const { end } = record;
	const own = state.ends[end];
	const keep = (fields: Partial<EndState>): HopState => withEnd(state, end, fields);
	const build = (fields: Partial<BuildingFacts>): HopState =>
		keep({ building: { ...own.building, begun: true, ...fields } });
	switch (record.kind) {
		case 'reading':
			return readingTaken(state, record);
		case 'move': {
			const { axis, toTurns } = record.payload;
			return keep(placedAt(state, end, axis, toTurns));
		}
		case 'mount-turn':
			return keep({
				...placedAt(state, end, 'azimuth', 0),
				mountTurnedDeg: own.mountTurnedDeg + record.payload.byDeg
			});
		case 'sweep':
			return sweepTaken(state, record, findings);
		case 'calibration': {
			const { axis, degPerTurn } = record.payload;
			const measured = {
				...state,
				input: withMeasuredAdjuster(state.input, end, axis, degPerTurn)
			};
			return withEnd(measured, end, placedAt(measured, end, axis, own.turns[axis]));
		}
		case 'baton':
			return batonPassed(state, record);
		case 'baton-request':
			return keep({ asksForBaton: state.baton !== end });
		case 'level-request':
			return keep({ asksForLevel: true });
		case 'crew-mode':
			return { ...state, crews: record.payload.crews };
		case 'remedy':
			return { ...state, remedies: [...state.remedies, noted(record, record.payload)] };
		case 'test-result':
			return {
				...state,
				testResults: [
					...state.testResults.filter((one) => one.test !== record.payload.test),
					noted(record, record.payload)
				]
			};
		case 'alignment-state': {
			const before = { A: false, B: false, [end]: own.alignmentStateConfirmed };
			return keep({
				alignmentState: noted(record, record.payload),
				radiosIn: radiosInAfter(own.radiosIn, record.payload, record.recordedAt),
				alignmentStateConfirmed: readyAfter(before, record)[end]
			});
		}
		case 'operating-state':
			return keep({ operatingState: noted(record, record.payload) });
		case 'lock-step': {
			const step = noted(record, record.payload);
			const others = own.lockSteps.filter(
				({ fastenerIndex }) => fastenerIndex !== step.fastenerIndex
			);
			const before = own.lockSteps.findIndex(
				({ fastenerIndex }) => fastenerIndex === step.fastenerIndex
			);
			return keep({
				lockSteps:
					before < 0
						? [...others, step]
						: [...others.slice(0, before), step, ...others.slice(before)]
			});
		}
		case 'loosen':
			// A later tightening begins a new list, in its own order.
			return keep({ lockSteps: [] });
		case 'feed-turn':
			return keep({ feedDeg: record.payload.toDeg });
		case 'discrimination':
			return keep({ discriminations: [...own.discriminations, noted(record, record.payload)] });
		case 'carrier-level':
			return keep({
				carrierLevels: {
					...own.carrierLevels,
					[record.payload.carrier]: noted(record, record.payload)
				}
			});
		case 'torque-tool':
			return keep({ torqueTool: noted(record, record.payload) });
		case 'error-test':
			return keep({ errorTest: noted(record, record.payload) });
		case 'service-check':
			return keep({ serviceCheck: noted(record, record.payload) });
		case 'closing-check':
			return keep({ closingCheck: noted(record, record.payload) });
		case 'crew-signature':
			return keep({ crewSignature: noted(record, record.payload) });
		case 'stop-card': {
			const { card, answers, override } = record.payload;
			return keep({
				stopCards: {
					...own.stopCards,
					[card]: { answers, answeredAt: record.recordedAt, ...(override ? { override } : {}) }
				},
				...(override
					? { cardOverrides: [...own.cardOverrides, noted(record, record.payload)] }
					: {})
			});
		}
		case 'packing-list':
			return build({ packingList: record.payload.lines });
		case 'received':
			return build({
				received: { ...own.building.received, [record.payload.code]: record.payload }
			});
		case 'part-label':
			return build({ labels: { ...own.building.labels, [record.payload.part]: record.payload } });
		case 'parties':
			return build({ parties: noted(record, record.payload) });
		case 'receipt-signature':
			return keep({
				building: {
					...own.building,
					receiptSignatures: [...own.building.receiptSignatures, noted(record, record.payload)]
				}
			});
		case 'polarization-set':
			return build({
				joints: { ...own.building.joints, [record.payload.joint]: record.payload.shows }
			});
		case 'build-step':
			return build({
				steps: { ...own.building.steps, [record.payload.step]: noted(record, record.payload) }
			});
		case 'step-skipped':
			return build({ skips: [...own.building.skips, noted(record, record.payload)] });
		case 'step-reopened': {
			const { step } = record.payload;
			const steps = Object.fromEntries(
				Object.entries(own.building.steps).filter(([key]) => key !== step)
			);
			return keep({
				building: {
					...own.building,
					steps,
					reopenedAt: { ...own.building.reopenedAt, [step]: record.seq }
				}
			});
		}
		case 'snag': {
			const opened = noted(record, record.payload);
			const same = ({ opened: one }: SnagState): boolean => one.snagId === opened.snagId;
			return {
				...state,
				snags: state.snags.some(same)
					? state.snags.map((one) => (same(one) ? { ...one, opened } : one))
					: [...state.snags, { opened, closed: null }]
			};
		}
		case 'snag-closed': {
			const closed = noted(record, record.payload);
			return {
				...state,
				snags: state.snags.map((one) =>
					one.opened.snagId === closed.snagId ? { ...one, closed } : one
				)
			};
		}
		case 'sent-back':
			return { ...state, sentBack: noted(record, record.payload) };
		case 'visit-opened': {
			const opened = noted(record, record.payload);
			return {
				...state,
				visits: [
					...state.visits,
					{ visitId: opened.visitId, purpose: opened.purpose, opened, closed: null }
				]
			};
		}
		case 'visit-closed': {
			const closed = noted(record, record.payload);
			return {
				...state,
				visits: state.visits.map((visit) =>
					visit.visitId === closed.visitId ? { ...visit, closed } : visit
				)
			};
		}
		case 'part-replaced':
			return keep({ replaced: [...own.replaced, noted(record, record.payload)] });
		case 'aimed':
		case 'advice':
		case 'note':
		case 'message':
		case 'photo':
			return isOfBuilding(record.kind) ? build({}) : state;
	}
}

function batonPassed(state: HopState, record: FieldRecordOf<'baton'>): HopState {
	const { to, how } = record.payload;
	return {
		...state,
		baton: to,
		batonPassed: { at: record.recordedAt, how: how ?? 'handed', by: record.recordedBy },
		unasked: state.ends[to].watch.found,
		ends: {
			A: { ...state.ends.A, asksForBaton: false },
			B: { ...state.ends.B, asksForBaton: false }
		}
	};
}

/** Where the hand has turned an adjuster, in turns and in degrees. */
function placedAt(
	state: HopState,
	end: End,
	axis: Axis,
	turns: number
): Pick<EndState, 'turns' | 'angleDeg'> {
	const own = state.ends[end];
	const angleDeg = adjusterAngleDeg(state.input.ends[end].mount[axis], turns);
	return {
		turns: { ...own.turns, [axis]: turns },
		angleDeg: { ...own.angleDeg, [axis]: angleDeg }
	};
}

function readingTaken(state: HopState, record: FieldRecordOf<'reading'>): HopState {
	const { end, seq, payload } = record;
	const own = state.ends[end];
	const { levelPort } = state.input.ends[end].radio;
	const said = levelOfReading(payload, makeLevelCurve(levelPort.curve), levelPort.resolutionV);
	const levelDbm = said.kind === 'level' ? said.levelDbm : null;
	// Readings of a sweep come again in the sweep itself.
	const single = levelDbm !== null && payload.purpose !== 'sweep';
	const place = { azimuthDeg: own.angleDeg.azimuth, tiltDeg: own.angleDeg.tilt };
	const watch = single
		? watchReading(own.watch, end, { seq, levelDbm }, state.plan.received[end].floorDbm)
		: own.watch;
	const { found } = watch;
	// The far end must have moved: what was read before it compares no longer.
	const since = found && found !== own.watch.found && end === state.baton ? found.sinceSeq : 0;
	const comparable = own.comparable.filter((read) => read.seq >= since);
	const next = withEnd(state, end, {
		lastLevelDbm: levelDbm,
		lastVolts: payload.volts,
		lastReadAt: record.recordedAt,
		levelIsFresh: true,
		implausibleReading: levelDbm === null,
		comparable: single ? [...comparable, { ...place, levelDbm, seq }] : comparable,
		watch,
		guidanceSeq: own.guidanceRead ? own.guidanceSeq : seq,
		guidanceRead: true,
		finalReading:
			payload.purpose === 'final' && payload.levelDbm !== null
				? noted(record, payload)
				: own.finalReading
	});
	const told = answered(next, record);
	return { ...told, unasked: told.ends[told.baton].watch.found };
}

/** A level that was read, of whichever dish, is what the other end had asked for. */
function answered(state: HopState, { kind, end }: FieldRecord): HopState {
	const far = farEnd(end);
	if (kind !== 'reading' || !state.ends[far].asksForLevel) return state;
	return withEnd(state, far, { asksForLevel: false });
}

/** The dish stands where a sweep ended, and was read there. */
function sweepTaken(state: HopState, record: FieldRecordOf<'sweep'>, findings: Findings): HopState {
	const { end, seq, payload } = record;
	const { axis, samples, otherAxisDeg } = payload;
	const own = state.ends[end];
	const curve = makeLevelCurve(state.input.ends[end].radio.levelPort.curve);
	const placed = samples.flatMap(({ positionDeg, levelV }): PlacedReading[] => {
		const levelDbm = readingLevelDbm(curve.read(levelV));
		if (levelDbm === undefined) return [];
		const [azimuthDeg, tiltDeg] =
			axis === 'azimuth' ? [positionDeg, otherAxisDeg] : [otherAxisDeg, positionDeg];
		return [{ azimuthDeg, tiltDeg, levelDbm, seq }];
	});
	const positions = samples.map((sample) => sample.positionDeg);
	const analysis = findings.sweeps.get(record.id);
	const { levelV } = lastOf(samples);
	const lastLevelDbm = readingLevelDbm(curve.read(levelV)) ?? null;
	return withEnd(state, end, {
		lastSweep: analysis
			? {
					recordId: record.id,
					seq,
					axis,
					otherAxisDeg,
					fromDeg: Math.min(...positions),
					toDeg: Math.max(...positions),
					analysis
				}
			: own.lastSweep,
		comparable: [...own.comparable, ...placed],
		lastVolts: levelV,
		lastLevelDbm,
		implausibleReading: lastLevelDbm === null,
		lastReadAt: record.recordedAt,
		levelIsFresh: true,
		guidanceRead: true
	});
}
