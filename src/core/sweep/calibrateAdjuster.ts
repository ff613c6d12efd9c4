import type { Adjuster } from '../catalogue/parts';
import { adjusterTurns } from './adjusterScale';
import type { SweepAnalysis } from './analyseSweep';
import type { CutSample } from './cutFit';
import { itemAt } from '../units/lists';

export type Calibration =
	| {
			kind: 'measured';
			/** How far one turn of the nut turns the dish about its centre, degrees. */
			degPerTurn: number;
			sigmaDegPerTurn: number;
			/** Width of the lobe 3 dB below its top, turns. */
			widthTurns: number;
	  }
	| { kind: 'unusable'; reason: string };

/** Points on either flank of a lobe are taken between these depths below the top, dB. */
const DEPTHS_DB = [2, 3, 4, 6] as const;
/** Spread of widths among dishes of one type, share. */
const BEAMWIDTH_SHARE = 0.04;

/**
 * Measures an adjuster with the beam as the ruler: on a cut over the main lobe the level falls by
 * 12·(x/θ)² dB at x off its middle, whatever the other axis does, so its width in turns at several
 * depths, against the dish's own half-power beamwidth, gives degrees a turn.
 *
 * @param samples positions in degrees as the present adjuster has them, levels in dBm
 * @param beamwidthDeg half-power beamwidth of the dish
 */
export function calibrateAdjuster(
	adjuster: Adjuster,
	samples: readonly CutSample[],
	analysis: Pick<SweepAnalysis, 'verdict' | 'peakPositionDeg' | 'peakLevelDbm'>,
	beamwidthDeg: number
): Calibration {
	if (analysis.verdict !== 'main-lobe' || analysis.peakPositionDeg === null) {
		return { kind: 'unusable', reason: 'Only a sweep over the main lobe can be the ruler.' };
	}
	const cut = samples
		.map((s) => ({ turns: adjusterTurns(adjuster, s.positionDeg), levelDbm: s.levelDbm }))
		.sort((p, q) => p.turns - q.turns);
	const top = topOf(cut);
	const widths = DEPTHS_DB.flatMap((depth): number[] => {
		const left = crossing(cut, top.index, -1, top.levelDbm - depth);
		const right = crossing(cut, top.index, 1, top.levelDbm - depth);
		// At any depth reduced to the width 3 dB down by the parabola.
		return left === null || right === null ? [] : [(right - left) * Math.sqrt(3 / depth)];
	});
	if (widths.length < 2) {
		return {
			kind: 'unusable',
			reason: 'The sweep does not reach down both flanks of the lobe: sweep a beam to either side.'
		};
	}
	const widthTurns = widths.reduce((sum, width) => sum + width, 0) / widths.length;
	const spread = Math.sqrt(
		widths.reduce((sum, width) => sum + (width - widthTurns) ** 2, 0) / (widths.length - 1)
	);
	const degPerTurn = beamwidthDeg / widthTurns;
	return {
		kind: 'measured',
		degPerTurn,
		sigmaDegPerTurn: degPerTurn * Math.hypot(BEAMWIDTH_SHARE, spread / widthTurns),
		widthTurns
	};
}

/** The top by a parabola through the readings within 2 dB of the highest. */
function topOf(cut: readonly { turns: number; levelDbm: number }[]): {
	index: number;
	levelDbm: number;
} {
	const index = cut.reduce((best, s, i) => (s.levelDbm > itemAt(cut, best).levelDbm ? i : best), 0);
	const near = cut
		.slice(Math.max(0, index - 2), index + 3)
		.map((s) => s.levelDbm)
		.sort((p, q) => q - p);
	// The mean of the highest two stands a little below a noisy maximum and above the flanks.
	return {
		index,
		levelDbm: near.length > 1 ? (itemAt(near, 0) + itemAt(near, 1)) / 2 : itemAt(near, 0)
	};
}

function crossing(
	cut: readonly { turns: number; levelDbm: number }[],
	from: number,
	direction: 1 | -1,
	levelDbm: number
): number | null {
	for (let i = from; cut[i + direction]; i += direction) {
		const here = itemAt(cut, i);
		const next = itemAt(cut, i + direction);
		if (next.levelDbm <= levelDbm && here.levelDbm > levelDbm) {
			const share = (here.levelDbm - levelDbm) / (here.levelDbm - next.levelDbm);
			return here.turns + share * (next.turns - here.turns);
		}
	}
	return null;
}
