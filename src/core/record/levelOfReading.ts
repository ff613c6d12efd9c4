import type { LevelCurve } from '../radio/levelCurve';

/** What a recorded reading says, once volts and level are held against the port's curve. */
export type ReadLevel =
	| { kind: 'level'; levelDbm: number }
	/** A voltage that the port cannot give. */
	| { kind: 'implausible' }
	/** Volts and level are both there and the curve says that they do not belong together. */
	| { kind: 'contradiction'; levelDbm: number; curveDbm: number | null };

/** Volts and level of one reading agree when they lie nearer than this, dB, beyond the resolution. */
export const AGREE_WITHIN_DB = 1;

/**
 * The level of a reading by the port's own curve.
 *
 * @param curve of the radio that was read
 * @param resolutionV last digit of the meter, V
 */
export function levelOfReading(
	{ volts, levelDbm }: { volts: number | null; levelDbm: number | null },
	curve: LevelCurve,
	resolutionV = 0.001
): ReadLevel {
	if (levelDbm === null) return { kind: 'implausible' };
	if (volts === null) return { kind: 'level', levelDbm };
	const read = curve.read(volts, resolutionV);
	if (read.kind === 'implausible') return { kind: 'contradiction', levelDbm, curveDbm: null };
	// At the end of the curve the level may lie beyond it by any amount.
	const beyond =
		read.kind === 'at-limit' &&
		(read.limit === 'lowest' ? levelDbm <= read.levelDbm : levelDbm >= read.levelDbm);
	const slackDb = AGREE_WITHIN_DB + (read.kind === 'level' ? read.resolutionDb : 0);
	return beyond || Math.abs(read.levelDbm - levelDbm) <= slackDb
		? { kind: 'level', levelDbm }
		: { kind: 'contradiction', levelDbm, curveDbm: read.levelDbm };
}
