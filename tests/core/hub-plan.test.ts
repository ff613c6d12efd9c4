import { describe, expect, it } from 'vitest';
import { slowedBy } from '#core/hub/hubChanges';
import { resolveHub, twiceNamed, type HubDraft, type TerminalDraft } from '#core/hub/hubDraft';
import { noServiceText } from '#core/hub/hubFindings';
import { HUB_INITIAL, type HubUnitDraft } from '#core/hub/hubFields';
import type { HubInput } from '#core/hub/hubInput';
import { aimsOf, hubPathsOf, planHub, unitChoices } from '#core/hub/hubPlan';
import type { HubPlan, TerminalPlan } from '#core/hub/hubFigures';
import { scanLossDb } from '#core/hub/scanWindow';
import { marginsOf, pathLossDb } from '#core/hub/terminalLink';
import { directGeodesic } from '#core/geodesy/geodesic';
import { gasAttenuation } from '#core/propagation/gas';
import { rainAttenuation } from '#core/propagation/rain';
import { catalogue } from './planFixture';
import { harbour, hubTerminal, hubUnit, QUAY } from './hubFixture';

const planOf = (draft: HubDraft): { input: HubInput; plan: HubPlan } => {
	const resolved = resolveHub(draft, QUAY, catalogue);
	if (resolved.kind !== 'input') throw new Error(resolved.fields.join());
	const { input } = resolved;
	return { input, plan: planHub(input, hubPathsOf(input)) };
};
const codes = ({ findings }: HubPlan): string[] => findings.map(({ code }) => code);

describe('the level of a terminal', () => {
	const draft = harbour({
		units: [hubUnit({ headingDeg: 90 })],
		terminals: [hubTerminal({ bearingDeg: 90, distanceM: 400 })]
	});

	it('is what free space, gases, steering and both gains leave of the power', () => {
		const { plan } = planOf(draft);
		const { served, path } = plan.terminals[0]!;
		// By hand: 92.45 + 20·log10(60.48) + 20·log10(0.4) = 120.1 dB.
		expect(path.freeSpaceDb).toBeCloseTo(120.12, 1);
		expect(path.oxygenDb).toBeCloseTo(gasAttenuation(60.48).oxygenDbKm * 0.4, 3);
		// Around 60 GHz oxygen takes some 14 to 15 dB of every kilometre. Source: ITU-R P.676-13, figure 1.
		expect(path.oxygenDb / 0.4).toBeGreaterThan(13.5);
		expect(path.oxygenDb / 0.4).toBeLessThan(15.5);
		const [slowest] = served!.down.margins;
		// The limit of 40 dBm leaves 15 dBm to 25 dBi; towards the hub full 15 dBm under 23 dBi.
		expect(slowest!.powerDbm).toBeCloseTo(15, 9);
		// Both look half a degree up or down from the horizontal: a few hundredths for steering.
		const { atUnit } = served!;
		expect(atUnit.scanLossDb + path.atTerminal.scanLossDb).toBeLessThan(0.05);
		expect(slowest!.levelDbm).toBeCloseTo(
			40 + 23 - path.freeSpaceDb - path.oxygenDb - path.vapourDb,
			1
		);
		expect(served!.up.margins[0]!.levelDbm).toBeCloseTo(
			15 + 23 + 25 - path.freeSpaceDb - path.oxygenDb - path.vapourDb,
			1
		);
	});

	it('goes both ways by the same path, and falls with the angle off the face, never rises', () => {
		let before = Number.POSITIVE_INFINITY;
		for (let heading = 90; heading <= 135; heading += 2.5) {
			const { plan } = planOf({ ...draft, units: [hubUnit({ headingDeg: heading })] });
			const { served } = plan.terminals[0]!;
			const level = served!.down.margins[0]!.levelDbm;
			expect(level).toBeLessThanOrEqual(before + 1e-9);
			before = level;
			const { down, up } = served!;
			// Same losses both ways: levels differ by the powers alone.
			expect(down.margins[0]!.levelDbm - up.margins[0]!.levelDbm).toBeCloseTo(
				down.margins[0]!.powerDbm - up.margins[0]!.powerDbm,
				9
			);
		}
	});

	it('takes the fastest modulation with its reserve, and its rate from the channel', () => {
		const { plan, input } = planOf(draft);
		const { down } = plan.terminals[0]!.served!;
		expect(down.used.marginDb).toBeGreaterThanOrEqual(input.reserveDb);
		const faster = down.margins[down.margins.indexOf(down.used) + 1];
		expect(faster!.marginDb).toBeLessThan(input.reserveDb);
		expect(down.rateMbitS).toBeCloseTo(down.used.modulation.mbitSPerMhz * 1080, 6);
	});

	it('says how often rain takes it: the rain of that share uses the margin up', () => {
		const { plan, input } = planOf({ ...draft, rainRateMmH: 60 });
		const { rain, down, path } = plan.terminals[0]!.served!;
		expect(rain.range).toBe('within');
		const taken = rainAttenuation({
			frequencyGhz: 60.48,
			pathKm: path.pathKm,
			polarization: input.polarization,
			rainRate001MmH: 60,
			percentOfTime: rain.percent
		});
		expect(taken.attenuationDb).toBeCloseTo(
			Math.min(down.margins[0]!.marginDb, plan.terminals[0]!.served!.up.margins[0]!.marginDb),
			3
		);
	});
});

