import { bearingText, numberText } from '#core/units/text';

/** A number with fixed decimals; an em dash where there is none. */
export function fixed(value: number | null | undefined, digits: number, plus = false): string {
	if (value === null || value === undefined || !Number.isFinite(value)) return '—';
	return numberText(value, digits, plus);
}

export const dbm = (value: number | null | undefined): string => `${fixed(value, 1)} dBm`;
export const volts = (value: number | null | undefined): string => `${fixed(value, 3)} V`;
export const degrees = (value: number | null | undefined, digits = 2, plus = false): string =>
	`${fixed(value, digits, plus)}°`;

/** A bearing: never 360.0°. */
export const bearing = (value: number, digits = 2): string => `${bearingText(value, digits)}°`;

/** Turns of a nut with the side in words. */
export function turnsInWords(turns: number): string {
	return `${fixed(Math.abs(turns), 2)} ${Math.abs(Math.abs(turns) - 1) < 0.005 ? 'turn' : 'turns'}`;
}

/** How long ago, for the far end's reading. */
export function agoInWords(seconds: number): string {
	if (seconds < 2) return 'just now';
	if (seconds < 90) return `${Math.round(seconds)} s ago`;
	if (seconds < 5400) return `${Math.round(seconds / 60)} min ago`;
	return `${Math.round(seconds / 3600)} h ago`;
}
