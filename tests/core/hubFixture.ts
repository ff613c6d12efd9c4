import { directGeodesic, inverseGeodesic, type GeoPoint } from '#core/geodesy/geodesic';
import type { HubDraft, TerminalDraft } from '#core/hub/hubDraft';
import { HUB_INITIAL, type HubUnitDraft } from '#core/hub/hubFields';
import type { TerrainProfile } from '#core/path/samplePath';

/** Where the hubs of the tests stand. */
export const QUAY = { name: 'Quay', latitudeDeg: -46.22, longitudeDeg: -118.35, groundAmslM: 4 };

/** Flat ground at 4 m from the hub to a terminal. */
export function flatProfile(from: GeoPoint, to: GeoPoint): TerrainProfile {
	const { lengthM } = inverseGeodesic(from, to);
	const steps = 20;
	const place = ({ latitudeDeg, longitudeDeg }: GeoPoint): GeoPoint => ({
		latitudeDeg,
		longitudeDeg
	});
	return {
		source: 'made up',
		from: place(from),
		to: place(to),
		distancesM: Array.from({ length: steps + 1 }, (_, i) => (lengthM * i) / steps),
		groundsAmslM: Array.from({ length: steps + 1 }, () => 4)
	};
}

export function hubUnit(more: Partial<HubUnitDraft> = {}): HubUnitDraft {
	return {
		id: 'u1',
		name: 'Sector 1',
		partCode: 'HS-60-90',
		how: 'pole',
		wallBearingDeg: null,
		poleMm: 60,
		heightAglM: 12,
		frequencyGhz: 60.48,
		headingDeg: 0,
		tiltDeg: 0,
		...more
	};
}

/** A terminal as far in that direction from the quay, on flat ground. */
export function hubTerminal({
	bearingDeg,
	distanceM = 300,
	...more
}: { bearingDeg: number; distanceM?: number } & Partial<TerminalDraft>): TerminalDraft {
	const at = directGeodesic(QUAY, bearingDeg, distanceM);
	return {
		id: `t-${more.name ?? 'House'}`,
		name: 'House',
		...at,
		groundAmslM: 4,
		heightAglM: 8,
		partCode: 'TM-60-S',
		how: 'pole',
		wallBearingDeg: null,
		poleMm: 48,
		unitId: '',
		downMbitS: 50,
		upMbitS: 10,
		obstacles: [],
		profile: flatProfile(QUAY, at),
		...more
	};
}

export function harbour(more: Partial<HubDraft> = {}): HubDraft {
	return {
		...HUB_INITIAL,
		channelWidthMhz: 1080,
		eirpLimitDbm: 40,
		limitSource: 'Made-up rule',
		units: [],
		terminals: [],
		...more
	};
}
