import { supplyVoltageV } from '../../budget/planInput';
import type { CableItem, RadioItem } from '../../budget/inventory';
import { supplyFeeds } from '../../catalogue/chassis';
import { coaxialLossDb, worstIntermediateMhz } from '../../catalogue/cableFigures';
import type { CoaxialData, IntermediateData } from '../../catalogue/parts';
import { dcSupply, type DcSupply } from '../../firstlook/dcSupply';
import { numberText } from '../../units/text';
import { EARTH_CAUTION, portLine } from './indoors';
import { ofRadio, stepKey, type BuildSite, type Draft } from '../buildStep';
import {
	cableClamps,
	cableJoints,
	goesUp,
	runJoints,
	screenKits,
	wiringOf,
	type ClosedJoints
} from '../counts';
import { atLeast, counted, voltage, within, type Quantity } from '../quantity';
import { shortedLoopOhm } from '../towerArithmetic';

/** Earth of the radios and of the screens, and what keeps a surge out. */
export function earthSteps({ own, input, inventory }: BuildSite): Draft[] {
	const { radios, cables } = inventory;
	const foot = radios.every(({ place }) => place === 'foot');
	const kits = cables.reduce((sum, cable) => sum + screenKits(inventory, cable), 0);
	return [
		{
			base: 'earth-leads',
			phase: 'earth',
			title: `Earth leads of the ${radios.length > 1 ? 'radios' : 'radio'}${foot ? ', at the foot' : ''}`,
			why: `To ${own.conditions.earthPoint || (foot ? 'the bar at the foot' : 'mast or bar')}; bare metal under the clamp, terminal crimped with the conductor flush, lead running down.`,
			photo: true,
			caution: EARTH_CAUTION,
			items: radios.map(({ key }) => key),
			duties: ['earth'],
			tools: ['crimping-pliers', 'spanners'],
			quantity: counted('Leads', radios.length, 'one a radio')
		},
		earthConductor(own.cable?.conductorMm2 ?? null, input.building.earthMm2),
		...(cables.length
			? [
					{
						base: 'earth-screens',
						phase: 'earth' as const,
						title: 'Cable screens earthed',
						why: foot
							? 'Before entry; the lead runs down, close to the line of the cable.'
							: 'At the top, at the bottom and before entry; the lead runs down, close to the line of the cable.',
						caution: EARTH_CAUTION,
						items: cables.map(({ key }) => key),
						duties: ['earth' as const],
						tools: ['knife' as const, 'spanners' as const],
						quantity: counted(
							'Earth kits',
							kits,
							'three a cable that goes up, one a cable that stays below'
						)
					},
					{
						base: 'surge',
						phase: 'earth' as const,
						title: 'Surge protectors in the cables',
						why: `One in every cable, before entry, its earth as short as it will go.${cables.some(({ part }) => part.coaxial) ? ' Of a coaxial cable one that passes supply and intermediate frequency.' : ''}`,
						caution: EARTH_CAUTION,
						items: cables.map(({ key }) => key),
						tools: ['spanners' as const],
						quantity: counted('Protectors', cables.length, 'one a cable')
					}
				]
			: [])
	];
}

function earthConductor(supplyMm2: number | null, codeMm2: number | null): Draft {
	const leastMm2 = Math.max(supplyMm2 ?? 0, codeMm2 ?? 0);
	const from = [
		...(supplyMm2 === null ? [] : [`supply conductor ${numberText(supplyMm2, 1)} mm²`]),
		codeMm2 === null
			? 'nobody has typed what the local code asks: ask'
			: `local code ${numberText(codeMm2, 1)} mm²`
	].join('; ');
	return {
		base: 'earth-conductor',
		phase: 'earth',
		title: 'Size of the earth conductor',
		why: `Not thinner than the local code asks, nor than the supply’s own conductor${leastMm2 ? '' : `; ${from}`}.`,
		caution: EARTH_CAUTION,
		tools: ['calliper'],
		...(leastMm2 ? { quantity: atLeast('Conductor', leastMm2, 'mm²', from, 1) } : {})
	};
}

