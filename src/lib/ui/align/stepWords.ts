import type { Axis } from '#core/ends';
import type { MountPart } from '#core/catalogue/parts';
import type { NextStep } from '#core/guide/nextStep';
import type { NutMove } from '#core/sweep/nutMove';
import { adjusterTurns } from '#core/sweep/adjusterScale';
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

/** Whole turns and a part of one as a fraction, as a hand on a spanner counts them: `2 1/3 turns`. */
function turnsAndPart(turns: number, parts: number, ofParts: number): string {
	const common = (a: number, b: number): number => (b === 0 ? a : common(b, a % b));
	const by = common(parts, ofParts);
	const part = parts ? `${parts / by}/${ofParts / by}` : '';
	const counted = [turns || !part ? String(turns) : '', part].filter(Boolean).join(' ');
	return `${counted} ${turns > 1 || (turns === 1 && part) || (!turns && !part) ? 'turns' : 'turn'}`;
}

/** A position of the adjuster from its centre. */
export function positionInWords(turns: number, deg: number, inTurns: boolean): string {
	return inTurns ? `${fixed(turns, 2, true)} turns` : degrees(deg, 2, true);
}

/** How sure a verdict is; nothing is ever a hundred percent. */
export function sureInWords(confidence: number): string {
	return confidence > 0.99 ? 'over 99 % sure' : `${(confidence * 100).toFixed(0)} % sure`;
}

/** A move as the hand at the nut makes it, in sentences. */
export function nutInWords({
	loosen,
	way,
	seenFrom,
	turns,
	flats,
	ofFlats,
	rodMm,
	standsMm
}: NutMove): string {
	return [
		`Loosen just enough: ${loosen.map((name) => name.toLowerCase()).join(', ')}.`,
		`Nut${way ? ` ${way}, seen from ${seenFrom}` : ''}: ${turnsAndPart(turns, flats, ofFlats)}, ${fixed(rodMm, 1)} mm of thread.`,
		...(standsMm === null ? [] : [`The rod then stands at ${fixed(standsMm, 1)} mm.`])
	].join(' ');
}

export interface StepWords {
	/** What to do, in two or three words. */
	what: string;
	/** How much, or empty. */
	amount: string;
	/** Which way the dish goes; `both` for a sweep. */
	arrow: 'left' | 'right' | 'up' | 'down' | 'across' | 'up-down' | 'none';
}

/** A step in two lines that a hand can follow. */
export function stepInWords(
	step: NextStep,
	mount: MountPart,
	own: { turns: Record<Axis, number>; angleDeg: Record<Axis, number> },
	inTurns: boolean,
	running?: { axis: Axis; samples: readonly unknown[]; turns: readonly unknown[] }
): StepWords {
	if (running) {
		return {
			what: `Sweeping ${running.axis}`,
			amount: `${running.samples.length} of ${running.turns.length}`,
			arrow: running.axis === 'azimuth' ? 'across' : 'up-down'
		};
	}
	if (step.kind === 'move') {
		const turns = adjusterTurns(mount[step.axis], step.targetDeg) - own.turns[step.axis];
		const deg = step.targetDeg - own.angleDeg[step.axis];
		const more = turns >= 0;
		return {
			what: directionInWords(step.axis, turns),
			amount: amountInWords(turns, deg, inTurns),
			arrow: step.axis === 'azimuth' ? (more ? 'right' : 'left') : more ? 'up' : 'down'
		};
	}
	if (step.kind === 'turn-mount') {
		return {
			what: step.headline,
			amount: `${degrees(Math.abs(step.byDeg), 1)}, to compass ${degrees(step.compassDeg, 1)}`,
			arrow: step.byDeg >= 0 ? 'right' : 'left'
		};
	}
	if (step.kind === 'sweep') {
		const at = (deg: number): string =>
			fixed(inTurns ? adjusterTurns(mount[step.axis], deg) : deg, inTurns ? 1 : 2, true);
		return {
			what: step.headline,
			amount: `${at(step.fromDeg)} to ${at(step.toDeg)}${inTurns ? ' turns' : '°'}`,
			arrow: step.axis === 'azimuth' ? 'across' : 'up-down'
		};
	}
	return { what: step.headline, amount: '', arrow: 'none' };
}
