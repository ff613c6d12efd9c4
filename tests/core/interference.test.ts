import { describe, expect, it } from 'vitest';
import { offAxisLossDb } from '#core/antenna/envelope';
import type { HopPlanInput } from '#core/budget/planInput';
import { ENDS } from '#core/ends';
import {
	contributionOf,
	interferenceAt,
	overlapShare,
	sumAt,
	withTerrain
} from '#core/interference/interference';
import { quieterChoices } from '#core/interference/quieter';
import { stationsOf, type Station } from '#core/interference/stations';
import { freeSpaceLossDb } from '#core/propagation/freeSpace';
import { thresholdRiseDb } from '#core/radio/thresholdRise';
import { itemAt, present } from '#core/units/lists';
import { catalogue, configured, hopInput, part, soundPlan } from './planFixture';

/** The fixture's hop, and another of the same kind some km north of it that runs the same way. */
const own = hopInput();
function beside(
	northDeg: number,
	change: Partial<HopPlanInput> = {},
	swapped = false
): HopPlanInput {
	const { A, B } = hopInput(change).ends;
	const moved = <T extends typeof A>(end: T): T => ({
		...end,
		position: { ...end.position, latitudeDeg: end.position.latitudeDeg + northDeg }
	});
	const [west, east] = [moved(A), moved(B)];
	return {
		...hopInput(change),
		hopName: 'Other hop',
		ends: swapped
			? {
					A: { ...west, transmitFrequencyGhz: east.transmitFrequencyGhz },
					B: { ...east, transmitFrequencyGhz: west.transmitFrequencyGhz }
				}
			: { A: west, B: east }
	};
}
const mine = stationsOf('own', own);
const at = (stations: readonly Station[], end: 'A' | 'B', carrierNumber = 1): Station =>
	present(
		stations.find((s) => s.end === end && s.carrierNumber === carrierNumber),
		'station'
	);

describe('the stations of a hop', () => {
	it('send and hear what its plan says', () => {
		const plan = soundPlan(own);
		for (const end of ENDS) {
			const station = at(mine, end);
			const heard = plan.received[end];
			expect(station.hears.frequencyGhz).toBe(heard.frequencyGhz);
			expect(station.hears.floorDbm).toBe(heard.floorDbm);
			expect(station.hears.levelDbm).toBeCloseTo(heard.operatingLevelDbm, 6);
			expect(station.azimuthTrueDeg).toBeCloseTo(plan.pointing[end].azimuthTrueDeg, 9);
			expect(station.sends?.eirpDbm).toBe(plan.received[end === 'A' ? 'B' : 'A'].eirpDbm);
		}
	});

	it('are two for each carrier with traffic; a diversity dish only hears, a standby unit is the main one', () => {
		const second = { secondDish: own.ends.A.dish, secondDishOffsetM: -8 };
		const diverse = stationsOf(
			'd',
			hopInput({ configuration: configured('space-diversity') }, { A: second, B: second })
		);
		expect(diverse.map(({ carrierNumber, sends }) => [carrierNumber, sends === null])).toEqual([
			...[
				[1, false],
				[1, false],
				[2, true],
				[2, true]
			]
		]);
		expect(at(diverse, 'A', 2).antennaAmslM).toBe(at(diverse, 'A').antennaAmslM - 8);
		const coupling = part(catalogue.couplings, 'OT-18');
		const dual = stationsOf(
			'x',
			hopInput(
				{ configuration: configured('dual-polarized') },
				{ A: { coupling }, B: { coupling } }
			)
		);
		expect(dual.map(({ polarization }) => polarization)).toEqual([
			...['vertical', 'vertical', 'horizontal', 'horizontal']
		]);
	});
});

