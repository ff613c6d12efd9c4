import { describe, expect, it } from 'vitest';
import {
	chainOf,
	compareChains,
	judgeChain,
	type JointsSeen,
	type JointState
} from '#core/polarization/chain';
import {
	adviseRotation,
	discriminationNeed,
	judgeDirections,
	usualDiscriminationDb,
	type DiscriminationNeed,
	type DiscriminationReading,
	type RotationAdvice
} from '#core/polarization/discrimination';
import { findFeedRotation, type RotationReading } from '#core/polarization/feedRotation';
import { dual, need, plan } from './feedFollow';
import { catalogue, configured, hopInput, part } from './planFixture';

type Plane = 'vertical' | 'horizontal';

const FLOOR_DBM = -92;
const PLANNED_DBM = -45;
const received = {
	A: { ...plan.received.A, plannedLevelDbm: PLANNED_DBM, floorDbm: FLOOR_DBM },
	B: { ...plan.received.B, plannedLevelDbm: PLANNED_DBM - 20, floorDbm: FLOOR_DBM }
};

/** Levels at a feed turn of a pair that is right at `rightDeg` and keeps `floorDb` there. */
function looked(
	feedDeg: number,
	rightDeg: number,
	floorDb: number,
	change: Partial<DiscriminationReading> = {}
): DiscriminationReading {
	const tangent = Math.tan(((feedDeg - rightDeg) * Math.PI) / 180);
	const coDbm = change.coDbm ?? PLANNED_DBM;
	const crossDbm = coDbm + 10 * Math.log10(tangent * tangent + 10 ** (-floorDb / 10));
	return { end: 'A', sent: 'vertical', turned: 'A', feedDeg, coDbm, crossDbm, ...change };
}

const TURNS = [-4, -2, 0, 1, 3, 5, 7];
/** Enough looks to know the place well. */
const wellRead = (
	rightDeg: number,
	floorDb: number,
	sent: Plane = 'vertical'
): DiscriminationReading[] => TURNS.map((turn) => looked(turn, rightDeg, floorDb, { sent }));

function advise(
	readings: readonly DiscriminationReading[],
	feedDeg = 0,
	asked: Partial<DiscriminationNeed> = {},
	pointed = true
): RotationAdvice {
	return adviseRotation({ received }, { ...need, antennasDb: 30, ...asked }, readings, {
		end: 'A',
		pointed,
		feedDeg
	});
}

describe('the advice on a feed, pointing first', () => {
	it('is to point while the dishes are not on their lobes, whatever the level', () => {
		expect(advise([looked(0, 3, 40)], 0, {}, false)).toEqual({
			kind: 'pointing-first',
			why: [
				'Both dishes must stand on their main lobe first: beside it the cross-polar pattern has lobes that look like a turned feed.'
			]
		});
	});

	it('is to point where the co-polar level is short by more than a feed could cost', () => {
		const at = (shortDb: number): RotationAdvice =>
			advise([looked(0, 3, 40, { coDbm: PLANNED_DBM - shortDb })]);
		expect(at(2.6)).toEqual({
			kind: 'pointing-first',
			why: [
				'The co-polar level is 2.6 dB below the plan. Turning a feed by 5° costs 0.03 dB: this is pointing, or a loss.'
			]
		});
		expect(at(2.5).kind).toBe('read');
		expect(at(-3).kind).toBe('read');
	});

	it('goes by the latest reading of this feed, and by any other only where there is none', () => {
		const low = looked(0, 3, 40, { coDbm: PLANNED_DBM - 9 });
		const fair = looked(0, 3, 40);
		expect(advise([low, fair]).kind).toBe('read');
		expect(advise([fair, low]).kind).toBe('pointing-first');
		expect(advise([fair, { ...low, turned: 'B' }]).kind).toBe('read');
		expect(advise([{ ...low, turned: 'B' }]).kind).toBe('pointing-first');
		// Each end against its own plan: 20 dB lower is as planned at B.
		expect(advise([{ ...fair, end: 'B', coDbm: PLANNED_DBM - 20 }]).kind).toBe('read');
	});
});

