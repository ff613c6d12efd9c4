import { describe, expect, it } from 'vitest';
import { bestSpacing, diversityCurve } from '#core/budget/diversityCurve';
import type { HopPlanInput } from '#core/budget/planInput';
import { itemAt } from '#core/units/lists';
import { configured, hopInput, seaProfile, soundPlan } from './planFixture';

/** Space diversity over a profile of one's own. */
function diverse(offsetM: number, grounds?: readonly number[]): HopPlanInput {
	const base = hopInput({ configuration: configured('space-diversity') });
	const east = base.ends.B.position;
	const own = { secondDish: base.ends.A.dish, secondDishOffsetM: offsetM, antennaHeightAglM: 40 };
	const profile = seaProfile(base.ends.A.position, east, 212, 160);
	return {
		...base,
		ends: { A: { ...base.ends.A, ...own }, B: { ...base.ends.B, ...own } },
		path: { ...base.path, profile: grounds ? { ...profile, groundsAmslM: grounds } : profile }
	};
}

describe('the spacing of two dishes', () => {
	it('gains with every metre while the second path is clear, as the plan does', () => {
		const points = diversityCurve(diverse(-8));
		expect(points.map(({ spacingM }) => spacingM)).toEqual(
			Array.from({ length: 30 }, (_, i) => i + 1)
		);
		points
			.slice(1)
			.forEach((point, i) =>
				expect(point.improvement).toBeGreaterThanOrEqual(itemAt(points, i).improvement)
			);
		expect(itemAt(points, 29).improvement).toBeGreaterThan(1.2 * itemAt(points, 0).improvement);
		const planned = soundPlan(diverse(-8)).availability;
		expect(itemAt(points, 7).improvement).toBe(planned.diversity?.factor);
		expect(itemAt(points, 7).available.percent).toBe(planned.achievedPercent);
	});

	it('loses again where the lower dish looks into a hill: the best lies between', () => {
		const points = diversityCurve(diverse(-8, [212, 152, 60, 208, 60, 100, 160]));
		const best = bestSpacing(points);
		expect(best?.spacingM).toBeGreaterThan(1);
		expect(best?.spacingM).toBeLessThan(28);
		expect(itemAt(points, points.length - 1).improvement).toBeLessThan(
			0.5 * (best?.improvement ?? 0)
		);
	});

	it('is on the side where it is planned, and none without a second dish', () => {
		const above = diversityCurve(diverse(6));
		expect(itemAt(above, 5).improvement).toBe(soundPlan(diverse(6)).availability.diversity?.factor);
		expect(diversityCurve(hopInput())).toEqual([]);
		expect(bestSpacing([])).toBeUndefined();
	});
});
