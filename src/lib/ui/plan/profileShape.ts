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
	/** Strokes that hang from the line of the ground, longer and shorter by turns. */
	hachures: string;
	/** The room that the rule wants under the ray, hung from it, closed. */
	room: string;
	/** Where ground or anything on it stands in that room, each closed. */
	inTheRoom: string[];
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
/** Strokes of the ground stand this far apart and are this long, px. */
const HACHURE_PX = 5;
const HACHURE_LENGTHS_PX = [22, 9, 15, 9];

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
	const top = (p: ClearancePoint): number => p.surfaceAmslM + p.bulgeM;
	const roomEnd = (p: ClearancePoint): number => p.rayAmslM - check.wantedRatio * p.fresnelM;
	const tops = points.map((p) => Math.max(p.rayAmslM + p.fresnelM, top(p)));
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
		ground: `M${line(base)}`,
		hachures: hachures(
			points.map((p) => [x(p.distanceM), y(base(p))]),
			Number(floor)
		),
		zone: `M${line((p) => p.rayAmslM + p.fresnelM)}L${line((p) => p.rayAmslM - p.fresnelM, [...points].reverse())}Z`,
		ray: `M${line((p) => p.rayAmslM, [points[0]!, points[points.length - 1]!])}`,
		room: `M${line((p) => p.rayAmslM)}L${line(roomEnd, [...points].reverse())}Z`,
		inTheRoom: runsWhere(points, (p) => top(p) > roomEnd(p)).map(
			(run) => `M${line(top, run)}L${line(roomEnd, [...run].reverse())}Z`
		),
		obstacles: runs(points).map((run) => {
			const first = run[0]!;
			const last = run[run.length - 1]!;
			const edge = Math.max(1.5, (x(last.distanceM) - x(first.distanceM)) / 2);
			const middle = (x(first.distanceM) + x(last.distanceM)) / 2;
			const head = y(Math.max(...run.map(top)));
			const foot = y(Math.min(...run.map(base)));
			return `M${(middle - edge).toFixed(1)},${foot.toFixed(1)}V${head.toFixed(1)}H${(middle + edge).toFixed(1)}V${foot.toFixed(1)}Z`;
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

/** Strokes from a line downward, a pixel column each, none below the floor. */
function hachures(line: readonly [number, number][], floor: number): string {
	const [first, last] = [line[0], line[line.length - 1]];
	if (!first || !last) return '';
	const strokes: string[] = [];
	let i = 0;
	for (let x = first[0] + 2, n = 0; x < last[0]; x += HACHURE_PX, n++) {
		while (i < line.length - 2 && line[i + 1]![0] < x) i++;
		const [[x0, y0], [x1, y1]] = [line[i]!, line[i + 1] ?? line[i]!];
		const y = y0 + (x1 > x0 ? ((x - x0) / (x1 - x0)) * (y1 - y0) : 0);
		const end = Math.min(floor, y + HACHURE_LENGTHS_PX[n % HACHURE_LENGTHS_PX.length]!);
		if (end > y) strokes.push(`M${x.toFixed(1)},${y.toFixed(1)}V${end.toFixed(1)}`);
	}
	return strokes.join('');
}

/** Points in a row for which something holds; one alone has nothing to draw. */
function runsWhere(
	points: readonly ClearancePoint[],
	holds: (point: ClearancePoint) => boolean
): ClearancePoint[][] {
	const list: ClearancePoint[][] = [];
	let open = false;
	for (const point of points) {
		const is = holds(point);
		if (is && open) list[list.length - 1]!.push(point);
		else if (is) list.push([point]);
		open = is;
	}
	return list.filter((run) => run.length > 1);
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
