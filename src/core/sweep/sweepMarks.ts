import { numberText } from '../units/text';
import type { CutSample } from './cutFit';
import type { SweepMark } from './sweepTypes';
import { itemAt, lastOf, present } from '../units/lists';

/** A sample with its time and voltage, the level read from it. */
export interface TimedSample extends CutSample {
	elapsedS: number | undefined;
	levelV: number;
}

export interface MarkedCut {
	/** Levels freed of what the marks tell: the way back shifted onto the way out, drift and steps taken off. */
	samples: CutSample[];
	marks: SweepMark[];
	/** Middle between the edges of a top that is held flat; null where there is none. */
	flatTopMiddleDeg: number | null;
}

const FEWEST_OF_A_PASS = 5;
/** A way back longer than this is another pass, beamwidths. */
const TURN_BEAMWIDTHS = 0.3;
/** Play is looked for up to this much, beamwidths, and told from this much on. */
const MOST_PLAY_BEAMWIDTHS = 0.7;
const LEAST_PLAY_BEAMWIDTHS = 0.025;
const PLAY_STEPS = 57;
/** Change between the passes that is told, dB. */
const LEAST_DRIFT_DB = 0.8;
const LEAST_STEP_DB = 1.5;
/** A jump is that of another dish when it is this much more than its neighbours allow, dB. */
const LEAST_JUMP_DB = 4;
/** A top within this spread, dB, over this many beamwidths is none that a dish makes. */
const FLAT_SPREAD_DB = 0.9;
const FLAT_BEAMWIDTHS = 1.15;
const EDGE_DB = 3;
const COARSE_STEP_DB = 0.8;

/**
 * Looks for what else than the pointing has left its mark in a cut: play of the thread, a slow fade, a
 * far end that moved, a top held flat, a coarse meter.
 *
 * Out and back passes are compared first: they are the same cut at two times. Without times, or with
 * one pass only, what needs two of them is left unsaid.
 *
 * @param samples in the order in which they were recorded
 * @param highestLevelDbm end of the level port's curve: a top flat at it is the port's own
 * @param beamwidthDeg half-power of the dish, above 0
 */
export function markCut(
	samples: readonly TimedSample[],
	beamwidthDeg: number,
	highestLevelDbm: number
): MarkedCut {
	const marks: SweepMark[] = [];
	const timed = inTime(samples);
	let corrected: readonly TimedSample[] = timed ?? samples;
	if (timed) {
		corrected = alignPasses(corrected, beamwidthDeg, marks);
		corrected = takeOffDrift(corrected, beamwidthDeg, marks);
		noticeJump(corrected, beamwidthDeg, marks);
	}
	noticeCoarseMeter(samples, marks);
	const flatTopMiddleDeg = noticeFlatTop(corrected, beamwidthDeg, highestLevelDbm, marks);
	return {
		samples: corrected.map(({ positionDeg, levelDbm }) => ({ positionDeg, levelDbm })),
		marks,
		flatTopMiddleDeg
	};
}

/** Seconds at which a sample was read; only asked of sweeps that give times. */
function timeOf({ elapsedS }: TimedSample): number {
	return present(elapsedS, 'time of the sample');
}

/** The samples by their times; undefined when any has none or all are alike. */
function inTime(samples: readonly TimedSample[]): TimedSample[] | undefined {
	const times = samples.map((sample) => sample.elapsedS);
	if (times.some((time) => time === undefined) || new Set(times).size < samples.length / 2) {
		return undefined;
	}
	return [...samples].sort((p, q) => timeOf(p) - timeOf(q));
}

/**
 * Direction of the movement at each sample: 1 toward greater positions, −1 back. A hand that trembles
 * does not turn round: only a way back of {@link TURN_BEAMWIDTHS} does, from where it began.
 */
