/**
 * Which of the patches a place is nearest to, as squares: its number in the list.
 *
 * @param azimuthDeg any finite
 * @param tiltDeg any finite
 */
export function nearestOf(
	modes: readonly { azimuthDeg: number; tiltDeg: number }[],
	azimuthDeg: number,
	tiltDeg: number
): number {
	let nearest = 0;
	let least = Infinity;
	for (const [i, mode] of modes.entries()) {
		const off = Math.max(Math.abs(mode.azimuthDeg - azimuthDeg), Math.abs(mode.tiltDeg - tiltDeg));
		if (off < least - 1e-9) [nearest, least] = [i, off];
	}
	return nearest;
}

/** Sums probability by place, on a scale that follows the largest, and what of it lies in a main lobe. */
export class Places {
	private top = -Infinity;
	private total = 0;
	private near = 0;

	/** @param radiusDeg of the lobe about `middle`, above 0 */
	constructor(
		private readonly middle: { azimuthDeg: number; tiltDeg: number },
		private readonly radiusDeg: number
	) {}

	add(azimuthDeg: number, tiltDeg: number, log: number, area: number): void {
		if (log > this.top) {
			const scale = Math.exp(this.top - log);
			this.total *= scale;
			this.near *= scale;
			this.top = log;
		}
		const mass = area * Math.exp(log - this.top);
		this.total += mass;
		const off = Math.hypot(azimuthDeg - this.middle.azimuthDeg, tiltDeg - this.middle.tiltDeg);
		if (off <= this.radiusDeg) this.near += mass;
	}

	/** Share within the lobe, 0 to 0.9999. */
	get share(): number {
		return this.total > 0 ? Math.min(0.9999, this.near / this.total) : 0;
	}
}
