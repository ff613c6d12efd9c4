import { coaxialLossDb, worstIntermediateMhz } from '../catalogue/cableFigures';
import type { RadioPart } from '../catalogue/parts';
import { turnsOnRod } from '../budget/pointingPlan';
import { levelsWhenSwitched, senderOf, SWITCHING, type UnitLevel } from '../budget/standby';
import { CONFIGURATION_RULES } from '../budget/configuration';
import type { ExposureDistance } from '../firstlook/exposure';
import type { HopPlan } from '../budget/hopPlan';
import { sendersWhileAligning, whileAligning } from '../budget/senders';
import { PAPERS, PROTECTION } from '../safety/packed';
import { inventoryOf, type CableItem, type DishItem, type RadioItem } from '../budget/inventory';
import type { EndPlanInput, HopPlanInput } from '../budget/planInput';
import { farEnd, type End } from '../ends';
import { chainOf } from '../polarization/chain';
import { makeLevelCurve } from '../radio/levelCurve';
import { adjusterAngleDeg } from '../sweep/adjusterScale';
import { placeOf, placeWords, serviceWay } from '../budget/services';
import { buildSteps } from '../tower/buildSteps';
import { cableLabel, onPort } from '../tower/steps/indoors';
import { toolLines } from '../tower/tools';
import { bearingText, levelText, numberText } from '../units/text';

export interface SheetRow {
	label: string;
	value: string;
	/** A second line that says how to use the value. */
	note?: string;
	strong?: boolean;
	/** What a navigator or a form takes, where it is worth copying. */
	copied?: string;
}

export interface SheetSection {
	title: string;
	rows: SheetRow[];
}

export interface SiteSheet {
	end: End;
	siteName: string;
	farSiteName: string;
	revisionNumber: number;
	cautions: string[];
	sections: SheetSection[];
	/** The level port as a table: dBm below plan, dBm, volts. */
	portTable: { shortDb: number; levelDbm: number; volts: number; meaning: string }[];
	steps: string[];
}

/**
 * Everything the crew at one end needs, from a frozen plan revision. Pure.
 *
 * @param revisionNumber of the plan that the sheet is of, from 1
 */
export function makeSiteSheet(
	input: HopPlanInput,
	plan: HopPlan,
	end: End,
	revisionNumber: number
): SiteSheet {
	const own = input.ends[end];
	const far = input.ends[farEnd(end)];
	return {
		end,
		siteName: own.siteName,
		farSiteName: far.siteName,
		revisionNumber,
		cautions: CAUTIONS,
		// Level and pointing first: what a hand on the tower looks for.
		sections: [
			levelSection(input, plan, end),
			pointingSection(input, plan, end),
			placeSection(input, plan, end),
			equipmentSection(input, end),
			channelSection(input, end),
			settingSection(input, end),
			portsSection(input, end),
			mountSection(input, end),
			peopleSection(input, plan, end)
		].filter(({ rows }) => rows.length > 0),
		portTable: portTable(input, plan, end),
		steps: stepsOf(input, end)
	};
}

const CAUTIONS = [
	'Work at height: harness, rescue plan, nobody beneath a lift; stop for wind, ice, lightning or darkness.',
	'Transmitter off before anyone passes in front of the dish or looks into a waveguide; transmit only as licensed.',
	'Isolate DC and mains before touching terminals. Earthing and structural capacity are decided by local code and licensed people.'
];

function placeSection(input: HopPlanInput, plan: HopPlan, end: End): SheetSection {
	const own = input.ends[end];
	return {
		title: 'Where',
		rows: [
			{
				label: 'Position (WGS 84)',
				value: `${numberText(own.position.latitudeDeg, 6)}°, ${numberText(own.position.longitudeDeg, 6)}°`,
				copied: `${own.position.latitudeDeg.toFixed(6)}, ${own.position.longitudeDeg.toFixed(6)}`
			},
			{
				label: 'Antenna centre',
				value: `${numberText(own.antennaHeightAglM, 1)} m above ground`,
				note: `ground ${numberText(own.groundAmslM, 1)} m, antenna ${numberText(plan.pointing[end].antennaHeightAmslM, 1)} m a.m.s.l.`
			},
			{
				label: 'Dish stands',
				value:
					own.mountSide === 'centred'
						? 'in the middle of the mast'
						: `on the ${own.mountSide} of the mast`,
				note: 'seen from behind the dish'
			},
			...otherDishes(input, end).map((dish) => ({
				label: `${dish.name}, centre`,
				value: `${numberText(dish.heightAglM, 1)} m above ground`
			})),
			...optional('Access', own.conditions.access),
			...optional('Hazards', own.conditions.hazards),
			...optional('Indoor place', own.conditions.indoorPlace),
			...optional('Earth point', own.conditions.earthPoint),
			{
				label: 'Keep clear',
				value: keepClear(plan.firstLook[end].exposure.public),
				note: 'in front of the dish while it sends; local rules decide'
			},
			...optional('Notes', own.siteNotes)
		]
	};
}

