import type { CutSample } from './cutFit';
import { itemAt } from '../units/lists';

/** A hump of the level along one axis. */
export interface Lobe {
	positionDeg: number;
	levelDbm: number;
	/** Width between the points 3 dB down; null where the sweep or a neighbour cuts it off. */
	widthDeg: number | null;
	/** How far it stands above the higher of the two dips beside it, dB. */
	prominenceDb: number;
}

/** A hump counts when it stands this far above its dips. */
const LEAST_PROMINENCE_DB = 2;
const GRID_PER_BEAMWIDTH = 18;

/**
 * The level along the cut on an even grid, each point the mean of its close neighbours weighted by
 * a bell a twentieth of a beam wide: enough to quiet the meter, too little to fill a null.
 * Gaps wider than half a beam stay gaps (no points).
 *
 * @param beamwidthDeg half-power of the dish, above 0
 */
export function smoothCut(samples: readonly CutSample[], beamwidthDeg: number): CutSample[] {
	const sorted = [...samples].sort((p, q) => p.positionDeg - q.positionDeg);
	const first = sorted[0];
	const last = sorted[sorted.length - 1];
	if (!first || !last) return [];
	// A sweep over far more beams than samples gains nothing from a finer grid than its samples.
	const step = Math.max(
		beamwidthDeg / GRID_PER_BEAMWIDTH,
		(last.positionDeg - first.positionDeg) / 4000
	);
	const sigma = beamwidthDeg / 20;
	const smooth: CutSample[] = [];
	let from = 0;
	for (let position = first.positionDeg; position <= last.positionDeg + 1e-9; position += step) {
		while (itemAt(sorted, from).positionDeg < position - 0.3 * beamwidthDeg) from++;
		let sum = 0;
		let weightSum = 0;
		for (let i = from; i < sorted.length; i++) {
			const distance = itemAt(sorted, i).positionDeg - position;
			if (distance > 0.3 * beamwidthDeg) break;
			const weight = Math.exp(-0.5 * (distance / sigma) ** 2) + 1e-9;
			sum += weight * itemAt(sorted, i).levelDbm;
			weightSum += weight;
		}
		if (weightSum > 0) smooth.push({ positionDeg: position, levelDbm: sum / weightSum });
	}
	return smooth;
}

/**
 * Finds the lobes of a cut, from left to right.
 *
 * @param floorDbm lobes that rise less than {@link LEAST_PROMINENCE_DB} above it are not counted
 * @param beamwidthDeg half-power of the dish, above 0
 */
export function findLobes(
	samples: readonly CutSample[],
	beamwidthDeg: number,
	floorDbm: number
): Lobe[] {
	const smooth = smoothCut(samples, beamwidthDeg);
	const lobes: Lobe[] = [];
	for (let i = 1; i < smooth.length - 1; i++) {
		const here = itemAt(smooth, i).levelDbm;
		if (here < itemAt(smooth, i - 1).levelDbm || here <= itemAt(smooth, i + 1).levelDbm) continue;
		const prominenceDb = Math.min(dipBeside(smooth, i, -1), dipBeside(smooth, i, 1));
		if (prominenceDb < LEAST_PROMINENCE_DB || here < floorDbm + LEAST_PROMINENCE_DB) continue;
		lobes.push({
			positionDeg: itemAt(smooth, i).positionDeg,
			levelDbm: here,
			widthDeg: widthAt(smooth, i),
			prominenceDb
		});
	}
	return lobes;
}

/** How deep the level falls on one side before it climbs above the lobe again, dB. */
function dipBeside(smooth: readonly CutSample[], top: number, direction: 1 | -1): number {
	const level = itemAt(smooth, top).levelDbm;
	let lowest = level;
	for (let i = top + direction; i >= 0 && i < smooth.length; i += direction) {
		if (itemAt(smooth, i).levelDbm > level) break;
		lowest = Math.min(lowest, itemAt(smooth, i).levelDbm);
	}
	return level - lowest;
}

function widthAt(smooth: readonly CutSample[], top: number): number | null {
	const level = itemAt(smooth, top).levelDbm - 3;
	const left = crossing(smooth, top, -1, level);
	const right = crossing(smooth, top, 1, level);
	return left === null || right === null ? null : right - left;
}

function crossing(
	smooth: readonly CutSample[],
	top: number,
	direction: 1 | -1,
	level: number
): number | null {
	for (let i = top; i + direction >= 0 && i + direction < smooth.length; i += direction) {
		const here = itemAt(smooth, i);
		const next = itemAt(smooth, i + direction);
		if (next.levelDbm <= level) {
			const share = (here.levelDbm - level) / (here.levelDbm - next.levelDbm);
			return here.positionDeg + share * (next.positionDeg - here.positionDeg);
		}
	}
	return null;
}
