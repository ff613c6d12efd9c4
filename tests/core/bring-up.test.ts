import { describe, expect, it } from 'vitest';
import { advancedHub, EMPTY_HUB_STATE } from '#core/bringup/foldHub';
import { linkSightsOf, linkTroubleOf } from '#core/bringup/bringUp';
import { HUB_RECORD_KINDS, sayHubRecord } from '#core/bringup/hubRecords';
import {
	acceptanceStands,
	judgeTerminalOf,
	type TerminalJudgement,
	type TerminalLine
} from '#core/bringup/judgeTerminal';
import { refusedHubRecord } from '#core/bringup/hubRules';
import { LINK_CAUSE_NAMES, linkShares, type LinkCause } from '#core/bringup/linkCauses';
import type { HubWork } from '#core/bringup/bringUp';
import { isSmallLink, steers } from '#core/bringup/stations';
import type { BuildStep } from '#core/tower/buildStep';
import { STATION_ORDER, stationSteps } from '#core/bringup/stationSteps';
import { lampOf, pageOf, pointingOf, testOutcome, truthOf } from '#core/simulate/simulatedHub';
import { refusedStep, type StepRefusal } from '#core/tower/judgeStep';
import type { Quantity } from '#core/tower/quantity';
import { harbour, hubTerminal, hubUnit } from './hubFixture';
import { HubFeed, LINKED, twoSectors, workOf } from './bringUpFixture';

const work = workOf(twoSectors());
const LOFT = 't-Net loft';
const ICE = 't-Ice house';
const SHED = 't-Boat shed';
const PAGE = { downMbitS: 900, upMbitS: 700, source: 'hand' } as const;

/** The first sector and the net loft put up, both lamps right, level as planned. */
function linked(feed = new HubFeed(work)): HubFeed {
	feed.built('u1').add('u1', 'lamp', { state: 'searching', source: 'hand' });
	feed.built(LOFT).add(LOFT, 'lamp', LINKED);
	return feed.add(LOFT, 'link-level', { ...plannedLevels(LOFT), ...PAGE });
}
function plannedLevels(id: string): { downDbm: number; upDbm: number } {
	const station = work.stations.find((one) => one.id === id)!;
	if (station.kind !== 'terminal' || !station.served) throw new Error('not served');
	return {
		downDbm: station.served.down.used.levelDbm,
		upDbm: station.served.up.used.levelDbm
	};
}

describe('steps of a unit and of a terminal', () => {
	it.each(STATION_ORDER)('“$name” holds somewhere', (fact) => {
		const holds = work.stations.some((station) =>
			work
				.stepsOf(station)
				.some(
					(step) =>
						fact.then.includes(step.base) &&
						step.after.some(({ key, reason }) => fact.first.includes(key) && reason === fact.reason)
				)
		);
		expect(holds).toBe(true);
	});

	it('are those of how it is put up', () => {
		const bases = (id: string): string[] =>
			work.stepsOf(work.stations.find((one) => one.id === id)!).map(({ base }) => base);
		expect(bases(LOFT)).toContain('station-bands');
		expect(bases(LOFT)).not.toContain('station-tilt');
		expect(bases(ICE)).toContain('station-wall');
		expect(bases(SHED)).toEqual(expect.arrayContaining(['station-bracket', 'station-tilt']));
	});

	it('let a heading be off by what the window has in hand, and no more than a compass is worth', () => {
		const heading = (id: string): Quantity =>
			work
				.stepsOf(work.stations.find((one) => one.id === id)!)
				.find(({ base }) => base === 'station-heading')!.quantity!;
		// The terminal looks straight at the hub: 35° of window, held to 15°.
		expect(heading(LOFT).expected).toBeCloseTo(260, 0);
		expect(heading(LOFT).high - heading(LOFT).expected!).toBeCloseTo(15, 6);
		// The narrow window of a dish leaves 10°, less what its tilt takes.
		const narrow = workOf(
			twoSectors({ terminals: [hubTerminal({ bearingDeg: 80, partCode: 'TM-60-L' })] })
		);
		const dish = narrow.stations.at(-1)!;
		const { quantity } = stationSteps(narrow.hub, dish).find(
			({ base }) => base === 'station-heading'
		)!;
		expect(quantity!.high - quantity!.expected!).toBeLessThan(10.1);
		expect(quantity!.high - quantity!.expected!).toBeGreaterThan(5);
	});

	it('refuse a source that would burn the unit, and take a named person’s word', () => {
		const steps = work.stepsOf(work.stations.find((one) => one.id === 'u1')!);
		const done = (kind: 'poe-standard' | 'poe-passive'): StepRefusal | undefined =>
			refusedStep(steps, {
				kind: 'build-step',
				payload: {
					...{ step: 'station-power', value: null, note: '', photoIds: [] },
					source: { kind, voltageV: 48, powerW: 30 }
				}
			});
		expect(done('poe-standard')).toBeUndefined();
		expect(done('poe-passive')?.message).toContain('may be destroyed');
		const skipped = { step: 'station-power', cause: 'Fed already' };
		expect(refusedStep(steps, { kind: 'step-skipped', payload: skipped })?.field).toBe(
			'authorisedBy'
		);
	});

	it('read a part that nobody has typed the putting up of', () => {
		const bare = { ...work.stations[0]!.part };
		delete bare.installation;
		const steps = stationSteps(work.hub, { ...work.stations[0]!, part: bare });
		const power = steps.find(({ base }) => base === 'station-power')!;
		expect(power.gate).toBeUndefined();
		expect(power.card).toBe('transmit');
	});
});