/** Where a cable is held on the unit, from the pivot of the mount, m. */
export const CABLE_LEVER_M = 0.4;

/** Every supply cable: its plug, its clamps, and what a meter says of it before it is fed. */
export function cableSteps({ inventory }: BuildSite): Draft[] {
	const { cables } = inventory;
	const [first] = cables;
	if (!first) return [];
	const sheet = first.part.installation;
	const from = `sheet of ${first.part.code}`;
	const items = cables.map(({ key }) => key);
	const clamps = cables.reduce((sum, { part, lengthM }) => sum + cableClamps(part, lengthM), 0);
	const up = cables.some((cable) => goesUp(inventory, cable));
	const phase = 'cable' as const;
	return [
		...(sheet
			? [
					{
						base: 'strip',
						phase,
						title: `Connector: ${sheet.connector.name}`,
						why: `Strip by the drawing, tighten to ${numberText(sheet.connector.torqueNm, 0)} N·m.${first.part.coaxial ? ' At either end; no strand of the screen on the inner conductor.' : ''}`,
						sheet: 'strips' as const,
						items,
						duties: ['connect' as const],
						tools: ['knife' as const, 'crimping-pliers' as const],
						torquesNm: [sheet.connector.torqueNm],
						quantity: first.part.coaxial
							? counted('Connectors made', 2 * cables.length, 'two a cable, one at either end')
							: counted('Connectors made', cables.length, 'one a cable, at the unit')
					},
					{
						base: 'clamps',
						phase,
						title: 'Cable clamps',
						why: `The first ${numberText(sheet.firstClampM, 1)} m ${up ? 'below' : 'from'} the radio, then no further apart than ${numberText(sheet.clampEveryM, 1)} m; no ties straight on a soft cable.`,
						sheet: 'clamps' as const,
						items,
						duties: ['mount' as const],
						tools: ['spanners' as const],
						quantity: atLeast('Clamps', clamps, '', from)
					},
					...(up
						? [
								{
									base: 'slack',
									phase,
									title: 'Drip loop and slack for the sweep',
									why: 'The dish swings through its whole adjustment without the cable pulling.',
									sheet: 'slack' as const,
									photo: true,
									items,
									tools: ['measuring-tape' as const],
									quantity: atLeast('Tightest bend', sheet.minBendRadiusMm, 'mm radius', from)
								}
							]
						: [])
				]
			: []),
		...(first.part.coaxial
			? [
					{
						base: 'entry',
						phase,
						title: 'Through the entry: drip loop outside, boot closed round each cable',
						why: `Boot or gland for ${numberText(first.part.outerMm, 1)} mm. The lowest point of the cable is outside: water drips off there and not at the entry.`,
						items,
						photo: true,
						caution: 'Ask before a wall or roof is opened.',
						tools: ['calliper' as const],
						quantity: counted('Cables through the entry', cables.length, 'one boot a cable')
					}
				]
			: []),
		...cables.flatMap((cable, i) => cableTests(inventory.radios, cable, i))
	];
}

