import type { HopPlan } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import { farEnd, type End } from '#core/ends';
import { earthBulgeM, fresnelRadiusM } from '#core/path/pathClearance';

export interface SpanShape {
	/** The sea or plain between the ends with its bulge, closed below, as an SVG path. */
	earth: string;
	ray: string;
	fresnel: string;
	towers: { x: number; groundY: number; antennaY: number }[];
}

const STEPS = 160;

/** The ground of the plan's profile, turned so that the own end is left. */
function profileFrom(
	{ path: { profile } }: HopPlanInput,
	own: End
): { heights: readonly number[]; at: (x: number) => number } | undefined {
	if (!profile) return undefined;
	const { distancesM, groundsAmslM } = profile;
	const last = distancesM[distancesM.length - 1]!;
	return {
		heights: groundsAmslM,
		at: (x) => {
			const d = own === 'A' ? x : last - x;
			const i = distancesM.findIndex((distance) => distance >= d);
			return groundsAmslM[i < 0 ? groundsAmslM.length - 1 : i]!;
		}
	};
}

/**
 * The hop seen from the side, your end on the left: ground of both ends, earth bulge at the plan's
 * k, ray, and first Fresnel zone. Without a profile the terrain between is not known and not drawn.
 */
export function spanShape(
	input: HopPlanInput,
	plan: HopPlan,
	own: End,
	width: number,
	height: number
): SpanShape {
	const far = farEnd(own);
	const d = plan.pathKm * 1000;
	const frequencyGhz = plan.received[own].frequencyGhz;
	const bulge = (x: number): number => earthBulgeM(x, d - x, input.kFactor);
	const antenna = [plan.pointing[own].antennaHeightAmslM, plan.pointing[far].antennaHeightAmslM];
	const ground = [input.ends[own].groundAmslM, input.ends[far].groundAmslM];
	const ray = (x: number): number => antenna[0]! + ((antenna[1]! - antenna[0]!) * x) / d;
	const radius = (x: number): number => fresnelRadiusM(x, d - x, frequencyGhz);
	const profile = profileFrom(input, own);
	const base = Math.min(0, ...ground, ...(profile?.heights ?? []));
	const top = Math.max(...antenna, ray(d / 2) + radius(d / 2));
	const low = base - 0.12 * (top - base);
	const X = (x: number): number => 14 + (x / d) * (width - 28);
	const Y = (h: number): number => 6 + ((top - h) / (top - low)) * (height - 8);
	const at = Array.from({ length: STEPS + 1 }, (_, i) => (i / STEPS) * d);
	const line = (h: (x: number) => number, xs: readonly number[] = at): string =>
		xs.map((x) => `${X(x).toFixed(1)},${Y(h(x)).toFixed(1)}`).join('L');
	const surface = (x: number): number => {
		if (profile) return profile.at(x) + bulge(x);
		const share = x / d;
		// Each end's ground falls off to the level between within a twelfth of the path.
		const hill = (own: number, distance: number): number =>
			(own - base) * Math.max(0, 1 - (distance * 12) ** 2);
		return base + bulge(x) + Math.max(hill(ground[0]!, share), hill(ground[1]!, 1 - share));
	};
	return {
		earth: `M0,${height}L0,${Y(surface(0)).toFixed(1)}L${line(surface)}L${width},${Y(surface(d)).toFixed(1)}L${width},${height}Z`,
		ray: `M${line(ray, [0, d])}`,
		fresnel: `M${line((x) => ray(x) + radius(x))}L${line((x) => ray(x) - radius(x), [...at].reverse())}Z`,
		towers: [0, d].map((x, i) => ({ x: X(x), groundY: Y(ground[i]!), antennaY: Y(antenna[i]!) }))
	};
}
