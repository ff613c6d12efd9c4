import type { Axis } from '$core/ends';
import { degrees, fixed, turnsInWords } from '../format';

/** Which way a move goes, in the words of the hand. */
export function directionInWords(axis: Axis, change: number): string {
	if (axis === 'azimuth') return change >= 0 ? 'Turn right' : 'Turn left';
	return change >= 0 ? 'Tilt up' : 'Tilt down';
}

/** A length of a move in turns or degrees. */
export function amountInWords(turns: number, deg: number, inTurns: boolean): string {
	return inTurns ? turnsInWords(turns) : degrees(Math.abs(deg), 2);
}

/** A position of the adjuster from its centre. */
export function positionInWords(turns: number, deg: number, inTurns: boolean): string {
	return inTurns ? `${fixed(turns, 2, true)} turns` : degrees(deg, 2, true);
}

/** How sure a verdict is; nothing is ever a hundred percent. */
export function sureInWords(confidence: number): string {
	return confidence > 0.99 ? 'over 99 % sure' : `${(confidence * 100).toFixed(0)} % sure`;
}
