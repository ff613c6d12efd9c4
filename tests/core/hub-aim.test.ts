import { describe, expect, it } from 'vitest';
import { aimHub, type TerminalToServe, type UnitToAim } from '#core/hub/aimHub';
import { bestAim, smallestMarginDeg } from '#core/hub/bestAim';
import {
	angleBetweenDeg,
	marginInWindowDeg,
	offFaceOf,
	scanLossDb,
	vectorOf,
	type Direction,
	type Vector
} from '#core/hub/scanWindow';

/** Numbers that look drawn by lot, the same at every run. */
export function lot(seed: number): () => number {
	let state = seed >>> 0;
	return () => {
		state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
		return state / 2 ** 32;
	};
}

const vectors = (directions: readonly Direction[]): Vector[] => directions.map(vectorOf);
const reach = { azimuthDeg: 45, elevationDeg: 20 };
const pole = { headingDeg: null, tiltDeg: [-30, 30] } as const;

describe('a direction in the frame of a unit', () => {
	it('lies straight ahead of a unit that looks at it, however steep', () => {
		for (const azimuthDeg of [0, 77, 181, 359]) {
			for (const elevationDeg of [-60, -3, 0, 25, 80]) {
				const off = offFaceOf(vectorOf({ azimuthDeg, elevationDeg }), {
					headingDeg: azimuthDeg,
					tiltDeg: elevationDeg
				});
				expect(off.acrossDeg).toBeCloseTo(0, 5);
				expect(off.aboveDeg).toBeCloseTo(0, 5);
				expect(off.offDeg).toBeCloseTo(0, 4);
			}
		}
	});

	it('counts right and up as more, over north too', () => {
		const off = offFaceOf(vectorOf({ azimuthDeg: 8, elevationDeg: 4 }), {
			headingDeg: 350,
			tiltDeg: 0
		});
		expect(off.acrossDeg).toBeCloseTo(18, 9);
		expect(off.aboveDeg).toBeCloseTo(4, 9);
	});

	it('tilts with the whole window: at the side of a tilted unit the horizon is less far above its middle', () => {
		// By hand: sin(above) = −cos(0)·cos(45°)·sin(−10°), 7.05°, where straight ahead it is 10°.
		const aim = { headingDeg: 0, tiltDeg: -10 };
		expect(offFaceOf(vectorOf({ azimuthDeg: 0, elevationDeg: 0 }), aim).aboveDeg).toBeCloseTo(
			10,
			6
		);
		const side = offFaceOf(vectorOf({ azimuthDeg: 45, elevationDeg: 0 }), aim);
		expect(side.aboveDeg).toBeCloseTo(7.053, 3);
		// tan(across) = sin 45 / (cos 45 · cos 10): 45.44°.
		expect(side.acrossDeg).toBeCloseTo(45.44, 2);
	});

	it('has its margin in the narrower angle', () => {
		const at = (acrossDeg: number, aboveDeg: number): number =>
			marginInWindowDeg({ acrossDeg, aboveDeg, offDeg: 0 }, reach);
		expect(at(-40, 2)).toBe(5);
		expect(at(10, -19)).toBe(1);
		expect(at(46, 0)).toBe(-1);
	});

	it('is apart from another by the angle on the sphere', () => {
		const up = vectorOf({ azimuthDeg: 0, elevationDeg: 60 });
		const level = vectorOf({ azimuthDeg: 90, elevationDeg: 0 });
		expect(angleBetweenDeg(up, level)).toBeCloseTo(90, 9);
		expect(angleBetweenDeg(up, vectorOf({ azimuthDeg: 180, elevationDeg: 60 }))).toBeCloseTo(60, 9);
	});
});

describe('the loss of steering', () => {
	const curve = [
		[0, 0],
		[20, 0.8],
		[45, 3.3]
	] as const;

	it('is read between the points of the sheet, never falls, and holds beyond the last', () => {
		expect(scanLossDb(curve, 0)).toBe(0);
		expect(scanLossDb(curve, 10)).toBeCloseTo(0.4, 9);
		expect(scanLossDb(curve, 45)).toBe(3.3);
		expect(scanLossDb(curve, 60)).toBe(3.3);
		let before = 0;
		for (let deg = 0; deg <= 90; deg += 0.5) {
			expect(scanLossDb(curve, deg)).toBeGreaterThanOrEqual(before);
			before = scanLossDb(curve, deg);
		}
	});
});

