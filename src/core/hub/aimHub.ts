import { wrapBearingDeg, radToDeg } from '../units/angle';
import { itemAt } from '../units/lists';
import { bestAim, largestMargin, smallestMarginDeg, type AimLimits, type BestAim } from './bestAim';
import type { ScanReach, Vector } from './scanWindow';

/** A unit as its aim is sought. */
export interface UnitToAim {
	reach: ScanReach;
	limits: AimLimits;
	/** Most terminals that it serves. */
	most: number;
	/** Its height: units at one height see a terminal under the same angles. */
	heightAglM: number;
}

/** A terminal as a place is sought for it. */
export interface TerminalToServe {
	/** Where it lies, seen from each unit. */
	vectors: readonly Vector[];
	/** The only unit that may serve it, by its place in the list; null where any may. */
	only: number | null;
}

export interface HubAims {
	/** Of each unit; one that serves nothing looks where its limits have their middle. */
	units: BestAim[];
	/** Unit of each terminal, by its place in the list; null where none holds it in its window. */
	unitOf: (number | null)[];
	/** Smallest margin over every unit that serves a terminal, degrees. */
	marginDeg: number;
	/**
	 * Whether nothing better exists: no way to hold more terminals, and none to hold as many with a larger
	 * smallest margin. Untrue where the search ended before it had looked at every way.
	 */
	proved: boolean;
}

/** Aims tried before the search gives what it has. */
const MOST_TRIALS = 4000;
/** Margins closer than this are the same, degrees. */
const SAME_DEG = 0.01;

/**
 * Headings and tilts of the units of a hub such that as many terminals as possible lie inside a window,
 * and the one nearest to the edge of its window lies as far inside as it can; with the unit of each.
 *
 * Every way to share the terminals out is gone through, in the order of their bearings, and left as soon as
 * it cannot beat the best so far: one more terminal never makes the margin of a unit larger.
 *
 * @param units 1 to 4
 * @param terminals 0 to 256
 */
export function aimHub(
	units: readonly UnitToAim[],
	terminals: readonly TerminalToServe[]
): HubAims {
	return new Search(units, terminals).found();
}

interface Group {
	members: number[];
	best: BestAim;
}

interface Sharing {
	unitOf: (number | null)[];
	unserved: number;
	marginDeg: number;
}

class Search {
	/** Terminals in the order of their bearings, begun after the widest gap. */
	private readonly order: number[];
	private readonly groups: (Group | null)[];
	private readonly unitOf: (number | null)[];
	private best: Sharing;
	private trials = 0;

	constructor(
		private readonly units: readonly UnitToAim[],
		private readonly terminals: readonly TerminalToServe[]
	) {
		this.order = byBearing(terminals.map(({ vectors }) => itemAt(vectors, 0)));
		this.groups = units.map(() => null);
		this.unitOf = terminals.map(() => null);
		this.best = {
			unitOf: [...this.unitOf],
			unserved: terminals.length,
			marginDeg: Number.NEGATIVE_INFINITY
		};
	}

	found(): HubAims {
		this.inStretches();
		this.trials = 0;
		this.goOn(0, 0, Number.POSITIVE_INFINITY);
		const { unitOf, marginDeg, unserved } = this.best;
		return {
			units: this.units.map(({ reach, limits }, unit) =>
				bestAim(this.vectorsOf(membersOf(unitOf, unit), unit), reach, limits)
			),
			unitOf,
			marginDeg: unserved === this.terminals.length ? 0 : marginDeg,
			proved: this.trials < MOST_TRIALS
		};
	}

	private vectorsOf(members: readonly number[], unit: number): Vector[] {
		return members.map((at) => this.vectorOf(at, unit));
	}

	private vectorOf(at: number, unit: number): Vector {
		return itemAt(itemAt(this.terminals, at).vectors, unit);
	}

	/**
	 * A first sharing to beat: the circle of bearings cut into as many stretches as there are units, each as
	 * long as a margin lets it be, from the places after the widest gaps.
	 */
	private inStretches(): void {
		const { length } = this.order;
		if (length === 0) return;
		const largest = Math.max(...this.units.map(({ reach }) => reach.azimuthDeg));
		for (const start of this.startsAfterGaps()) {
			const turned = Array.from({ length }, (_, i) => itemAt(this.order, (start + i) % length));
			let low = 0;
			let high = largest;
			for (let i = 0; i < 7; i++) {
				const margin = i === 0 ? 0 : (low + high) / 2;
				if (this.stretchesAt(turned, margin)) low = margin;
				else if (i === 0) break;
				else high = margin;
			}
		}
	}

	private startsAfterGaps(): number[] {
		const bearings = this.order.map((at) => bearingOf(this.vectorOf(at, 0)));
		return bearings
			.map((bearing, i) => ({
				i: (i + 1) % bearings.length,
				gap: wrapBearingDeg(itemAt(bearings, (i + 1) % bearings.length) - bearing)
			}))
			.sort((a, b) => b.gap - a.gap)
			.slice(0, this.units.length + 1)
			.map(({ i }) => i);
	}