describe('a terminal that is not served', () => {
	const why = (draft: HubDraft): string => {
		const { plan } = planOf(draft);
		const [terminal] = plan.terminals;
		expect(terminal!.served).toBeNull();
		return noServiceText(terminal!.why!);
	};

	it('lies outside every window, by how much', () => {
		expect(
			why(
				harbour({
					units: [hubUnit({ headingDeg: 30 })],
					terminals: [hubTerminal({ bearingDeg: 90 })]
				})
			)
		).toBe('Outside every window: 15.0° beyond that of Sector 1.');
	});

	it('cannot look at the hub from its wall', () => {
		const terminal = hubTerminal({ bearingDeg: 90, how: 'wall', wallBearingDeg: 200 });
		expect(why(harbour({ units: [hubUnit({ headingDeg: 90 })], terminals: [terminal] }))).toMatch(
			/^Its own mounting does not let it look at the hub: 35\.\d° outside its window\.$/
		);
	});

	it('is outside a window, and not too weak, where only the steering would be too much', () => {
		const at = (headingDeg: number, distanceM: number): TerminalPlan =>
			planOf(
				harbour({
					units: [hubUnit({ headingDeg })],
					terminals: [hubTerminal({ bearingDeg: 90, distanceM })]
				})
			).plan.terminals[0]!;
		const edge = [420, 440, 460, 480, 500, 520, 540].find(
			(distanceM) => at(90, distanceM).served && !at(46, distanceM).served
		);
		expect(edge).toBeDefined();
		expect(at(46, edge!).why).toMatchObject({ code: 'too-weak' });
		expect(at(40, edge!).why).toMatchObject({ code: 'no-window' });
	});

	it('is not served by a unit that it hears and that does not hear it', () => {
		const at = (distanceM: number): { why: string | undefined; downDb: number } => {
			const { input, plan } = planOf(
				harbour({
					eirpLimitDbm: null,
					units: [hubUnit({ headingDeg: 90 })],
					terminals: [hubTerminal({ bearingDeg: 90, distanceM })]
				})
			);
			const [one] = plan.terminals;
			const lossDb = pathLossDb(one!.path);
			const [slowest] = marginsOf(input, input.units[0]!.part, one!.terminal.part, lossDb, 0);
			return { why: one!.why?.code, downDb: slowest!.marginDb - input.reserveDb };
		};
		const deaf = Array.from({ length: 60 }, (_, i) => 400 + 5 * i).filter((distanceM) => {
			const { why, downDb } = at(distanceM);
			return why === 'too-weak' && downDb > 0.2;
		});
		expect(deaf.length).toBeGreaterThan(2);
	});

	it('is too far, whatever the unit looks at', () => {
		const draft = harbour({
			units: [hubUnit({ headingDeg: 270 })],
			terminals: [hubTerminal({ bearingDeg: 90, distanceM: 3000 })]
		});
		expect(why(draft)).toMatch(/^Too weak: \d+\.\d dB are missing/);
	});

	it('is blocked by what stands between', () => {
		const shed = {
			name: 'Shed',
			kind: 'building',
			distanceKm: 0.2,
			lengthM: 20,
			heightM: 40
		} as const;
		const terminal = hubTerminal({ bearingDeg: 90, distanceM: 400, obstacles: [shed] });
		expect(why(harbour({ units: [hubUnit({ headingDeg: 90 })], terminals: [terminal] }))).toMatch(
			/^Blocked: what stands in the way takes \d+\.\d dB/
		);
	});

	it('finds no room at a unit that takes no more', () => {
		const many = Array.from({ length: 16 }, (_, i) =>
			hubTerminal({ bearingDeg: 70 + 2 * i, name: `House ${i}` })
		);
		const { plan } = planOf(harbour({ units: [hubUnit({ headingDeg: 90 })], terminals: many }));
		const left = plan.terminals.filter(({ served }) => !served);
		expect(left).toHaveLength(1);
		expect(noServiceText(left[0]!.why!)).toBe(
			'Sector 1 has it in its window and takes no more terminals.'
		);
	});

	it('is told so where the hub has no unit at all', () => {
		const { plan } = planOf(harbour({ units: [], terminals: [hubTerminal({ bearingDeg: 90 })] }));
		expect(codes(plan)).toContain('no-units');
		expect(noServiceText(plan.terminals[0]!.why!)).toBe('The hub has no unit.');
	});
});