/** What is measured of one cable with the supply off and both ends free. */
function cableTests(radios: readonly RadioItem[], cable: CableItem, place: number): Draft[] {
	const radio = radios.find(({ number }) => number === cable.radio);
	if (!radio) return [];
	const wiring = wiringOf(cable.part, radio.part);
	const { coaxial } = cable.part;
	const whose = radios.length > 1 ? `, ${cable.name.toLowerCase()}` : '';
	const common = {
		phase: 'cable' as const,
		caution: 'Isolate the supply before touching terminals.',
		radio: radio.number,
		items: [cable.key]
	};
	const key = (base: string): { base: string; key: string } => ({
		base,
		key: stepKey(base, cable.key, place)
	});
	if (wiring.kind === 'ethernet') {
		return [
			{
				...common,
				...key('wire-map'),
				title: `Wire map${whose}`,
				why: 'Every conductor through, in order and paired as the plug has them, and the screen through: a loop test does not see a swapped pair.',
				tools: ['wire-mapper'],
				quantity: counted(
					'Conductors that pass, and the screen',
					wiring.conductors + 1,
					`${wiring.conductors} conductors and the screen`
				)
			}
		];
	}
	return [
		{
			...common,
			...key('continuity'),
			title: `Loop with the far end shorted${whose}`,
			why: `${coaxial ? 'Inner conductor to screen. ' : ''}The loop reads the cable’s own resistance. Nothing at all is a short at this end; far more is a bad joint.`,
			tools: ['ohmmeter'],
			quantity: loopQuantity(cable)
		},
		{
			...common,
			...key('insulation'),
			title: `Insulation with the far end open${whose}`,
			why: coaxial
				? 'Inner conductor to screen: whatever leaks here leaks supply.'
				: 'Conductor to conductor, and each to the screen; the smallest counts.',
			tools: ['insulation-meter'],
			...(wiring.insulationMohm === null
				? {}
				: {
						quantity: atLeast(
							'Least resistance',
							wiring.insulationMohm,
							'MΩ',
							`sheet of ${cable.part.code}`,
							1
						)
					})
		},
		...(coaxial && radio.part.intermediate
			? [
					{
						...common,
						...key('cable-loss'),
						title: `Loss at the intermediate frequency${whose}`,
						why: 'From plug to plug. More than computed is a kink, water or a bad plug; the radio cannot make up for it.',
						tools: ['cable-tester' as const],
						quantity: intermediateLoss(cable, coaxial, radio.part.intermediate)
					}
				]
			: [])
	];
}

/** Plugs and the tester itself are known to so much, dB. */
const TESTER_DB = 1;
/** Attenuation of cable as it is delivered scatters by this share. */
const LOSS_SHARE = 0.15;

function intermediateLoss(
	{ part, lengthM }: CableItem,
	coaxial: CoaxialData,
	intermediate: IntermediateData
): Quantity {
	const mhz = worstIntermediateMhz(intermediate);
	const lossDb = coaxialLossDb(coaxial, lengthM, mhz);
	return within(
		`Loss at ${numberText(mhz, 0)} MHz`,
		'dB',
		[
			Math.max(0, lossDb * (1 - LOSS_SHARE) - TESTER_DB),
			Math.min(intermediate.maxLossDb, lossDb * (1 + LOSS_SHARE) + TESTER_DB)
		],
		`${part.code}, ${numberText(lengthM, 0)} m; the radio bears ${numberText(intermediate.maxLossDb, 0)} dB`,
		1
	);
}

/** Copper between 0 and 40 °C and a meter's leads change a loop by about so much. */
const LOOP_SHARE = 0.2;
const LEADS_OHM = 0.15;
/** Less than this is no loop but a short, however short the cable, Ω. */
const LEAST_LOOP_OHM = 0.01;

function loopQuantity({ part, lengthM }: CableItem): Quantity {
	const ohm = shortedLoopOhm(part, lengthM);
	return within(
		'Loop, far end shorted',
		'ohm',
		[Math.max(LEAST_LOOP_OHM, ohm * (1 - LOOP_SHARE)), ohm * (1 + LOOP_SHARE) + LEADS_OHM],
		`${part.code}, ${numberText(lengthM, 0)} m`,
		2
	);
}

/** Every outdoor joint closed. */
export function weatherproofSteps({ input, inventory }: BuildSite): Draft[] {
	const cables = cableJoints(input, inventory);
	const runs = runJoints(input, inventory.runs);
	const step = (base: string, what: string, joints: ClosedJoints[], items: string[]): Draft[] =>
		joints.length
			? [
					{
						base,
						phase: 'weatherproof',
						title: `Weatherproof every joint of the ${what}`,
						why: 'Tape is wound down and back up, half over itself, last layer from below like roof tiles.',
						lines: joints.map(
							({ what: kind, count, how }) =>
								`${count} ${count === 1 ? kind : `${kind}s`}: ${how === 'sleeve' ? 'screw-on shells, by hand, no tape' : how.replaceAll('-', ' ')}`
						),
						sheet: 'tape',
						photo: true,
						items,
						quantity: counted(
							'Joints',
							joints.reduce((sum, { count }) => sum + count, 0),
							'those outside'
						)
					}
				]
			: [];
	return [
		...step(
			'weatherproof',
			inventory.cables.length > 1 ? 'cables' : 'cable',
			cables,
			inventory.cables.map(({ key }) => key)
		),
		...step(
			'guide-weather',
			inventory.runs.length > 1 ? 'runs' : 'run',
			runs,
			inventory.runs.map(({ key }) => key)
		)
	];
}