describe('the best aim of one unit', () => {
	it('is the middle of level terminals, over north too', () => {
		const found = bestAim(
			vectors([340, 10, 30].map((azimuthDeg) => ({ azimuthDeg, elevationDeg: 0 }))),
			reach,
			pole
		);
		expect(found.aim.headingDeg).toBeCloseTo(5, 1);
		expect(found.marginDeg).toBeGreaterThan(20 - 0.005);
		expect(found.marginDeg).toBeLessThan(20 + 0.005);
	});

	it('keeps the heading that a wall has, and the tilt that a mounting does not', () => {
		const directions = vectors([
			{ azimuthDeg: 100, elevationDeg: -4 },
			{ azimuthDeg: 120, elevationDeg: -6 }
		]);
		const wall = bestAim(directions, reach, { headingDeg: 90, tiltDeg: [0, 0] });
		expect(wall.aim).toEqual({ headingDeg: 90, tiltDeg: 0 });
		expect(wall.marginDeg).toBeCloseTo(14, 6);
		const tilting = bestAim(directions, reach, { headingDeg: 90, tiltDeg: [-20, 20] });
		expect(tilting.marginDeg).toBeGreaterThan(14);
	});

	it('says by how much the widest terminals lie outside when they do not fit', () => {
		const found = bestAim(
			vectors([0, 120].map((azimuthDeg) => ({ azimuthDeg, elevationDeg: 0 }))),
			reach,
			pole
		);
		// Tilting draws the sides of a window in a little; never by a whole degree here.
		expect(found.marginDeg).toBeLessThan(0);
		expect(found.boundDeg).toBeLessThan(0);
		expect(found.boundDeg - found.marginDeg).toBeLessThan(0.01);
	});

	it('leaves what it can in the angle that does not decide', () => {
		const found = bestAim(
			vectors([
				{ azimuthDeg: 60, elevationDeg: -12 },
				{ azimuthDeg: 140, elevationDeg: -12 }
			]),
			reach,
			pole
		);
		const off = offFaceOf(vectorOf({ azimuthDeg: 60, elevationDeg: -12 }), found.aim);
		expect(Math.abs(off.aboveDeg)).toBeLessThan(4);
	});

	it('is as good as a brute search over both angles, on a thousand hubs drawn by lot', () => {
		const draw = lot(60);
		for (let hub = 0; hub < 1000; hub++) {
			const spread = 4 + 130 * draw();
			const middle = 360 * draw();
			const directions = vectors(
				Array.from({ length: 1 + Math.floor(8 * draw()) }, () => ({
					azimuthDeg: middle + spread * (draw() - 0.5),
					elevationDeg: -25 + 40 * draw()
				}))
			);
			const window = { azimuthDeg: 20 + 40 * draw(), elevationDeg: 6 + 30 * draw() };
			const tiltDeg = draw() < 0.3 ? ([-5, 5] as const) : ([-35, 35] as const);
			const headingDeg = draw() < 0.3 ? middle + 10 * draw() : null;
			const found = bestAim(directions, window, { headingDeg, tiltDeg });
			// Refined around the best of a coarse grid over the whole range, three times.
			let best = { heading: 0, tilt: 0, margin: Number.NEGATIVE_INFINITY };
			let from = { heading: headingDeg ?? middle, tilt: (tiltDeg[0] + tiltDeg[1]) / 2 };
			let half = { heading: headingDeg === null ? 90 : 0, tilt: (tiltDeg[1] - tiltDeg[0]) / 2 };
			for (let round = 0; round < 4; round++) {
				for (let i = -12; i <= 12; i++) {
					if (headingDeg !== null && i !== 0) continue;
					for (let j = -12; j <= 12; j++) {
						const heading = from.heading + (i / 12) * half.heading;
						const tilt = from.tilt + (j / 12) * half.tilt;
						if (tilt < tiltDeg[0] || tilt > tiltDeg[1]) continue;
						const margin = smallestMarginDeg(directions, window, {
							headingDeg: heading,
							tiltDeg: tilt
						});
						if (margin > best.margin) best = { heading, tilt, margin };
					}
				}
				from = { heading: best.heading, tilt: best.tilt };
				half = { heading: half.heading / 6, tilt: half.tilt / 6 };
			}
			expect(found.marginDeg, `hub ${hub}`).toBeGreaterThan(best.margin - 0.005);
			expect(found.boundDeg, `hub ${hub}`).toBeGreaterThanOrEqual(best.margin);
			expect(found.boundDeg - found.marginDeg, `hub ${hub}`).toBeLessThan(0.01);
			expect(smallestMarginDeg(directions, window, found.aim), `hub ${hub}`).toBeGreaterThan(
				found.marginDeg - 0.002
			);
		}
	});
});

