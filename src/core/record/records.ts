import type { Cause } from '../diagnose/causes/keys';
import type { Axis, End } from '../ends';
import type { LinearPolarization } from '../propagation/rain';
import type { LiftingGear, PowerSource } from '../safety/gear';
import type { StopAnswer, StopCard } from '../safety/stopCards';
import type { SweepSample } from '../sweep/analyseSweep';

/** One line of a packing list. */
export interface PackingLine {
	code: string;
	name: string;
	count: number;
	unit: string;
}

export type MeterSource = 'hand' | 'simulated' | 'import' | 'serial' | 'replay';

/** Why somebody comes to a hop. */
export const VISIT_PURPOSES = [
	'installation',
	'storm-check',
	'repair',
	'change',
	'removal'
] as const;
export type VisitPurpose = (typeof VISIT_PURPOSES)[number];

/** What the ends say to each other most, without typing. */
export const PHRASES = [
	'ready',
	'wait',
	'go-on',
	'going-up',
	'coming-down',
	'on-the-ground',
	'stop'
] as const;
export type Phrase = (typeof PHRASES)[number];

/** What one end says to the other: a phrase, or its own words. */
export interface MessagePayload {
	phrase: Phrase | null;
	/** Empty where the phrase says it. */
	text: string;
}

/** What the four confirmations of the alignment state are about. */
export interface AlignmentConfirmations {
	powerControlOff: boolean;
	adaptiveModulationOff: boolean;
	fixedPower: boolean;
	transmitterOn: boolean;
}

/** The alignment state of one radio among several, by its key on the plan, such as `radio-2`. */
export interface RadioInAlignment extends Omit<AlignmentConfirmations, 'transmitterOn'> {
	radio: string;
	/** Sends, is muted or only hears, as the plan says of it. */
	sendsAsListed: boolean;
}

/** What is looked at when a radio goes back into operation. */
export interface OperatingConfirmations {
	powerControlAsPlanned: boolean;
	adaptiveModulationAsPlanned: boolean;
	licensedPower: boolean;
}

/** The operating state of one radio among several. */
export interface RadioInOperation extends OperatingConfirmations {
	radio: string;
}

/** Which dish of its end a record is about: the first where it does not say. */
export interface OfDish {
	dish?: 2;
}

