/** Cards of short questions before what can hurt. */
export const STOP_CARDS = ['climb', 'lift', 'transmit'] as const;
export type StopCard = (typeof STOP_CARDS)[number];

export type StopAnswer = 'yes' | 'no' | 'not-here';

/** One line of a packing list. */
export interface PackingLine {
	code: string;
	name: string;
	count: number;
	unit: string;
}