describe('the advice on a feed that was not read enough', () => {
	it('is to read as it stands', () => {
		expect(advise([], 2.5)).toEqual({
			kind: 'read',
			feedDeg: 2.5,
			why: ['Send one polarization only and read both at this end, as the feed stands.']
		});
	});

	it('says how far it is off at most, and which way to try', () => {
		expect(advise([looked(1, 4, 60)])).toMatchObject({
			kind: 'read',
			feedDeg: expect.closeTo(4, 1) as number,
			why: [
				'With vertical sent it is 3.0° off at most, either way: turn the feed to +4.0° and read again.'
			]
		});
	});

	it('asks for the polarization that lacks readings, though the other is known', () => {
		const advice = advise([...wellRead(3, 40), looked(1, 4, 60, { sent: 'horizontal' })]);
		expect(advice.kind).toBe('read');
		expect(advice.why[0]).toMatch(/^With horizontal sent it is 3\.0° off/);
	});

	it('of two places tries the first', () => {
		// Both from one side, far from the place: how steep it gets is hardly known.
		const readings = [looked(0, 8, 60), looked(4, 8, 60)];
		const rotation = findFeedRotation(readings, FLOOR_DBM);
		if (rotation.kind !== 'two-places') throw new Error(rotation.kind);
		const advice = advise(readings);
		expect(advice).toMatchObject({ kind: 'read', feedDeg: rotation.tryFeedDeg });
		expect(advice.why[0]).toMatch(/^\+\d\.\d° or \+\d\.\d°: a reading at the first tells which\.$/);
	});

	it('looks once more from the side that was looked from less, until it is sure', () => {
		const fromBelow = [looked(-3, 2, 34), looked(-1, 2, 34), looked(0.6, 2, 34)];
		const below = advise(fromBelow);
		if (below.kind !== 'read') throw new Error(below.kind);
		expect(below.feedDeg).toBeCloseTo(3.2, 1);
		expect(below.why[0]).toMatch(/^About \+2\.0°, to 0\.\d°: a look at \+3\.2° makes it sure\.$/);
		const above = advise([looked(7, 2, 34), looked(5, 2, 34), looked(3.4, 2, 34)]);
		expect(above).toMatchObject({ kind: 'read', feedDeg: expect.closeTo(0.8, 1) as number });
	});

	it('gives up after fourteen readings that leave it in doubt', () => {
		// Behind leaks of 12 dB a turn by half a degree changes next to nothing.
		const some = (count: number): DiscriminationReading[] =>
			Array.from({ length: count }, (_, i) => looked(-1.2 + (2.4 * i) / (count - 1), 0, 12));
		const advice = advise(some(14), 0, { antennasDb: 10 });
		expect(advice.kind).toBe('not-rotation');
		expect(advice.why[0]).toMatch(
			/^After 14 readings the least signal is still known only to \d\.\d°: something else makes it, most often the pointing\.$/
		);
		expect(advise(some(13), 0, { antennasDb: 10 }).kind).toBe('read');
	});
});

describe('the advice on a feed whose place is known', () => {
	it('is to turn it there, with what then remains', () => {
		const advice = advise(wellRead(1.5, 34), -1);
		if (advice.kind !== 'turn') throw new Error(advice.kind);
		expect(advice.feedDeg).toBeCloseTo(1.5, 2);
		expect(advice.byDeg).toBeCloseTo(2.5, 2);
		expect(advice.floorDb).toBeCloseTo(34, 0);
		expect(advice.sigmaDeg).toBeGreaterThan(0.02);
		expect(advice.sigmaDeg).toBeLessThanOrEqual(0.12);
		expect(advice.why).toEqual([
			`Least cross-polar signal at +1.5° ± ${advice.sigmaDeg.toFixed(1)}°; there about 34 dB remain.`,
			'Turn it, tighten, and read once more: the weak signal is the one that tells.'
		]);
	});

	it('never promises more than 60 dB', () => {
		expect(advise(wellRead(1.5, 66), -1).why[0]).toContain('there about 60 dB remain');
	});

	it('is to leave it where it stands within 0.15°', () => {
		expect(advise(wellRead(1.5, 34), 1.4)).toEqual({
			kind: 'stands',
			why: ['Least cross-polar signal at +1.5°, the feed stands at +1.4°: leave it.']
		});
		expect(advise(wellRead(1.5, 34), 1.6).kind).toBe('stands');
		expect(advise(wellRead(1.5, 34), 1.2).kind).toBe('turn');
		expect(advise(wellRead(1.5, 34), 1.8).kind).toBe('turn');
	});

	it('takes both polarizations together', () => {
		const one = advise(wellRead(1, 34), -3);
		const both = advise([...wellRead(1, 34), ...wellRead(2, 40, 'horizontal')], -3);
		if (one.kind !== 'turn' || both.kind !== 'turn') throw new Error(both.kind);
		expect(both.feedDeg).toBeCloseTo(1.5, 1);
		// What remains is that of the worse one.
		expect(both.floorDb).toBeCloseTo(34, 0);
		expect(both.sigmaDeg).toBeLessThan(one.sigmaDeg);
	});

	it('hears only of its own feed', () => {
		const others = wellRead(6, 34).map((reading) => ({ ...reading, turned: 'B' as const }));
		expect(advise([...others, ...wellRead(1.5, 34)], -1)).toMatchObject({
			kind: 'turn',
			feedDeg: expect.closeTo(1.5, 2) as number
		});
	});

	it('is that it is no rotation where the two polarizations disagree', () => {
		const apart = (deg: number): RotationAdvice =>
			advise([...wellRead(0, 36), ...wellRead(deg, 36, 'horizontal')], -3);
		expect(apart(1.5).kind).toBe('turn');
		expect(apart(3)).toEqual({
			kind: 'not-rotation',
			why: [
				'The two polarizations have their minima 3.0° apart. A turned feed shifts both alike: look at the pointing again, then at the orthomode transducer.'
			]
		});
	});

	it('is that it is no rotation where no turn gives what the antennas promise', () => {
		expect(advise(wellRead(1, 34), -3, { antennasDb: 37.8 }).kind).toBe('turn');
		const advice = advise(wellRead(1, 34), -3, { antennasDb: 38.3 });
		expect(advice).toEqual({
			kind: 'not-rotation',
			why: [
				'No turn gives more than 34.0 dB, the antennas promise 38.3 dB: a cross-polar lobe, water, or a part of the wrong polarization.'
			]
		});
	});
});