describe('bringing a hub up', () => {
	it('goes from the steps to the lamp, the level, the cover and done', () => {
		const feed = new HubFeed(work);
		expect(feed.at(LOFT).stage).toBe('building');
		feed.built(LOFT);
		expect(feed.at(LOFT).stage).toBe('waits');
		feed.built('u1');
		expect(feed.at('u1').stage).toBe('look');
		feed.add('u1', 'lamp', { state: 'searching', source: 'hand' });
		expect(feed.at('u1').stage).toBe('close');
		expect(feed.at(LOFT).stage).toBe('look');
		feed.add(LOFT, 'lamp', LINKED);
		expect(feed.at(LOFT).stage).toBe('read');
		feed.add(LOFT, 'link-level', { ...plannedLevels(LOFT), ...PAGE });
		expect(feed.at(LOFT).stage).toBe('close');
		feed.step(LOFT, 'station-cover');
		expect(feed.at(LOFT).stage).toBe('done');
	});

	it('keeps the cover for last, and names what it waits for', () => {
		const feed = new HubFeed(work).built(LOFT);
		const cover = feed.at(LOFT).build.steps.find(({ step }) => step.base === 'station-cover')!;
		expect(cover).toMatchObject({ state: 'blocked' });
		expect(cover.reason).toContain('lamp is right');
	});

	it('reads lamp and level anew after a change at the terminal or at its unit, and only then', () => {
		const own = linked().step(LOFT, 'station-heading');
		expect(own.at(LOFT)).toMatchObject({ lamp: null, level: null, stage: 'look' });
		const unit = linked().add('u1', 'link-remedy', { cause: 'unit-off' });
		expect(unit.at(LOFT).stage).toBe('waits');
		const other = linked().add('u2', 'link-remedy', { cause: 'unit-off' }).built(SHED);
		expect(other.at(LOFT)).toMatchObject({ lamp: 'linked', stage: 'close' });
		const earth = linked().step(LOFT, 'station-earth').step(LOFT, 'station-loop');
		expect(earth.at(LOFT).stage).toBe('close');
	});

	it('a level too far from the plan, either way, is not as planned', () => {
		for (const offDb of [-5, 5]) {
			const feed = linked();
			const { downDbm, upDbm } = plannedLevels(LOFT);
			feed.add(LOFT, 'link-level', { ...PAGE, downDbm: downDbm + offDb, upDbm });
			expect(feed.at(LOFT).stage).toBe('off');
			expect(feed.at(LOFT).shortDb).toBeCloseTo(-offDb, 6);
		}
	});

	it('a weak lamp is not as planned, whatever its level; a pointing asks for lamp and level anew', () => {
		const weak = linked().add(LOFT, 'lamp', { state: 'weak', source: 'hand' });
		expect(weak.at(LOFT).stage).toBe('off');
		expect(linkTroubleOf(weak.all(), weak.at(LOFT))).not.toBeNull();
		const turned = linked().add(LOFT, 'pointing', {
			...{ headingDeg: 250, levelDbm: null, source: 'hand' }
		});
		expect(turned.at(LOFT)).toMatchObject({ lamp: null, level: null, stage: 'look' });
	});

	it('takes no record of a station that the plan has not, nor of a link at a unit', () => {
		const { state } = linked();
		const refused = (station: string, kind: 'note' | 'link-test'): string | undefined =>
			refusedHubRecord(work, state, {
				...{ station, kind, recordedAt: '2026-05-04T10:00:00.000Z' },
				payload: kind === 'note' ? { text: 'x' } : { test: 'raining', value: 'no', source: 'hand' }
			})?.code;
		expect(refused('t-Elsewhere', 'note')).toBe('no-such-station');
		expect(refused('u1', 'link-test')).toBe('not-at-a-unit');
		expect(refused(LOFT, 'link-test')).toBeUndefined();
		expect(refused('u1', 'note')).toBeUndefined();
	});

	it('folds the same at once and in parts, and leaves what it began with', () => {
		const { records, state } = linked();
		for (const cut of [1, 7, records.length - 1]) {
			const first = advancedHub(EMPTY_HUB_STATE, records.slice(0, cut));
			const kept = JSON.stringify(first);
			expect(advancedHub(first, records.slice(cut))).toEqual(state);
			expect(JSON.stringify(first)).toBe(kept);
		}
	});

	it('says every kind of record in a line', () => {
		const feed = linked()
			.add('u1', 'stop-card', { card: 'climb', answers: {}, note: '' })
			.add(LOFT, 'step-skipped', { step: 'station-earth', cause: 'Plastic mast' })
			.add(LOFT, 'step-reopened', { step: 'station-loop', reason: 'Again' })
			.add(LOFT, 'note', { text: 'Owner asks for a call' })
			.add(LOFT, 'pointing', { headingDeg: 260, levelDbm: -60, source: 'hand' })
			.add(LOFT, 'link-test', { test: 'hub-in-sight', value: 'no', source: 'hand' })
			.add(LOFT, 'link-remedy', { cause: 'blocked' });
		const lines = feed.records.map((record) =>
			sayHubRecord(record, (key) => {
				const step = feed.stepsOf(record.station).find((one) => one.key === key);
				return step && { title: step.title, unit: step.quantity?.unit ?? '' };
			})
		);
		expect(new Set(feed.records.map(({ kind }) => kind)).size).toBe(HUB_RECORD_KINDS.length);
		expect(lines).toEqual(
			expect.arrayContaining([
				'Before anyone climbs: stop',
				'Earth: left out, Plastic mast',
				// A length says its unit.
				'Its cable: done, 50.50 m',
				'At 260°: −60.0 dBm',
				'Something stands in the line',
				'Set right: Something stands in the way'
			])
		);
		for (const line of lines) expect(line).not.toMatch(/undefined|NaN|station-/);
	});
});

