import type { GuidanceInput } from '#core/guide/guidance';

/** Beamwidth of a 0.6 m dish at 26.2 GHz, degrees. */
export const BEAM = 1.37;

/** An end of such a hop of which nothing was read. */
export const base: GuidanceInput = {
	frequencyGhz: 26.2,
	dishDiameterM: 0.6,
	beamwidthDeg: BEAM,
	plannedLevelDbm: -43,
	floorDbm: -88,
	toleranceDb: 2,
	travel: { azimuthDeg: [-12, 12], tiltDeg: [-12, 12] },
	prior: { azimuthSigmaDeg: 3, tiltSigmaDeg: 0.5 },
	readings: []
};
