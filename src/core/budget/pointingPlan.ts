import type { Adjuster } from '../catalogue/parts';
import { farEnd, type Axis, type End } from '../ends';
import { compassBearingDeg, magneticDeclination } from '../geodesy/declination';
import { inverseGeodesic, type GeodesicLine, type GeoPoint } from '../geodesy/geodesic';
import { antennaTiltDeg } from '../geodesy/tilt';
import { adjusterTurns } from '../sweep/adjusterScale';
import { bearingDifferenceDeg, degToRad, radToDeg, wrapBearingDeg } from '../units/angle';
import { antennaAmslM, type HopPlanInput } from './planInput';

/** A thing in the landscape that lies near the line to the far end. */
export interface LandmarkNearLine {
	name: string;
	bearingTrueDeg: number;
	distanceKm: number;
	/** Where it stands against the line, degrees; positive is right of it. */
	besideDeg: number;
}

/** How far one axis may have to be searched, and what the adjuster gives. */
export interface SearchWindow {
	/** Half-width about the first heading that holds the far end in 99 of 100 cases, degrees. */
	halfWidthDeg: number;
	/** Turns of the nut from one side of the window to the other. */
	turnsAcross: number;
	/** Travel of the adjuster each way from its middle, degrees and turns. */
	travelDeg: number;
	travelTurns: number;
	/** Turns left beyond the window on the side with less room; negative: the window is cut. */
	turnsRemaining: number;
}

/**
 * The turns of a search that the rod has, from one side to the other: what lies beyond is reached by turning
 * the mount, or by a better first heading.
 */
export function turnsOnRod({ turnsAcross, travelTurns }: SearchWindow): number {
	return Math.min(turnsAcross, 2 * travelTurns);
}

/** Where one end's dish must look. */
export interface Pointing {
	azimuthTrueDeg: number;
	azimuthCompassDeg: number;
	declinationDeg: number;
	magneticModel: string;
	/** Horizontal field at the site, nT; absent in plans frozen before it was kept. */
	horizontalFieldNt?: number;
	magneticModelOutdated: boolean;
	/** Bearing on the projected grid, where a central meridian is typed. */
	azimuthGridDeg: number | null;
	gridConvergenceDeg: number | null;
	tiltDeg: number;
	antennaHeightAmslM: number;
	landmarks: LandmarkNearLine[];
	window: Record<Axis, SearchWindow>;
}

/** 99 of 100 of a normal distribution lie within this many sigmas. */
const WINDOW_SIGMAS = 2.576;
/** Beside the line by no more than this many beamwidths, a landmark helps. */
const LANDMARK_BEAMWIDTHS = 2;

/**
 * Convergence of a transverse-Mercator grid, degrees: angle from true to grid north, east positive.
 * γ = atan(tan(λ − λ0)·sin φ); grid bearing = true azimuth − γ.
 *
 * @param centralMeridianDeg λ0, −180 to 180
 * Source: spherical form of the transverse Mercator projection (good to 0.001° within 6° of λ0).
 */
export function gridConvergenceDeg(point: GeoPoint, centralMeridianDeg: number): number {
	const east = degToRad(bearingDifferenceDeg(centralMeridianDeg, point.longitudeDeg));
	return radToDeg(Math.atan(Math.tan(east) * Math.sin(degToRad(point.latitudeDeg))));
}

/**
 * Everything an end needs to find the far end with its hands.
 *
 * @param beamwidthDeg half-power of this end’s dish, above 0
 */
export function pointingOf(
	input: HopPlanInput,
	line: GeodesicLine,
	end: End,
	beamwidthDeg: number
): Pointing {
	const own = input.ends[end];
	const far = input.ends[farEnd(end)];
	const antennaM = antennaAmslM(own);
	const farM = antennaAmslM(far);
	const azimuthTrueDeg = end === 'A' ? line.azimuthAtFirstDeg : line.azimuthAtSecondDeg;
	const declination = magneticDeclination(own.position, antennaM, input.workDate);
	const meridian = own.conditions.gridCentralMeridianDeg;
	const convergence = meridian === null ? null : gridConvergenceDeg(own.position, meridian);
	const tiltDeg = antennaTiltDeg(antennaM, farM, line.lengthM, input.kFactor);
	return {
		azimuthTrueDeg,
		azimuthCompassDeg: compassBearingDeg(azimuthTrueDeg, declination.declinationDeg),
		declinationDeg: declination.declinationDeg,
		magneticModel: declination.modelName,
		horizontalFieldNt: declination.horizontalNt,
		magneticModelOutdated: declination.outsideModelYears,
		azimuthGridDeg: convergence === null ? null : wrapBearingDeg(azimuthTrueDeg - convergence),
		gridConvergenceDeg: convergence,
		tiltDeg,
		antennaHeightAmslM: antennaM,
		landmarks: landmarksNear(input, end, azimuthTrueDeg, beamwidthDeg),
		window: {
			azimuth: searchWindow(own.mount.azimuth, input.search.compassSigmaDeg, 0),
			// The tilt adjuster's middle is level; the planned tilt takes its part of the travel.
			tilt: searchWindow(own.mount.tilt, input.search.levelSigmaDeg, tiltDeg)
		}
	};
}

function searchWindow(adjuster: Adjuster, sigmaDeg: number, middleDeg: number): SearchWindow {
	const halfWidthDeg = WINDOW_SIGMAS * sigmaDeg;
	const turnsAt = (deg: number): number =>
		adjusterTurns(adjuster, Math.max(-80, Math.min(80, deg)));
	const furthestDeg = Math.abs(middleDeg) + halfWidthDeg;
	return {
		halfWidthDeg,
		turnsAcross: turnsAt(middleDeg + halfWidthDeg) - turnsAt(middleDeg - halfWidthDeg),
		travelDeg: adjuster.travelDeg,
		travelTurns: turnsAt(adjuster.travelDeg),
		turnsRemaining: turnsAt(adjuster.travelDeg) - turnsAt(furthestDeg)
	};
}

function landmarksNear(
	input: HopPlanInput,
	end: End,
	azimuthTrueDeg: number,
	beamwidthDeg: number
): LandmarkNearLine[] {
	return input.landmarks
		.map((landmark) => {
			const { lengthM, azimuthAtFirstDeg } = inverseGeodesic(input.ends[end].position, landmark);
			return {
				name: landmark.name,
				bearingTrueDeg: azimuthAtFirstDeg,
				distanceKm: lengthM / 1000,
				besideDeg: bearingDifferenceDeg(azimuthTrueDeg, azimuthAtFirstDeg)
			};
		})
		.filter(
			(landmark) =>
				landmark.distanceKm > 0.01 &&
				Math.abs(landmark.besideDeg) <= LANDMARK_BEAMWIDTHS * beamwidthDeg
		)
		.sort((p, q) => Math.abs(p.besideDeg) - Math.abs(q.besideDeg));
}