describe('why a terminal does not link', () => {
	const searching = (): HubFeed => {
		const feed = new HubFeed(work).built('u1');
		feed.add('u1', 'lamp', { state: 'searching', source: 'hand' });
		return feed.built(LOFT).add(LOFT, 'lamp', { state: 'searching', source: 'hand' });
	};

	it('a dark lamp speaks for source and cable, a searching one for neither', () => {
		const dark = searching().add(LOFT, 'lamp', { state: 'dark', source: 'hand' });
		const first = (feed: HubFeed): string[] =>
			linkTroubleOf(feed.all(), feed.at(LOFT))!
				.causes.slice(0, 2)
				.map(({ cause }) => cause)
				.sort();
		expect(first(dark)).toEqual(['cable', 'power-kind']);
		expect(first(searching())).not.toContain('cable');
		expect(first(searching())).not.toContain('power-kind');
	});

	it('other terminals that are linked clear the unit', () => {
		const share = (feed: HubFeed, cause: LinkCause): number => {
			const progress = feed.at(LOFT);
			if (progress.station.kind !== 'terminal') throw new Error('no terminal');
			const sights = linkSightsOf(feed.all(), progress)!;
			return linkShares(progress.station, sights)[LINK_CAUSE_NAMES.indexOf(cause)]!;
		};
		const others = searching().built(ICE).add(ICE, 'lamp', LINKED);
		const neither = searching().built(ICE).add(ICE, 'lamp', { state: 'searching', source: 'hand' });
		expect(share(others, 'unit-off')).toBeLessThan(share(searching(), 'unit-off') / 2);
		expect(share(neither, 'unit-off')).toBeGreaterThan(2 * share(searching(), 'unit-off'));
	});

	it('those of another unit say nothing of it', () => {
		const feed = searching();
		const before = linkSightsOf(feed.all(), feed.at(LOFT))!.others;
		feed.built('u2').add('u2', 'lamp', { state: 'searching', source: 'hand' });
		feed.built(SHED).add(SHED, 'lamp', LINKED);
		expect(linkSightsOf(feed.all(), feed.at(LOFT))!.others).toEqual(before);
		feed.built(ICE).add(ICE, 'lamp', LINKED);
		expect(linkSightsOf(feed.all(), feed.at(LOFT))!.others).toEqual({ linked: 1, not: 0 });
	});

	it('what was set right is unlikely to be there still, and asks for the lamp again', () => {
		const feed = searching().add(LOFT, 'link-test', {
			test: 'looks-at-hub',
			value: 'no',
			source: 'hand'
		});
		expect(linkTroubleOf(feed.all(), feed.at(LOFT))).toMatchObject({
			causes: [
				{ cause: 'terminal-off', evidence: ['The terminal looks past the hub'] },
				{},
				{},
				{},
				{},
				{},
				{},
				{}
			]
		});
		feed.add(LOFT, 'link-remedy', { cause: 'terminal-off' });
		expect(feed.at(LOFT).stage).toBe('look');
		feed.add(LOFT, 'lamp', { state: 'searching', source: 'hand' });
		expect(linkTroubleOf(feed.all(), feed.at(LOFT))!.causes[0]!.cause).not.toBe('terminal-off');
	});

	// Every cause planted at the stand-in; whoever follows what is advised finds it.
	it.each(LINK_CAUSE_NAMES)('the cheapest tests lead to “%s” in a few of them', (cause) => {
		const standIn = { seed: 7, planted: [{ terminal: LOFT, cause }] };
		const feed = new HubFeed(work)
			.built('u1')
			.add('u1', 'lamp', { state: 'searching', source: 'simulated' });
		feed.built(LOFT);
		const station = work.stations.find(({ id }) => id === LOFT)!;
		if (station.kind !== 'terminal') throw new Error('no terminal');
		const seen = (): void => {
			const state = lampOf(truthOf(work, feed.state, standIn), station);
			feed.add(LOFT, 'lamp', { state, source: 'simulated' });
		};
		seen();
		expect(feed.at(LOFT).stage).toBe('no-link');
		let asked = 0;
		for (; feed.at(LOFT).stage === 'no-link'; asked++) {
			expect(asked).toBeLessThan(10);
			const { nextTest, causes } = linkTroubleOf(feed.all(), feed.at(LOFT))!;
			if (nextTest) {
				const yes = testOutcome(truthOf(work, feed.state, standIn), station, nextTest);
				feed.add(LOFT, 'link-test', {
					test: nextTest,
					value: yes ? 'yes' : 'no',
					source: 'simulated'
				});
				continue;
			}
			const at = causes[0]!.cause === 'unit-off' ? 'u1' : LOFT;
			feed.add(at, 'link-remedy', { cause: causes[0]!.cause });
			if (at === 'u1') feed.add('u1', 'lamp', { state: 'searching', source: 'simulated' });
			seen();
		}
		expect(feed.at(LOFT).stage).toBe('read');
	});
});

