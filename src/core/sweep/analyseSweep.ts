import { halfPowerBeamwidthDeg } from '../antenna/gain';
import { makeLevelCurve, type LevelCurve } from '../radio/levelCurve';
import { levelText } from '../units/text';
import { fitCut, HIGHEST_FLOOR_DBM, type CutFit, type CutSample } from './cutFit';
import { findLobes, smoothCut } from './lobes';
import { describeSweep } from './sweepReasons';
import { markCut, type TimedSample } from './sweepMarks';
import type { SweepAnalysis, SweepInput, SweepMark, SweepSample, SweepVerdict } from './sweepTypes';
import { itemAt, lastOf } from '../units/lists';

export type { SweepAnalysis, SweepInput, SweepSample, SweepVerdict } from './sweepTypes';

/** Fewer samples say nothing about a lobe. */
export const FEWEST_SWEEP_SAMPLES = 5;

/** Of the samples, this share outside the port's range makes the whole reading suspect. */
const IMPLAUSIBLE_SHARE = 0.3;
/** A cut that varies less than this never rose out of the noise, dB. */
const LEAST_RISE_DB = 2.5;

/**
 * Reads a recorded cut: was it over the main lobe or beside it, where is its middle, and why.
 *
 * Samples may come in any order, repeat positions, or be given out and back. Voltages outside the
 * port's range are left out and counted.
 *
 * @throws TypeError if the level curve is not monotonic (see makeLevelCurve)
 * @throws RangeError with fewer than {@link FEWEST_SWEEP_SAMPLES} samples
 */
export function analyseSweep(input: SweepInput): SweepAnalysis {
	if (input.samples.length < FEWEST_SWEEP_SAMPLES) {
		throw new RangeError(`a sweep needs at least ${FEWEST_SWEEP_SAMPLES} samples`);
	}
	const curve = makeLevelCurve(input.levelCurve);
	const beamwidthDeg =
		input.beamwidthDeg ?? halfPowerBeamwidthDeg(input.frequencyGhz, input.dishDiameterM);
	const { timed, excluded } = levelsOf(input.samples, curve);
	if (excluded > IMPLAUSIBLE_SHARE * input.samples.length || timed.length < FEWEST_SWEEP_SAMPLES) {
		return withoutCentre('implausible-reading', beamwidthDeg, excluded, 0.99, [
			...pickUpReasons(input.samples, curve, excluded)
		]);
	}
	const { samples, marks, flatTopMiddleDeg } = markCut(timed, beamwidthDeg, curve.highestLevelDbm);
	const smooth = smoothCut(samples, beamwidthDeg);
	const peak = smooth.reduce((p, q) => (q.levelDbm > p.levelDbm ? q : p));
	const levels = smooth.map((s) => s.levelDbm).sort((p, q) => p - q);
	const bottom = itemAt(levels, Math.floor(0.1 * (levels.length - 1)));
	const spanDeg = lastOf(smooth).positionDeg - itemAt(smooth, 0).positionDeg;
	const flat = peak.levelDbm - bottom < LEAST_RISE_DB;
	if (flat && peak.levelDbm < HIGHEST_FLOOR_DBM) {
		return withoutCentre('no-signal', beamwidthDeg, excluded, 0.97, [
			`The level stays at ${levelText(bottom)} over ${spanDeg.toFixed(2)}°: this is the receiver's own floor, not the far end.`,
			'Check that the far transmitter is on, then move the other axis by less than a beam and sweep again.'
		]);
	}
	if (flat && spanDeg > 1.5 * beamwidthDeg) {
		return withoutCentre('implausible-reading', beamwidthDeg, excluded, 0.9, [
			`The level stays at ${levelText(bottom)} while the dish moved over ${(spanDeg / beamwidthDeg).toFixed(1)} beams: it does not follow the pointing.`,
			'Look for ATPC left on at the far end, a saturated port, or a meter on the wrong port.'
		]);
	}
	const fit = fitCut({
		samples,
		frequencyGhz: input.frequencyGhz,
		dishDiameterM: input.dishDiameterM,
		beamwidthDeg,
		beamwidthKnown: input.beamwidthDeg !== undefined,
		plannedLevelDbm: input.plannedLevelDbm,
		lowestLevelDbm: curve.lowestLevelDbm,
		highestLevelDbm: curve.highestLevelDbm
	});
	if (!fit) {
		return withoutCentre('no-signal', beamwidthDeg, excluded, 0.8, [
			'Too few readings rise out of the receiver floor to tell a lobe from noise.',
			'Sweep again more slowly, or move the other axis by less than a beam.'
		]);
	}
	return withCentre(input, {
		fit,
		samples,
		peak,
		beamwidthDeg,
		excluded,
		marks,
		flatTopMiddleDeg
	});
}