/** A row only where there is something to say. */
function optional(label: string, value: string): SheetRow[] {
	return value ? [{ label, value }] : [];
}

function keepClear({ distanceM, neverReached }: ExposureDistance): string {
	return neverReached
		? 'the public reference level is not reached, even at the dish'
		: `${numberText(distanceM, 1)} m, to the public reference level`;
}

function pointingSection(input: HopPlanInput, plan: HopPlan, end: End): SheetSection {
	const pointing = plan.pointing[end];
	return {
		title: 'Pointing',
		rows: [
			{
				label: 'Bearing by compass',
				value: `${bearingText(pointing.azimuthCompassDeg, 1)}°`,
				note: 'read well away from the steel of the tower',
				strong: true
			},
			{
				label: 'Bearing, true',
				value: `${bearingText(pointing.azimuthTrueDeg, 2)}°`,
				note: `declination ${numberText(pointing.declinationDeg, 1, true)}°, ${pointing.magneticModel}${pointing.magneticModelOutdated ? ', which does not cover this day' : ''}`
			},
			{
				label: 'Tilt',
				value: `${numberText(pointing.tiltDeg, 2, true)}°`,
				note: pointing.tiltDeg < 0 ? 'looks down' : 'looks up',
				strong: true
			},
			...otherDishes(input, end).map((dish) => ({
				label: `Tilt, ${dish.name.toLowerCase()}`,
				value: `${numberText(dish.tiltDeg, 2, true)}°`,
				note: `same bearing; ${dish.tiltDeg < 0 ? 'looks down' : 'looks up'}`,
				strong: true
			})),
			...(pointing.azimuthGridDeg === null
				? []
				: [
						{
							label: 'Bearing on the grid',
							value: `${bearingText(pointing.azimuthGridDeg, 2)}°`,
							note: `convergence ${numberText(pointing.gridConvergenceDeg ?? 0, 2, true)}°`
						}
					]),
			{ label: 'Distance', value: `${numberText(plan.pathKm, 3)} km` },
			...pointing.landmarks.map((landmark) => ({
				label: landmark.name,
				value: besideLine(landmark.besideDeg),
				note: `${numberText(landmark.distanceKm, 2)} km away`
			})),
			...(['azimuth', 'tilt'] as const).map((axis) => ({
				label: `Search, ${axis}`,
				value: `± ${numberText(pointing.window[axis].halfWidthDeg, 1)}°, ${numberText(turnsOnRod(pointing.window[axis]), 1)} turns across`,
				note:
					pointing.window[axis].turnsRemaining < 0
						? `the adjuster is ${numberText(-pointing.window[axis].turnsRemaining, 1)} turns short: set the first heading well`
						: `${numberText(pointing.window[axis].turnsRemaining, 1)} turns remain beyond it`
			})),
			...(input.ends[end].landmark ? [{ label: 'Landmark', value: input.ends[end].landmark }] : [])
		]
	};
}

function besideLine(besideDeg: number): string {
	if (Math.abs(besideDeg) < 0.05) return 'on the line';
	return `${numberText(Math.abs(besideDeg), 2)}° ${besideDeg > 0 ? 'right' : 'left'} of the line`;
}