describe('the stand-in of a hub', () => {
	const none = { seed: 3, planted: [] };
	const station = work.stations.find(({ id }) => id === LOFT)!;

	it('is dark without power, starts, looks for its unit, and links once that is up', () => {
		const feed = new HubFeed(work);
		const lamp = (): string => lampOf(truthOf(work, feed.state, none), station);
		expect(lamp()).toBe('dark');
		for (const { key } of feed.stepsOf(LOFT)) {
			if (!['station-boot', 'station-cover'].includes(key)) feed.step(LOFT, key);
		}
		expect(lamp()).toBe('starting');
		feed.step(LOFT, 'station-boot');
		expect(lamp()).toBe('searching');
		feed.built('u1');
		expect(lamp()).toBe('linked');
	});

	it('reads about the planned level, scattered, and the same for the same question', () => {
		const feed = new HubFeed(work).built('u1').built(LOFT);
		if (station.kind !== 'terminal') throw new Error('no terminal');
		const page = pageOf(truthOf(work, feed.state, none), station)!;
		expect(Math.abs(page.downDbm - plannedLevels(LOFT).downDbm)).toBeLessThan(3);
		expect(page.downDbm).not.toBe(plannedLevels(LOFT).downDbm);
		expect(pageOf(truthOf(work, feed.state, none), station)).toEqual(page);
	});

	it('takes what was measured for what is: a terminal recorded as turned away does not link', () => {
		const feed = new HubFeed(work)
			.built('u1')
			.built(LOFT)
			.step(LOFT, 'station-heading', { value: 200 });
		expect(lampOf(truthOf(work, feed.state, none), station)).toBe('searching');
		// Twenty degrees off still lies in its window, with the loss of steering there.
		feed.step(LOFT, 'station-heading', { value: 240 });
		expect(lampOf(truthOf(work, feed.state, none), station)).toBe('linked');
	});

	it('holds on weakly where what stands in the way leaves enough', () => {
		const near = workOf(
			twoSectors({ terminals: [hubTerminal({ name: 'Crane', bearingDeg: 90, distanceM: 12 })] })
		);
		const feed = new HubFeed(near).built('u1').built('t-Crane');
		const crane = near.stations.find(({ id }) => id === 't-Crane')!;
		const planted = [{ terminal: 't-Crane', cause: 'rain' as const }];
		expect(lampOf(truthOf(near, feed.state, { seed: 1, planted }), crane)).toBe('weak');
		expect(lampOf(truthOf(near, feed.state, none), crane)).toBe('linked');
	});

	it('a source that does not fit leaves it dark', () => {
		const feed = new HubFeed(work).built('u1').built(LOFT);
		feed.step(LOFT, 'station-power', {
			source: { kind: 'poe-standard', voltageV: 48, powerW: 30 }
		});
		expect(lampOf(truthOf(work, feed.state, none), station)).toBe('dark');
	});
});