function directions(samples: readonly TimedSample[], beamwidthDeg: number): (1 | -1)[] {
	const last = lastOf(samples).positionDeg;
	let way: 1 | -1 = last >= itemAt(samples, 0).positionDeg ? 1 : -1;
	const firstTurn = samples.find(
		(sample) =>
			Math.abs(sample.positionDeg - itemAt(samples, 0).positionDeg) > TURN_BEAMWIDTHS * beamwidthDeg
	);
	if (firstTurn) way = firstTurn.positionDeg > itemAt(samples, 0).positionDeg ? 1 : -1;
	const found: (1 | -1)[] = [];
	let extreme = 0;
	for (const [i, sample] of samples.entries()) {
		const past = way * (sample.positionDeg - itemAt(samples, extreme).positionDeg);
		if (past >= 0) extreme = i;
		else if (-past > TURN_BEAMWIDTHS * beamwidthDeg) {
			way = way === 1 ? -1 : 1;
			for (let k = extreme + 1; k < i; k++) found[k] = way;
			extreme = i;
		}
		found[i] = way;
	}
	return found;
}

type Level = (positionDeg: number) => number | undefined;

/** Level along one pass by linear interpolation, undefined outside it. */
function levelAlong(samples: readonly CutSample[]): Level {
	const sorted = [...samples].sort((p, q) => p.positionDeg - q.positionDeg);
	return (positionDeg) => {
		const next = sorted.findIndex((sample) => sample.positionDeg >= positionDeg);
		if (next < 0) return undefined;
		const upper = itemAt(sorted, next);
		const lower = sorted[next - 1];
		if (!lower) return upper.positionDeg === positionDeg ? upper.levelDbm : undefined;
		const span = upper.positionDeg - lower.positionDeg;
		const share = span > 0 ? (positionDeg - lower.positionDeg) / span : 0;
		return lower.levelDbm + share * (upper.levelDbm - lower.levelDbm);
	};
}

function alignPasses(
	samples: readonly TimedSample[],
	beamwidthDeg: number,
	marks: SweepMark[]
): TimedSample[] {
	const ways = directions(samples, beamwidthDeg);
	const out = samples.filter((_, i) => ways[i] === 1);
	const back = samples.filter((_, i) => ways[i] === -1);
	if (Math.min(out.length, back.length) < FEWEST_OF_A_PASS) return [...samples];
	const along = levelAlong(out);
	const misfit = (shiftDeg: number): number | undefined => {
		const differences = back.flatMap((sample) => {
			const level = along(sample.positionDeg + shiftDeg);
			return level === undefined ? [] : [sample.levelDbm - level];
		});
		if (differences.length < FEWEST_OF_A_PASS) return undefined;
		// A difference common to all is drift, not play.
		const mean = differences.reduce((sum, d) => sum + d, 0) / differences.length;
		return (
			differences.reduce((sum, d) => sum + Math.min(36, (d - mean) ** 2), 0) / differences.length
		);
	};
	let best = { shiftDeg: 0, misfit: misfit(0) ?? Infinity };
	const unshifted = best.misfit;
	for (let i = 0; i < PLAY_STEPS; i++) {
		const shiftDeg = ((2 * i) / (PLAY_STEPS - 1) - 1) * MOST_PLAY_BEAMWIDTHS * beamwidthDeg;
		const found = misfit(shiftDeg);
		if (found !== undefined && found < best.misfit) best = { shiftDeg, misfit: found };
	}
	if (
		Math.abs(best.shiftDeg) < LEAST_PLAY_BEAMWIDTHS * beamwidthDeg ||
		best.misfit > 0.75 * unshifted
	) {
		return [...samples];
	}
	marks.push({
		kind: 'play',
		value: Math.abs(best.shiftDeg),
		words: `The way back lags the way out by ${numberText(Math.abs(best.shiftDeg), 2)}°: play of the thread. Positions count as reached from below; approach every position from that side.`
	});
	return samples.map((sample, i) =>
		ways[i] === 1 ? sample : { ...sample, positionDeg: sample.positionDeg + best.shiftDeg }
	);
}

interface Pair {
	earlierS: number;
	laterS: number;
	differenceDb: number;
}

/** The same position read at two times, by neighbouring passes. */
function pairsOf(samples: readonly TimedSample[], beamwidthDeg: number): Pair[] {
	const ways = directions(samples, beamwidthDeg);
	const pairs: Pair[] = [];
	for (const [i, later] of samples.entries()) {
		let nearest: TimedSample | undefined;
		for (let j = i - 1; j >= 0; j--) {
			const earlier = itemAt(samples, j);
			if (ways[j] === ways[i] && i - j < 4) continue;
			const away = Math.abs(earlier.positionDeg - later.positionDeg);
			if (away > 0.06 * beamwidthDeg) continue;
			if (!nearest || away < Math.abs(nearest.positionDeg - later.positionDeg)) nearest = earlier;
		}
		if (nearest) {
			pairs.push({
				earlierS: timeOf(nearest),
				laterS: timeOf(later),
				differenceDb: later.levelDbm - nearest.levelDbm
			});
		}
	}
	return pairs;
}

