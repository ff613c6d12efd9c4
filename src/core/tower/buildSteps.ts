import { CONFIGURATION_RULES } from '../budget/configuration';
import type { HopPlan } from '../budget/hopPlan';
import type { EndPlanInput, HopPlanInput } from '../budget/planInput';
import type { CablePart } from '../catalogue/parts';
import type { End } from '../ends';
import { bearingText, numberText } from '../units/text';
import { filmsOf } from './films';
import {
	cableClamps,
	feederClamps,
	feederEarthKits,
	JOINTS_A_CABLE,
	KITS_A_CABLE,
	partsList
} from './partsList';
import { atLeast, bearing, counted, measured, within, type Quantity } from './quantity';
import type { StopCard } from '../safety/stopCards';
import { shortedLoopOhm } from './towerArithmetic';
import { partsToLabel } from './receiving';
import { chainOf } from '../polarization/chain';

export const PHASES = [
	'receive',
	'assemble',
	'polarization',
	'raise',
	'earth',
	'cable',
	'waveguide',
	'weatherproof',
	'power-up'
] as const;
export type Phase = (typeof PHASES)[number];

/** How a step is recorded: by its own form, or by looking elsewhere at what was recorded. */
export type StepWork = 'confirm' | 'packing' | 'labels' | 'parties' | 'chain';

/** A calculation that is shown where the step needs it. */
export type StepSheet =
	'lift' | 'clamps' | 'slack' | 'strips' | 'tape' | 'gland' | 'supply' | 'hangers' | 'bends';

export interface BuildStep {
	/** Stable name; records refer to it. */
	key: string;
	phase: Phase;
	title: string;
	why: string;
	work: StepWork;
	people: number;
	caution?: string;
	quantity?: Quantity;
	/** A photo proves something here; without one the step is not done. */
	photo: boolean;
	/** Steps that must be done before, with the reason. */
	after: { key: string; reason: string }[];
	card?: StopCard;
	sheet?: StepSheet;
}

type Draft = Omit<BuildStep, 'phase' | 'work' | 'people' | 'photo' | 'after'> &
	Partial<Pick<BuildStep, 'work' | 'people' | 'photo' | 'after'>>;

/** Everything one end's building depends on. */
interface Site {
	input: HopPlanInput;
	plan: HopPlan;
	own: EndPlanInput;
	end: End;
	radios: number;
	dishes: number;
}

/** The ordered work of one end for its own configuration, parts and schools. Pure. */
export function buildSteps(input: HopPlanInput, plan: HopPlan, end: End): BuildStep[] {
	const rule = CONFIGURATION_RULES[input.configuration.kind];
	const site: Site = {
		input,
		plan,
		own: input.ends[end],
		end,
		radios: rule.radios,
		dishes: rule.dishes
	};
	const phases: [Phase, Draft[]][] = [
		['receive', receiveSteps(site)],
		['assemble', assembleSteps(site)],
		['polarization', polarizationSteps(site)],
		['raise', raiseSteps(site)],
		['earth', earthSteps(site)],
		['cable', cableSteps(site)],
		['waveguide', waveguideSteps(site)],
		['weatherproof', weatherproofSteps(site)],
		['power-up', powerUpSteps(site)]
	];
	return phases.flatMap(([phase, drafts]) =>
		drafts.map((draft): BuildStep => ({
			work: 'confirm',
			people: 1,
			photo: false,
			after: [],
			...draft,
			phase
		}))
	);
}

function receiveSteps({ input, end }: Site): Draft[] {
	return [
		{
			key: 'parties',
			title: 'Who is here to receive',
			why: 'A count is only a proof when both sides made it. An absence needs somebody who authorised it.',
			work: 'parties'
		},
		{
			key: 'packing',
			title: 'Count every item',
			why: 'By number, never by a tick: what is short today is a second climb.',
			work: 'packing',
			quantity: counted('Lines counted', partsList(input, end).length, 'parts list')
		},
		{
			key: 'labels',
			title: 'Read the labels against the plan',
			why: 'A part for another band can look alike and fit.',
			work: 'labels',
			quantity: counted('Labels read', partsToLabel(input, end).length, 'plan')
		},
		{
			key: 'warm-up',
			title: 'Let cold goods warm before opening',
			why: 'Cold metal in warm damp air sweats inside.',
			quantity: atLeast('Waited', 0, 'min', 'judged by the crew: none when goods and air are alike')
		}
	];
}

