import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { freeSpaceLossDb } from '#core/propagation/freeSpace';
import { gasAttenuation, REFERENCE_AIR } from '#core/propagation/gas';
import { rainAttenuation, rainCoefficients } from '#core/propagation/rain';
import { OutOfRangeError } from '#core/units/errors';

const table = (name: string): Record<string, string>[] => {
	const [head, ...rows] = readFileSync(new URL(`./data/${name}`, import.meta.url), 'utf8')
		.trim()
		.split(/\r?\n/)
		.map((line) => line.split(','));
	return rows.map((row) => Object.fromEntries(head!.map((name, i) => [name, row[i]!])));
};

/** Within a share of the reference value. */
function expectNear(value: number, reference: number, share: number): void {
	expect(Math.abs(value - reference)).toBeLessThanOrEqual(Math.abs(reference) * share);
}

describe('free-space loss', () => {
	// Origin: 92.4478 + 20·log10(f·d), the closed form of P.525 in GHz and km.
	it.each([
		[15, 14.6, 139.257],
		[1, 1, 92.448],
		[80, 0.5, 124.489],
		[7.4, 48, 143.457]
	])('%d GHz over %d km is %d dB', (ghz, km, db) => {
		expect(freeSpaceLossDb(ghz, km)).toBeCloseTo(db, 3);
	});

	it('grows by 6.02 dB with every doubling of the path', () => {
		fc.assert(
			fc.property(
				fc.double({ min: 1, max: 100, noNaN: true }),
				fc.double({ min: 0.01, max: 200, noNaN: true }),
				(ghz, km) => {
					const step = freeSpaceLossDb(ghz, 2 * km) - freeSpaceLossDb(ghz, km);
					expect(step).toBeCloseTo(20 * Math.log10(2), 9);
				}
			)
		);
	});

	it.each([0, -1, Number.NaN, Number.POSITIVE_INFINITY, 2000])('refuses a path of %d km', (km) => {
		expect(() => freeSpaceLossDb(15, km)).toThrow(OutOfRangeError);
	});
});

describe('gases, every line summed', () => {
	it.each(table('gas.csv'))('at $frequency_ghz GHz both parts are within 1 %', (row) => {
		const gas = gasAttenuation(Number(row.frequency_ghz), {
			dryAirPressureHpa: Number(row.dry_air_pressure_hpa),
			temperatureK: Number(row.temperature_k),
			waterVapourGM3: Number(row.water_vapour_g_m3)
		});
		expectNear(gas.oxygenDbKm, Number(row.oxygen_db_km), 0.01);
		expectNear(gas.waterVapourDbKm, Number(row.water_db_km), 0.01);
		expect(gas.totalDbKm).toBeCloseTo(gas.oxygenDbKm + gas.waterVapourDbKm, 12);
	});

	it('peaks near 60 GHz and near the water line of 22.2 GHz', () => {
		const at = (ghz: number): number => gasAttenuation(ghz).totalDbKm;
		expect(at(60)).toBeGreaterThan(30 * at(50));
		expect(at(60)).toBeGreaterThan(30 * at(72));
		expect(at(22.235)).toBeGreaterThan(at(20));
		expect(at(22.235)).toBeGreaterThan(at(26));
	});

	it('has no water part in dry air and more oxygen loss under more pressure', () => {
		const dry = gasAttenuation(60, { ...REFERENCE_AIR, waterVapourGM3: 0 });
		expect(dry.waterVapourDbKm).toBe(0);
		const high = gasAttenuation(23, { ...REFERENCE_AIR, dryAirPressureHpa: 700 });
		expect(high.oxygenDbKm).toBeLessThan(gasAttenuation(23).oxygenDbKm);
	});

	it('refuses air that is no air', () => {
		expect(() => gasAttenuation(23, { ...REFERENCE_AIR, temperatureK: 20 })).toThrow(
			/temperatureK/
		);
		expect(() => gasAttenuation(0.5)).toThrow(/frequencyGhz/);
	});
});

describe('rain', () => {
	const checks = JSON.parse(
		readFileSync(new URL('./data/p838-check.json', import.meta.url), 'utf8')
	) as { frequency_ghz: number; kH: number; alphaH: number; kV: number; alphaV: number }[];

	it.each(checks)('coefficients at $frequency_ghz GHz are within 0.1 %', (row) => {
		const h = rainCoefficients(row.frequency_ghz, 'horizontal');
		const v = rainCoefficients(row.frequency_ghz, 'vertical');
		// The table rounds k at 1 GHz to three figures.
		const share = row.frequency_ghz === 1 ? 0.003 : 0.001;
		expectNear(h.k, row.kH, share);
		expectNear(v.k, row.kV, share);
		expectNear(h.alpha, row.alphaH, 0.001);
		expectNear(v.alpha, row.alphaV, 0.001);
	});

	it.each(table('rain.csv'))(
		'path of $path_km km at $frequency_ghz GHz $polarization is within 0.1 %',
		(row) => {
			const at = (percentOfTime: number): ReturnType<typeof rainAttenuation> =>
				rainAttenuation({
					frequencyGhz: Number(row.frequency_ghz),
					pathKm: Number(row.path_km),
					polarization: row.polarization === 'V' ? 'vertical' : 'horizontal',
					rainRate001MmH: Number(row.rain_rate_001_mm_h),
					percentOfTime
				});
			expectNear(at(0.01).specificDbKm, Number(row.specific_db_km), 0.001);
			expectNear(at(0.01).distanceFactor, Number(row.distance_factor), 0.001);
			expectNear(at(0.01).a001Db, Number(row.a001_db), 0.001);
			expectNear(at(0.1).attenuationDb, Number(row['a_at_0.1_percent_db']), 0.001);
			expectNear(at(0.001).attenuationDb, Number(row['a_at_0.001_percent_db']), 0.001);
		}
	);

	it('grows with the rain rate and is nothing without rain', () => {
		const at = (rainRate001MmH: number): number =>
			rainAttenuation({
				frequencyGhz: 23,
				pathKm: 12,
				polarization: 'vertical',
				rainRate001MmH,
				percentOfTime: 0.01
			}).attenuationDb;
		expect(at(0)).toBe(0);
		fc.assert(
			fc.property(fc.double({ min: 1, max: 200, noNaN: true }), (rate) => {
				expect(at(rate * 1.05)).toBeGreaterThan(at(rate));
			})
		);
	});
});