const middleOf = (values: readonly number[]): number =>
	[...values].sort((p, q) => p - q)[Math.floor(values.length / 2)] ?? 0;

/** What changed with time at the same position: even drift, or one step of a far end that moved. */
function takeOffDrift(
	samples: readonly TimedSample[],
	beamwidthDeg: number,
	marks: SweepMark[]
): TimedSample[] {
	const top = Math.max(...samples.map((sample) => sample.levelDbm));
	const heard = samples.filter((sample) => sample.levelDbm > top - 30);
	const pairs = pairsOf(heard, beamwidthDeg);
	if (pairs.length < FEWEST_OF_A_PASS) return [...samples];
	const cost = (change: (pair: Pair) => number): number =>
		pairs.reduce((sum, pair) => sum + Math.min(4, Math.abs(pair.differenceDb - change(pair))), 0);
	const still = cost(() => 0);
	const rate = middleOf(
		pairs
			.filter((pair) => pair.laterS > pair.earlierS)
			.map((pair) => pair.differenceDb / (pair.laterS - pair.earlierS))
	);
	const drift = { rate, cost: cost((pair) => rate * (pair.laterS - pair.earlierS)) };
	let step = { atS: 0, db: 0, cost: Infinity };
	for (const sample of samples) {
		const atS = timeOf(sample);
		const across = pairs.filter((pair) => pair.earlierS < atS && pair.laterS >= atS);
		if (across.length < 3) continue;
		const db = middleOf(across.map((pair) => pair.differenceDb));
		const found = cost((pair) => (pair.earlierS < atS && pair.laterS >= atS ? db : 0));
		if (found < step.cost) step = { atS, db, cost: found };
	}
	const last = timeOf(lastOf(samples));
	const total = drift.rate * (last - timeOf(itemAt(samples, 0)));
	if (
		step.cost < 0.8 * drift.cost &&
		step.cost < 0.6 * still &&
		Math.abs(step.db) > LEAST_STEP_DB
	) {
		marks.push({
			kind: 'far-end-moved',
			value: step.db,
			words: `From ${numberText(step.atS, 0)} s on every position reads ${numberText(Math.abs(step.db), 1)} dB ${step.db < 0 ? 'lower' : 'higher'} than before: the far end moved, or its power changed. Ask, and sweep again.`
		});
		return samples.map((sample) =>
			timeOf(sample) >= step.atS ? { ...sample, levelDbm: sample.levelDbm - step.db } : sample
		);
	}
	if (drift.cost < 0.75 * still && Math.abs(total) > LEAST_DRIFT_DB) {
		marks.push({
			kind: 'slow-fade',
			value: total,
			words: `The level ${total < 0 ? 'fell' : 'rose'} by ${numberText(Math.abs(total), 1)} dB while this was swept, whatever the position: a slow fade. It is taken off before the cut is read.`
		});
		return samples.map((sample) => ({
			...sample,
			levelDbm: sample.levelDbm - drift.rate * (timeOf(sample) - timeOf(itemAt(samples, 0)))
		}));
	}
	return [...samples];
}

/** In one pass a far end that moves shows as a jump that no pattern makes. */
function noticeJump(
	samples: readonly TimedSample[],
	beamwidthDeg: number,
	marks: SweepMark[]
): void {
	if (marks.some((mark) => mark.kind === 'far-end-moved')) return;
	const top = Math.max(...samples.map((sample) => sample.levelDbm));
	for (let i = 3; i < samples.length - 3; i++) {
		const [a, b, c, d] = [
			itemAt(samples, i - 2),
			itemAt(samples, i - 1),
			itemAt(samples, i),
			itemAt(samples, i + 1)
		];
		const stepDeg = Math.abs(c.positionDeg - b.positionDeg);
		const near = Math.max(b.levelDbm, c.levelDbm) > top - 12;
		if (stepDeg > 0.16 * beamwidthDeg || stepDeg === 0 || !near) continue;
		const before = slope(a, b);
		const after = slope(c, d);
		const jumpDb = c.levelDbm - b.levelDbm;
		const allowed = Math.max(Math.abs(before), Math.abs(after)) * stepDeg;
		const settled =
			Math.abs(itemAt(samples, i - 3).levelDbm - b.levelDbm) < LEAST_JUMP_DB &&
			Math.abs(itemAt(samples, i + 2).levelDbm - c.levelDbm) < LEAST_JUMP_DB;
		if (settled && Math.abs(jumpDb) > LEAST_JUMP_DB + 2 * allowed) {
			marks.push({
				kind: 'far-end-moved',
				value: jumpDb,
				words: `At ${numberText(c.positionDeg, 2, true)}° the level jumps by ${numberText(Math.abs(jumpDb), 1)} dB between two readings: no pattern does that. The far end moved, or its power changed: ask, and sweep again.`
			});
			return;
		}
	}
}

