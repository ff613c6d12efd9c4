import { describe, expect, it } from 'vitest';
import { directGeodesic } from '#core/geodesy/geodesic';
import { fresnelRadiusM } from '#core/path/pathClearance';
import type { Obstacle } from '#core/path/pathClearance';
import { possibleLink, type LinkAnswer, type LinkQuestion } from '#core/smalllink/possibleLink';
import { isSmallLink } from '#core/bringup/stations';
import { resolveHub } from '#core/hub/hubDraft';
import { hubPathsOf, planHub } from '#core/hub/hubPlan';
import { linkDraft } from '#core/smalllink/linkDraft';
import { catalogue, part } from './planFixture';
import { flatProfile, QUAY } from './hubFixture';

/** Two roofs as far apart on flat ground at 4 m, with the dish of 5.8 GHz at both. */
function asked(distanceM: number, more: Partial<LinkQuestion> = {}): LinkQuestion {
	const far = directGeodesic(QUAY, 45, distanceM);
	const at = { groundAmslM: 4, heightAglM: 12 };
	return {
		places: {
			A: { latitudeDeg: QUAY.latitudeDeg, longitudeDeg: QUAY.longitudeDeg, ...at },
			B: { ...far, ...at }
		},
		part: part(catalogue.terminals, 'SL-58-D'),
		frequencyGhz: 5.8,
		channelWidthMhz: 20,
		eirpLimitDbm: 36,
		polarization: 'vertical',
		rainRateMmH: 30,
		targetPercent: 99.9,
		reserveDb: 10,
		profile: flatProfile(QUAY, far),
		obstacles: [],
		treesM: 0,
		...more
	};
}
const codes = ({ doubts }: LinkAnswer): string[] => doubts.map(({ code }) => code);
const thing = (distanceM: number, heightM: number, kind: Obstacle['kind']): Obstacle => ({
	...{ name: 'Barn', kind, distanceKm: distanceM / 1000, lengthM: 10, heightM }
});

describe('whether a small link is possible', () => {
	it('is a plain yes in the clear, with the level that free space leaves', () => {
		const answer = possibleLink(asked(800));
		expect([answer.verdict, answer.doubts]).toEqual(['yes', []]);
		// By hand: 92.45 + 20·log10(5.8) + 20·log10(0.8) = 105.8 dB; 36 dBm and 23 dBi leave −46.8 dBm.
		expect(answer.margins[0]!.levelDbm).toBeCloseTo(-46.8, 1);
		expect(answer.bearingDeg.A).toBeCloseTo(45, 3);
		expect(answer.rateMbitS).toBe(answer.used!.modulation.mbitSPerMhz * 20);
		expect(answer.needed).toBeNull();
	});

	it('is a no where something stands in the line: where, how far in, and how high one must go', () => {
		const barn = thing(300, 20, 'building');
		const answer = possibleLink(asked(800, { obstacles: [barn] }));
		expect(answer.verdict).toBe('no');
		const [doubt] = answer.doubts;
		expect(doubt).toMatchObject({ code: 'in-the-line', what: 'Barn' });
		// The line lies 12 m above the ground, the earth bulges by millimetres: 8 m are missing.
		expect(doubt).toHaveProperty('intoM', expect.closeTo(8, 1));
		// As high as that alone, the rule holds.
		const higher = asked(800, { obstacles: [barn] });
		const needed = answer.needed!.aloneAglM.A;
		higher.places.A.heightAglM = needed + 0.05;
		expect(possibleLink(higher).check!.holds).toBe(true);
		higher.places.A.heightAglM = needed - 0.2;
		expect(possibleLink(higher).check!.holds).toBe(false);
		const both = asked(800, { obstacles: [barn] });
		for (const by of [0.01, -0.1]) {
			for (const end of ['A', 'B'] as const) {
				both.places[end].heightAglM = 12 + answer.needed!.bothHigherM + by;
			}
			expect(possibleLink(both).check!.holds).toBe(by > 0);
		}
	});

	it('is a perhaps where only the zone about the line is touched', () => {
		const f1 = fresnelRadiusM(400, 400, 5.8);
		const answer = possibleLink(asked(800, { obstacles: [thing(400, 12 - 0.3 * f1, 'building')] }));
		expect([answer.verdict, codes(answer)]).toEqual(['perhaps', ['in-the-zone']]);
		expect(answer.doubts[0]).toHaveProperty('ratio', expect.closeTo(0.3, 1));
	});

	it('counts trees all the way, and says that they are trees', () => {
		const low = possibleLink(asked(800, { treesM: 4 }));
		expect(low.verdict).toBe('yes');
		const tall = possibleLink(asked(800, { treesM: 15 }));
		expect([tall.verdict, ...codes(tall).slice(0, 2)]).toEqual(['no', 'in-the-line', 'trees']);
		// Places so near that nothing stands between the clearings.
		expect(possibleLink(asked(30, { treesM: 15 })).verdict).toBe('yes');
	});

	it('says what is missing to the slowest modulation when it is too far', () => {
		const answer = possibleLink(asked(60_000, { profile: null }));
		expect(answer.verdict).toBe('no');
		expect(codes(answer)).toContain('too-weak');
		const doubt = answer.doubts.find(({ code }) => code === 'too-weak')!;
		expect(doubt).toHaveProperty('missingDb', 10 - answer.margins[0]!.marginDb);
		expect([answer.used, answer.rateMbitS, answer.rain]).toEqual([null, 0, null]);
	});

	it('promises nothing where the ground or the limit is not known', () => {
		const answer = possibleLink(asked(800, { profile: null, eirpLimitDbm: null }));
		expect([answer.verdict, codes(answer)]).toEqual(['perhaps', ['no-ground', 'no-limit']]);
		expect(answer.check).toBeNull();
	});

	it('names rain that is more than is allowed', () => {
		const answer = possibleLink(
			asked(6000, {
				part: part(catalogue.terminals, 'SL-24-D'),
				frequencyGhz: 24.125,
				eirpLimitDbm: 20,
				rainRateMmH: 60,
				targetPercent: 99.99,
				reserveDb: 3,
				profile: null
			})
		);
		expect(codes(answer)).toContain('rain');
		expect(answer.rain!.percent).toBeGreaterThan(0.01);
	});
});

