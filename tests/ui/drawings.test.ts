import { describe, expect, it } from 'vitest';
import { clearanceOf } from '#core/budget/pathFigures';
import { profileShape } from '$lib/ui/plan/profileShape';
import { spanShape } from '$lib/ui/hop/spanShape';
import { hopInput, soundPlan } from '../core/planFixture';

const numbers = (path: string): number[] => (path.match(/-?\d+(\.\d+)?/g) ?? []).map(Number);

describe('the drawing of a profile', () => {
	const input = hopInput();
	const verdict = clearanceOf(input, soundPlan(input).pathKm)!;
	const shape = profileShape(verdict.checks[0]!, 900, 300);

	it('places distances and heights, and finds them again', () => {
		for (const share of [0, 0.3, 1]) {
			const d = share * shape.lengthM;
			expect(shape.distanceAt(shape.x(d))).toBeCloseTo(d, 6);
		}
		for (const h of [shape.lowM, 100, shape.topM])
			expect(shape.heightAt(shape.y(h))).toBeCloseTo(h, 6);
		expect(shape.x(0)).toBeLessThan(shape.x(shape.lengthM));
		expect(shape.y(300)).toBeLessThan(shape.y(0));
	});

	it('holds ray and ground inside the picture', () => {
		for (const path of [shape.ray, shape.ground, shape.zone]) {
			expect(Math.min(...numbers(path))).toBeGreaterThanOrEqual(0);
			expect(Math.max(...numbers(path))).toBeLessThanOrEqual(900);
		}
	});

	it('stands still while something is dragged: the scale can be held', () => {
		const held = profileShape(verdict.checks[0]!, 900, 300, { top: 500, low: -50 });
		expect([held.topM, held.lowM]).toEqual([500, -50]);
	});

	it('of thousands of points draws few, and keeps the nearest to the ray and every obstacle', () => {
		const count = 6001;
		const long = hopInput({
			path: {
				...input.path,
				profile: {
					...input.path.profile!,
					distancesM: Array.from({ length: count }, (_, i) => (9800 * i) / (count - 1)),
					groundsAmslM: Array.from({ length: count }, (_, i) => (i === 3001 ? 150 : 0))
				},
				obstacles: [{ name: 'Mast', kind: 'other', distanceKm: 2.0001, lengthM: 0, heightM: 60 }]
			}
		});
		const check = clearanceOf(long, 9.8)!.checks[0]!;
		const drawn = profileShape(check, 900, 300);
		expect(numbers(drawn.ground).length / 2).toBeLessThan(600);
		const heights = numbers(drawn.ground).filter((_, i) => i % 2 === 1);
		expect(Math.min(...heights)).toBeLessThan(drawn.y(140));
		expect(drawn.obstacles).toHaveLength(1);
		expect(drawn.groundAt(2000.1)).toBe(0);
		expect(drawn.topOf(2000.1, 60)).toBeGreaterThan(60);
	});
});

describe('the span at the top of a hop', () => {
	const input = hopInput();
	const plan = soundPlan(input);

	it('has the own end left, whichever it is', () => {
		const a = spanShape(input, plan, 'A', 980, 92);
		const b = spanShape(input, plan, 'B', 980, 92);
		expect(a.towers[0]!.antennaY).toBeCloseTo(b.towers[1]!.antennaY, 6);
		expect(a.towers[0]!.x).toBeLessThan(a.towers[1]!.x);
	});

	it('draws the ground of the profile, mirrored for the other end', () => {
		const heightsOf = (end: 'A' | 'B'): number[] =>
			numbers(spanShape(input, plan, end, 980, 92).earth).filter((_, i) => i % 2 === 1);
		const flat = spanShape(
			hopInput({ path: { ...input.path, profile: null } }),
			plan,
			'A',
			980,
			92
		);
		expect(numbers(flat.earth)).not.toEqual(numbers(spanShape(input, plan, 'A', 980, 92).earth));
		// Without the corners of the closed path, and to the step between two points of the profile.
		const [a, b] = [heightsOf('A').slice(2, -2), heightsOf('B').slice(2, -2).reverse()];
		const mirrored = a.filter((y, i) => Math.abs(y - b[i]!) < 1).length;
		expect(mirrored / a.length).toBeGreaterThan(0.9);
	});
});