	/** Whether the stretches hold every terminal with that margin; the sharing is kept where it is the best so far. */
	private stretchesAt(turned: readonly number[], wantedDeg: number): boolean {
		const unitOf: (number | null)[] = this.terminals.map(() => null);
		let next = 0;
		let least = Number.POSITIVE_INFINITY;
		this.units.forEach((unit, place) => {
			const members: number[] = [];
			let kept: BestAim | undefined;
			while (next < turned.length && members.length < unit.most) {
				const at = itemAt(turned, next);
				const { only } = itemAt(this.terminals, at);
				const vector = this.vectorOf(at, place);
				if (only !== null && only !== place) break;
				if (!kept || smallestMarginDeg([vector], unit.reach, kept.aim) < kept.marginDeg) {
					const tried = largestMargin(
						[...this.vectorsOf(members, place), vector],
						unit.reach,
						unit.limits,
						wantedDeg
					);
					if (tried.marginDeg < wantedDeg) break;
					kept = tried;
				}
				members.push(at);
				unitOf[at] = place;
				next++;
			}
			if (kept) least = Math.min(least, kept.marginDeg);
		});
		this.keep({ unitOf, unserved: turned.length - next, marginDeg: least });
		return next === turned.length;
	}

	private keep(sharing: Sharing): void {
		if (sharing.unserved === this.terminals.length) return;
		const { unserved, marginDeg } = this.best;
		if (sharing.unserved > unserved) return;
		if (sharing.unserved === unserved && sharing.marginDeg <= marginDeg) return;
		this.best = { ...sharing, unitOf: [...sharing.unitOf] };
	}

	/** Whether so many left out and such a margin cannot beat the best any more. */
	private isHopeless(unserved: number, marginDeg: number): boolean {
		if (unserved > this.best.unserved) return true;
		return unserved === this.best.unserved && marginDeg <= this.best.marginDeg + SAME_DEG;
	}

	private goOn(step: number, unserved: number, marginDeg: number): void {
		if (this.trials >= MOST_TRIALS || this.isHopeless(unserved, marginDeg)) return;
		if (step === this.order.length) {
			this.keep({ unitOf: this.unitOf, unserved, marginDeg });
			return;
		}
		const at = itemAt(this.order, step);
		for (const unit of this.unitsToTry(at)) {
			const before = itemAt(this.groups, unit);
			const after = this.joined(before, at, unit, unserved);
			if (!after) continue;
			this.groups[unit] = after;
			this.unitOf[at] = unit;
			this.goOn(step + 1, unserved, Math.min(marginDeg, after.best.marginDeg));
			this.groups[unit] = before;
			this.unitOf[at] = null;
		}
		this.goOn(step + 1, unserved + 1, marginDeg);
	}

	/** Units in the order of promise: that of the terminal before first; of empty ones that are alike only one. */
	private unitsToTry(at: number): number[] {
		const { only } = itemAt(this.terminals, at);
		const alike = new Set<string>();
		const promising = this.units.map((unit, place) => {
			const group = itemAt(this.groups, place);
			const open = (only === null || only === place) && (group?.members.length ?? 0) < unit.most;
			const margin = group
				? smallestMarginDeg([this.vectorOf(at, place)], unit.reach, group.best.aim)
				: 0;
			return { place, open, empty: !group, margin };
		});
		return promising
			.filter(({ place, open, empty }) => {
				if (!open) return false;
				if (!empty || this.isPinnedTo(place)) return true;
				const like = JSON.stringify(itemAt(this.units, place));
				if (alike.has(like)) return false;
				alike.add(like);
				return true;
			})
			.sort((a, b) => b.margin - a.margin)
			.map(({ place }) => place);
	}

	private isPinnedTo(unit: number): boolean {
		return this.terminals.some(({ only }) => only === unit);
	}

	/** The group with one terminal more; undefined where that one would lie outside, or nothing would be won by it. */
	private joined(
		group: Group | null,
		at: number,
		unit: number,
		unserved: number
	): Group | undefined {
		const { reach, limits } = itemAt(this.units, unit);
		const members = [...(group?.members ?? []), at];
		const vector = this.vectorOf(at, unit);
		if (group && smallestMarginDeg([vector], reach, group.best.aim) >= group.best.marginDeg) {
			return { members, best: group.best };
		}
		this.trials++;
		const worth = unserved === this.best.unserved ? Math.max(0, this.best.marginDeg) : 0;
		const best = largestMargin(this.vectorsOf(members, unit), reach, limits, worth);
		return best.marginDeg < 0 ? undefined : { members, best };
	}
}

const bearingOf = ([north, east]: Vector): number =>
	wrapBearingDeg(radToDeg(Math.atan2(east, north)));

const membersOf = (unitOf: readonly (number | null)[], unit: number): number[] =>
	unitOf.flatMap((of, at) => (of === unit ? [at] : []));

function byBearing(vectors: readonly Vector[]): number[] {
	const sorted = vectors
		.map((vector, at) => ({ at, bearing: bearingOf(vector) }))
		.sort((a, b) => a.bearing - b.bearing);
	let first = 0;
	let widest = -1;
	sorted.forEach(({ bearing }, i) => {
		const next = (i + 1) % sorted.length;
		const gap = wrapBearingDeg(itemAt(sorted, next).bearing - bearing);
		if (gap > widest) [widest, first] = [gap, next];
	});
	return sorted.map((_, i) => itemAt(sorted, (first + i) % sorted.length).at);
}
