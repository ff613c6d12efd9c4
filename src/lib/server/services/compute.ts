import type { HopPlanResult } from '#core/budget/hopPlan';
import { compassBearingDeg, magneticDeclination } from '#core/geodesy/declination';
import { inverseGeodesic } from '#core/geodesy/geodesic';
import { antennaTiltDeg } from '#core/geodesy/tilt';
import { freeSpaceLossDb } from '#core/propagation/freeSpace';
import { gasAttenuation } from '#core/propagation/gas';
import { detailedOccurrencePercent, quickOccurrencePercent } from '#core/propagation/multipath';
import { rainAttenuation, type LinearPolarization } from '#core/propagation/rain';
import { LONGEST_RAIN_PATH_KM } from '#core/propagation/rainOutage';
import { rainXpdDb } from '#core/propagation/crossPolarOutage';
import { resolvePlanInput, type PlanDraftValues, type SiteValues } from '../../plan/resolve';
import { invalid } from '../errors';
import { inWorker } from '../jobs/pool';
import { catalogue } from './parts';

export interface AntennaPoint {
	latitudeDeg: number;
	longitudeDeg: number;
	antennaHeightAmslM: number;
}

export interface GeometryRequest {
	a: AntennaPoint;
	b: AntennaPoint;
	date: string;
	k: number;
}

interface EndGeometry {
	azimuthTrueDeg: number;
	azimuthCompassDeg: number;
	declinationDeg: number;
	magneticModel: string;
	outsideModelYears: boolean;
	tiltDeg: number;
}

/** A path as either end sees it. */
export interface PathGeometry {
	lengthKm: number;
	a: EndGeometry;
	b: EndGeometry;
}

/** Length, bearings and tilts of a path, from either end. */
export function pathGeometry(request: GeometryRequest): PathGeometry {
	const { a, b, k } = request;
	const line = inverseGeodesic(a, b);
	if (line.lengthM < 1) {
		throw invalid([{ field: 'b', message: 'Both ends are at the same place.' }]);
	}
	if (line.lengthM > 1_000_000) {
		throw invalid([{ field: 'b', message: 'The ends are more than 1000 km apart.' }]);
	}
	const end = (own: AntennaPoint, far: AntennaPoint, azimuthTrueDeg: number): EndGeometry => {
		const declination = magneticDeclination(own, own.antennaHeightAmslM, new Date(request.date));
		return {
			azimuthTrueDeg,
			azimuthCompassDeg: compassBearingDeg(azimuthTrueDeg, declination.declinationDeg),
			declinationDeg: declination.declinationDeg,
			magneticModel: declination.modelName,
			outsideModelYears: declination.outsideModelYears,
			tiltDeg: antennaTiltDeg(own.antennaHeightAmslM, far.antennaHeightAmslM, line.lengthM, k)
		};
	};
	return {
		lengthKm: line.lengthM / 1000,
		a: end(a, b, line.azimuthAtFirstDeg),
		b: end(b, a, line.azimuthAtSecondDeg)
	};
}

export interface AttenuationRequest {
	frequencyGhz: number;
	pathKm: number;
	polarization: LinearPolarization;
	rainRateMmH: number;
	percentOfTime: number;
	dryAirPressureHpa: number;
	temperatureC: number;
	waterVapourGM3: number;
	heightAAmslM?: number;
	heightBAmslM?: number;
	gradientDn1?: number;
	roughnessM?: number;
}

/** Attenuation along a path in its parts, dB. */
export interface PathAttenuation {
	freeSpaceLossDb: number;
	gas: { oxygenDbKm: number; waterVapourDbKm: number; pathDb: number };
	rain: {
		specificDbKm: number;
		distanceFactor: number;
		a001Db: number;
		attenuationDb: number;
		percentOfTime: number;
		pathTakenKm: number;
		discriminationDb: number | null;
	};
	multipath: { quickOccurrencePercent: number; detailedOccurrencePercent: number | null } | null;
}

/** Every part of the attenuation along a path, each by itself; what cannot be stated is null. */
export function pathAttenuation(request: AttenuationRequest): PathAttenuation {
	const { frequencyGhz, pathKm, polarization, percentOfTime } = request;
	const gas = gasAttenuation(frequencyGhz, {
		dryAirPressureHpa: request.dryAirPressureHpa,
		temperatureK: request.temperatureC + 273.15,
		waterVapourGM3: request.waterVapourGM3
	});
	const rain = rainAttenuation({
		frequencyGhz,
		pathKm: Math.min(pathKm, LONGEST_RAIN_PATH_KM),
		polarization,
		rainRate001MmH: request.rainRateMmH,
		percentOfTime
	});
	return {
		freeSpaceLossDb: freeSpaceLossDb(frequencyGhz, pathKm),
		gas: {
			oxygenDbKm: gas.oxygenDbKm,
			waterVapourDbKm: gas.waterVapourDbKm,
			pathDb: gas.totalDbKm * pathKm
		},
		rain: {
			specificDbKm: rain.specificDbKm,
			distanceFactor: rain.distanceFactor,
			a001Db: rain.a001Db,
			attenuationDb: rain.attenuationDb,
			percentOfTime,
			pathTakenKm: Math.min(pathKm, LONGEST_RAIN_PATH_KM),
			discriminationDb: rainXpdDb(frequencyGhz, rain.attenuationDb) ?? null
		},
		multipath: multipathOf(request)
	};
}

function multipathOf(request: AttenuationRequest): PathAttenuation['multipath'] {
	const { heightAAmslM, heightBAmslM, gradientDn1, roughnessM } = request;
	if (heightAAmslM === undefined || heightBAmslM === undefined || gradientDn1 === undefined) {
		return null;
	}
	const { frequencyGhz, pathKm } = request;
	const path = { frequencyGhz, pathKm, heightAAmslM, heightBAmslM, gradientDn1 };
	return {
		quickOccurrencePercent: quickOccurrencePercent(path),
		detailedOccurrencePercent:
			roughnessM === undefined ? null : detailedOccurrencePercent(path, roughnessM)
	};
}

export interface BudgetRequest {
	hopName: string;
	sites: { A: SiteValues; B: SiteValues };
	plan: PlanDraftValues;
}

/** A whole hop by value: nothing is read from or written to the database. */
export async function budgetByValue(request: BudgetRequest): Promise<HopPlanResult> {
	const resolved = resolvePlanInput(
		request.hopName,
		request.plan,
		request.sites,
		await catalogue()
	);
	if (resolved.kind === 'unknown-parts') {
		throw invalid(
			resolved.fields.map((field) => ({
				field: `plan.${field}`,
				message: 'Choose a part of the catalogue.'
			}))
		);
	}
	return inWorker('plan', resolved.input);
}