describe('the acceptance of a terminal', () => {
	const judged = (feed: HubFeed): TerminalJudgement => judgeTerminalOf(feed.all(), LOFT)!;
	const line = (feed: HubFeed, key: string): TerminalLine | undefined =>
		judged(feed).lines.find((one) => one.key === key);

	it('is good once everything of it and of its unit is done, read and as planned', () => {
		const feed = linked().step(LOFT, 'station-cover');
		expect(judged(feed).verdict).toBe('open');
		expect(line(feed, 'unit-steps')).toMatchObject({ verdict: 'open' });
		feed.step('u1', 'station-cover');
		expect(judged(feed)).toMatchObject({ verdict: 'good', unit: 'Sector 1', overrides: [] });
	});

	it('stands while every line asks and finds the same', () => {
		const feed = linked().step(LOFT, 'station-cover').step('u1', 'station-cover');
		const signed = judged(feed);
		expect(acceptanceStands(signed, judged(feed))).toBe(true);
		feed.add('u1', 'note', { text: 'Ladder left here' });
		expect(acceptanceStands(signed, judged(feed))).toBe(true);
		feed.add(LOFT, 'step-reopened', { step: 'station-earth', reason: 'Loose' });
		expect(acceptanceStands(signed, judged(feed))).toBe(false);
		feed.step(LOFT, 'station-earth');
		expect(acceptanceStands(signed, judged(feed))).toBe(true);
		feed.add('u1', 'link-remedy', { cause: 'unit-off' });
		expect(acceptanceStands(signed, judged(feed))).toBe(false);
		expect(acceptanceStands(signed, undefined)).toBe(false);
	});

	it('says what is short of plan and promise', () => {
		const feed = linked().step(LOFT, 'station-cover').step('u1', 'station-cover');
		const { downDbm, upDbm } = plannedLevels(LOFT);
		feed.add(LOFT, 'link-level', { ...PAGE, downDbm: downDbm - 6, upDbm, downMbitS: 40 });
		expect(line(feed, 'level-down')).toMatchObject({ verdict: 'off' });
		expect(line(feed, 'level-up')).toMatchObject({ verdict: 'good' });
		expect(line(feed, 'rate-down')).toMatchObject({
			verdict: 'off',
			asked: '50 Mbit/s promised',
			found: '40 Mbit/s'
		});
		expect(judged(feed).verdict).toBe('off');
	});

	it('leaves open what was not read, and names what was left out and on whose word', () => {
		const feed = linked().step('u1', 'station-cover');
		feed.add(LOFT, 'step-skipped', { step: 'station-cover', cause: 'Lid broken' });
		feed.add(LOFT, 'step-reopened', { step: 'station-power', reason: 'Again' });
		feed.add(LOFT, 'step-skipped', {
			...{
				step: 'station-power',
				cause: 'Fed by the house',
				authorisedBy: 'R. Ness, site electrician'
			}
		});
		expect(line(feed, 'steps')?.found).toContain('left out: Gasket and cover (Lid broken)');
		expect(judged(feed).overrides).toEqual([
			'Net loft, left out: Power (Fed by the house, on the word of R. Ness, site electrician)'
		]);
		expect(line(feed, 'lamp')).toMatchObject({ verdict: 'open' });
		const { downDbm } = plannedLevels(LOFT);
		feed.add(LOFT, 'lamp', LINKED).add(LOFT, 'link-level', {
			...{ downDbm, upDbm: null, downMbitS: 90, upMbitS: null, source: 'hand' }
		});
		expect(line(feed, 'level-up')).toMatchObject({ verdict: 'open', found: 'not read' });
		expect(line(feed, 'rate-up')).toMatchObject({ verdict: 'open' });
	});
});

