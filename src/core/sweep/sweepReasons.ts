import { numberText } from '../units/text';
import type { CutCentre } from './cutFit';
import type { SweepAnalysis } from './sweepTypes';

/** Lobes that stand within this of the highest count when lobes are compared, dB. */
const COMPARABLE_DB = 14;

/** The evidence of a verdict in words: width, count, symmetry, shortfall, and what to do. */
export function describeSweep(
	analysis: Omit<SweepAnalysis, 'reasons'>,
	centre: CutCentre,
	sweep: { fromDeg: number; toDeg: number; floorDbm: number }
): string[] {
	const { beamwidthDeg, lobes, shortfallDb } = analysis;
	const reasons: string[] = [];
	const high = lobes.filter((lobe) => lobe.levelDbm > analysis.peakLevelDbm! - COMPARABLE_DB);
	const widest = high.reduce<number | null>(
		(width, lobe) => (lobe.widthDeg === null ? width : Math.max(width ?? 0, lobe.widthDeg)),
		null
	);
	const at = `${numberText(centre.centreDeg, 2, true)}°`;
	if (analysis.verdict === 'main-lobe') {
		reasons.push(
			`One lobe of this dish's own width, even about ${at}${widest === null ? '' : ` (${(widest / beamwidthDeg).toFixed(2)} beams wide)`}: the sweep ran over the main lobe.`
		);
		if (centre.offsetDeg > 0.3 * beamwidthDeg) {
			reasons.push(
				`It passed about ${(centre.offsetDeg / beamwidthDeg).toFixed(1)} beam from the middle: sweep the other axis from here.`
			);
		}
	} else {
		reasons.push(
			high.length === 1
				? `The one hump is ${widest === null ? 'too wide' : `${(widest / beamwidthDeg).toFixed(1)} beams wide and ringed too high`} to be the main lobe: the sweep crossed the ring of side lobes once.`
				: `${high.length} comparable humps stand about ${at}: the sweep crossed the ring of side lobes, beside the main lobe.`
		);
		reasons.push(
			`Do not go to the highest hump. Go to the middle at ${at}, then sweep the other axis: the main lobe is about ${(centre.offsetDeg / beamwidthDeg).toFixed(1)} beams away on it.`
		);
	}
	reasons.push(describeShortfall(analysis.verdict, shortfallDb!));
	if (centre.centreDeg < sweep.fromDeg || centre.centreDeg > sweep.toDeg) {
		reasons.push('The middle lies outside what was swept: extend the sweep over it to be sure.');
	}
	if (analysis.excludedSamples > 0) {
		reasons.push(
			`${analysis.excludedSamples} readings outside the port's range were left out as pick-up.`
		);
	}
	return reasons;
}

function describeShortfall(verdict: string, shortfallDb: number): string {
	const short = `Its top is ${Math.abs(shortfallDb).toFixed(1)} dB ${shortfallDb >= 0 ? 'below' : 'above'} the plan`;
	if (shortfallDb < -3) return `${short}: as suspect as too low; check power and level curve.`;
	if (shortfallDb <= 3) return `${short}.`;
	if (verdict === 'beside-main-lobe') return `${short}, as it must be on the ring.`;
	if (shortfallDb < 12) return `${short}: the other axis or the far end is on the shoulder.`;
	return `${short}: with the main lobe here, the far end is on a side lobe or the link is crossed.`;
}
