import type { GeoPoint } from '#core/geodesy/geodesic';
import type { SampledProfile, TerrainProfile } from '#core/path/samplePath';
import { callApi } from '../api';

/** Points of a profile of hundreds of metres stand this far apart, m. */
const STEP_M = 10;

/** Takes the ground on the way to terminals from the terrain, one after the other. */
export class GroundTaker {
	/** How many are still to come; undefined while nothing is taken. */
	left: number | undefined = $state();
	/** What went wrong the last time. */
	said: string | undefined = $state();

	async take(
		hub: GeoPoint,
		terminals: readonly (GeoPoint & { id: string })[],
		ontaken: (id: string, profile: TerrainProfile) => void
	): Promise<void> {
		this.said = undefined;
		let missing = 0;
		try {
			for (const [done, { id, latitudeDeg, longitudeDeg }] of terminals.entries()) {
				this.left = terminals.length - done;
				const found = await callApi<SampledProfile>('POST', '/terrain/profile', {
					a: { latitudeDeg: hub.latitudeDeg, longitudeDeg: hub.longitudeDeg },
					b: { latitudeDeg, longitudeDeg },
					stepM: STEP_M
				});
				if (found.kind === 'profile') ontaken(id, found.profile);
				else missing++;
			}
			if (missing) this.said = `No terrain is kept of the way to ${missing} of them.`;
		} catch (error) {
			this.said = error instanceof Error ? error.message : 'The profile could not be taken.';
		}
		this.left = undefined;
	}
}
