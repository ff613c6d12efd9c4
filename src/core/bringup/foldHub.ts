import type { RecordPayloads } from '../record/records';
import type { AnsweredCard, StopCard } from '../safety/stopCards';
import type { StepFacts } from '../tower/buildState';
import type { HubRecord, HubRecordPayloads } from './hubRecords';
import type { LinkTest } from './linkTests';
import { MOVES_THE_LINK } from './stationSteps';

/** A payload with its place in the feed, when it was recorded and by whom. */
export type HubNoted<T> = T & { seq: number; at: string; by: string };

/** What was recorded at one unit or terminal, the latest of each. */
export interface StationState extends StepFacts {
	cards: Readonly<Partial<Record<StopCard, AnsweredCard>>>;
	/** Every time somebody took it on that work goes on against a card’s answer. */
	cardOverrides: readonly HubNoted<RecordPayloads['stop-card']>[];
	lamp: HubNoted<HubRecordPayloads['lamp']> | null;
	level: HubNoted<HubRecordPayloads['link-level']> | null;
	pointings: readonly HubNoted<HubRecordPayloads['pointing']>[];
	tests: Readonly<Partial<Record<LinkTest, HubNoted<HubRecordPayloads['link-test']>>>>;
	remedies: readonly HubNoted<HubRecordPayloads['link-remedy']>[];
	/** Place of the latest record that changed what its link is; 0 if there was none. */
	changedAt: number;
	/** Place of the latest record here; 0 before the first. */
	lastSeq: number;
	/** When anything at all was last recorded here, ISO 8601. */
	lastAt: string | null;
}

/** Where a hub stands by its records: what steps, board, causes and judgement read in place of them. */
export interface HubState {
	/** Place of the latest record; 0 before the first. */
	lastSeq: number;
	stations: Readonly<Record<string, StationState>>;
}

const EMPTY: StationState = {
	steps: {},
	reopenedAt: {},
	skips: [],
	cards: {},
	cardOverrides: [],
	lamp: null,
	level: null,
	pointings: [],
	tests: {},
	remedies: [],
	changedAt: 0,
	lastSeq: 0,
	lastAt: null
};

export const EMPTY_HUB_STATE: HubState = { lastSeq: 0, stations: {} };

/** What was recorded at a station; of one without records, nothing. */
export const stationState = ({ stations }: HubState, id: string): StationState =>
	stations[id] ?? EMPTY;

/** The state after more records, in the order of the feed. Pure: `state` stays as it is. */
export function advancedHub(state: HubState, records: readonly HubRecord[]): HubState {
	let { lastSeq } = state;
	const stations: Record<string, StationState> = { ...state.stations };
	for (const record of records) {
		lastSeq = record.seq;
		const own = stations[record.station] ?? EMPTY;
		stations[record.station] = {
			...own,
			...changeOf(own, record),
			lastSeq: record.seq,
			lastAt: record.recordedAt
		};
	}
	return { lastSeq, stations };
}

/** What a record changes at its station. */
function changeOf(own: StationState, record: HubRecord): Partial<StationState> {
	const { seq } = record;
	const noted = <T>(payload: T): HubNoted<T> => ({
		...payload,
		seq,
		at: record.recordedAt,
		by: record.recordedBy
	});
	const moved = (step: string): { changedAt?: number } =>
		MOVES_THE_LINK.has(step) ? { changedAt: seq } : {};
	switch (record.kind) {
		case 'stop-card': {
			const { card, answers, override } = record.payload;
			const answered = { answers, answeredAt: record.recordedAt };
			return {
				cards: { ...own.cards, [card]: override ? { ...answered, override } : answered },
				...(override ? { cardOverrides: [...own.cardOverrides, noted(record.payload)] } : {})
			};
		}
		case 'build-step': {
			const { step } = record.payload;
			return { steps: { ...own.steps, [step]: noted(record.payload) }, ...moved(step) };
		}
		case 'step-skipped':
			return { skips: [...own.skips, noted(record.payload)] };
		case 'step-reopened': {
			const { step } = record.payload;
			const steps = Object.fromEntries(Object.entries(own.steps).filter(([key]) => key !== step));
			return { steps, reopenedAt: { ...own.reopenedAt, [step]: seq }, ...moved(step) };
		}
		case 'note':
			return {};
		case 'lamp':
			return { lamp: noted(record.payload) };
		case 'link-level':
			return { level: noted(record.payload) };
		case 'pointing':
			return { pointings: [...own.pointings, noted(record.payload)], changedAt: seq };
		case 'link-test':
			return { tests: { ...own.tests, [record.payload.test]: noted(record.payload) } };
		case 'link-remedy':
			return { remedies: [...own.remedies, noted(record.payload)], changedAt: seq };
	}
}
