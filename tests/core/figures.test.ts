import { describe, expect, it } from 'vitest';
import { directionBudget } from '#core/budget/directionBudget';
import { carriersOf } from '#core/budget/configuration';
import { diagnose } from '#core/diagnose/diagnosis';
import type { Cause } from '#core/diagnose/causes/keys';
import type { DiagnosisInput } from '#core/diagnose/question';
import { windLook } from '#core/firstlook/wind';
import { obstructionLoss } from '#core/path/obstructionLoss';
import { pathClearance } from '#core/path/pathClearance';
import { bearingDifferenceDeg, wrapBearingDeg } from '#core/units/angle';
import { dual } from './feedFollow';
import { catalogue, configured, hopInput, part, soundPlan } from './planFixture';

describe('radiated power', () => {
	it('is what the sender puts out less its own branching and feeder, plus the gain of its dish', () => {
		const coupling = part(catalogue.couplings, 'CU-26');
		const standby = hopInput(
			{ configuration: configured('hot-standby') },
			{ A: { coupling }, B: { coupling } }
		);
		const plan = soundPlan(standby);
		const { transmitPowerDbm } = standby.ends.B;
		const [main] = plan.carriers;
		const { eirpDbm, transmitGainDbi, transmitFeederLossDb, transmitBranchLossDb } =
			main!.received.A;
		const armDb = coupling.arms[0]!.lossDb;
		expect(armDb).toBeGreaterThan(0.5);
		expect(transmitBranchLossDb).toBe(armDb);
		// By hand: power − arm − feeder + gain.
		expect(eirpDbm).toBeCloseTo(
			transmitPowerDbm - armDb - transmitFeederLossDb + transmitGainDbi,
			9
		);
		expect(eirpDbm).toBeLessThan(transmitPowerDbm + transmitGainDbi);
	});
});

describe('the crossed level', () => {
	it('lies below the plan by the poorer discrimination of the two dishes, whichever end it is', () => {
		for (const poor of ['A', 'B'] as const) {
			const input = structuredClone(dual);
			for (const end of ['A', 'B'] as const) {
				const db = end === poor ? 27 : 36;
				input.ends[end].dish = {
					...input.ends[end].dish,
					bands: input.ends[end].dish.bands.map((band) => ({
						...band,
						crossPolarDiscriminationDb: db
					}))
				};
			}
			const [carrier] = carriersOf(input);
			for (const end of ['A', 'B'] as const) {
				const budget = directionBudget(input, carrier!, 12, end);
				expect(budget.plannedLevelDbm - budget.crossedDbm).toBeCloseTo(27, 9);
			}
		}
	});
});

describe('an outage in the total', () => {
	it('of rain is the worse of attenuation and discrimination, and clear air comes on top', () => {
		const { availability } = soundPlan(dual);
		for (const row of availability.directions) {
			const rain = Math.max(row.rainPercent, row.rainCrossPolarPercent ?? 0);
			const clear = row.multipathPercent + (row.selectivePercent ?? 0);
			const sum = clear + rain + (row.clearAirCrossPolarPercent ?? 0);
			expect(row.totalPercent).toBeCloseTo(Math.min(100, sum), 9);
		}
		expect(availability.directions.some((row) => (row.rainCrossPolarPercent ?? 0) > 0)).toBe(true);
		expect(availability.directions.some((row) => (row.clearAirCrossPolarPercent ?? 0) > 0)).toBe(
			true
		);
	});
});

describe('wind on a dish', () => {
	it('twists it about the pipe with an arm of 0.45 of its diameter', () => {
		// ½·1.225·30² = 551.25 Pa; ·1.3·π·0.36 = 810.5 N on 1.2 m; ·0.54 m = 437.7 N·m.
		const look = windLook(30, 1.2);
		expect(look.pressurePa).toBeCloseTo(551.25, 2);
		expect(look.forceN).toBeCloseTo(810.5, 0);
		expect(look.twistNm).toBeCloseTo(437.7, 0);
	});
});

