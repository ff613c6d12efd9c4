import type { TerrainProfile } from './samplePath';

/**
 * Terrain roughness s_a, m: standard deviation of the ground heights along the path. The
 * recommendation takes it over the area of the path on a 30″ raster; the path itself stands in for it.
 * Source: ITU-R P.530-18, §2.3.1 (definition of s_a).
 */
export function terrainRoughnessM(profile: TerrainProfile): number {
	const heights = profile.groundsAmslM;
	if (heights.length === 0) return 0;
	const mean = heights.reduce((sum, height) => sum + height, 0) / heights.length;
	return Math.sqrt(heights.reduce((sum, h) => sum + (h - mean) ** 2, 0) / heights.length);
}
