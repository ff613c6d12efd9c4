import { describe, expect, it } from 'vitest';
import { doubtsAbout, thresholdDbm } from '#core/catalogue/checkPart';
import { draftOfPart, emptyPartDraft, partOfDraft } from '#core/catalogue/partDraft';
import { newerParts } from '#core/budget/newerParts';
import {
	bandOf,
	PART_KIND_NAMES,
	PART_KINDS,
	type AnyPart,
	type PartKind,
	type PartOf
} from '#core/catalogue/partKinds';
import { planHop } from '#core/budget/hopPlan';
import { comparePlans } from '#core/review/comparePlans';
import { partsList } from '#core/tower/partsList';
import { catalogue, hopInput, part, soundPlan } from './planFixture';

const partsOf = (kind: PartKind): readonly AnyPart[] => catalogue[PART_KINDS[kind].list];
const first = <K extends PartKind>(kind: K): PartOf<K> =>
	structuredClone(partsOf(kind)[0]) as PartOf<K>;

describe('a part as a form', () => {
	it.each(PART_KIND_NAMES)('of kind %s comes back from it as it went in', (kind) => {
		for (const one of partsOf(kind)) {
			expect(partOfDraft(kind, draftOfPart(kind, one))).toEqual(one);
		}
	});

	it('brings back the groups of a radio that no radio of the demo has', () => {
		const radio = {
			...first('radio'),
			selectivity: { adjacentChannelDb: 33, secondChannelDb: 52 }
		};
		expect(partOfDraft('radio', draftOfPart('radio', radio))).toEqual(radio);
	});

	it('keeps text that is no number, takes a comma and a true minus, and leaves out an absent group', () => {
		const draft = draftOfPart('cable', first('cable'));
		const typed = partOfDraft('cable', {
			...draft,
			ohmPerKm: '13,3',
			outerMm: 'thick',
			kgPerKm: '−4',
			installation: null
		});
		expect(typed).toMatchObject({ ohmPerKm: 13.3, outerMm: 'thick', kgPerKm: -4 });
		expect(typed).not.toHaveProperty('installation');
	});

	it('has the waveguide only of a waveguide, and null where a part has no setting', () => {
		const feeder = draftOfPart('feeder', part(catalogue.feeders, 'WE-07'));
		expect(partOfDraft('feeder', feeder)).toHaveProperty('waveguide');
		expect(partOfDraft('feeder', { ...feeder, kind: 'coaxial' })).not.toHaveProperty('waveguide');
		const radio = draftOfPart('radio', first('radio'));
		const installation = radio.installation as Record<string, never>;
		const bare = { ...radio, installation: { ...installation, polarization: null } };
		expect(partOfDraft('radio', bare)).toMatchObject({ installation: { polarization: null } });
	});

	it('begins with the rows it needs at least', () => {
		expect(emptyPartDraft('coupling').arms).toHaveLength(2);
		expect(emptyPartDraft('mount').fasteners).toHaveLength(1);
		expect(emptyPartDraft('radio').installation).toBeNull();
	});
});

