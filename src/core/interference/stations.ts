import { carriersOf, carriesTraffic } from '../budget/configuration';
import { antennaHeights, directionBudget, requireDishAt } from '../budget/directionBudget';
import type { HopPlanInput } from '../budget/planInput';
import { ENDS, farEnd, type End } from '../ends';
import { inverseGeodesic, type GeoPoint } from '../geodesy/geodesic';
import { antennaTiltDeg } from '../geodesy/tilt';
import type { LinearPolarization } from '../propagation/rain';

/** One carrier at one end of a hop, as others hear it and as it hears others. */
export interface Station {
	hopId: string;
	hopName: string;
	siteName: string;
	end: End;
	carrierNumber: number;
	carrierName: string;
	/** Whether it stands on the second frequency pair of its hop. */
	secondPair: boolean;
	position: GeoPoint;
	antennaAmslM: number;
	/** Where its dish looks. */
	azimuthTrueDeg: number;
	tiltDeg: number;
	diameterM: number;
	beamwidthDeg: number;
	/** Cross-polar discrimination on the axis, dB. */
	crossPolarDb: number;
	polarization: LinearPolarization;
	channelWidthMhz: number;
	/** Null where it only hears. */
	sends: { frequencyGhz: number; gainDbi: number; eirpDbm: number } | null;
	hears: {
		frequencyGhz: number;
		gainDbi: number;
		/** From the dish to the receiver, dB. */
		lossDb: number;
		floorDbm: number;
		/** Level of its own far end in clear air, dBm. */
		levelDbm: number;
		/** What its receiver keeps off of the next channel and of the one after, dB; null where nothing is stated. */
		adjacentChannelDb: number | null;
		secondChannelDb: number | null;
	};
}

/**
 * The stations of a hop: two for each carrier with traffic, and the ears of its diversity dishes. A standby
 * unit sends and hears as the main one does.
 *
 * @throws Error for a dish without a band at the frequency, OutOfRangeError for impossible lengths
 */
export function stationsOf(hopId: string, input: HopPlanInput): Station[] {
	const line = inverseGeodesic(input.ends.A.position, input.ends.B.position);
	const { kind } = input.configuration;
	return carriersOf(input)
		.filter((carrier) => carrier.role === 'diversity' || carriesTraffic(carrier, kind))
		.flatMap((carrier) =>
			ENDS.map((end): Station => {
				const far = farEnd(end);
				const heights = antennaHeights(input, carrier, end);
				const pathKm = Math.hypot(line.lengthM, heights.A - heights.B) / 1000;
				const heard = directionBudget(input, carrier, pathKm, end);
				const sent = directionBudget(input, carrier, pathKm, far);
				const dish = carrier.receiveDish[end];
				const at = requireDishAt(dish, heard.frequencyGhz);
				const { selectivity } = carrier.radio[end];
				return {
					...{ hopId, hopName: input.hopName, siteName: input.ends[end].siteName, end },
					...{ carrierNumber: carrier.number, carrierName: carrier.name },
					secondPair: carrier.role === 'second' || carrier.role === 'second-band',
					position: input.ends[end].position,
					antennaAmslM: heights[end],
					azimuthTrueDeg: end === 'A' ? line.azimuthAtFirstDeg : line.azimuthAtSecondDeg,
					tiltDeg: antennaTiltDeg(heights[end], heights[far], line.lengthM, input.kFactor),
					diameterM: dish.diameterM,
					beamwidthDeg: at.beamwidthDeg,
					crossPolarDb: at.crossPolarDiscriminationDb,
					polarization: carrier.polarization,
					channelWidthMhz: carrier.channelWidthMhz,
					sends:
						carrier.role === 'diversity'
							? null
							: {
									frequencyGhz: sent.frequencyGhz,
									gainDbi: sent.transmitGainDbi,
									eirpDbm: sent.eirpDbm
								},
					hears: {
						frequencyGhz: heard.frequencyGhz,
						gainDbi: heard.receiveGainDbi,
						lossDb: heard.receiveFeederLossDb + heard.receiveBranchLossDb,
						floorDbm: heard.floorDbm,
						levelDbm: heard.operatingLevelDbm,
						adjacentChannelDb: selectivity?.adjacentChannelDb ?? null,
						secondChannelDb: selectivity?.secondChannelDb ?? null
					}
				};
			})
		);
}
