import { lastOf } from '../units/lists';

/** The question that a bench meter answers with its present DC voltage. */
export const MEASURE_DC_VOLTS = 'MEAS:VOLT:DC?';

export type ScpiAnswer =
	{ kind: 'volts'; volts: number } | { kind: 'overload' } | { kind: 'not-a-number'; text: string };

/** Overload is answered with 9.9E37 or more, by SCPI 1999.0 volume 1, 7.2.1.4. */
const OVERLOAD = 9.8e37;

/** Reads one line of an answer: a number in NR1, NR2 or NR3 form, with or without a unit behind it. */
export function readScpiAnswer(line: string): ScpiAnswer {
	const text = line.trim();
	const match = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)\s*(?:V(?:DC)?)?$/.exec(text);
	if (!match) return { kind: 'not-a-number', text: text.slice(0, 60) };
	const volts = Number(match[1]);
	return Math.abs(volts) >= OVERLOAD ? { kind: 'overload' } : { kind: 'volts', volts };
}

/** Cuts a stream of text into lines ended by LF, CR LF or CR; the rest waits for what follows. */
export function takeLines(text: string): { lines: string[]; rest: string } {
	const parts = text.split(/\r\n|\n|\r(?!$)/);
	return { lines: parts.slice(0, -1).filter((line) => line.trim() !== ''), rest: lastOf(parts) };
}
