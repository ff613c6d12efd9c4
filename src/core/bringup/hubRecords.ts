import { LAMP_WORDS, type LampSeen } from '../catalogue/installation';
import type { End } from '../ends';
import { KINDS, type KindRow } from '../record/kinds';
import type { RecordPayloads } from '../record/records';
import { bearingText, levelText, numberText } from '../units/text';
import { LINK_CAUSES, type LinkCause } from './linkCauses';
import { LINK_TESTS, type LinkTest } from './linkTests';

/** Where a figure comes from: typed by a hand, or the stand-in of a hub for practice. */
export type FigureSource = 'hand' | 'simulated';

type OfBuilding = 'stop-card' | 'build-step' | 'step-skipped' | 'step-reopened' | 'note';

/** The payload of every kind of record of a hub; each is about one station, a unit or a terminal. */
export interface HubRecordPayloads extends Pick<RecordPayloads, OfBuilding> {
	lamp: { state: LampSeen; source: FigureSource };
	/** Level and rate of a terminal's link as its own page shows them; null: not read. */
	'link-level': {
		downDbm: number;
		upDbm: number | null;
		downMbitS: number | null;
		upMbitS: number | null;
		source: FigureSource;
	};
	/** What is shown where it looks now: a level, or a step of its display; null: nothing at all. */
	pointing: {
		headingDeg: number;
		levelDbm: number | null;
		/** Step of its display, from 1; absent where it shows figures. */
		step?: number;
		source: FigureSource;
	};
	'link-test': { test: LinkTest; value: 'yes' | 'no'; source: FigureSource };
	'link-remedy': { cause: LinkCause };
}

export type HubRecordKind = keyof HubRecordPayloads;

interface Base<K extends HubRecordKind> {
	/** Made where the record was made; a repeat with the same id does nothing. */
	id: string;
	/** Place in the hub's feed: 1, 2, 3 … without gaps, given by the server. */
	seq: number;
	/** Id of the unit or terminal. */
	station: string;
	kind: K;
	payload: HubRecordPayloads[K];
	revisionNumber: number;
	/** Time on the device, ISO 8601 UTC with milliseconds. */
	recordedAt: string;
	recordedBy: string;
	/** By how much the clock of the device was ahead for certain, s; absent where it may have been right. */
	clockAheadS?: number;
}

/** One record of a hub: append-only. */
export type HubRecord = { [K in HubRecordKind]: Base<K> }[HubRecordKind];

/** A record as it comes from a device: no place in the feed yet. */
export interface NewHubRecord {
	id: string;
	station: string;
	kind: HubRecordKind;
	payload: HubRecordPayloads[HubRecordKind];
	recordedAt: string;
	/** Issued plan it was made against, where the device says so. */
	revisionNumber?: number;
}

/** What a step of a station is called, and the unit of its quantity; undefined where the plan has none of that key. */
type StepOf = (key: string) => { title: string; unit: string } | undefined;

type Sayings = {
	readonly [K in HubRecordKind]: (payload: HubRecordPayloads[K], stepOf: StepOf) => string;
};

/** A kind that hops have, too, says of itself what it says there; none of these says anything of an end. */
const asAtHop =
	<K extends OfBuilding>(kind: K) =>
	(payload: RecordPayloads[K], stepOf: StepOf): string => {
		const none = (): undefined => undefined;
		const names = {
			step: (_: End, key: string) => stepOf(key),
			part: none,
			carrier: none,
			snag: none
		};
		return (KINDS[kind] as KindRow<K>).say(payload, names, 'A');
	};

const figure = (value: number | null, text: (value: number) => string): string =>
	value === null ? 'not read' : text(value);
const rate = (mbitS: number): string => `${numberText(mbitS, 0)} Mbit/s`;

/** Every kind of record, each in one line. */
const SAY: Sayings = {
	'stop-card': asAtHop('stop-card'),
	'build-step': asAtHop('build-step'),
	'step-skipped': asAtHop('step-skipped'),
	'step-reopened': asAtHop('step-reopened'),
	note: asAtHop('note'),
	lamp: ({ state }) => `Lamp: ${state === 'dark' ? 'dark' : LAMP_WORDS[state]}`,
	'link-level': ({ downDbm, upDbm, downMbitS, upMbitS }) =>
		`Link: ${levelText(downDbm)} down, ${figure(upDbm, levelText)} up; ${figure(downMbitS, rate)} down, ${figure(upMbitS, rate)} up`,
	pointing: ({ headingDeg, levelDbm, step }) =>
		`At ${bearingText(headingDeg, 0)}°: ${step === undefined ? (levelDbm === null ? 'nothing' : levelText(levelDbm)) : `step ${step}`}`,
	'link-test': ({ test, value }) => LINK_TESTS[test].says[value === 'yes' ? 0 : 1],
	'link-remedy': ({ cause }) => `Set right: ${LINK_CAUSES[cause].name}`
};

export const HUB_RECORD_KINDS = Object.keys(SAY) as HubRecordKind[];

/**
 * A record in one line, for a timeline.
 *
 * @param stepOf steps of the record's station by their key
 */
export function sayHubRecord(
	{ kind, payload }: Pick<HubRecord, 'kind' | 'payload'>,
	stepOf: StepOf
): string {
	return (SAY[kind] as Sayings['note'])(payload as HubRecordPayloads['note'], stepOf);
}
