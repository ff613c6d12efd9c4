import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { analyseSweep } from '#core/sweep/analyseSweep';
import type { LevelCurvePoint } from '#core/radio/levelCurve';

interface SweepCase {
	id: string;
	axis: 'azimuth' | 'elevation';
	frequency_ghz: number;
	dish_diameter_m: number;
	beamwidth_deg_rule: number;
	planned_level_dbm: number;
	level_curve: { dbm_volts: LevelCurvePoint[] };
	truth: {
		kind: string;
		boresight_position_deg: number | null;
		on_main_lobe: boolean | null;
		best_level_dbm: number | null;
	};
}

const folder = new URL('./data/sweeps/', import.meta.url);
const cases = JSON.parse(readFileSync(new URL('index.json', folder), 'utf8')) as SweepCase[];

function samplesOf(id: string): { elapsedS: number; positionDeg: number; levelV: number }[] {
	return readFileSync(new URL(`${id}.csv`, folder), 'utf8')
		.trim()
		.split('\n')
		.slice(1)
		.map((line) => line.split(',').map(Number))
		.map(([elapsedS, positionDeg, levelV]) => ({
			elapsedS: elapsedS!,
			positionDeg: positionDeg!,
			levelV: levelV!
		}));
}

describe('recorded sweeps with known answers', () => {
	it.each(cases)('$id ($truth.kind): verdict, centre and level', (recorded) => {
		const analysis = analyseSweep({
			axis: recorded.axis,
			frequencyGhz: recorded.frequency_ghz,
			dishDiameterM: recorded.dish_diameter_m,
			plannedLevelDbm: recorded.planned_level_dbm,
			levelCurve: recorded.level_curve.dbm_volts,
			samples: samplesOf(recorded.id)
		});
		const { truth } = recorded;
		const expected =
			truth.kind === 'pickup'
				? 'implausible-reading'
				: truth.kind === 'no-signal'
					? 'no-signal'
					: truth.on_main_lobe
						? 'main-lobe'
						: 'beside-main-lobe';
		expect(analysis.verdict).toBe(expected);
		if (truth.boresight_position_deg === null) {
			expect(analysis.centreDeg).toBeNull();
			return;
		}
		const error = Math.abs(analysis.centreDeg! - truth.boresight_position_deg);
		// A quarter of a beam is asked for; the fit does much better on every given case.
		expect(error).toBeLessThan(0.06 * recorded.beamwidth_deg_rule);
		expect(Math.abs(analysis.peakLevelDbm! - truth.best_level_dbm!)).toBeLessThan(1);
		expect(analysis.reasons.length).toBeGreaterThan(0);
	});
});