describe('doubts about a part', () => {
	const doubted = (kind: PartKind, made: AnyPart): string[] =>
		doubtsAbout(kind, made).map(({ field }) => field);

	it.each(PART_KIND_NAMES)('are none about the %s of the demo', (kind) => {
		for (const one of partsOf(kind)) expect([one.code, doubted(kind, one)]).toEqual([one.code, []]);
	});

	it.each(['hub-unit', 'terminal'] as const)('are none about a %s not yet typed', (kind) => {
		const nothing = partOfDraft(kind, emptyPartDraft(kind)) as unknown as AnyPart;
		expect(doubted(kind, nothing)).toEqual([]);
	});

	it('weigh gain and beam of a dish against diameter and frequency', () => {
		const dish = first('dish');
		const band = dish.bands[0]!;
		// Twice the power of a perfect aperture, worked out by hand: 3 dB over η = 1.
		const perfect = 20 * Math.log10((Math.PI * dish.diameterM * band.atGhz * 1e9) / 299_792_458);
		const made = { ...dish, bands: [{ ...band, gainDbi: perfect + 3 }] };
		expect(doubted('dish', made)).toEqual(['bands.0.gainDbi']);
		const wide = { ...dish, bands: [{ ...band, beamwidthDeg: 2 * band.beamwidthDeg }] };
		expect(doubted('dish', wide)).toEqual(['bands.0.beamwidthDeg']);
		const aside = { ...dish, bands: [{ ...band, atGhz: band.toGhz + 0.2 }] };
		expect(doubted('dish', aside)).toContain('bands.0.atGhz');
	});

	it('find a power that rises with the modulation, and modulations out of order', () => {
		const radio = first('radio');
		const [low, high] = radio.modulations as [
			PartOf<'radio'>['modulations'][number],
			PartOf<'radio'>['modulations'][number]
		];
		const rises = {
			...radio,
			modulations: [low, { ...high, maxPowerDbm: low.maxPowerDbm + 1 }]
		};
		expect(doubted('radio', rises)).toContain('modulations.1.maxPowerDbm');
		expect(doubted('radio', { ...radio, modulations: [high, low] })).toContain(
			'modulations.1.requiredSnrDb'
		);
	});

	it('weigh gain, scan loss and mountings of a unit that steers its beam', () => {
		const unit = first('hub-unit');
		const found = (more: Partial<typeof unit>): string[] =>
			doubted('hub-unit', { ...unit, ...more });
		// Twice what 41 253 square degrees leave to its beam, and a sixth of what a real one has.
		const perfect = 10 * Math.log10(41_253 / unit.beamwidthDeg ** 2);
		expect(found({ gainDbi: perfect + 3 })).toEqual(['gainDbi']);
		expect(found({ gainDbi: perfect - 8 })).toEqual(['gainDbi']);
		const scan = (loss: [number, number][]): typeof unit.scan => ({ ...unit.scan, loss });
		const edge = Math.max(unit.scan.azimuthDeg, unit.scan.elevationDeg);
		expect(
			found({
				scan: scan([
					[2, 0],
					[edge, 3]
				])
			})
		).toEqual(['scan.loss']);
		expect(
			found({
				scan: scan([
					[0, 0],
					[10, 2],
					[edge, 1]
				])
			})
		).toEqual(['scan.loss']);
		expect(
			found({
				scan: scan([
					[0, 0],
					[edge - 5, 3]
				])
			})
		).toEqual(['scan.loss']);
		const [mounting] = unit.mountings;
		const mounted = (more: Partial<typeof mounting>): string[] =>
			found({ mountings: [{ ...mounting!, ...more }] });
		expect(mounted({ lowestTiltDeg: 5, highestTiltDeg: -5 })).toEqual([
			'mountings.0.lowestTiltDeg'
		]);
		expect(mounted({ how: 'pole', poleToMm: 0 })).toEqual(['mountings.0.poleToMm']);
		const [low, high] = unit.modulations;
		expect(found({ modulations: [high!, low!] })).toContain('modulations.1.requiredSnrDb');
	});

	it('find a receiver destroyed below its maximum, halves that overlap, a name that is none', () => {
		const radio = first('radio');
		expect(doubted('radio', { ...radio, damageInputDbm: radio.maxInputDbm - 1 })).toContain(
			'damageInputDbm'
		);
		const [band] = radio.subBands;
		const overlap = { ...band!, highGhz: band!.lowGhz };
		expect(doubted('radio', { ...radio, subBands: [overlap] })).toContain('subBands.0.highGhz');
		const state = { ...radio.alignmentState, modulation: 'NONE' };
		expect(doubted('radio', { ...radio, alignmentState: state })).toEqual([
			'alignmentState.modulation'
		]);
	});

	it('weigh thread, travel and torque of a mount', () => {
		const mount = first('mount');
		const coarse = { ...mount.azimuth, threadPitchMm: 10, armMm: 20 };
		expect(doubted('mount', { ...mount, azimuth: coarse })).toContain('azimuth.threadPitchMm');
		const loose = mount.fasteners.map((fastener) => ({ ...fastener, torqueNm: 480 }));
		expect(doubted('mount', { ...mount, fasteners: loose })).toContain('fasteners.0.torqueNm');
		const one = mount.fasteners.filter(({ locks }) => locks === 'tilt');
		expect(doubted('mount', { ...mount, fasteners: one })).toContain('fasteners');
	});

	it('let no coupler give more than it gets, and no copper be better than copper', () => {
		const coupler = part(catalogue.couplings, 'CU-07');
		const gift = { ...coupler, arms: coupler.arms.map((arm) => ({ ...arm, lossDb: 1 })) };
		expect(doubted('coupling', gift)).toContain('arms.0.lossDb');
		const cable = first('cable');
		expect(doubted('cable', { ...cable, ohmPerKm: cable.ohmPerKm / 2 })).toEqual(['ohmPerKm']);
	});

	it('of a waveguide compare its wall with its frequencies', () => {
		const guide = part(catalogue.feeders, 'WE-07');
		const narrow = { ...guide.waveguide!, broadWallMm: guide.waveguide!.broadWallMm / 2 };
		expect(doubted('feeder', { ...guide, waveguide: narrow })).toContain('rangeGhz');
	});
});