describe('which unit serves which terminal', () => {
	const two = (more: Partial<HubUnitDraft> = {}): readonly HubUnitDraft[] => [
		hubUnit({ headingDeg: 60 }),
		hubUnit({ id: 'u2', name: 'Sector 2', headingDeg: 120, frequencyGhz: 62.64, ...more })
	];
	const servers = (draft: HubDraft): (string | undefined)[] =>
		planOf(draft).plan.terminals.map(({ served }) => served?.unit.name);

	it('is that of the better level, or that to which it is pinned', () => {
		const terminals = [
			hubTerminal({ bearingDeg: 80 }),
			hubTerminal({ bearingDeg: 100, name: 'Other' })
		];
		expect(servers(harbour({ units: two(), terminals }))).toEqual(['Sector 1', 'Sector 2']);
		const pinned = [{ ...terminals[0]!, unitId: 'u2' }, terminals[1]!];
		expect(servers(harbour({ units: two(), terminals: pinned }))).toEqual(['Sector 2', 'Sector 2']);
	});

	it('is the next one where the promises fill the first', () => {
		const terminals = Array.from({ length: 6 }, (_, i) =>
			hubTerminal({ bearingDeg: 80 + i, name: `Yard ${i}`, downMbitS: 180, upMbitS: 40 })
		);
		const { plan } = planOf(harbour({ units: two(), terminals }));
		for (const unit of plan.units) expect(unit.airTime).toBeLessThanOrEqual(unit.airTimeThere);
		expect(plan.units.map(({ terminals: own }) => own.length)).not.toContain(0);
		expect(codes(plan)).not.toContain('air-time');
	});

	it('says what each gets when more is promised than the air takes', () => {
		const terminals = Array.from({ length: 6 }, (_, i) =>
			hubTerminal({ bearingDeg: 80 + i, name: `Yard ${i}`, downMbitS: 180, upMbitS: 40 })
		);
		const { plan } = planOf(harbour({ units: [two()[0]!], terminals }));
		const [unit] = plan.units;
		const promised = plan.terminals.reduce(
			(sum, { served }) => sum + 180 / served!.down.rateMbitS + 40 / served!.up.rateMbitS,
			0
		);
		expect(unit!.airTime).toBeCloseTo(promised, 9);
		const share = Math.floor((100 * 0.86) / promised);
		expect(plan.findings.find(({ code }) => code === 'air-time')!.message).toContain(
			`each gets ${share} % of its promise`
		);
	});
});