describe('the aims of a hub of several units', () => {
	const unit = (more: Partial<UnitToAim> = {}): UnitToAim => ({
		reach,
		limits: pole,
		most: 64,
		heightAglM: 12,
		...more
	});
	const at = (
		azimuthDeg: number,
		elevationDeg = 0,
		only: number | null = null
	): TerminalToServe => ({
		vectors: Array.from({ length: 4 }, () => vectorOf({ azimuthDeg, elevationDeg })),
		only
	});

	it('share level terminals out so that the smallest margin is largest', () => {
		const found = aimHub([unit(), unit()], [at(0), at(40), at(80), at(170), at(190)]);
		// Spans of 80° and 20° leave 5°; 40° and 110° would not fit; nothing else gives more than 5°.
		expect(found.unitOf.slice(0, 3)).toEqual([found.unitOf[0], found.unitOf[0], found.unitOf[0]]);
		expect(found.unitOf[3]).toBe(found.unitOf[4]);
		expect(found.marginDeg).toBeCloseTo(5, 2);
		expect(found.proved).toBe(true);
	});

	it('splits by height where bearings do not help', () => {
		const low = { azimuthDeg: 60, elevationDeg: 8 };
		const found = aimHub(
			[unit({ reach: low }), unit({ reach: low })],
			[at(0, 20), at(20, 20), at(2, -10), at(18, -10)]
		);
		expect(found.unitOf[0]).toBe(found.unitOf[1]);
		expect(found.unitOf[2]).toBe(found.unitOf[3]);
		expect(found.unitOf[0]).not.toBe(found.unitOf[2]);
		expect(found.marginDeg).toBeGreaterThan(7);
	});

	it('leaves out no more than it must, and keeps what is pinned', () => {
		const found = aimHub([unit()], [at(0), at(30), at(60), at(200)]);
		expect(found.unitOf).toEqual([0, 0, 0, null]);
		const pinned = aimHub([unit(), unit()], [at(0, 0, 1), at(30), at(60), at(200, 0, 0)]);
		expect(pinned.unitOf[0]).toBe(1);
		expect(pinned.unitOf[3]).toBe(0);
		expect(pinned.unitOf).not.toContain(null);
	});

	it('gives no unit more terminals than it takes', () => {
		const found = aimHub(
			[unit({ most: 2 }), unit({ most: 2 })],
			[at(0), at(5), at(10), at(15), at(20)]
		);
		expect(found.unitOf.filter((of) => of === null)).toHaveLength(1);
		for (const place of [0, 1]) {
			expect(found.unitOf.filter((of) => of === place).length).toBeLessThanOrEqual(2);
		}
	});

	it('leaves a wall its heading', () => {
		const wall = { headingDeg: 100, tiltDeg: [0, 0] } as const;
		const found = aimHub([unit({ limits: wall }), unit()], [at(90), at(130), at(170), at(300)]);
		expect(found.units[0]!.aim).toEqual({ headingDeg: 100, tiltDeg: 0 });
		expect(found.unitOf.filter((of) => of === null)).toHaveLength(1);
	});

	it('has nothing to aim at without terminals', () => {
		const found = aimHub([unit()], []);
		expect(found).toMatchObject({ unitOf: [], marginDeg: 0, proved: true });
		expect(found.units).toHaveLength(1);
	});

	it('is the best of every sharing there is, on small hubs drawn by lot', () => {
		const draw = lot(14);
		let several = 0;
		for (let hub = 0; hub < 70; hub++) {
			const count = 2 + Math.floor(4 * draw());
			const spread = 60 + 300 * draw();
			const terminals = Array.from({ length: count }, () => at(spread * draw(), -15 + 25 * draw()));
			const units = Array.from({ length: 1 + Math.floor(2.4 * draw()) }, () =>
				unit({ reach: { azimuthDeg: 45, elevationDeg: 12 } })
			);
			const found = aimHub(units, terminals);
			// Units are alike, so a margin depends on who is served together alone.
			const known = new Map<string, number>();
			const marginOf = (members: readonly Vector[]): number => {
				const key = members.join(' ');
				const margin =
					known.get(key) ?? bestAim(members, { azimuthDeg: 45, elevationDeg: 12 }, pole).marginDeg;
				known.set(key, margin);
				return margin;
			};
			let best = { unserved: count, margin: Number.NEGATIVE_INFINITY };
			for (let code = 0; code < (units.length + 1) ** count; code++) {
				const of = terminals.map(
					(_, i) => Math.floor(code / (units.length + 1) ** i) % (units.length + 1)
				);
				const unserved = of.filter((place) => place === units.length).length;
				if (unserved > best.unserved || unserved === count) continue;
				const margins = units.flatMap((_, place) => {
					const members = terminals
						.filter((_, i) => of[i] === place)
						.map(({ vectors: [vector] }) => vector!);
					return members.length ? [marginOf(members)] : [];
				});
				const margin = Math.min(...margins);
				if (margin < 0) continue;
				if (unserved < best.unserved || margin > best.margin) best = { unserved, margin };
			}
			expect(found.proved).toBe(true);
			expect(
				found.unitOf.filter((of) => of === null),
				`hub ${hub}`
			).toHaveLength(best.unserved);
			expect(Math.abs(found.marginDeg - best.margin), `hub ${hub}`).toBeLessThan(0.03);
			if (units.length > 1) several++;
		}
		expect(several).toBeGreaterThan(25);
	});

	it('shares 64 terminals among four units, as well as an even spread can be', () => {
		const terminals = Array.from({ length: 64 }, (_, i) => at((i * 360) / 64));
		const found = aimHub([unit({ most: 16 }), unit(), unit(), unit()], terminals);
		expect(found.unitOf).not.toContain(null);
		// Sixteen of them span 84.4°: 2.8° are left on either side.
		expect(found.marginDeg).toBeGreaterThan(2.75);
	});
});