describe('a possible link as a plan', () => {
	const words = { names: { A: 'Boat shed', B: 'Cottage' }, downMbitS: 20, upMbitS: 10 };
	const planned = (change: Partial<LinkQuestion> = {}): ReturnType<typeof planHub> => {
		const put = { ...asked(800), ...change };
		const draft = linkDraft(put, possibleLink(put), words);
		const place = { name: 'Boat shed', ...put.places.A };
		const resolved = resolveHub(draft, place, catalogue);
		if (resolved.kind !== 'input') throw new Error(resolved.fields.join());
		expect(isSmallLink(resolved.input)).toBe(true);
		return planHub(resolved.input, hubPathsOf(resolved.input));
	};

	it('has the level, the rate and the aims that were answered', () => {
		const answer = possibleLink(asked(800));
		const { units, terminals, findings } = planned();
		const { served } = terminals[0]!;
		// A small radio steers nothing: straight at each other it loses nothing.
		expect(served!.down.used.levelDbm).toBeCloseTo(answer.used!.levelDbm, 1);
		expect(served!.down.rateMbitS).toBeCloseTo(answer.rateMbitS, 6);
		expect(units[0]!.unit.headingDeg).toBeCloseTo(answer.bearingDeg.A, 1);
		expect(findings.filter(({ severity }) => severity === 'error')).toEqual([]);
	});

	it('keeps what stands in the way, and the highest ground of a long profile', () => {
		const long = asked(800);
		const flat = long.profile!;
		const many = 1500;
		const at = 777;
		const profile = {
			...flat,
			distancesM: Array.from(
				{ length: many },
				(_, i) => (i * flat.distancesM.at(-1)!) / (many - 1)
			),
			groundsAmslM: Array.from({ length: many }, (_, i) => (i === at ? 9 : 4))
		};
		const wooded = { ...long, profile, treesM: 3 };
		const { terminals } = linkDraft(wooded, possibleLink(wooded), words);
		expect(terminals[0]!.profile!.distancesM).toHaveLength(400);
		expect(Math.max(...terminals[0]!.profile!.groundsAmslM)).toBe(9);
		expect(terminals[0]!.profile!.distancesM.at(-1)).toBe(profile.distancesM.at(-1));
		expect(terminals[0]!.obstacles.map(({ kind }) => kind)).toEqual(['trees']);
	});
});