describe('the place of least cross-polar signal', () => {
	const at = (feedDeg: number, rightDeg: number, floorDb: number, offDb = 0): RotationReading => {
		const { coDbm, crossDbm } = looked(feedDeg, rightDeg, floorDb);
		return { feedDeg, coDbm, crossDbm: crossDbm + offDb };
	};

	it('needs looks that lie apart; the last of those alike tells how far', () => {
		expect(findFeedRotation([], FLOOR_DBM)).toEqual({ kind: 'nothing-yet' });
		const alike = findFeedRotation([at(0, 5, 60), at(0.3, 2.3, 60)], FLOOR_DBM);
		expect(alike).toMatchObject({
			kind: 'one-reading',
			byDeg: expect.closeTo(2, 1) as number,
			tryFeedDeg: expect.closeTo(2.3, 1) as number
		});
		expect(findFeedRotation([at(0, 5, 60), at(0.4, 5, 60)], FLOOR_DBM).kind).not.toBe(
			'one-reading'
		);
		// So near the place that a turn by as much would tell nothing.
		expect(findFeedRotation([at(1, 1.1, 60)], FLOOR_DBM)).toMatchObject({
			tryFeedDeg: expect.closeTo(1.4, 5) as number
		});
	});

	it('of two looks from one side is not sure, and a look at the first of both decides', () => {
		const readings = [at(0, 8, 60), at(4, 8, 60)];
		const two = findFeedRotation(readings, FLOOR_DBM);
		if (two.kind !== 'two-places') throw new Error(two.kind);
		expect(two.feedDeg[0]).toBeCloseTo(8, 1);
		expect(Math.abs(two.feedDeg[0] - two.feedDeg[1])).toBeGreaterThan(0.6);
		expect(two.tryFeedDeg).toBe(two.feedDeg[0]);
		const three = findFeedRotation([...readings, at(two.tryFeedDeg, 8, 60)], FLOOR_DBM);
		expect(three).toMatchObject({ kind: 'found', feedDeg: expect.closeTo(8, 1) as number });
	});

	it('of two looks on either side lies between them, as their levels say', () => {
		const found = findFeedRotation([at(0, 3.5, 50), at(6, 3.5, 50)], FLOOR_DBM);
		expect(found).toMatchObject({ kind: 'found', feedDeg: expect.closeTo(3.5, 2) as number });
	});

	it.each([-20, -6.3, 0, 2.4, 17])('is found at %s° with its floor', (rightDeg) => {
		const turns = [-3, -1, 0.5, 2, 4].map((turn) => turn + Math.round(rightDeg));
		const found = findFeedRotation(
			turns.map((turn) => at(turn, rightDeg, 31)),
			FLOOR_DBM
		);
		if (found.kind !== 'found') throw new Error(found.kind);
		expect(found.feedDeg).toBeCloseTo(rightDeg, 2);
		expect(found.floorDb).toBeCloseTo(31, 1);
		expect(found.residualDb).toBeLessThan(0.01);
	});

	it('is known the better the more looks there are, and what is unexplained is told', () => {
		const few = findFeedRotation(
			[-3, 0, 3].map((turn) => at(turn, 1, 34)),
			FLOOR_DBM
		);
		const many = findFeedRotation(
			[-3, -2, -1, 0, 1, 2, 3, 4].map((turn) => at(turn, 1, 34)),
			FLOOR_DBM
		);
		if (few.kind !== 'found' || many.kind !== 'found') throw new Error('not found');
		expect(many.sigmaDeg).toBeLessThan(0.8 * few.sigmaDeg);
		// Four looks 0.5 dB over and four under the same curve: half a decibel is left.
		const shaken = findFeedRotation(
			[-6, -5, -4, -3, 5, 6, 7, 8].map((turn, i) => at(turn, 1, 34, i % 2 ? 0.5 : -0.5)),
			FLOOR_DBM
		);
		if (shaken.kind !== 'found') throw new Error(shaken.kind);
		expect(shaken.residualDb).toBeGreaterThan(0.35);
		expect(shaken.residualDb).toBeLessThan(0.55);
	});

	it('has a sigma by which a real look errs: one in three lies beyond it', () => {
		// The χ² of the model rises by one where the place is off by sigma: by hand for two far flanks,
		// 20·log10 tan θ changes by 8.686/(sin θ cos θ) dB a radian, 2.92 dB a degree at 3°.
		const flanks = findFeedRotation(
			[-3, -3, -3, -3, 3, 3, 3, 3].map((turn) => at(turn, 0, 60)),
			FLOOR_DBM
		);
		if (flanks.kind !== 'found') throw new Error(flanks.kind);
		expect(flanks.sigmaDeg).toBeGreaterThan(0.03);
		expect(flanks.sigmaDeg).toBeLessThan(0.06);
	});

	it('takes what stands at the receiver’s floor as a bound, and nothing else', () => {
		const strong = [-4, -2, 4, 6].map((turn) => at(turn, 1, 60));
		const buried = { feedDeg: 1, coDbm: PLANNED_DBM, crossDbm: PLANNED_DBM - 40 };
		const residual = (floorDbm: number): number => {
			const found = findFeedRotation([...strong, buried], floorDbm);
			if (found.kind !== 'found') throw new Error(found.kind);
			return found.residualDb;
		};
		const floorThere = (floorDbm: number): number => {
			const found = findFeedRotation([...strong, buried], floorDbm);
			return found.kind === 'found' ? found.floorDb : 0;
		};
		expect(residual(buried.crossDbm - 2)).toBeLessThan(0.05);
		expect(floorThere(buried.crossDbm - 4)).toBeLessThan(42);
		expect(floorThere(buried.crossDbm - 2)).toBeGreaterThan(42);
		// A bound counts where the model says more than it.
		const above = findFeedRotation(
			[...strong, { ...buried, feedDeg: 3, crossDbm: PLANNED_DBM - 40 }],
			PLANNED_DBM - 40
		);
		expect(above.kind === 'found' ? above.residualDb : 9).toBeGreaterThan(0.3);
	});

	it.each([
		[{ feedDeg: 91, coDbm: -45, crossDbm: -70 }],
		[{ feedDeg: 0, coDbm: 21, crossDbm: -70 }],
		[{ feedDeg: 0, coDbm: -45, crossDbm: -151 }]
	])('refuses %o', (reading) => {
		expect(() => findFeedRotation([reading], FLOOR_DBM)).toThrow(RangeError);
	});
});