/** The supply, from its source to the lamps of every radio. */
export function powerSteps(site: BuildSite): Draft[] {
	return [
		...indoorPower(site),
		...site.inventory.radios.flatMap((radio) => unitPower(site, radio)),
		...portCheck(site)
	];
}

/** Two cables changed over between the ports and the radios, found before anybody aligns on the wrong one. */
function portCheck({ inventory }: BuildSite): Draft[] {
	const { cables, radios } = inventory;
	if (cables.length < 2) return [];
	return [
		{
			base: 'port-check',
			phase: 'power-up',
			title: 'Which port feeds which radio',
			why: 'Switch one port off: the radio that it is listed for goes dark, and no other. Two cables changed over look right at both ends by themselves.',
			lines: cables.map((cable, i) => portLine(inventory, cable, i)),
			caution: 'Mains and DC isolation: licensed people.',
			items: [...cables.map(({ key }) => key), ...radios.map(({ key }) => key)],
			people: 2,
			quantity: counted('Ports that switch off their own radio', cables.length, 'plan')
		}
	];
}

/** So much of a supply’s voltage a battery’s charge and a meter change it. */
const SUPPLY_SHARE = 0.05;

function indoorPower({ own, inventory }: BuildSite): Draft[] {
	const { indoorUnit, powerSource } = inventory;
	const supplyV = supplyVoltageV(own);
	const stands = [indoorUnit, powerSource].filter((item) => item !== null);
	// An injector has no terminal to measure at: what it is, is judged at the unit it feeds.
	if (stands.length === 0 || (!indoorUnit && powerSource?.part.kind !== 'dc')) return [];
	const feeds = indoorUnit ? supplyFeeds(indoorUnit.part) : 1;
	const [low, high] = indoorUnit?.part.supplyV ?? [0, Infinity];
	const expected = supplyV ?? null;
	const limits: [number, number] =
		expected === null
			? [low, Math.min(high, 75)]
			: [
					Math.max(low, expected * (1 - SUPPLY_SHARE)),
					Math.min(high, expected * (1 + SUPPLY_SHARE))
				];
	return [
		{
			base: 'indoor-power',
			phase: 'power-up',
			title: `Supply indoors${feeds > 1 ? `, each of its ${feeds} feeds` : ''}, measured before anything is switched on`,
			why: `Polarity first: red lead on plus. Fuse by the sheet${feeds > 1 ? '; the feeds from fuses of their own, or one fuse takes both' : ''}.`,
			caution: 'Mains and DC isolation: licensed people.',
			items: stands.map(({ key }) => key),
			duties: ['power'],
			tools: ['voltmeter'],
			gate: { kind: 'supply', maxV: high === Infinity ? 75 : high },
			quantity: voltage(
				limits,
				expected,
				indoorUnit ? `sheet of ${indoorUnit.part.code}` : `sheet of ${powerSource?.part.code ?? ''}`
			)
		}
	];
}