describe('what one sender brings', () => {
	const stranger = stationsOf('other', beside(0.02));

	it('is its power over free space, less what both dishes keep off', () => {
		const sender = at(stranger, 'B');
		const ear = at(mine, 'A');
		const found = present(contributionOf(sender, ear), 'contribution');
		// Origin: by hand, the stranger's B looks west as own B does, some 2 km to the north of it.
		const expected =
			present(sender.sends, 'sends').eirpDbm -
			offAxisLossDb(present(sender.sends, 'sends').gainDbi, 0.6, 25.22, found.offAxisThereDeg) -
			freeSpaceLossDb(25.22, found.distanceKm) +
			ear.hears.gainDbi -
			offAxisLossDb(ear.hears.gainDbi, 0.6, 25.22, found.offAxisHereDeg) -
			ear.hears.lossDb;
		expect(found.levelDbm).toBeCloseTo(expected, 9);
		expect(found).toMatchObject({ channels: 'same', crossed: false, terrainDb: null });
		expect(found.distanceKm).toBeGreaterThan(9);
		expect(found.offAxisHereDeg).toBeGreaterThan(5);
	});

	it('is straight on the axis what its own far end hears, less what another place changes', () => {
		// A stranger that stands where own B stands but for 200 m further along, and looks the same way.
		const further = { ...at(mine, 'B'), hopId: 'other' };
		const behind = { ...further, position: { latitudeDeg: -46.24105, longitudeDeg: -118.283 } };
		const found = present(contributionOf(behind, at(mine, 'A')), 'contribution');
		expect(found.offAxisHereDeg).toBeLessThan(0.1);
		const heard = at(mine, 'A').hears.levelDbm;
		expect(Math.abs(found.levelDbm - heard)).toBeLessThan(2.5);
		expect(sumAt(at(mine, 'A'), [found]).carrierToInterferenceDb).toBeCloseTo(
			heard - found.levelDbm,
			9
		);
	});

	it('is nothing of its own hop, of its own site, or on a channel that does not touch', () => {
		const ear = at(mine, 'A');
		expect(contributionOf(at(mine, 'B'), ear)).toBeNull();
		expect(
			contributionOf(
				{ ...at(mine, 'A'), hopId: 'other' },
				{ ...ear, hears: { ...ear.hears, frequencyGhz: 26.2 } }
			)
		).toBeNull();
		// One above the other on one mast, however high it is.
		const above = { ...at(mine, 'A'), hopId: 'other', antennaAmslM: 500 };
		expect(contributionOf({ ...above, sends: at(mine, 'B').sends }, ear)).toBeNull();
		const apart = stationsOf('other', beside(0.02, {}, true));
		expect(interferenceAt([ear], apart)[0]?.contributions).toEqual([]);
	});

	it('crossed is weaker by what both dishes turn over on their axes, and by nothing far off them', () => {
		const sender = {
			...at(mine, 'B'),
			hopId: 'other',
			position: { latitudeDeg: -46.24105, longitudeDeg: -118.283 }
		};
		const ear = at(mine, 'A');
		const same = present(contributionOf(sender, ear), 'same');
		const crossed = present(
			contributionOf({ ...sender, polarization: 'horizontal' }, ear),
			'crossed'
		);
		// Origin: two equal leaks add as voltages, 6 dB less than one.
		expect(same.levelDbm - crossed.levelDbm).toBeCloseTo(ear.crossPolarDb - 6.02, 1);
		const off = at(stranger, 'B');
		const [p, q] = [
			contributionOf(off, ear),
			contributionOf({ ...off, polarization: 'horizontal' }, ear)
		];
		expect(p?.levelDbm).toBe(q?.levelDbm);
	});

	it('counts by the share of its power in the channel, and beside it by what the receiver states', () => {
		expect(overlapShare(26_200, 56, 26_200, 28)).toBeCloseTo(0.5, 12);
		expect(overlapShare(26_200, 28, 26_200, 56)).toBe(1);
		expect(overlapShare(26_200, 28, 26_228, 28)).toBe(0);
		expect(overlapShare(26_200, 28, 26_214, 28)).toBeCloseTo(0.5, 9);
		const ear = at(mine, 'A');
		const sender = at(stranger, 'B');
		const shifted = (mhz: number): Station => ({
			...sender,
			sends: { ...present(sender.sends, 'sends'), frequencyGhz: 25.22 + mhz / 1000 }
		});
		const stating = (
			adjacentChannelDb: number | null,
			secondChannelDb: number | null
		): Station => ({
			...ear,
			hears: { ...ear.hears, floorDbm: -140, adjacentChannelDb, secondChannelDb }
		});
		expect(contributionOf(shifted(28), stating(null, null))).toBeNull();
		const next = present(contributionOf(shifted(28), stating(25, 45)), 'next');
		const co = present(contributionOf(sender, stating(25, 45)), 'co');
		expect([next.channels, Math.round(co.levelDbm - next.levelDbm)]).toEqual(['adjacent', 25]);
		expect(contributionOf(shifted(56), stating(25, 45))?.channels).toBe('second');
		expect(contributionOf(shifted(84), stating(25, 45))).toBeNull();
	});
});