describe('a link of two small radios', () => {
	const link = workOf(
		harbour({
			channelWidthMhz: 40,
			units: [hubUnit({ partCode: 'SL-58-D', headingDeg: 90, frequencyGhz: 5.8 })],
			terminals: [hubTerminal({ partCode: 'SL-58-D', bearingDeg: 90, distanceM: 1500 })]
		})
	);

	it('is a hub of one unit and one terminal of the same kind', () => {
		expect(isSmallLink(link.hub)).toBe(true);
		expect(isSmallLink(work.hub)).toBe(false);
		expect(link.plan.terminals[0]!.served).not.toBeNull();
		expect(link.plan.units[0]!.airTimeThere).toBe(1);
	});

	it('shows more bars the nearer its beam is to the other end, and none where nothing comes', () => {
		const feed = new HubFeed(link).built('u1').built('t-House');
		const [, end] = link.stations;
		const plannedDeg = end!.aim.headingDeg;
		const shown = (offDeg: number): number =>
			pointingOf(truthOf(link, feed.state, { seed: 5, planted: [] }), end!, plannedDeg + offDeg)
				.step ?? 0;
		expect(shown(0)).toBe(4);
		expect(shown(11)).toBeLessThan(shown(0));
		expect(shown(-11)).toBe(shown(11));
		const off = new HubFeed(link).built('t-House');
		expect(
			pointingOf(truthOf(link, off.state, { seed: 5, planted: [] }), end!, plannedDeg)
		).toEqual({ headingDeg: plannedDeg, levelDbm: null });
	});

	it('is pointed where it does not steer, and says no more of its compass than that is worth', () => {
		expect(link.stations.map(steers)).toEqual([false, false]);
		expect(work.stations.every(steers)).toBe(true);
		const heading = (one: HubWork): BuildStep =>
			one.stepsOf(one.stations[1]!).find(({ base }) => base === 'station-heading')!;
		expect(heading(link).why).toContain('what it shows of the other end decides');
		const narrow = workOf(
			harbour({
				channelWidthMhz: 40,
				units: [hubUnit({ partCode: 'SL-24-D', headingDeg: 90, frequencyGhz: 24.1 })],
				terminals: [hubTerminal({ partCode: 'SL-24-D', bearingDeg: 90, distanceM: 900 })]
			})
		);
		// A window of 1.4° is less than the 2° that a compass is held to.
		expect(heading(narrow).quantity!.from).toBe('the plan, as near as a compass reads');
		expect(heading(link).quantity!.from).toContain('still lies in its window');
	});

	it('has the steps of its kit, its warning of the injector among them', () => {
		const steps = link.stepsOf(link.stations[0]!);
		const power = steps.find(({ base }) => base === 'station-power')!;
		expect(power.caution).toContain('may burn');
		expect(steps.find(({ base }) => base === 'station-upright')!.lines[0]).toContain('drain hole');
	});
});