function assembleSteps({ own, input, end }: Site): Draft[] {
	const dish = own.dish.installation;
	const mount = own.mount.installation;
	const films = filmsOf(input, end);
	const rings =
		(dish?.oRings ?? 0) +
		(usesCoupling(input, own) ? (own.coupling?.installation?.oRings ?? 0) : 0);
	return [
		{
			key: 'orientation',
			title: `Orientation: dish ${own.mountSide === 'centred' ? 'in the middle' : `on the ${own.mountSide}`} of the mast`,
			why: `${dish?.drain ?? 'Drain lowest'}; cable port down, hooks down so that the handle ends up.`,
			photo: true,
			caution: 'Crate upright, nothing pressed on the reflector, no lever inside.'
		},
		...(mount
			? (['azimuth', 'tilt'] as const).map((axis): Draft => ({
					key: `centre-${axis}`,
					title: `Centre the ${axis} adjuster`,
					why: 'Travel both ways, or the search ends at a stop.',
					quantity: measured(
						'Free length of the rod',
						'mm',
						mount.centredRodMm[axis],
						mount.rodToleranceMm,
						`sheet of ${own.mount.code}`,
						0
					)
				}))
			: []),
		{
			key: 'pivots',
			title: 'Pivots fast, not tight; the right screw in each',
			why: 'Loose enough to move, tight enough not to sag.'
		},
		...(dish
			? [
					{
						key: 'dish-bolts',
						title: 'Dish to mount, in two stages',
						why: 'All in by hand first, then in opposite pairs: a nut tightened in one go bends what it holds.',
						people: 2,
						quantity: counted(
							`Bolts at ${numberText(dish.bolts.torqueNm, 0)} N·m`,
							dish.bolts.count,
							`sheet of ${own.dish.code}`
						)
					},
					{
						key: 'o-rings',
						title: 'O-rings greased and seated',
						why: dish.grease,
						quantity: counted('O-rings', rings, 'sheets of dish and coupling')
					}
				]
			: []),
		{
			key: 'films',
			title: 'Films and caps off, counted',
			why: `Off the moment before mating. Left in, it is a loss nobody can find from below: ${films.map((film) => film.name).join('; ')}.`,
			quantity: counted('Films and caps in your hand', films.length, 'sheets of the parts'),
			photo: true
		},
		{
			key: 'tight',
			title: 'Everything tight before the lift',
			why: 'What is loose on the ground falls from the mast.',
			people: 2,
			after: [
				{ key: 'films', reason: 'parts are mated only with every film off' },
				...(dish ? [{ key: 'dish-bolts', reason: 'they carry the dish' }] : [])
			]
		}
	];
}

function usesCoupling(input: HopPlanInput, own: EndPlanInput): boolean {
	return (
		own.coupling !== null && CONFIGURATION_RULES[input.configuration.kind].couplings.length > 0
	);
}

function polarizationSteps({ input, end }: Site): Draft[] {
	return [
		{
			key: 'chain',
			title: 'Every joint set to the planned polarization',
			why: 'One part of two turned is a loss of 25 dB or more, found only from the ground again.',
			work: 'chain',
			quantity: counted('Joints looked at', chainOf(input, end).length, 'plan'),
			photo: false
		}
	];
}

