import { ENDS, type End, type PerEnd } from '../ends';
import { type Deviate, type Loss } from './causes/row';
import type { DiagnosisInput } from './question';

/** Meters of the two ends agree this well when the loss is common, dB. */
const METER_SIGMA_DB = 0.8;
/** Something that no cause here predicts: so much of a density is spread over everything. */
const STRAY = 1e-4;
/** No level is quite impossible under any cause: keeps the logarithm finite. */
const LEAST_DENSITY = 1e-9;
/** So near to the receiver's floor, dB, a level may be any lower one. */
const NEAR_FLOOR_DB = 4;
/** At the floor a loss is at least what is seen: all losses from here on, in spreads, fit alike … */
const CENSORED_WITHIN_SIGMAS = 2;
/** … and this well, as a share of the best fit of a level that is seen. */
const CENSORED_DENSITY = 0.35;
/** Reading of the other polarization that neither way of setting the feeds explains. */
const STRAY_CROSS_POLAR = 1e-5;
/** Spread of the discrimination that is read with feeds set right, dB. */
const CROSS_POLAR_SIGMA_DB = 6;
/** A receiver within so much of its maximum input stands at it, dB. */
const AT_MAXIMUM_DB = 1.5;

interface MeasuredLoss {
	valueDb: number;
	/** At the receiver's floor the loss is at least what is seen. */
	censored: boolean;
}

function measuredLoss(hop: DiagnosisInput, end: End): MeasuredLoss | null {
	const levelDbm = hop.measuredDbm[end];
	if (levelDbm === null) return null;
	return {
		valueDb: hop.plannedDbm[end] - levelDbm,
		censored: levelDbm < hop.floorDbm[end] + NEAR_FLOOR_DB
	};
}

/** Losses of two causes add; their spreads as squares. */
export function addedLosses(first: readonly Loss[], second: readonly Loss[]): readonly Loss[] {
	const sum = (p: Deviate, q: Deviate): Deviate => [p[0] + q[0], Math.hypot(p[1], q[1])];
	return first.flatMap((p) =>
		second.map((q) => ({
			common: sum(p.common, q.common),
			own: { A: sum(p.own.A, q.own.A), B: sum(p.own.B, q.own.B) }
		}))
	);
}

/** Logarithm of how well the measured levels fit losses that are as likely as each other. */
export function levelFit(losses: readonly Loss[], hop: DiagnosisInput): number {
	const measured = { A: measuredLoss(hop, 'A'), B: measuredLoss(hop, 'B') };
	const total = losses.reduce((sum, loss) => sum + densityOf(loss, measured), 0);
	return Math.log(total / losses.length + LEAST_DENSITY);
}

/** Density of what both meters show: two normal deviates that share the common part. */
function densityOf({ common, own }: Loss, measured: PerEnd<MeasuredLoss | null>): number {
	const shared = common[1] ** 2;
	const variance = (end: End): number => shared + own[end][1] ** 2 + METER_SIGMA_DB ** 2;
	const off = (end: End): number => (measured[end]?.valueDb ?? 0) - common[0] - own[end][0];
	const { A, B } = measured;
	if (!A || !B || A.censored || B.censored) {
		return alone(A, off('A'), variance('A')) * alone(B, off('B'), variance('B'));
	}
	const [varianceA, varianceB, offA, offB] = [variance('A'), variance('B'), off('A'), off('B')];
	const determinant = varianceA * varianceB - shared * shared;
	const square =
		(varianceB * offA * offA - 2 * shared * offA * offB + varianceA * offB * offB) / determinant;
	return (Math.exp(-0.5 * square) + STRAY * STRAY) / Math.sqrt(determinant);
}

/** Density of one meter by itself. */
function alone(seen: MeasuredLoss | null, offDb: number, variance: number): number {
	if (seen === null) return 1;
	const sigma = Math.sqrt(variance);
	const bell = Math.exp((-0.5 * offDb * offDb) / variance);
	if (!seen.censored) return (bell + STRAY) / sigma;
	return offDb < CENSORED_WITHIN_SIGMAS * sigma ? CENSORED_DENSITY : bell / sigma;
}

/** Logarithm of how well both polarizations, where they were read, fit what is expected of them. */
export function crossPolarFit(expected: Deviate | undefined, hop: DiagnosisInput): number {
	const [meanDb, sigmaDb] = expected ?? [hop.crossPolarDiscriminationDb, CROSS_POLAR_SIGMA_DB];
	return ENDS.reduce((sum, end) => {
		const own = hop.measuredDbm[end];
		const other = hop.crossPolarDbm[end];
		if (own === null || other === null) return sum;
		const sigmas = (own - other - meanDb) / sigmaDb;
		return sum + Math.log(Math.exp(-0.5 * sigmas ** 2) / sigmaDb + STRAY_CROSS_POLAR);
	}, 0);
}

/** Whether a receiver stands at its maximum input. */
export function standsAtMaximum({ measuredDbm, maxInputDbm }: DiagnosisInput): boolean {
	return ENDS.some((end) => {
		const level = measuredDbm[end];
		return level !== null && Math.abs(level - maxInputDbm[end]) < AT_MAXIMUM_DB;
	});
}