const slope = (p: CutSample, q: CutSample): number =>
	q.positionDeg === p.positionDeg ? 0 : (q.levelDbm - p.levelDbm) / (q.positionDeg - p.positionDeg);

function noticeCoarseMeter(samples: readonly TimedSample[], marks: SweepMark[]): void {
	const volts = [...new Set(samples.map((sample) => sample.levelV))].sort((p, q) => p - q);
	if (volts.length < 3 || volts.length > 0.7 * samples.length) return;
	const levels = new Map(samples.map((sample) => [sample.levelV, sample.levelDbm]));
	const steps = volts
		.slice(1)
		.map((v, i) => Math.abs(levels.get(v)! - levels.get(itemAt(volts, i))!));
	const step = middleOf(steps);
	if (step < COARSE_STEP_DB) return;
	marks.push({
		kind: 'coarse-meter',
		value: step,
		words: `The meter steps by ${numberText(step, 1)} dB: its middle is sharper than any of its readings, but use a finer range if it has one.`
	});
}

/**
 * A top that stays level over more than a beam while both sides fall: held by power control at the
 * far end, or the port at its end. The pattern's own top is not seen, only its middle.
 */
function noticeFlatTop(
	samples: readonly CutSample[],
	beamwidthDeg: number,
	highestLevelDbm: number,
	marks: SweepMark[]
): number | null {
	const sorted = [...samples].sort((p, q) => p.positionDeg - q.positionDeg);
	const levels = sorted.map((sample) => sample.levelDbm).sort((p, q) => q - p);
	// The third highest: a stray reading or two do not make the top.
	const top = itemAt(levels, Math.min(2, levels.length - 1));
	const flat = (i: number): boolean =>
		Math.abs(itemAt(sorted, i).levelDbm - top) <= FLAT_SPREAD_DB / 2;
	let longest: [number, number] | undefined;
	for (let from = 0; from < sorted.length; from++) {
		if (!flat(from)) continue;
		let to = from;
		while (to + 1 < sorted.length && flat(to + 1)) to++;
		const wide = (range: readonly [number, number]): number =>
			itemAt(sorted, range[1]).positionDeg - itemAt(sorted, range[0]).positionDeg;
		if (!longest || wide([from, to]) > wide(longest)) longest = [from, to];
		from = to;
	}
	if (!longest || longest[1] - longest[0] < 4) return null;
	const [from, to] = longest;
	const widthDeg = itemAt(sorted, to).positionDeg - itemAt(sorted, from).positionDeg;
	const left = sorted
		.slice(0, from)
		.reverse()
		.find((s) => s.levelDbm < top - EDGE_DB);
	const right = sorted.slice(to + 1).find((s) => s.levelDbm < top - EDGE_DB);
	if (widthDeg < FLAT_BEAMWIDTHS * beamwidthDeg || !left || !right) return null;
	const atPort = top > highestLevelDbm - 0.5;
	marks.push({
		kind: atPort ? 'saturated' : 'held-flat',
		value: widthDeg,
		words: atPort
			? `The top is flat over ${numberText(widthDeg / beamwidthDeg, 1)} beams at the end of the port’s curve: the port can show no more. Only the middle between the edges is known; lower the far power for a finer look.`
			: `The top stays level over ${numberText(widthDeg / beamwidthDeg, 1)} beams, which no dish does: ATPC holds it at the far end. Have it switched off before anything is aimed.`
	});
	return (left.positionDeg + right.positionDeg) / 2;
}