function raiseSteps({ own, plan, end, dishes }: Site): Draft[] {
	const mount = own.mount.installation;
	const hoist = plan.firstLook[end].hoist;
	const azimuthRoomDeg = Math.max(
		0.5,
		own.mount.azimuth.travelDeg - 2 * plan.dish[end].beamwidthDeg
	);
	const lifted: BuildStep['after'] = [
		{ key: 'hoist', reason: 'it must hang before it is measured' }
	];
	return [
		{
			key: 'before-lift',
			title: 'Height, heading, type and polarization said aloud before the lift',
			why: `${numberText(own.antennaHeightAglM, 1)} m, compass ${bearingText(plan.pointing[end].azimuthCompassDeg, 0)}°, ${own.dish.code}, ${own.polarization}.`,
			people: 2,
			after: [
				{ key: 'tight', reason: 'nothing loose goes up' },
				{ key: 'chain', reason: 'a wrong joint costs a second lift' }
			]
		},
		{
			key: 'pipe',
			title: 'Pipe plumb and of the right diameter',
			why: 'A leaning pipe turns azimuth moves into tilt.',
			card: 'climb',
			caution: 'What mast and mount carry is an engineer’s word.',
			quantity: within(
				'Pipe diameter',
				'mm',
				own.mount.pipeDiameterMm,
				`sheet of ${own.mount.code}`,
				0
			)
		},
		...(mount
			? [
					{
						key: 'pipe-lean',
						title: 'Lean of the pipe',
						why: 'Measured on two sides a quarter turn apart; the larger counts.',
						quantity: within(
							'Lean off plumb',
							'°',
							[0, mount.pipeLeanDeg],
							`sheet of ${own.mount.code}`
						)
					}
				]
			: []),
		{
			key: 'hoist',
			title: `Hoist: ${numberText(hoist.heaviestKg, 0)} kg the heaviest piece, ${numberText(hoist.totalKg, 0)} kg in all`,
			why: hoist.words,
			people: hoist.people,
			card: 'lift',
			sheet: 'lift',
			caution: 'Nobody beneath. The rope’s and the locality’s own rules decide.',
			quantity: atLeast('Tag lines', hoist.tagLines, '', 'weight class'),
			after: [
				{ key: 'before-lift', reason: 'what is wrong is put right on the ground' },
				{ key: 'pipe', reason: 'the pipe must take the clamps' }
			]
		},
		{
			key: 'pipe-clamps',
			title: `Clamps round the pipe${mount ? ` to ${numberText(mount.pipeClampNm, 0)} N·m` : ''}${mount?.strut ? ', strut on' : ''}`,
			why: 'In opposite pairs; the hoisting rope stays until the dish is fixed.',
			people: 2,
			photo: true,
			after: lifted
		},
		{
			key: 'height',
			title: 'Antenna centre above ground',
			why: 'The plan’s clearance holds for this height.',
			quantity: measured('Height', 'm', own.antennaHeightAglM, 0.5, 'plan'),
			after: lifted
		},
		...(dishes === 2 && own.secondDish && own.secondDishOffsetM !== 0
			? [
					{
						key: 'second-height',
						title: 'Second dish above ground',
						why: 'The distance between the two makes the diversity.',
						quantity: measured(
							'Height',
							'm',
							own.antennaHeightAglM + own.secondDishOffsetM,
							0.5,
							'plan'
						),
						after: lifted
					}
				]
			: []),
		{
			key: 'heading',
			title: 'Rough heading, so that the fine adjuster alone can finish',
			why: 'By landmark, binoculars or a compass held well away from steel.',
			quantity: bearing(
				'Compass heading',
				plan.pointing[end].azimuthCompassDeg,
				azimuthRoomDeg,
				'plan; tolerance from the adjuster’s travel'
			),
			after: lifted
		}
	];
}

function earthSteps({ own, radios }: Site): Draft[] {
	return [
		{
			key: 'earth-leads',
			title: 'Earth leads of the radios',
			why: `To ${own.conditions.earthPoint || 'mast or bar'}; bare metal under the clamp, terminal crimped with the conductor flush, lead running down.`,
			photo: true,
			caution: 'Local code and a licensed person decide on earthing.',
			quantity: counted('Leads', radios, 'one a radio')
		},
		{
			key: 'earth-conductor',
			title: 'Size of the earth conductor',
			why: 'Not thinner than the local code asks, nor than the supply’s own conductor.',
			quantity: atLeast(
				'Conductor',
				Math.max(4, own.cable?.conductorMm2 ?? 0),
				'mm²',
				'supply conductor, at least 4 mm²; local code may ask more',
				1
			)
		},
		...(own.cable
			? [
					{
						key: 'earth-screens',
						title: 'Cable screens earthed',
						why: 'At the top, at the bottom and before entry; the lead runs down, close to the line of the cable.',
						quantity: counted('Earth kits', KITS_A_CABLE * radios, 'three a cable')
					}
				]
			: [])
	];
}