describe('the threshold of a radio', () => {
	it('is noise in the channel, noise figure and the ratio needed', () => {
		// kTB at 290 K in 28 MHz: −174 + 74.47 = −99.50; with 6 dB and 20 dB: −73.5 dBm.
		expect(thresholdDbm({ noiseFigureDb: 6 }, { requiredSnrDb: 20 }, 28)).toBeCloseTo(-73.5, 1);
	});
});

describe('versions of parts', () => {
	const version = <T extends { code: string }>(list: readonly T[], code: string, to: number): T[] =>
		list.map((one) => (one.code === code ? { ...one, version: to } : one));

	it('tell what a plan froze from what the catalogue has now', () => {
		const input = hopInput();
		const code = input.ends.A.radio.code;
		const now = { ...catalogue, radios: version(catalogue.radios, code, 3) };
		expect(newerParts(input, catalogue)).toEqual([]);
		const newer = newerParts(input, now);
		expect(newer.map(({ end, version: to }) => [end, to])).toEqual([
			['A', 3],
			['B', 3]
		]);
		expect(newer[0]).toMatchObject({ kind: 'radio', code, frozenVersion: null, retired: false });
		const frozen = structuredClone(input);
		for (const end of ['A', 'B'] as const) {
			frozen.ends[end].radio = { ...frozen.ends[end].radio, version: 3 };
		}
		expect(newerParts(frozen, now)).toEqual([]);
	});

	it('name a part that is no longer in use', () => {
		const input = hopInput();
		const { code } = input.ends.A.mount;
		const mounts = catalogue.mounts.map((one) =>
			one.code === code ? { ...one, retired: true } : one
		);
		expect(newerParts(input, { ...catalogue, mounts })[0]).toMatchObject({ code, retired: true });
	});

	it('are no change where a plan is older than them, and one where both have them', () => {
		const before = hopInput();
		const plan = soundPlan(before);
		const withVersion = (to: number): typeof before => {
			const after = structuredClone(before);
			after.ends.A.radio = { ...after.ends.A.radio, version: to };
			return after;
		};
		const changed = (a: typeof before, b: typeof before): object[] =>
			comparePlans({ input: a, plan }, { input: b, plan }).changed;
		expect(changed(before, withVersion(1))).toEqual([]);
		expect(changed(withVersion(1), withVersion(1))).toEqual([]);
		expect(changed(withVersion(1), withVersion(2))).toEqual([
			{
				field: 'ends.A.radio',
				words: 'A: Radio',
				before: before.ends.A.radio.code,
				after: `${before.ends.A.radio.code}, version 2`
			}
		]);
	});
});