describe('interference between the units of a hub', () => {
	const beside = (frequencyGhz: number): HubPlan =>
		planOf(
			harbour({
				units: [
					hubUnit({ headingDeg: 70 }),
					hubUnit({ id: 'u2', name: 'Sector 2', headingDeg: 110, frequencyGhz })
				],
				terminals: [
					hubTerminal({ bearingDeg: 86, unitId: 'u1' }),
					hubTerminal({ bearingDeg: 94, name: 'Neighbour', unitId: 'u2' })
				]
			})
		).plan;

	it('is worst on the same channel, less on the next, none two channels off', () => {
		const [same, next, apart] = [60.48, 61.56, 62.64].map(beside);
		const level = (plan: HubPlan): number => plan.terminals[0]!.served!.interference.downDbm;
		expect(level(same!)).toBeGreaterThan(level(next!));
		// The terminal keeps 25 dB off of the next channel.
		expect(level(same!) - level(next!)).toBeCloseTo(25, 6);
		expect(level(apart!)).toBe(Number.NEGATIVE_INFINITY);
		expect(apart!.terminals[0]!.served!.interference.from).toBeNull();
	});

	it('takes modulation from neighbours on one channel, and is named', () => {
		const same = beside(60.48).terminals[0]!.served!;
		const apart = beside(62.64).terminals[0]!.served!;
		expect(same.down.rateMbitS).toBeLessThan(apart.down.rateMbitS);
		expect(same.interference.from).toBe('Sector 2');
	});

	it('is that of the share that overlaps, where channels do so in part', () => {
		const [same, half] = [60.48, 60.48 + 0.54].map((ghz) => beside(ghz).terminals[0]!.served!);
		// Half of the channel: 3.01 dB less.
		expect(same!.interference.downDbm - half!.interference.downDbm).toBeCloseTo(3.01, 1);
	});

	it('drowns a terminal that stands where the other unit looks, and is named', () => {
		const { plan } = planOf(
			harbour({
				units: [
					hubUnit({ headingDeg: 88 }),
					hubUnit({ id: 'u2', name: 'Sector 2', headingDeg: 92 })
				],
				terminals: [
					hubTerminal({ bearingDeg: 90, unitId: 'u1' }),
					hubTerminal({ bearingDeg: 90.2, name: 'Neighbour', unitId: 'u2' })
				]
			})
		);
		expect(plan.terminals[0]!.why).toEqual({ code: 'drowned', byName: 'Sector 2' });
		expect(plan.units[0]!.terminals).toEqual([]);
	});

	it('comes by the beam that serves the neighbour, less its angle and its steering', () => {
		const { interference, path } = beside(60.48).terminals[0]!.served!;
		// By hand: 40 dBm EIRP; the beam is steered 16° off the face of Sector 2, 0.35 dB by the part's curve between
		// 10° and 20°, and 8° past this terminal: 12·(8/9)² = 9.5 dB.
		const part = catalogue.hubUnits.find(({ code }) => code === 'HS-60-90')!;
		const steering = scanLossDb(part.scan.loss, 16);
		expect(steering).toBeGreaterThan(0.2);
		const lossDb =
			path.freeSpaceDb +
			path.oxygenDb +
			path.vapourDb +
			path.obstructionDb +
			path.atTerminal.scanLossDb;
		expect(interference.downDbm).toBeCloseTo(40 - steering - 12 * (8 / 9) ** 2 + 23 - lossDb, 1);
	});

	it('is small where the other unit looks the other way', () => {
		const { plan } = planOf(
			harbour({
				units: [
					hubUnit({ headingDeg: 90 }),
					hubUnit({ id: 'u2', name: 'Sector 2', headingDeg: 270 })
				],
				terminals: [
					hubTerminal({ bearingDeg: 90 }),
					hubTerminal({ bearingDeg: 270, name: 'Neighbour' })
				]
			})
		);
		const { down, interference } = plan.terminals[0]!.served!;
		// Both terminals are as far: what comes from behind is 32 dB below what is wanted.
		const signal = down.margins[0]!.levelDbm;
		const towards = signal - interference.downDbm;
		expect(towards).toBeGreaterThan(30);
		expect(towards).toBeLessThan(34);
	});
});