function equipmentSection(input: HopPlanInput, end: End): SheetSection {
	const own = input.ends[end];
	const { radios, dishes, coupling, runs, indoorUnit, powerSource } = inventoryOf(input, end);
	const stands = [indoorUnit, powerSource].filter((item) => item !== null);
	return {
		title: 'Equipment',
		rows: [
			...(input.configuration.kind === 'single'
				? []
				: [{ label: 'Configuration', value: CONFIGURATION_RULES[input.configuration.kind].name }]),
			...dishes.map(({ name, part }) => ({
				label: name,
				value: `${part.code}, ${part.name}`,
				note: `${numberText(part.weightKg, 1)} kg`
			})),
			...(coupling
				? [
						{
							label: 'Coupling',
							value: `${coupling.part.code}, ${coupling.part.name}`,
							note: coupling.place === 'dish' ? 'on the dish' : 'at the foot of the run'
						}
					]
				: []),
			{
				label: runs.length > 1 ? 'Feeders' : 'Feeder',
				value:
					runs.length === 0
						? own.feeder.name
						: `${runs.length > 1 ? `${runs.length} × ` : ''}${own.feeder.code}, ${own.feeder.name}, ${numberText(own.feederLengthM, 1)} m`
			},
			...radios.map((radio) => ({
				label: radio.name,
				value: `${radio.part.code}, ${radio.part.name}`,
				note: `${radio.subBandUnit ? `sub-band unit ${radio.subBandUnit}` : 'sub-band unit not said'}${radios.length > 1 || radio.place === 'foot' ? `, ${radio.seat}` : ''}`
			})),
			...stands.map(({ name, part }) => ({ label: name, value: `${part.code}, ${part.name}` }))
		]
	};
}

/** What every radio sends, hears and takes, and how each kind of radio enters the alignment state. */
function channelSection(input: HopPlanInput, end: End): SheetSection {
	const own = input.ends[end];
	const { radios } = inventoryOf(input, end);
	const kinds = [...new Map(radios.map((radio) => [radio.part.code, radio])).values()];
	return {
		title: 'Channels and power',
		rows: [
			...radios.flatMap((radio) => radioRows(radio, radios.length)),
			...kinds.flatMap(({ part, cable }): SheetRow[] => {
				const of = kinds.length > 1 ? `, ${part.code}` : '';
				const each = radios.length > 1 ? ' each' : '';
				return [
					{
						label: `Supply${of}`,
						value: `at least ${numberText(part.supplyMinV, 0)} V at the unit`,
						note: `${supplyWords(cable, part, own)}${numberText(part.consumptionW, 0)} W${each}, ${numberText(part.bootMinutes, 0)} min to come up`
					},
					{ label: `Enter the alignment state${of}`, value: part.alignmentState.enter },
					{ label: `Leave it${of}`, value: part.alignmentState.leave }
				];
			})
		]
	};
}

function radioRows(radio: RadioItem, radios: number): SheetRow[] {
	const of = radios > 1 ? `, radio ${radio.number}` : '';
	const channel = `${radio.polarization}, channel ${numberText(radio.channelWidthMhz, 0)} MHz`;
	if (radio.role === 'diversity') {
		return [
			{
				label: `Receives${of}`,
				value: `${numberText(radio.receiveFrequencyGhz, 3)} GHz`,
				note: `${channel}; ${whileAligning(radio)}`
			}
		];
	}
	return [
		{
			label: `Sends / receives${of}`,
			value: `${numberText(radio.transmitFrequencyGhz, 3)} / ${numberText(radio.receiveFrequencyGhz, 3)} GHz`,
			note: [channel, whileAligning(radio)].filter(Boolean).join('; ')
		},
		{
			label: `Power${of}`,
			value: `${numberText(radio.alignmentPowerDbm, 0)} dBm while aligning`,
			note: `${numberText(radio.transmitPowerDbm, 0)} dBm in operation, ${radio.modulation}`
		}
	];
}

/** What the cable may take of the intermediate frequency, where it carries one. */
function intermediateWords({ part, lengthM }: CableItem, { intermediate }: RadioPart): string {
	if (!part.coaxial || !intermediate) return '';
	const mhz = worstIntermediateMhz(intermediate);
	return `, ${numberText(coaxialLossDb(part.coaxial, lengthM, mhz), 1)} dB at ${numberText(mhz, 0)} MHz`;
}

function supplyWords(cable: CableItem | null, part: RadioPart, own: EndPlanInput): string {
	if (cable) {
		return `${cable.part.name}, ${numberText(cable.lengthM, 0)} m${intermediateWords(cable, part)}; `;
	}
	return own.cable ? `${own.cable.name}, length not said; ` : '';
}

/** The dishes beside the first one. */
function otherDishes(input: HopPlanInput, end: End): readonly DishItem[] {
	return inventoryOf(input, end).dishes.slice(1);
}