/** The payload of every kind of field record; `levelDbm` is what the volts say by the plan's curve. */
export interface RecordPayloads {
	reading: OfDish & {
		volts: number | null;
		levelDbm: number | null;
		source: MeterSource;
		purpose: 'watch' | 'sweep' | 'final';
	};
	/** `viaTurns`: nut positions on the way, so that the play of the thread can be followed. */
	move: OfDish & { axis: Axis; toTurns: number; viaTurns: number[]; source: MeterSource };
	sweep: OfDish & {
		axis: Axis;
		/** Where the other axis stood meanwhile, degrees from its adjuster's centre. */
		otherAxisDeg: number;
		source: MeterSource;
		samples: SweepSample[];
	};
	/** `handed` by the end that held it, or `taken` by the other after a long silence. */
	/** The oldest records do not say how: it was handed over. */
	baton: OfDish & { to: End; how?: 'handed' | 'taken' };
	/** The end without the baton asks for it. */
	'baton-request': Record<string, never>;
	/** This end wants a level read at the other one. */
	'level-request': Record<string, never>;
	/** This end stands as the guidance wanted it; what that was is computed from the readings. */
	aimed: { dish: 2 } | Record<string, never>;
	/** What the guidance said when the person acted. */
	advice: OfDish & {
		step: string;
		headline: string;
		why: string[];
		probabilityOnMainLobe: number | null;
		boresight: { azimuthDeg: number; tiltDeg: number; sigmaDeg: number } | null;
	};
	/** The whole mount turned on its pipe, the fine adjuster centred before; right is positive. */
	'mount-turn': OfDish & { byDeg: number; compassDeg: number | null; source: MeterSource };
	/** What one turn of a nut does on this mount, measured with the beam itself as the ruler. */
	calibration: OfDish & {
		axis: Axis;
		degPerTurn: number;
		sigmaDegPerTurn: number;
		sweepId: string;
	};
	/** One crew that drives between the ends, or one at each. */
	'crew-mode': { crews: 1 | 2 };
	/** A fault was set right. */
	remedy: OfDish & { cause: Cause };
	/** `radios`: each radio of the end where there are several; what stands beside them is true of all. */
	'alignment-state': AlignmentConfirmations & { radios?: RadioInAlignment[] };
	'lock-step': OfDish & {
		fastenerIndex: number;
		fastener: string;
		locks: Axis;
		torqueNm: number;
		beforeDbm: number;
		afterDbm: number;
		source: MeterSource;
	};
	'operating-state': OperatingConfirmations & { radios?: RadioInOperation[] };
	/** The fasteners of this end are loose again; its lock is to be done anew. */
	loosen: OfDish & { reason: string };
	/** What came out of a test that the diagnosis asked for. */
	'test-result': OfDish & { test: string; value: 'yes' | 'no' };
	note: { text: string };
	message: MessagePayload;
	/** A stop card, answered before what can hurt. */
	'stop-card': {
		card: StopCard;
		answers: Record<string, StopAnswer>;
		note: string;
		/** Who takes it on that the work goes on against an answer, and why. */
		override?: { name: string; why: string };
	};
	/** What should have come, in place of the plan's own parts list. */
	'packing-list': { source: 'csv' | 'parts'; lines: PackingLine[] };
	/** One line of the packing list, counted. */
	received: {
		code: string;
		name: string;
		found: number;
		condition: 'good' | 'damaged' | 'wrong';
		note: string;
		photoIds: string[];
	};
	'part-label': {
		/** `radio-1`, `dish` …, as the plan names its parts. */
		part: string;
		code: string;
		bandFromGhz: number;
		bandToGhz: number;
		subBandUnit: string;
		flange: string;
		serial: string;
	};
	parties: {
		present: { name: string; party: string }[];
		absent: { party: string; authorisedBy: string }[];
	};
	/** Who signs for the goods as counted. */
	'receipt-signature': {
		name: string;
		party: string;
		method: 'typed' | 'drawn';
		drawing?: string;
	};
	/** What one joint of the polarization chain was found set to. */
	'polarization-set': { joint: string; shows: LinearPolarization };
	/** A step of the building done, with what was measured or counted. */
	'build-step': {
		step: string;
		value: number | null;
		note: string;
		photoIds: string[];
		/** What lifts, by its plates, where the step is a lift. */
		gear?: LiftingGear;
		/** What feeds the unit, where the step connects it. */
		source?: PowerSource;
	};
	/** A step left out; `*` means every step not done yet. One that can hurt or destroy needs who says so. */
	'step-skipped': { step: string; cause: string; authorisedBy?: string };
	/** A step done is to be done again. */
	'step-reopened': { step: string; reason: string };
	/** The picture itself is kept apart, under its id. */
	photo: { photoId: string; about: string; caption: string };
	/** The feed turned about the line of sight, clockwise seen from behind the dish. */
	'feed-turn': { toDeg: number; source: MeterSource };
	/** Both polarizations read at this end while the far end sends one. */
	discrimination: {
		sent: LinearPolarization;
		/** Which frequency pair it was read on; the first where it does not say. */
		pair?: 2;
		/** End whose feed stood at `feedDeg`. */
		turned: End;
		feedDeg: number;
		coDbm: number;
		crossDbm: number;
		/** What the meter showed, where it was read in volts. */
		coVolts?: number;
		crossVolts?: number;
		source: MeterSource;
	};
	/** Level of another carrier of the configuration: standby unit, diversity dish, second band. */
	'carrier-level': { carrier: number; levelDbm: number; source: MeterSource };
	'torque-tool': { serial: string; calibratedUntil: string };
	/** A run of error counting, traffic or soaking, typed or taken from a file. */
	'error-test': {
		test: 'errors' | 'traffic' | 'soak';
		durationS: number;
		erroredSeconds: number;
		/** Share of bits in error; null where the instrument gives none. */
		bitErrorRatio: number | null;
		note: string;
	};
	/** The crew stands for what it recorded. */
	'crew-signature': { name: string; method: 'typed' | 'drawn'; drawing?: string };
	'closing-check': { answers: Record<string, 'yes' | 'no' | 'not-here'>; note: string };
	/** Each service by its name, port and radio: whether it goes the way of the plan at this end. */
	'service-check': { answers: Record<string, 'yes' | 'no'>; note: string };
	snag: { snagId: string; text: string; owner: string; due: string; photoIds: string[] };
	/** `closedBy` and photos are missing on records older than them. */
	'snag-closed': { snagId: string; note: string; closedBy?: string; photoIds?: string[] };
	/** Who accepts does not sign: the crew is to see to this first. Only an acceptor records it. */
	'sent-back': { reason: string };
	/** Somebody comes back to an accepted hop; what follows belongs to this visit until it is closed. */
	'visit-opened': { visitId: string; purpose: VisitPurpose; why: string; people: string[] };
	/** The visit's own short judgement is signed. */
	'visit-closed': {
		visitId: string;
		found: string;
		name: string;
		method: 'typed' | 'drawn';
		drawing?: string;
	};
	/** A part of this end was changed for another of the same or another kind. */
	'part-replaced': {
		/** `dish`, `mount`, `radio-1` …, as the plan names its parts. */
		part: string;
		code: string;
		serial: string;
		reason: string;
		photoIds: string[];
	};
}

export type RecordKind = keyof RecordPayloads;

interface RecordBase<K extends RecordKind> {
	/** Made where the record was made; a repeat with the same id does nothing. */
	id: string;
	/** Place in the hop's feed: 1, 2, 3 … without gaps, given by the server. */
	seq: number;
	end: End;
	kind: K;
	payload: RecordPayloads[K];
	revisionNumber: number;
	/** Time on the device, ISO 8601 UTC with milliseconds. */
	recordedAt: string;
	recordedBy: string;
	/** By how much the clock of the device was ahead for certain, s; absent where it may have been right. */
	clockAheadS?: number;
}

/** One field record: append-only. */
export type FieldRecord = { [K in RecordKind]: RecordBase<K> }[RecordKind];

export type FieldRecordOf<K extends RecordKind> = RecordBase<K>;

/** The records of one kind, in the order of the feed. */
export function recordsOf<K extends RecordKind>(
	records: readonly FieldRecord[],
	kind: K,
	end?: End
): FieldRecordOf<K>[] {
	return records.filter(
		(record) => record.kind === kind && (end === undefined || record.end === end)
	) as unknown as FieldRecordOf<K>[];
}