function levelsOf(
	samples: readonly SweepSample[],
	curve: LevelCurve
): { timed: TimedSample[]; excluded: number } {
	const kept: TimedSample[] = [];
	for (const { positionDeg, levelV, elapsedS } of samples) {
		const reading = curve.read(levelV);
		if (reading.kind !== 'implausible' && Number.isFinite(positionDeg)) {
			kept.push({ positionDeg, levelDbm: reading.levelDbm, levelV, elapsedS });
		}
	}
	return { timed: kept, excluded: samples.length - kept.length };
}

function withCentre(
	input: SweepInput,
	found: {
		fit: CutFit;
		samples: readonly CutSample[];
		peak: CutSample;
		beamwidthDeg: number;
		excluded: number;
		marks: SweepMark[];
		flatTopMiddleDeg: number | null;
	}
): SweepAnalysis {
	const { fit, beamwidthDeg, peak } = found;
	const onMainLobe = fit.probabilityOnMainLobe >= 0.5;
	const fitted = onMainLobe ? fit.mainLobe : fit.beside;
	// The pattern's own top is not in a flat one: the middle between its edges is.
	const centre =
		found.flatTopMiddleDeg === null
			? fitted
			: { ...fitted, centreDeg: found.flatTopMiddleDeg, sigmaDeg: beamwidthDeg / 12 };
	const analysis: Omit<SweepAnalysis, 'reasons'> = {
		verdict: onMainLobe ? 'main-lobe' : 'beside-main-lobe',
		centreDeg: centre.centreDeg,
		centreSigmaDeg: Math.max(centre.sigmaDeg, beamwidthDeg / 100),
		peakLevelDbm: peak.levelDbm,
		peakPositionDeg: peak.positionDeg,
		shortfallDb: input.plannedLevelDbm - peak.levelDbm,
		lobes: findLobes(found.samples, beamwidthDeg, fit.floorDbm),
		beamwidthDeg,
		confidence: Math.min(0.999, Math.max(fit.probabilityOnMainLobe, 1 - fit.probabilityOnMainLobe)),
		excludedSamples: found.excluded,
		marks: found.marks
	};
	const positions = found.samples.map((s) => s.positionDeg);
	return {
		...analysis,
		reasons: describeSweep(analysis, centre, {
			fromDeg: Math.min(...positions),
			toDeg: Math.max(...positions),
			floorDbm: fit.floorDbm
		}).concat(found.marks.map((mark) => mark.words))
	};
}

function withoutCentre(
	verdict: SweepVerdict,
	beamwidthDeg: number,
	excludedSamples: number,
	confidence: number,
	reasons: string[]
): SweepAnalysis {
	return {
		verdict,
		centreDeg: null,
		centreSigmaDeg: null,
		peakLevelDbm: null,
		peakPositionDeg: null,
		shortfallDb: null,
		lobes: [],
		beamwidthDeg,
		confidence,
		excludedSamples,
		marks: [],
		reasons
	};
}

function pickUpReasons(
	samples: readonly SweepSample[],
	curve: LevelCurve,
	excluded: number
): string[] {
	const volts = samples.map((s) => s.levelV).filter(Number.isFinite);
	const range = volts.length
		? `between ${Math.min(...volts).toFixed(3)} and ${Math.max(...volts).toFixed(3)} V`
		: 'no number';
	return [
		`${excluded} of ${samples.length} readings are volts this port cannot give: ${range}, while its curve runs from ${curve.lowestVolts} to ${curve.highestVolts} V.`,
		'This is pick-up on the meter or a wrong port, not a level. Move the meter round the mast into its shadow, check the port and the lead, and sweep again.'
	];
}