/** How every part that sets the plane is set: the same joints that the building looks at. */
function settingSection(input: HopPlanInput, end: End): SheetSection {
	const own = input.ends[end];
	const joints = chainOf(input, end).filter(({ proves }) => proves === null);
	const dual = inventoryOf(input, end).dishes.some(({ bothPlanes }) => bothPlanes);
	return {
		title: 'Polarization',
		rows: [
			{
				label: 'Polarization',
				value: dual ? `both; the first ${own.polarization}` : own.polarization,
				// Where no sheet says what a part shows, its own words stand.
				...(joints.length ? {} : { note: own.dish.polarizationSetting }),
				strong: true
			},
			...joints.map((joint) => ({
				label: joint.part,
				value: joint.shows[joint.expected],
				note: joint.mark
			}))
		]
	};
}

/** What plugs in where indoors: each radio's cable with its label, each service with its way. */
function portsSection(input: HopPlanInput, end: End): SheetSection {
	const inventory = inventoryOf(input, end);
	const { indoorUnit, cables } = inventory;
	if (!indoorUnit) return { title: 'Ports indoors', rows: [] };
	return {
		title: 'Ports indoors',
		rows: [
			...cables.map((cable, i) => {
				const { port, hangs } = onPort(inventory, cable, i);
				return {
					label: port,
					value: hangs,
					note: `label “${cableLabel(end, inventory, cable, i)}”`
				};
			}),
			...input.services.map((service) => ({
				label: `Service, ${placeWords(placeOf(service, end)).toLowerCase()}`,
				value: serviceWay(input, end, service)
			}))
		]
	};
}

/** Who is needed, what they bring, and how either crew is reached. */
function peopleSection(input: HopPlanInput, plan: HopPlan, end: End): SheetSection {
	const far = farEnd(end);
	const steps = buildSteps(input, plan, end);
	const tools = toolLines(input, end, steps).map(({ name }) => name);
	return {
		title: 'People and tools',
		rows: [
			...optional(`Crew at ${end}`, input.ends[end].crewContact),
			...optional(`Crew at ${far}`, input.ends[far].crewContact),
			{
				label: 'People',
				value: `${Math.max(...steps.map(({ people }) => people))} at most at once`,
				note: steps
					.filter(({ people }) => people > 2)
					.map(({ title, people }) => `${people} for: ${title.toLowerCase()}`)
					.join('; ')
			},
			{ label: 'Protection', value: PROTECTION.join('; ') },
			{ label: 'Papers', value: PAPERS.join('; ') },
			{ label: 'Tools', value: tools.join('; ') }
		]
	};
}

function levelSection(input: HopPlanInput, plan: HopPlan, end: End): SheetSection {
	const switched = levelsWhenSwitched(input, plan, end);
	const unit = ({ levelDbm, volts }: UnitLevel): string =>
		`${levelText(levelDbm)}, ${numberText(volts, 3)} V`;
	const budget = plan.received[end];
	const rising = budget.betterDirection === 'rising';
	return {
		title: 'Level to reach',
		rows: [
			{
				label: 'Planned level',
				value: `${levelText(budget.plannedLevelDbm)} ± ${numberText(budget.toleranceDb, 1)} dB`,
				note: 'with the far end on its alignment power, dry weather',
				strong: true
			},
			{
				label: 'At the level port',
				value: `${numberText(budget.plannedVolts, 3)} V`,
				note: `window ${numberText(budget.lowestAcceptedVolts, 3)} to ${numberText(budget.highestAcceptedVolts, 3)} V`,
				strong: true
			},
			{
				label: 'Better is',
				value: rising ? 'MORE volts' : 'FEWER volts',
				note: rising ? 'this port rises with the level' : 'this port falls as the level rises',
				strong: true
			},
			...optional('Who sends', sendersWhileAligning(input, end)),
			...plan.carriers.slice(1).map((carrier) => ({
				label: carrier.name,
				value: `${levelText(carrier.received[end].plannedLevelDbm)}, ${numberText(carrier.received[end].plannedVolts, 3)} V`,
				note: `${carrier.polarization}, ${numberText(carrier.received[end].frequencyGhz, 3)} GHz${senderWords(senderOf(plan, carrier, end))}`
			})),
			...(switched
				? [
						{
							label: 'With the far standby sending',
							value: `main ${unit(switched.main)}; standby ${unit(switched.standby)}`,
							note: SWITCHING
						}
					]
				: []),
			{
				label: 'On a side lobe here',
				value: `about ${levelText(budget.sideLobeHereDbm)}`,
				note: `both ends about ${levelText(budget.sideLobeBothDbm)}, crossed about ${levelText(budget.crossedDbm)}`
			},
			{ label: 'Receiver floor', value: levelText(budget.floorDbm) }
		]
	};
}

