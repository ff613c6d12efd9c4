import type { ClearanceCheck } from '#core/path/clearanceSchool';
import type { ClearancePoint } from '#core/path/pathClearance';

export interface ProfileShape {
	lengthM: number;
	topM: number;
	lowM: number;
	ground: string;
	/** First Fresnel zone about the ray, closed. */
	zone: string;
	ray: string;
	/** Surface that the ray must stay above: ground, bulge and the wanted share of the zone. */
	wanted: string;
	obstacles: string[];
	heightTicks: number[];
	distanceTicks: number[];
	x(distanceM: number): number;
	y(heightM: number): number;
	distanceAt(x: number): number;
	heightAt(y: number): number;
	/** Ground without bulge at a distance, m. */
	groundAt(distanceM: number): number;
	/** Top of something that stands there, with the bulge, m. */
	topOf(distanceM: number, heightM: number): number;
}

const LEFT = 54;
const RIGHT = 12;
const TOP = 18;
const BOTTOM = 28;
const MOST_COLUMNS = 480;

/** The drawing of one clearance check, in the pixels of a chart. */
export function profileShape(
	check: ClearanceCheck,
	width: number,
	height: number,
	scale?: { top: number; low: number }
): ProfileShape {
	const points = thinned(check.clearance.points);
	const lengthM = points[points.length - 1]?.distanceM ?? 1;
	const base = (p: ClearancePoint): number => p.groundAmslM + p.bulgeM;
	const tops = points.map((p) => Math.max(p.rayAmslM + p.fresnelM, p.surfaceAmslM + p.bulgeM));
	const lows = points.map((p) => base(p));
	const span = Math.max(...tops) - Math.min(...lows) || 1;
	const topM = scale?.top ?? Math.max(...tops) + 0.12 * span;
	const lowM = scale?.low ?? Math.min(...lows) - 0.08 * span;
	const x = (d: number): number => LEFT + (d / lengthM) * (width - LEFT - RIGHT);
	const y = (h: number): number => TOP + ((topM - h) / (topM - lowM)) * (height - TOP - BOTTOM);
	const line = (of: (p: ClearancePoint) => number, list = points): string =>
		list.map((p) => `${x(p.distanceM).toFixed(1)},${y(of(p)).toFixed(1)}`).join('L');
	const floor = (height - BOTTOM + 4).toFixed(1);
	const groundAt = (d: number): number => {
		const i = points.findIndex((p) => p.distanceM >= d);
		return points[i < 0 ? points.length - 1 : i]?.groundAmslM ?? 0;
	};
	return {
		lengthM,
		topM,
		lowM,
		ground: `M${x(0).toFixed(1)},${floor}L${line(base)}L${x(lengthM).toFixed(1)},${floor}Z`,
		zone: `M${line((p) => p.rayAmslM + p.fresnelM)}L${line((p) => p.rayAmslM - p.fresnelM, [...points].reverse())}Z`,
		ray: `M${line((p) => p.rayAmslM, [points[0]!, points[points.length - 1]!])}`,
		wanted: `M${line((p) => p.surfaceAmslM + p.bulgeM + check.wantedRatio * p.fresnelM)}`,
		obstacles: runs(points).map((run) => {
			const first = run[0]!;
			const last = run[run.length - 1]!;
			const edge = Math.max(1.5, (x(last.distanceM) - x(first.distanceM)) / 2);
			const middle = (x(first.distanceM) + x(last.distanceM)) / 2;
			const top = y(Math.max(...run.map((p) => p.surfaceAmslM + p.bulgeM)));
			const foot = y(Math.min(...run.map(base)));
			return `M${(middle - edge).toFixed(1)},${foot.toFixed(1)}V${top.toFixed(1)}H${(middle + edge).toFixed(1)}V${foot.toFixed(1)}Z`;
		}),
		heightTicks: ticks(lowM, topM, 5),
		distanceTicks: ticks(0, lengthM, Math.max(2, width / 140)),
		x,
		y,
		distanceAt: (px) =>
			Math.min(lengthM, Math.max(0, ((px - LEFT) / (width - LEFT - RIGHT)) * lengthM)),
		heightAt: (py) => topM - ((py - TOP) / (height - TOP - BOTTOM)) * (topM - lowM),
		groundAt,
		topOf: (d, heightM) => {
			const i = points.findIndex((p) => p.distanceM >= d);
			const at = points[i < 0 ? points.length - 1 : i]!;
			return at.groundAmslM + at.bulgeM + heightM;
		}
	};
}

/** Round numbers between two bounds. */
function ticks(low: number, high: number, about: number): number[] {
	const raw = (high - low) / about;
	const power = 10 ** Math.floor(Math.log10(raw));
	const step = [1, 2, 5, 10].map((s) => s * power).find((s) => s >= raw) ?? raw;
	const list: number[] = [];
	for (let at = Math.ceil(low / step) * step; at <= high + 1e-9; at += step) list.push(at);
	return list;
}

/** One point a column at most: of each column the one with the least room, and every obstacle. */
function thinned(points: readonly ClearancePoint[]): ClearancePoint[] {
	if (points.length <= MOST_COLUMNS) return [...points];
	const size = points.length / MOST_COLUMNS;
	const kept = new Set<ClearancePoint>([points[0]!, points[points.length - 1]!]);
	for (let column = 0; column < MOST_COLUMNS; column++) {
		const group = points.slice(Math.floor(column * size), Math.floor((column + 1) * size));
		if (group.length) kept.add(group.reduce((p, q) => (q.clearanceM < p.clearanceM ? q : p)));
	}
	for (const point of points) if (point.obstacle !== null) kept.add(point);
	return [...kept].sort((p, q) => p.distanceM - q.distanceM);
}

/** Points in a row that belong to one obstacle. */
function runs(points: readonly ClearancePoint[]): ClearancePoint[][] {
	const list: ClearancePoint[][] = [];
	let last: string | null = null;
	for (const point of points) {
		if (point.obstacle !== null) {
			if (point.obstacle === last) list[list.length - 1]!.push(point);
			else list.push([point]);
		}
		last = point.obstacle;
	}
	return list;
}