function unitPower({ own, inventory }: BuildSite, radio: RadioItem): Draft[] {
	const { part, cable } = radio;
	const power = part.installation?.power;
	const many = inventory.radios.length > 1;
	const whose = many ? ` of ${radio.name.toLowerCase()}` : '';
	const phase = 'power-up' as const;
	const overPairs = power !== undefined && power.kind !== 'dc';
	return [
		...(power
			? [
					{
						...ofRadio('gland', radio),
						phase,
						title: `Gland, port and source${whose}`,
						why: `${power.port.charAt(0).toUpperCase()}${power.port.slice(1)}. Stays unconnected: ${power.unconnected}. Gland by hand only.`,
						caution: 'A source that feeds without asking destroys what is not made for it.',
						sheet: 'gland' as const,
						gate: {
							kind: 'source' as const,
							unit: {
								consumptionW: part.consumptionW,
								supplyMinV: part.supplyMinV,
								power: { kind: power.kind, maxV: power.maxV }
							},
							cableLengthM: cable?.lengthM ?? 0
						},
						items: [radio.key],
						duties: ['connect' as const]
					}
				]
			: []),
		...(overPairs ? [] : [voltageStep({ own }, radio, whose)]),
		{
			...ofRadio('boot', radio),
			phase,
			title: many ? `Wait until ${radio.name.toLowerCase()} is up` : 'Wait until the unit is up',
			why: part.installation
				? `Lamps: ${part.installation.lamps}.`
				: 'Lamps mean different things on different units: see its sheet.',
			...(overPairs ? { caution: 'Mains and DC isolation: licensed people.' } : {}),
			items: [radio.key],
			duties: ['power'],
			quantity: atLeast('Waited', part.bootMinutes, 'min', `sheet of ${part.code}`)
		}
	];
}

function voltageStep({ own }: Pick<BuildSite, 'own'>, radio: RadioItem, whose: string): Draft {
	const { part, cable } = radio;
	const maxV = part.installation?.power.maxV ?? 72;
	const supplyV = supplyVoltageV(own);
	const supply =
		cable && supplyV !== null
			? dcSupply(supplyV, part.consumptionW, cable.part, cable.lengthM)
			: null;
	const from = `sheet of ${part.code}`;
	if (cable?.part.coaxial) return coaxialVoltage(radio, { whose, maxV, supplyV, supply });
	return {
		...ofRadio('voltage', radio),
		phase: 'power-up',
		title: `Voltage at the unit${whose}, under load`,
		why: 'Polarity first: red lead on plus; a minus sign is a reversed supply. Indoor before outdoor.',
		caution: 'Mains and DC isolation: licensed people. Surge protection in place.',
		sheet: 'supply',
		gate: { kind: 'supply', maxV },
		items: [radio.key],
		duties: ['power'],
		tools: ['voltmeter'],
		quantity:
			supply?.kind === 'fed' && supplyV !== null
				? voltage(
						[
							Math.max(part.supplyMinV, supply.voltageAtUnitV - SUPPLY_SHARE * supplyV),
							Math.min(maxV, supplyV * (1 + SUPPLY_SHARE))
						],
						supply.voltageAtUnitV,
						`computed from ${numberText(supplyV, 1)} V over ${numberText(cable?.lengthM ?? 0, 0)} m; ${from}`
					)
				: voltage([part.supplyMinV, maxV], null, from)
	};
}

/** A coaxial plug that is screwed on has no place for a lead: what comes up is measured before, without load. */
function coaxialVoltage(
	radio: RadioItem,
	{
		whose,
		maxV,
		supplyV,
		supply
	}: { whose: string; maxV: number; supplyV: number | null; supply: DcSupply | null }
): Draft {
	const { part } = radio;
	const loaded =
		supply?.kind === 'fed'
			? ` Under load ${numberText(supply.voltageAtUnitV, 1)} V are computed there; the unit shows them once it is up.`
			: '';
	return {
		...ofRadio('voltage', radio),
		phase: 'power-up',
		title: `Voltage on the inner conductor${whose}, before the plug is screwed on`,
		why: `Inner conductor to screen, polarity by the sheet: a minus sign is a reversed supply.${loaded} Then off, plug on by hand and to its torque, and on again: never under voltage.`,
		caution: 'Mains and DC isolation: licensed people. Surge protection in place.',
		gate: { kind: 'supply', maxV },
		items: [radio.key],
		duties: ['power', 'connect'],
		tools: ['voltmeter'],
		quantity: voltage(
			supplyV === null
				? [part.supplyMinV, maxV]
				: [
						Math.max(part.supplyMinV, supplyV * (1 - SUPPLY_SHARE)),
						Math.min(maxV, supplyV * (1 + SUPPLY_SHARE))
					],
			supplyV,
			supplyV === null ? `sheet of ${part.code}` : 'without load nothing drops on the way'
		)
	};
}