const senderWords = (sender: 'main' | 'standby' | null): string =>
	sender === null ? '' : `, the far ${sender} unit sends`;

function mountSection(input: HopPlanInput, end: End): SheetSection {
	const { mount } = input.ends[end];
	const mounts = inventoryOf(input, end).dishes.length;
	const adjuster = (axis: 'azimuth' | 'tilt'): SheetRow => ({
		label: `Adjuster, ${axis}`,
		value: `${numberText(adjusterAngleDeg(mount[axis], 1), 3)}° per turn, ± ${numberText(mount[axis].travelDeg, 0)}°`,
		note: mount[axis].positiveTurn
	});
	return {
		title: 'Mount',
		rows: [
			{
				label: 'Bracket',
				value: `${mounts > 1 ? `${mounts} × ` : ''}${mount.code}, ${mount.name}`,
				note: `pipe ${numberText(mount.pipeDiameterMm[0], 0)} to ${numberText(mount.pipeDiameterMm[1], 0)} mm, plumb`
			},
			adjuster('azimuth'),
			adjuster('tilt'),
			...mount.fasteners.map((fastener, i) => ({
				label: `Torque ${i + 1}`,
				value: `${numberText(fastener.torqueNm, 0)} N·m`,
				note: `${fastener.name}, locks the ${fastener.locks}`
			}))
		]
	};
}

function portTable(input: HopPlanInput, plan: HopPlan, end: End): SiteSheet['portTable'] {
	const curve = makeLevelCurve(input.ends[end].radio.levelPort.curve);
	const planned = plan.received[end].plannedLevelDbm;
	const lobe = plan.dish[end].firstSideLobeDb;
	const farLobe = plan.dish[farEnd(end)].firstSideLobeDb;
	return [
		{ shortDb: 0, meaning: 'on plan' },
		{ shortDb: 3, meaning: 'half power: half a beam off' },
		{ shortDb: 10, meaning: 'on the shoulder' },
		{ shortDb: lobe, meaning: 'a first side lobe here' },
		{ shortDb: lobe + farLobe, meaning: 'side lobes at both ends' },
		// What the antennas keep apart, and no more: the same figure as beside the planned level.
		{ shortDb: planned - plan.received[end].crossedDbm, meaning: 'crossed polarization' }
	]
		.toSorted((p, q) => p.shortDb - q.shortDb)
		.map(({ shortDb, meaning }) => ({
			shortDb,
			levelDbm: planned - shortDb,
			volts: curve.voltsAt(planned - shortDb),
			meaning
		}));
}

function stepsOf(input: HopPlanInput, end: End): string[] {
	const first = input.firstToMove === end;
	const { kind } = input.configuration;
	const dual = CONFIGURATION_RULES[kind].coChannelDual;
	return [
		'Confirm height, bearing, type and polarization before the lift. Adjusters in the middle of their travel.',
		'Bring this end into the alignment state; tell the other end. No dish moves before both are in it.',
		...(kind === 'two-bands'
			? [
					'Two bands: align on the narrower beam alone and fix it; then level the other radio, and see that the aim has not moved.'
				]
			: []),
		first
			? 'This end moves first: azimuth over its whole travel, to the middle, then tilt, to the middle.'
			: 'This end stands still first and watches its own meter; it moves when the baton comes.',
		'Do not stop at the first good signal and do not go to the higher of two humps: go to the middle between them, then sweep the other axis.',
		'Hand over. Then both ends once more, finely.',
		...(kind === 'space-diversity'
			? [
					'The second dish by itself in the same way, on its own radio’s level, while the far first dish sends.'
				]
			: []),
		...(kind === 'hot-standby'
			? [
					'Level on both units: once with the far main unit sending, once with the far standby unit.'
				]
			: []),
		...(dual
			? [
					'Read both polarizations, one sent after the other; turn the feed for the least of the weak one.'
				]
			: []),
		'Tighten with the meter connected, one end at a time, in the order of the torque list. Level after equals level before.',
		'Read the final level, leave the alignment state, cap the port, count the tools, look once more.'
	];
}