/** Where a cable is held on the unit, from the pivot of the mount, m. */
export const CABLE_LEVER_M = 0.4;

function cableSteps({ own, radios }: Site): Draft[] {
	const { cable } = own;
	if (!cable || own.cableLengthM === 0) return [];
	const sheet = cable.installation;
	const from = `sheet of ${cable.code}`;
	return [
		...(sheet
			? [
					{
						key: 'strip',
						title: `Connector: ${sheet.connector.name}`,
						why: `Strip by the drawing, tighten to ${numberText(sheet.connector.torqueNm, 0)} N·m.`,
						sheet: 'strips' as const,
						quantity: counted('Connectors made', radios, 'one a cable, at the unit')
					},
					{
						key: 'clamps',
						title: 'Cable clamps',
						why: `The first ${numberText(sheet.firstClampM, 1)} m below the radio, then no further apart than ${numberText(sheet.clampEveryM, 1)} m; no ties straight on a soft cable.`,
						sheet: 'clamps' as const,
						quantity: atLeast('Clamps', radios * cableClamps(cable, own.cableLengthM), '', from)
					},
					{
						key: 'slack',
						title: 'Drip loop and slack for the sweep',
						why: 'The dish swings through its whole adjustment without the cable pulling.',
						sheet: 'slack' as const,
						photo: true,
						quantity: atLeast('Tightest bend', sheet.minBendRadiusMm, 'mm radius', from)
					}
				]
			: []),
		{
			key: 'continuity',
			title: 'Continuity and short',
			why: 'Far end shorted: the loop reads the cable’s own resistance. Far end open: nothing.',
			caution: 'Isolate the supply before touching terminals.',
			quantity: loopQuantity(cable, own.cableLengthM)
		}
	];
}

/** Copper between 0 and 40 °C and a meter's leads change a loop by about so much. */
const LOOP_SHARE = 0.2;
const LEADS_OHM = 0.15;

function loopQuantity(cable: CablePart, lengthM: number): Quantity {
	const ohm = shortedLoopOhm(cable, lengthM);
	const spread = ohm * LOOP_SHARE + LEADS_OHM;
	return within(
		'Loop, far end shorted',
		'ohm',
		[Math.max(0, ohm - spread), ohm + spread],
		`${cable.code}, ${numberText(lengthM, 0)} m`,
		2
	);
}