describe('what a receiver hears of all', () => {
	const senders = [0.008, -0.012].flatMap((north, i) => stationsOf(`other ${i}`, beside(north)));

	it('is the sum, and raises every threshold by 10·log10(1 + I/N)', () => {
		const [heard] = interferenceAt([at(mine, 'A')], senders);
		const levels = heard?.contributions.map(({ levelDbm }) => levelDbm) ?? [];
		expect(levels.length).toBeGreaterThan(1);
		expect(levels).toEqual(levels.toSorted((p, q) => q - p));
		const sum = 10 * Math.log10(levels.reduce((total, dbm) => total + 10 ** (dbm / 10), 0));
		expect(heard?.levelDbm).toBeCloseTo(sum, 9);
		// Equal to the noise: 3 dB. Ten dB below it: 0.41 dB.
		expect(thresholdRiseDb(-90, -90)).toBeCloseTo(3.0103, 4);
		expect(thresholdRiseDb(-100, -90)).toBeCloseTo(0.4139, 4);
		expect(thresholdRiseDb(-Infinity, -90)).toBe(0);
	});

	it('is less by what the ground takes', () => {
		const ear = at(mine, 'A');
		const [heard] = interferenceAt([ear], senders);
		const hidden = (heard?.contributions ?? []).map((one) => withTerrain(one, 30));
		expect(sumAt(ear, hidden).levelDbm).toBeCloseTo((heard?.levelDbm ?? 0) - 30, 9);
		expect(hidden[0]?.terrainDb).toBe(30);
	});

	it('typed into the plan takes from every margin of that end, and from nothing else', () => {
		const quiet = soundPlan(own);
		const floor = quiet.received.A.floorDbm;
		const loud = soundPlan(hopInput({}, { A: { interferenceDbm: floor } }));
		expect(loud.received.A.degradationDb).toBeCloseTo(3.0103, 4);
		loud.received.A.margins.forEach((margin, i) => {
			const before = itemAt(quiet.received.A.margins, i);
			expect(before.marginDb - margin.marginDb).toBeCloseTo(3.0103, 4);
			expect(margin.thresholdDbm - before.thresholdDbm).toBeCloseTo(3.0103, 4);
		});
		expect(loud.received.B).toEqual(quiet.received.B);
		expect(loud.received.A.plannedLevelDbm).toBe(quiet.received.A.plannedLevelDbm);
		expect(loud.availability.achievedPercent).toBeLessThan(quiet.availability.achievedPercent);
	});
});

describe('a quieter choice', () => {
	const { subBands } = own.ends.A.radio;

	it('lies within the sub-band, and is told by what is left here and there', () => {
		const others = stationsOf('other', beside(0.004));
		const [now] = [...interferenceAt(mine, others)].sort(
			(p, q) => q.degradationDb - p.degradationDb
		);
		expect(now?.degradationDb).toBeGreaterThan(3);
		const choices = quieterChoices(mine, others, subBands);
		expect(choices.length).toBeGreaterThan(0);
		for (const { shiftMhz, hereDb, thereDb } of choices) {
			expect(Math.max(hereDb, thereDb)).toBeLessThan(now?.degradationDb ?? 0);
			expect(Math.abs(shiftMhz % 28)).toBeLessThan(1e-9);
			const unit = present(
				subBands.find(({ index }) => index === 2),
				'sub-band'
			);
			const high = 26.2 + shiftMhz / 1000;
			expect(high - 0.014).toBeGreaterThanOrEqual(unit.highGhz[0] - 1e-9);
			expect(high + 0.014).toBeLessThanOrEqual(unit.highGhz[1] + 1e-9);
		}
		expect(itemAt(choices, 0)).toMatchObject({ hereDb: 0, thereDb: 0 });
	});

	it('is none where nobody disturbs', () => {
		expect(quieterChoices(mine, [], subBands)).toEqual([]);
		expect(quieterChoices(mine, stationsOf('other', beside(0.9)), subBands)).toEqual([]);
	});
});
