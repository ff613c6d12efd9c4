import type { RadioInAlignment, RadioInOperation, RecordPayloads } from './records';

/** Since when each radio of an end is in the alignment state, ISO 8601, by its key. */
export type RadiosIn = Readonly<Record<string, string>>;

/** What is confirmed of each radio in the alignment state. */
export const ALIGNMENT_ROWS = [
	'powerControlOff',
	'adaptiveModulationOff',
	'fixedPower',
	'sendsAsListed'
] as const satisfies readonly (keyof RadioInAlignment)[];

/** What is answered of each radio back in operation. */
export const OPERATING_ROWS = [
	'powerControlAsPlanned',
	'adaptiveModulationAsPlanned',
	'licensedPower'
] as const satisfies readonly (keyof RadioInOperation)[];

type AlignmentState = RecordPayloads['alignment-state'];
type OperatingState = RecordPayloads['operating-state'];

const inAlignment = (radio: RadioInAlignment): boolean => ALIGNMENT_ROWS.every((row) => radio[row]);
const inOperation = (radio: RadioInOperation): boolean => OPERATING_ROWS.every((row) => radio[row]);

/** Whether the whole end is in the alignment state by a record of it. */
export function allInAlignment(payload: AlignmentState): boolean {
	return (
		payload.powerControlOff &&
		payload.adaptiveModulationOff &&
		payload.fixedPower &&
		payload.transmitterOn &&
		(payload.radios ?? []).every(inAlignment)
	);
}

/** Whether the whole end is back in operation by a record of it. */
export function allInOperation(payload: OperatingState): boolean {
	return OPERATING_ROWS.every((row) => payload[row]) && (payload.radios ?? []).every(inOperation);
}

/** Keys of the radios that a record of the alignment state does not hold in it, such as `radio-2`. */
export function outOfAlignment({ radios }: AlignmentState): string[] {
	return (radios ?? []).flatMap((radio) => (inAlignment(radio) ? [] : radio.radio));
}

/** Keys of the radios that are not back in operation by a record of it. */
export function outOfOperation({ radios }: OperatingState): string[] {
	return (radios ?? []).flatMap((radio) => (inOperation(radio) ? [] : radio.radio));
}

/** Radios by their keys at the end of a sentence, such as ": radio 2, radio 3"; empty for none. */
export function radiosText(keys: readonly string[]): string {
	return keys.length > 0 ? `: ${keys.map((key) => key.replace('-', ' ')).join(', ')}` : '';
}

/**
 * The radios in the alignment state after a record of it: a radio that was in it keeps its time, one that the
 * record does not hold in it leaves, and none enters before all of them have.
 *
 * @param at when it was recorded, ISO 8601
 */
export function radiosInAfter(before: RadiosIn, payload: AlignmentState, at: string): RadiosIn {
	const whole = allInAlignment(payload);
	return Object.fromEntries(
		(payload.radios ?? []).flatMap((radio) => {
			const since = before[radio.radio] ?? (whole ? at : undefined);
			return since !== undefined && inAlignment(radio) ? [[radio.radio, since]] : [];
		})
	);
}

/** The record of an end from what was confirmed of each of its radios; one alone is not listed. */
export function alignmentStateOf(radios: readonly RadioInAlignment[]): AlignmentState {
	const all = (row: (typeof ALIGNMENT_ROWS)[number]): boolean =>
		radios.length > 0 && radios.every((radio) => radio[row]);
	return {
		powerControlOff: all('powerControlOff'),
		adaptiveModulationOff: all('adaptiveModulationOff'),
		fixedPower: all('fixedPower'),
		transmitterOn: all('sendsAsListed'),
		...(radios.length > 1 ? { radios: [...radios] } : {})
	};
}

/** The record of an end from what was answered of each of its radios; one alone is not listed. */
export function operatingStateOf(radios: readonly RadioInOperation[]): OperatingState {
	const all = (row: (typeof OPERATING_ROWS)[number]): boolean =>
		radios.length > 0 && radios.every((radio) => radio[row]);
	return {
		powerControlAsPlanned: all('powerControlAsPlanned'),
		adaptiveModulationAsPlanned: all('adaptiveModulationAsPlanned'),
		licensedPower: all('licensedPower'),
		...(radios.length > 1 ? { radios: [...radios] } : {})
	};
}

/** The record of an end all of whose radios, by their keys, are in the alignment state. */
export function wholeAlignment(radios: readonly string[]): AlignmentState {
	return alignmentStateOf(
		radios.map((radio) => ({
			radio,
			powerControlOff: true,
			adaptiveModulationOff: true,
			fixedPower: true,
			sendsAsListed: true
		}))
	);
}

/** The record of an end all of whose radios, by their keys, are back in operation. */
export function wholeOperation(radios: readonly string[]): OperatingState {
	return operatingStateOf(
		radios.map((radio) => ({
			radio,
			powerControlAsPlanned: true,
			adaptiveModulationAsPlanned: true,
			licensedPower: true
		}))
	);
}

/**
 * What is wrong with the radios of a record of either state against those of the plan; undefined where it holds.
 * An end of one radio needs no list. One of several must list each of them once when it says that all are there.
 *
 * @param planned keys of the end’s radios
 */
export function radiosProblem(
	planned: readonly string[],
	record:
		| { kind: 'alignment-state'; payload: AlignmentState }
		| { kind: 'operating-state'; payload: OperatingState }
): string | undefined {
	const listed = record.payload.radios?.map(({ radio }) => radio);
	const whole =
		record.kind === 'alignment-state'
			? allInAlignment(record.payload)
			: allInOperation(record.payload);
	if (!listed) {
		return whole && planned.length > 1
			? `This end has ${planned.length} radios: each is confirmed by itself.`
			: undefined;
	}
	const strange = listed.find((key) => !planned.includes(key));
	if (strange) return `By the plan in force this end has no ${strange}.`;
	if (new Set(listed).size < listed.length) return 'A radio is listed twice.';
	const missing = planned.filter((key) => !listed.includes(key));
	return missing.length > 0 && whole ? `Missing: ${missing.join(', ')}.` : undefined;
}
