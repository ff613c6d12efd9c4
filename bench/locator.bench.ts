import { bench, describe } from 'vitest';
import { relativeGainDb } from '#core/antenna/taperedAperture';
import { locate, type LocatorReading } from '#core/locate/locator';

/** A locator update beside one plain pass over the same grid, for a usual and for a narrow beam. */
function question(beamwidthDeg: number, frequencyGhz: number): Parameters<typeof locate>[0] {
	const readings: LocatorReading[] = Array.from({ length: 40 }, (_, i) => {
		const azimuthDeg = -8 + i * 0.4;
		const off = Math.hypot(azimuthDeg - 1.2, 0.4) / beamwidthDeg;
		return { azimuthDeg, tiltDeg: 0, levelDbm: Math.max(-88, -43 + relativeGainDb(off)) };
	});
	return {
		frequencyGhz,
		dishDiameterM: 0.6,
		beamwidthDeg,
		beamwidthKnown: true,
		plannedLevelDbm: -43,
		floorDbm: -88,
		priorSigmaDeg: { azimuth: 3, tilt: 0.5 },
		readings
	};
}

for (const [name, asked] of [
	['a beam of 1.4°', question(1.37, 26.2)],
	['a beam of 0.45°', question(0.446, 78.5)]
] as const) {
	const { map } = locate(asked);
	describe(`${name}, 40 readings, ${map.mass.length} cells`, () => {
		bench('one plain pass over the grid', () => {
			let sum = 0;
			for (const mass of map.mass) sum += Math.log(mass + 1e-9);
			if (sum > 0) throw new Error('unreachable');
		});
		bench('the whole map anew', () => {
			locate(asked);
		});
	});
}