describe('what a hop must show', () => {
	const asking = (modulation: string, cancellerDb: number): DiscriminationNeed =>
		discriminationNeed(
			{
				...dual,
				operatingModulation: modulation,
				configuration: { ...dual.configuration, cancellerDb }
			},
			plan.dish
		);
	const antennas = plan.dish.A.crossPolarDiscriminationDb;
	const snrOf = (name: string): number =>
		dual.ends.A.radio.modulations.find((one) => one.name === name)!.requiredSnrDb;

	it('is the traffic’s ratio and 6 dB less the canceller, never less than the antennas or 20 dB', () => {
		expect(usualDiscriminationDb(30, 30)).toBeCloseTo(26.99, 2);
		expect(usualDiscriminationDb(30, 40)).toBeCloseTo(29.59, 2);
		const highest = dual.ends.A.radio.modulations.at(-1)!.name;
		const bare = asking(highest, 0);
		expect(bare.neededDb).toBeCloseTo(snrOf(highest) + 6, 6);
		expect(bare.antennasDb).toBeCloseTo(antennas - 6.02, 2);
		expect(bare.usualDb).toBeCloseTo(antennas - 3.01, 2);
		expect(asking(highest, 40).neededDb).toBeCloseTo(bare.antennasDb, 6);
		expect(asking(highest, 40).impossible).toBe(false);
		expect(bare.impossible).toBe(snrOf(highest) + 6 > bare.usualDb);
		expect(asking(highest, 12).why).toBe(
			`${highest} needs ${(snrOf(highest) - 6).toFixed(1)} dB with an XPIC of 12 dB; the antennas give ${bare.antennasDb.toFixed(1)} dB at worst.`
		);
		const weak = { ...plan.dish.A, crossPolarDiscriminationDb: 15 };
		expect(
			discriminationNeed(
				{ ...dual, configuration: { ...dual.configuration, cancellerDb: 40 } },
				{ A: weak, B: weak }
			).neededDb
		).toBe(20);
		expect(asking('none of those', 40).neededDb).toBeCloseTo(bare.antennasDb, 6);
	});

	it('is judged by the latest reading of each direction, to the tenth of a decibel', () => {
		const reading = (end: 'A' | 'B', sent: Plane, db: number): DiscriminationReading => ({
			end,
			sent,
			turned: end,
			feedDeg: 0,
			coDbm: -45,
			crossDbm: -45 - db
		});
		const asked = { ...need, neededDb: 25 };
		const judged = judgeDirections(
			asked,
			[
				reading('A', 'vertical', 10),
				reading('A', 'vertical', 25),
				reading('A', 'horizontal', 20),
				reading('B', 'vertical', 31.5)
			],
			'vertical'
		);
		expect(judged).toEqual([
			{
				end: 'A',
				sent: 'vertical',
				pair: 1,
				discriminationDb: 25,
				verdict: 'reached',
				reason: '0.0 dB more than needed.'
			},
			{
				end: 'A',
				sent: 'horizontal',
				pair: 1,
				discriminationDb: 20,
				verdict: 'short',
				reason: '5.0 dB too little; a rotation of 5.7° alone would do that.'
			},
			{
				end: 'B',
				sent: 'vertical',
				pair: 1,
				discriminationDb: 31.5,
				verdict: 'reached',
				reason: '6.5 dB more than needed.'
			},
			{
				end: 'B',
				sent: 'horizontal',
				pair: 1,
				discriminationDb: null,
				verdict: 'missing',
				reason: 'Send horizontal only from A and read both polarizations at B.'
			}
		]);
		expect(
			judgeDirections({ ...asked, dual: false }, [], 'horizontal').map(
				({ end, sent }) => end + sent
			)
		).toEqual(['Ahorizontal', 'Bhorizontal']);
	});
});