describe('the band of a part', () => {
	it('is that of all its bands together, or null', () => {
		const dish = first('dish');
		const two = {
			...dish,
			bands: [
				{ ...dish.bands[0]!, fromGhz: 17, toGhz: 20 },
				{ ...dish.bands[0]!, fromGhz: 7, toGhz: 8 }
			]
		};
		expect(bandOf('dish', two)).toEqual([7, 20]);
		expect(bandOf('mount', first('mount'))).toBeNull();
	});
});

describe('a power source and an indoor unit of a plan', () => {
	const source = (code: string): PartOf<'power-source'> => part(catalogue.powerSources, code);
	const planned = (over: object): string[] => {
		const result = planHop(hopInput({}, { A: over }));
		const findings = result.kind === 'plan' ? result.plan.findings : result.findings;
		return findings.map(({ code }) => code);
	};

	it('feed the end at their own voltage, and stand on its parts list', () => {
		const cable = part(catalogue.cables, 'DC-25');
		const at = (outputV: number): number => {
			const input = hopInput(
				{},
				{ A: { cable, cableLengthM: 60, powerSource: { ...source('PS-48'), outputV } } }
			);
			const { supply } = soundPlan(input).firstLook.A;
			return supply?.kind === 'fed' ? supply.voltageAtUnitV : 0;
		};
		expect(at(56) - at(50)).toBeGreaterThan(5.9);
		const codes = partsList(hopInput({}, { A: { powerSource: source('PS-48') } }), 'A').map(
			({ code }) => code
		);
		expect(codes).toContain('PS-48');
	});

	it('are found out when kind, power, ports or voltage do not go together', () => {
		expect(planned({ powerSource: source('PS-48') })).not.toContain('supply-kind');
		expect(planned({ powerSource: source('PE-P') })).toContain('supply-kind');
		expect(planned({ powerSource: { ...source('PS-48'), powerW: 5 } })).toContain('supply-power');
		const unit = part(catalogue.indoorUnits, 'IU-2');
		expect(planned({ indoorUnit: unit })).not.toContain('indoor-ports');
		expect(planned({ indoorUnit: { ...unit, radioPorts: 0 } })).toContain('indoor-ports');
		const weak = { ...source('PS-48'), outputV: 24 };
		expect(planned({ indoorUnit: unit, powerSource: weak })).toContain('indoor-supply');
	});
});

describe('how what steers its beam is put up, of every part there is', () => {
	const steered = [...catalogue.hubUnits, ...catalogue.terminals];

	it.each(steered.map((one) => [one.code, one] as const))(
		'%s',
		(_, { installation, mountings }) => {
			const { display, glands, power, supplyMinV, lamps, contents } = installation!;
			// Bars come one by one as it gets stronger; an insert begins where the one before it ends.
			for (const [lower, higher] of display
				.slice(1)
				.map((step, i) => [display[i]!, step] as const)) {
				expect(higher.fromDbm).toBeGreaterThan(lower.fromDbm);
			}
			for (const { fromMm, toMm } of glands) expect(toMm).toBeGreaterThan(fromMm);
			expect(supplyMinV).toBeLessThan(power.maxV);
			expect(lamps.map(({ state }) => state)).toEqual(
				expect.arrayContaining(['starting', 'searching', 'linked'])
			);
			expect(new Set(lamps.map(({ shows }) => shows)).size).toBe(lamps.length);
			expect(contents.length).toBeGreaterThan(1);
			for (const { how, poleFromMm, poleToMm } of mountings) {
				expect(how === 'wall' || poleToMm > poleFromMm).toBe(true);
			}
		}
	);
});