describe('findings about how a hub is put up', () => {
	it('are errors where the mounting cannot do it', () => {
		const found = (unit: Partial<HubUnitDraft>): string[] =>
			codes(
				planOf(
					harbour({
						units: [hubUnit({ headingDeg: 90, ...unit })],
						terminals: [hubTerminal({ bearingDeg: 90 })]
					})
				).plan
			);
		expect(found({})).toEqual([]);
		expect(found({ poleMm: 120 })).toEqual(['hub-pole']);
		expect(found({ tiltDeg: -10 })).toEqual(['hub-tilt']);
		expect(found({ how: 'bracket', tiltDeg: -10 })).toEqual([]);
		expect(found({ how: 'wall' })).toEqual(['wall-bearing']);
		expect(found({ how: 'wall', wallBearingDeg: 80 })).toEqual(['hub-wall-heading']);
		expect(found({ how: 'wall', wallBearingDeg: 90 })).toEqual([]);
		expect(found({ frequencyGhz: 57.2 })).toEqual(['hub-channel', 'terminal-channel']);
		expect(found({ partCode: 'HS-60-120', how: 'bracket' })).toEqual(['hub-mounting']);
		expect(found({ headingDeg: 133.5 })).toEqual(['tight-window']);
	});

	it('say that nobody looked up the limit, and that the ground is not known', () => {
		const { plan } = planOf(
			harbour({
				eirpLimitDbm: null,
				units: [hubUnit({ headingDeg: 90 })],
				terminals: [{ ...hubTerminal({ bearingDeg: 90 }), profile: null }]
			})
		);
		expect(codes(plan)).toEqual(['no-eirp-limit', 'no-profile']);
	});

	it('name rain as soon as it takes more than is allowed, and not before', () => {
		const at = (targetPercent: number): HubPlan =>
			planOf(
				harbour({
					rainRateMmH: 60,
					targetPercent,
					units: [hubUnit({ headingDeg: 90 })],
					terminals: [hubTerminal({ bearingDeg: 90, distanceM: 420 })]
				})
			).plan;
		const { percent } = at(99).terminals[0]!.served!.rain;
		expect(codes(at(100 - 1.1 * percent))).toEqual([]);
		expect(codes(at(100 - 0.9 * percent))).toEqual(['rain']);
	});

	it('name rain that takes more than is allowed', () => {
		const { plan } = planOf(
			harbour({
				rainRateMmH: 90,
				targetPercent: 99.99,
				units: [hubUnit({ headingDeg: 90 })],
				terminals: [hubTerminal({ bearingDeg: 90, distanceM: 420 })]
			})
		);
		expect(codes(plan)).toEqual(['rain']);
	});
});

describe('aims of a whole hub', () => {
	it('leave out what no unit reaches, and keep the wall of one that is on a wall', () => {
		const { input } = planOf(
			harbour({
				units: [
					hubUnit({ how: 'wall', wallBearingDeg: 90, headingDeg: 90 }),
					hubUnit({ id: 'u2', name: 'Sector 2', headingDeg: 0 })
				],
				terminals: [
					hubTerminal({ bearingDeg: 100 }),
					hubTerminal({ bearingDeg: 200, name: 'South' }),
					hubTerminal({ bearingDeg: 230, name: 'South-west' }),
					hubTerminal({ bearingDeg: 300, name: 'Island', distanceM: 4000 })
				]
			})
		);
		const aims = aimsOf(input, hubPathsOf(input));
		expect(aims.unitOf).toEqual([0, 1, 1, null]);
		expect(aims.units[0]!.aim.headingDeg).toBe(90);
		expect(aims.units[1]!.aim.headingDeg).toBeCloseTo(215, 1);
		expect(aims.proved).toBe(true);
	});
});

describe('units that are alike', () => {
	const spread = [hubTerminal({ bearingDeg: 20 }), hubTerminal({ bearingDeg: 200, name: 'South' })];

	it('change places so that each is turned the least', () => {
		const { input } = planOf(
			harbour({
				units: [
					hubUnit({ headingDeg: 190 }),
					hubUnit({ id: 'u2', name: 'Sector 2', headingDeg: 30 })
				],
				terminals: spread
			})
		);
		const aims = aimsOf(input, hubPathsOf(input));
		expect(aims.units.map(({ aim }) => Math.round(aim.headingDeg))).toEqual([200, 20]);
		expect(aims.unitOf).toEqual([1, 0]);
	});

	it('do not where one of them is pinned to, or they differ', () => {
		const aimed = (more: Partial<HubUnitDraft>, unitId: string): number[] => {
			const { input } = planOf(
				harbour({
					units: [
						hubUnit({ headingDeg: 190 }),
						hubUnit({ id: 'u2', name: 'Sector 2', headingDeg: 30, ...more })
					],
					terminals: [{ ...spread[0]!, unitId }, spread[1]!]
				})
			);
			return aimsOf(input, hubPathsOf(input)).units.map(({ aim }) => Math.round(aim.headingDeg));
		};
		expect(aimed({}, 'u1')).toEqual([20, 200]);
		expect(aimed({}, 'u2')).toEqual([200, 20]);
	});
});

