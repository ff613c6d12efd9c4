import type { Axis, End } from '../ends';
import type { SweepSample } from '../sweep/analyseSweep';

export type MeterSource = 'hand' | 'simulated' | 'import';

/** What the four confirmations of the alignment state are about. */
export interface AlignmentConfirmations {
	powerControlOff: boolean;
	adaptiveModulationOff: boolean;
	fixedPower: boolean;
	transmitterOn: boolean;
}

/** The payload of every kind of field record; `levelDbm` is what the volts say by the plan's curve. */
export interface RecordPayloads {
	reading: {
		volts: number | null;
		levelDbm: number | null;
		source: MeterSource;
		purpose: 'watch' | 'sweep' | 'final';
	};
	/** `viaTurns`: nut positions on the way, so that the play of the thread can be followed. */
	move: { axis: Axis; toTurns: number; viaTurns: number[]; source: MeterSource };
	sweep: {
		axis: Axis;
		/** Where the other axis stood meanwhile, degrees from its adjuster's centre. */
		otherAxisDeg: number;
		source: MeterSource;
		samples: SweepSample[];
	};
	baton: { to: End };
	'alignment-state': AlignmentConfirmations;
	'lock-step': {
		fastenerIndex: number;
		fastener: string;
		locks: Axis;
		torqueNm: number;
		beforeDbm: number;
		afterDbm: number;
		source: MeterSource;
	};
	'operating-state': {
		powerControlAsPlanned: boolean;
		adaptiveModulationAsPlanned: boolean;
		licensedPower: boolean;
	};
	/** Records of an end's lock that are to be done again, after loosening. */
	loosen: { reason: string };
	/** What came out of a test that the diagnosis asked for. */
	'test-result': { test: string; value: 'yes' | 'no' };
	note: { text: string };
}

export type RecordKind = keyof RecordPayloads;

export const RECORD_KINDS: readonly RecordKind[] = [
	'reading',
	'move',
	'sweep',
	'baton',
	'alignment-state',
	'lock-step',
	'operating-state',
	'loosen',
	'test-result',
	'note'
];

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
