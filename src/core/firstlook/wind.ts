import { requireInRange } from '../units/errors';

/** Density of air at sea level and 15 °C, kg/m³ (ISO 2533). */
const AIR_KG_M3 = 1.225;
/** Force coefficient of a dish with a flat cover, wind from ahead; typical of wind-tunnel series. */
const FORCE_COEFFICIENT = 1.3;
/** Distance of the dish's centre of pressure from the pipe, as a share of its diameter. */
const ARM_SHARE = 0.45;

export interface WindLook {
	speedMS: number;
	pressurePa: number;
	forceN: number;
	/** Moment that tries to turn the dish about the pipe, N·m. */
	twistNm: number;
}

/**
 * Wind on one dish, a first look: pressure ½ρv², force on the aperture, moment about the pipe.
 * A structural engineer decides.
 *
 * @param speedMS 0 to 120
 * @param diameterM 0.05 to 15
 * @throws OutOfRangeError outside these ranges
 */
export function windLook(speedMS: number, diameterM: number): WindLook {
	requireInRange('speedMS', speedMS, 0, 120);
	requireInRange('diameterM', diameterM, 0.05, 15);
	const pressurePa = 0.5 * AIR_KG_M3 * speedMS ** 2;
	const forceN = pressurePa * FORCE_COEFFICIENT * Math.PI * (diameterM / 2) ** 2;
	return { speedMS, pressurePa, forceN, twistNm: forceN * ARM_SHARE * diameterM };
}

/**
 * Pointing loss on the main lobe, dB: 12·(θ/θ3dB)², the parabola through the half-power points.
 *
 * @param offsetDeg off the axis; holds to about θ3dB/2
 * @param beamwidthDeg half-power, above 0
 */
export function pointingLossDb(offsetDeg: number, beamwidthDeg: number): number {
	return 12 * (offsetDeg / beamwidthDeg) ** 2;
}

/**
 * Variation of the level when the dish stands off the axis and the mast sways, dB peak to peak:
 * the reason never to point off to lower a level.
 *
 * @param offsetDeg off the axis, either way
 * @param swayDeg each way, 0 or more
 * @param beamwidthDeg half-power, above 0
 */
export function swayVariationDb(offsetDeg: number, swayDeg: number, beamwidthDeg: number): number {
	const far = pointingLossDb(Math.abs(offsetDeg) + swayDeg, beamwidthDeg);
	const near =
		Math.abs(offsetDeg) <= swayDeg
			? 0
			: pointingLossDb(Math.abs(offsetDeg) - swayDeg, beamwidthDeg);
	return far - near;
}