describe('two hills of a path', () => {
	/** 20 km at 7 GHz over sea level, antennas at 60 and 20 m, hills as told. */
	const loss = (hills: [km: number, m: number][], heights = { A: 60, B: 20 }): number => {
		const distancesM = Array.from({ length: 201 }, (_, i) => i * 100);
		const groundsAmslM = distancesM.map(
			(distance) => hills.find(([km]) => Math.abs(km * 1000 - distance) < 50)?.[1] ?? 0
		);
		const clearance = pathClearance({
			profile: {
				source: 'made up',
				from: { latitudeDeg: 0, longitudeDeg: 0 },
				to: { latitudeDeg: 0.18, longitudeDeg: 0 },
				distancesM,
				groundsAmslM
			},
			obstacles: [],
			antennaAmslM: heights,
			frequencyGhz: 7,
			kFactor: 4 / 3
		});
		return obstructionLoss(clearance, 7).lossDb;
	};

	it('cost the same seen from either end', () => {
		const there = loss([
			[6, 90],
			[13, 70]
		]);
		const back = loss(
			[
				[14, 90],
				[7, 70]
			],
			{ A: 20, B: 60 }
		);
		expect(there).toBeCloseTo(back, 6);
		expect(there).toBeGreaterThan(15);
	});

	it('cost more, the higher the second is', () => {
		const at = (m: number): number =>
			loss([
				[6, 90],
				[13, m]
			]);
		expect(at(100)).toBeGreaterThan(at(80));
		expect(at(80)).toBeGreaterThan(at(65));
	});
});

describe('bearings', () => {
	it.each([
		[0, 0],
		[360, 0],
		[-0, 0],
		[720, 0],
		[-1e-15, 0],
		[-90, 270],
		[359.5, 359.5],
		[-180, 180]
	])('%d° is %d°', (bearing, wrapped) => {
		expect(wrapBearingDeg(bearing)).toBe(wrapped);
		expect(Object.is(wrapBearingDeg(bearing), -0)).toBe(false);
	});

	it.each([
		[0, 180, 180],
		[180, 0, 180],
		[0, 180.5, -179.5],
		[359, 1, 2],
		[1, 359, -2],
		[10, 10, 0],
		[0, 179.9, 179.9]
	])('from %d° to %d° is a turn of %d°', (from, to, turn) => {
		expect(bearingDifferenceDeg(from, to)).toBeCloseTo(turn, 9);
	});
});

describe('causes together', () => {
	const input = (over: Partial<DiagnosisInput> = {}): DiagnosisInput => ({
		plannedDbm: { A: -45, B: -45 },
		measuredDbm: { A: -45, B: -45 },
		crossPolarDbm: { A: null, B: null },
		crossedCablesLossDb: { A: 0, B: 0 },
		toleranceDb: 2,
		floorDbm: { A: -90, B: -90 },
		firstSideLobeDb: { A: 18, B: 18 },
		crossPolarDiscriminationDb: 32,
		armDifferenceDb: 0,
		dishSizeStepDb: 3.5,
		maxInputDbm: { A: -20, B: -20 },
		observations: {},
		...over
	});
	const share = (of: DiagnosisInput, cause: Cause): number =>
		diagnose(of).causes.find((one) => one.cause === cause)?.probability ?? 0;

	it('that were set right are hardly there still: about one in sixteen of before', () => {
		const short = input({ measuredDbm: { A: -52, B: -52 } });
		const before = share(short, 'film-left-in');
		const after = share({ ...short, observations: { setRight: ['film-left-in'] } }, 'film-left-in');
		expect(before).toBeGreaterThan(0.05);
		expect(after / before).toBeLessThan(0.12);
		expect(after).toBeGreaterThan(0);
	});

	it('are weighed in pairs that can be told apart: two ends on side lobes are one cause of its own', () => {
		// A films loss at both and too little power at A: neither explains both levels alone.
		const two = input({
			measuredDbm: { A: -52, B: -61 },
			observations: { filmsCounted: false, powerAsPlanned: { A: false } }
		});
		const ranked = diagnose(two).causes.slice(0, 2);
		expect(ranked.map(({ cause }) => cause).sort()).toEqual(['film-left-in', 'power-low-a']);
		expect(ranked.every(({ probability }) => probability > 0.8)).toBe(true);
	});

	it('make the crossed feeds sure when the other polarization is the stronger one', () => {
		const short = input({ measuredDbm: { A: -77, B: -77 } });
		const blind = share(short, 'crossed-polarization');
		const seen = share({ ...short, crossPolarDbm: { A: -46, B: -46 } }, 'crossed-polarization');
		const cleared = share(
			{ ...short, crossPolarDbm: { A: -106, B: -106 } },
			'crossed-polarization'
		);
		expect(seen).toBeGreaterThan(0.9);
		expect(seen).toBeGreaterThan(blind);
		expect(cleared).toBeLessThan(0.05);
	});
});
