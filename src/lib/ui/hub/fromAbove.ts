import { directGeodesic, type GeoPoint } from '#core/geodesy/geodesic';
import { degToRad, radToDeg, wrapBearingDeg } from '#core/units/angle';

/** Distances of rings, m. */
const RINGS_M = [50, 100, 200, 400, 800, 1600, 3200, 6400, 12_800, 25_600];

/**
 * A hub seen from above, north up. Distances shrink outwards with their root, so that near terminals do not
 * lie on each other: bearings are true, and rings say how far.
 */
export class FromAbove {
	readonly farthestM: number;
	readonly middle: number;
	readonly rim: number;

	/**
	 * @param sizePx of the drawing, a square
	 * @param distancesM of what is to be seen
	 */
	constructor(
		readonly sizePx: number,
		distancesM: readonly number[]
	) {
		this.middle = sizePx / 2;
		this.rim = sizePx / 2 - 34;
		this.farthestM = 1.1 * Math.max(100, ...distancesM);
	}

	radius(distanceM: number): number {
		return this.rim * Math.sqrt(distanceM / this.farthestM);
	}

	/** Where a bearing meets a distance from the middle, px. */
	at(bearingDeg: number, radiusPx: number): { x: number; y: number } {
		const bearing = degToRad(bearingDeg);
		return {
			x: this.middle + radiusPx * Math.sin(bearing),
			y: this.middle - radiusPx * Math.cos(bearing)
		};
	}

	place(bearingDeg: number, distanceM: number): { x: number; y: number } {
		return this.at(bearingDeg, this.radius(distanceM));
	}

	/** The outline of a window, from the middle to the rim. */
	wedge(headingDeg: number, eachWayDeg: number): string {
		const from = this.at(headingDeg - eachWayDeg, this.rim);
		const to = this.at(headingDeg + eachWayDeg, this.rim);
		const large = eachWayDeg > 90 ? 1 : 0;
		const point = ({ x, y }: { x: number; y: number }): string => `${x.toFixed(1)},${y.toFixed(1)}`;
		return `M${this.middle},${this.middle}L${point(from)}A${this.rim},${this.rim} 0 ${large} 1 ${point(to)}Z`;
	}

	rings(): { distanceM: number; radius: number }[] {
		return RINGS_M.filter((distanceM) => distanceM < this.farthestM)
			.map((distanceM) => ({ distanceM, radius: this.radius(distanceM) }))
			.filter(({ radius }) => radius > 26);
	}

	/** The bearing under a finger, degrees true. */
	bearingOf(x: number, y: number): number {
		return wrapBearingDeg(radToDeg(Math.atan2(x - this.middle, this.middle - y)));
	}

	/** The place under a finger. */
	placeOf(hub: GeoPoint, x: number, y: number): GeoPoint {
		const radius = Math.hypot(x - this.middle, y - this.middle);
		const distanceM = Math.max(1, this.farthestM * (radius / this.rim) ** 2);
		return directGeodesic(hub, this.bearingOf(x, y), distanceM);
	}
}