describe('whom a change slows down', () => {
	const yards = (count: number): TerminalDraft[] =>
		Array.from({ length: count }, (_, i) =>
			hubTerminal({ bearingDeg: 80 + i, name: `Yard ${i}`, downMbitS: 180, upMbitS: 40 })
		);
	const after = (terminals: TerminalDraft[], units = [hubUnit({ headingDeg: 90 })]): HubPlan =>
		planOf(harbour({ units, terminals })).plan;

	it('is nobody as long as the air carries what is promised', () => {
		expect(slowedBy(after(yards(2)), after(yards(3)))).toEqual([]);
	});

	it('is everybody of a unit that one terminal more fills, with what is left to each', () => {
		const [few, many] = [after(yards(3)), after(yards(6))];
		const { airTime, airTimeThere } = many.units[0]!;
		expect(airTime).toBeGreaterThan(airTimeThere);
		const share = Math.floor((100 * airTimeThere) / airTime);
		expect(slowedBy(few, many).map(({ name, message }) => [name, message])).toEqual(
			few.terminals.map(({ terminal }) => [
				terminal.name,
				`gets ${share} % of its promise when all want theirs at once`
			])
		);
		// Taken away again, nobody loses.
		expect(slowedBy(many, few)).toEqual([]);
	});

	it('is who loses modulation or its unit', () => {
		const before = after(yards(1));
		const aside = slowedBy(before, after(yards(1), [hubUnit({ headingDeg: 120 })]));
		expect(aside).toHaveLength(1);
		expect(aside[0]!.message).toMatch(/^\d+ → \d+ Mbit\/s (to|from) it$/);
		const away = slowedBy(before, after(yards(1), [hubUnit({ headingDeg: 270 })]));
		expect(away[0]!.message).toBe('is no longer served');
	});
});

describe('how many units it takes', () => {
	it('is said for one to four of them, with what is left out', () => {
		const { input } = planOf(
			harbour({
				units: [hubUnit()],
				terminals: [0, 60, 120, 180, 240].map((bearingDeg) =>
					hubTerminal({ bearingDeg, name: `At ${bearingDeg}` })
				)
			})
		);
		const choices = unitChoices(input, hubPathsOf(input));
		// Of five 60° apart, a window of 90° holds two.
		expect(choices.map(({ left }) => left)).toEqual([3, 1, 0, 0]);
		expect(choices[2]!.marginDeg).toBeCloseTo(15, 1);
		expect(choices.every(({ proved }) => proved)).toBe(true);
		expect(unitChoices({ ...input, units: [] }, [])).toEqual([]);
	});
});

describe('a hub as it is kept', () => {
	it('names every part that the catalogue does not have', () => {
		const draft = harbour({
			units: [hubUnit({ partCode: 'HS-NONE' })],
			terminals: [
				hubTerminal({ bearingDeg: 90 }),
				hubTerminal({ bearingDeg: 95, partCode: 'TM-NO' })
			]
		});
		expect(resolveHub(draft, QUAY, catalogue)).toEqual({
			kind: 'unknown-parts',
			fields: ['units.0.partCode', 'terminals.1.partCode']
		});
	});

	it('lets the plan choose where a terminal is pinned to a unit that is gone', () => {
		const draft = harbour({
			units: [hubUnit()],
			terminals: [hubTerminal({ bearingDeg: 90, unitId: 'gone' })]
		});
		const resolved = resolveHub(draft, QUAY, catalogue);
		expect(resolved.kind === 'input' && resolved.input.terminals[0]!.unitId).toBeNull();
	});

	it('is told that a profile was taken between other places', () => {
		const terminal = hubTerminal({ bearingDeg: 90 });
		const planned = (one: TerminalDraft): string[] =>
			codes(planOf(harbour({ units: [hubUnit({ headingDeg: 90 })], terminals: [one] })).plan);
		expect(planned(terminal)).toEqual([]);
		expect(planned({ ...terminal, ...directGeodesic(terminal, 0, 4) })).toEqual([]);
		expect(planned({ ...terminal, ...directGeodesic(terminal, 0, 8) })).toEqual(['profile-stale']);
	});

	it('finds the second of two names that are the same', () => {
		expect(
			twiceNamed([
				{ id: 'a', name: 'Quay' },
				{ id: 'b', name: ' quay ' }
			])
		).toBe(1);
		expect(
			twiceNamed([
				{ id: 'a', name: 'Quay' },
				{ id: 'b', name: 'Pier' }
			])
		).toBe(-1);
		expect(HUB_INITIAL.units).toEqual([]);
	});
});