function waveguideSteps({ own, end, plan }: Site): Draft[] {
	const { feeder } = own;
	const sheet = feeder.installation;
	if (feeder.kind !== 'waveguide' || !sheet || !feeder.waveguide) return [];
	const from = `sheet of ${feeder.code}`;
	const guide = feeder.waveguide;
	const elliptical = guide.shape === 'elliptical';
	const up: BuildStep['after'] = [{ key: 'guide-hoist', reason: 'the run must hang first' }];
	return [
		{
			key: 'guide-mark',
			title: 'Mark the first hanger on the run before the hoist',
			why: 'Up there nothing to measure from is within reach.',
			quantity: measured('From the end to the mark', 'm', sheet.firstHangerM, 0.05, from, 2)
		},
		{
			key: 'hangers-up',
			title: 'All hangers up and the way clear, before the hoist',
			why: 'The run goes up once.',
			sheet: 'hangers',
			quantity: atLeast('Hangers', feederClamps(own), '', from)
		},
		{
			key: 'guide-hoist',
			title: 'Hoist the run by its grip',
			why: `A grip for every ${numberText(sheet.gripEveryM, 0)} m. It stays until ${sheet.hangersBeforeRelease} hangers hold. Bag off last.`,
			people: 3,
			card: 'lift',
			caution: 'Transmitter off before anyone looks into a waveguide.',
			quantity: atLeast(
				'Hangers closed before the grip was let go',
				sheet.hangersBeforeRelease,
				'',
				from
			),
			after: [
				{ key: 'guide-mark', reason: 'the mark is made on the ground' },
				{ key: 'hangers-up', reason: 'the run needs what will hold it' }
			]
		},
		{
			key: 'flanges',
			title: `Flanges: seals, shims, ${sheet.flangeBolts.count} bolts in opposite pairs`,
			why: `Flexible section first. ${numberText(sheet.flangeBolts.torqueNm, 0)} N·m; no grease on a flange face.`,
			quantity: counted('Bolts at torque, both ends', 2 * sheet.flangeBolts.count, from),
			after: up
		},
		...(['E', 'H'] as const).map((bend): Draft => {
			const least = bend === 'E' ? guide.minBendEPlaneMm : guide.minBendHPlaneMm;
			return {
				key: `bend-${bend.toLowerCase()}`,
				title: `Tightest bend in the ${bend} plane`,
				why: elliptical
					? 'In small steps, never twisted; only the flexible section gives a little.'
					: 'Below its radius the guide buckles inside.',
				sheet: 'bends',
				quantity: atLeast('Radius', least, 'mm', from),
				after: up
			};
		}),
		{
			key: 'guide-earth',
			title: 'Earth kits of the run',
			why: 'Top, bottom, before entry, and between on a long run.',
			quantity: counted('Kits', feederEarthKits(own.feederLengthM), 'parts list'),
			after: up
		},
		{
			key: 'guide-dry',
			title: sheet.dry === 'pressurised' ? 'Dry air on, pressure holds' : 'Sealed dry',
			why: `Water in the run costs level in both directions; planned loss here is ${numberText(plan.received[end].receiveFeederLossDb, 1)} dB.`,
			photo: true,
			after: [{ key: 'flanges', reason: 'an open flange holds no pressure' }]
		}
	];
}

function weatherproofSteps({ own, radios }: Site): Draft[] {
	const sheet = own.cable?.installation;
	if (!sheet || own.cableLengthM === 0) return [];
	return [
		{
			key: 'weatherproof',
			title: 'Weatherproof every joint',
			why:
				sheet.weatherproofing === 'sleeve'
					? 'Screw-on shells, by hand, no tape.'
					: 'Wound down and back up, half over itself, last layer from below like roof tiles.',
			sheet: 'tape',
			photo: true,
			quantity: counted(
				'Joints',
				JOINTS_A_CABLE * radios,
				'radio end and two earth kits outside, a cable'
			),
			after: [{ key: 'continuity', reason: 'a joint is closed once it is tested' }]
		}
	];
}

function powerUpSteps({ own, plan, end }: Site): Draft[] {
	const power = own.radio.installation?.power;
	const supply = plan.firstLook[end].supply;
	return [
		...(power
			? [
					{
						key: 'gland',
						title: 'Gland insert, port and free conductor',
						why: `${power.port}; stays unconnected: ${power.unconnected}. Gland by hand only.`,
						sheet: 'gland' as const
					}
				]
			: []),
		{
			key: 'voltage',
			title: 'Voltage at the unit, under load',
			why: 'Polarity first. Indoor before outdoor.',
			caution: 'Mains and DC isolation: licensed people. Surge protection in place.',
			sheet: 'supply',
			quantity: within(
				'Voltage',
				'V',
				[own.radio.supplyMinV, power?.maxV ?? 72],
				supply?.kind === 'fed'
					? `sheet of ${own.radio.code}; ${numberText(supply.voltageAtUnitV, 1)} V computed`
					: `sheet of ${own.radio.code}`
			),
			after: [
				...(power ? [{ key: 'gland', reason: 'the wrong port can destroy the unit' }] : []),
				{ key: 'earth-leads', reason: 'earth before power' }
			]
		},
		{
			key: 'boot',
			title: 'Wait until the unit is up',
			why: own.radio.installation
				? `Lamps: ${own.radio.installation.lamps}.`
				: 'Lamps mean different things on different units: see its sheet.',
			quantity: atLeast('Waited', own.radio.bootMinutes, 'min', `sheet of ${own.radio.code}`),
			after: [{ key: 'voltage', reason: 'it needs power' }]
		}
	];
}