describe('the joints between radio and dish', () => {
	const keys = (input: typeof dual): string[] => chainOf(input, 'A').map(({ key }) => key);
	const seenAsPlanned = (): Record<string, Plane> =>
		Object.fromEntries(chainOf(dual, 'A').map(({ key, expected }) => [key, expected]));

	it('are those of the parts there are', () => {
		const single = hopInput();
		expect(keys(single)).toEqual(['radio-1', 'feed', 'wall']);
		const standby = hopInput(
			{ configuration: configured('hot-standby') },
			{
				A: { coupling: part(catalogue.couplings, 'CU-26') },
				B: { coupling: part(catalogue.couplings, 'CU-26') }
			}
		);
		// A coupler of one plane has no port to mistake.
		expect(keys(standby).filter((key) => key.startsWith('port'))).toEqual([]);
		expect(keys(standby)).toContain('radio-2');
		const diversity = hopInput(
			{ configuration: configured('space-diversity') },
			Object.fromEntries(
				(['A', 'B'] as const).map((end) => [
					end,
					{ secondDish: part(catalogue.dishes, 'DP-060-26'), secondAntennaHeightAglM: 12 }
				])
			)
		);
		expect(keys(diversity).slice(-4)).toEqual(['feed', 'wall', 'second-feed', 'second-wall']);
		expect(keys({ ...diversity, configuration: single.configuration })).not.toContain(
			'second-feed'
		);
		const bare = { ...single.ends.A.dish };
		delete (bare as { installation?: object }).installation;
		expect(
			keys({ ...single, ends: { ...single.ends, A: { ...single.ends.A, dish: bare } } })
		).toEqual(['radio-1']);
	});

	it('say what each shows for either plane', () => {
		const joints = chainOf(dual, 'A');
		const port = joints.find(({ key }) => key === 'port-2')!;
		const arms = dual.ends.A.coupling!.arms;
		const named = (plane: 'own' | 'crossed'): string =>
			`on ${arms
				.filter((arm) => arm.plane === plane)
				.map(({ name }) => name.toLowerCase())
				.join(' or ')}`;
		expect(port).toMatchObject({
			part: 'Radio 2 on the coupling',
			expected: 'horizontal',
			delivered: null,
			proves: null,
			set: 'mounting',
			shows: { vertical: named('own'), horizontal: named('crossed') }
		});
		expect(named('own')).not.toBe(named('crossed'));
		expect(joints.find(({ key }) => key === 'radio-2')).toMatchObject({
			part: 'Radio 2, RU-18',
			proves: null
		});
		expect(joints.find(({ key }) => key === 'port-wall-1')).toMatchObject({
			shows: { vertical: 'short wall vertical', horizontal: 'short wall level' },
			proves: 'coupling'
		});
	});

	it('are open, as planned or wrong, each with its words', () => {
		const judged = judgeChain(dual, { 'radio-1': 'vertical', coupling: 'horizontal' }, 'A');
		const of = (key: string): JointState => judged.joints.find(({ joint }) => joint.key === key)!;
		expect(of('radio-1')).toMatchObject({ verdict: 'agrees', reason: 'As planned.' });
		expect(of('port-wall-1')).toMatchObject({
			verdict: 'open',
			shows: null,
			reason: 'Expected: short wall vertical.'
		});
		const { shows } = of('coupling').joint;
		expect(of('coupling').reason).toBe(
			`Coupling, OT-18 at A is set horizontal (${shows.horizontal}); the plan says vertical: ${shows.vertical}.`
		);
		expect(judged.problems).toEqual([of('coupling').reason]);
		expect(judged.complete).toBe(false);
	});

	it('of which the guide decides only where a mark says otherwise', () => {
		const problems = (change: JointsSeen): string[] =>
			judgeChain(dual, { ...seenAsPlanned(), ...change }, 'A').problems;
		expect(problems({})).toEqual([]);
		const painted = problems({ 'port-wall-1': 'horizontal' });
		expect(painted).toHaveLength(2);
		expect(painted[0]).toContain('says vertical, the guide itself does not');
		// The mark says what the guide says: one thing is wrong, nothing is painted over.
		const both = problems({ 'port-wall-1': 'horizontal', coupling: 'horizontal' });
		expect(both).toHaveLength(2);
		expect(both.join()).not.toContain('painted over');
		const unread = { ...seenAsPlanned() };
		delete unread.coupling;
		const alone = judgeChain(dual, { ...unread, 'port-wall-1': 'horizontal' }, 'A').problems;
		expect(alone.join()).not.toContain('painted over');
		// Another joint that is wrong paints nothing over.
		expect(problems({ 'radio-1': 'horizontal' }).join()).not.toContain('painted over');
	});

	it('are compared between the ends where both were looked at', () => {
		const all = seenAsPlanned();
		expect(compareChains(dual, { A: all, B: all })).toEqual([]);
		expect(compareChains(dual, { A: {}, B: all })).toEqual([]);
		expect(compareChains(dual, { A: all, B: {} })).toEqual([]);
		expect(compareChains(dual, { A: { ...all, 'radio-1': 'horizontal' }, B: all })).toEqual([
			'Radio 1, RU-18: horizontal at A, vertical at B. Both ends must be alike.'
		]);
	});

	it('of ends with other parts are compared where both have them', () => {
		const single = { ...dual, configuration: configured('single') };
		const { installation, ...rest } = single.ends.B.dish;
		expect(installation).toBeDefined();
		const other = { ...single, ends: { ...single.ends, B: { ...single.ends.B, dish: rest } } };
		expect(compareChains(other, { A: { wall: 'vertical' }, B: { wall: 'horizontal' } })).toEqual(
			[]
		);
	});
});
