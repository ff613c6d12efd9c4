/** What the server says of a view of the map. */
export interface MapContent {
	sites: { id: string; name: string; latitudeDeg: number; longitudeDeg: number }[];
	groups: { latitudeDeg: number; longitudeDeg: number; count: number }[];
	hops: {
		id: string;
		name: string;
		signed: boolean;
		from: [number, number];
		to: [number, number];
	}[];
	hubs: {
		id: string;
		name: string;
		latitudeDeg: number;
		longitudeDeg: number;
		terminals: number;
	}[];
	/** Null where there are too many to show. */
	hopCount: number | null;
	siteCount: number;
}

export interface RasterPlace {
	id: string;
	west: number;
	east: number;
	north: number;
	south: number;
}
