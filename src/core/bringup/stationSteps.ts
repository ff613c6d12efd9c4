import { mountingOf, type HubInput } from '../hub/hubInput';
import { inOrderOf, type OrderFact } from '../tower/buildOrder';
import { complete, sentence, type BuildStep, type Draft } from '../tower/buildStep';
import { POWER_WORDS } from '../tower/towerArithmetic';
import { bearing, counted, measured, within } from '../tower/quantity';
import { wrapBearingDeg } from '../units/angle';
import { bearingText, numberText } from '../units/text';
import { pans, steers, tilts, type Station } from './stations';

/** What comes before what where a unit or a terminal is put up; each fact has a name that a test asks for. */
export const STATION_ORDER: readonly OrderFact[] = [
	{
		name: 'a unit is set up and looked over on the ground',
		first: ['station-setup', 'station-box'],
		then: ['station-bands', 'station-wall', 'station-bracket'],
		reason: 'what is wrong in a unit costs a climb with a laptop'
	},
	{
		name: 'a unit hangs before it is set and measured',
		first: ['station-bands', 'station-wall', 'station-bracket'],
		then: ['station-upright', 'station-height', 'station-heading', 'station-tilt'],
		reason: 'it must hang before it is measured'
	},
	{
		name: 'a unit hangs before its cable is put to it',
		first: ['station-bands', 'station-wall', 'station-bracket'],
		then: ['station-gland', 'station-earth'],
		reason: 'the cable must not carry it'
	},
	{
		name: 'a cable is made before it goes through the gland',
		first: ['station-cable'],
		then: ['station-gland'],
		reason: 'the insert is chosen for this cable'
	},
	{
		name: 'the loop is made once the cable is held',
		first: ['station-gland'],
		then: ['station-loop'],
		reason: 'the gland holds it'
	},
	{
		name: 'earth and surge protection of a unit before its power',
		first: ['station-earth', 'station-surge'],
		then: ['station-power'],
		reason: 'earth before power'
	},
	{
		name: 'a cable is in its port before a unit is fed',
		first: ['station-gland'],
		then: ['station-power'],
		reason: 'the wrong port or source can destroy the unit'
	},
	{
		name: 'a unit is fed before it is waited for',
		first: ['station-power'],
		then: ['station-boot'],
		reason: 'it needs power'
	},
	{
		name: 'the cover is closed once a unit is up',
		first: ['station-boot'],
		then: ['station-cover'],
		reason: 'lamp, plug and button lie under it'
	}
];

/** Steps after which a link is no longer what it was. */
export const MOVES_THE_LINK: ReadonlySet<string> = new Set([
	'station-setup',
	'station-bands',
	'station-wall',
	'station-bracket',
	'station-heading',
	'station-tilt',
	'station-cable',
	'station-gland',
	'station-power',
	'station-boot'
]);

const ROOF_CAUTION =
	'On a roof: an edge without a rail is work at height. Tested anchor or closed-off edge, nobody alone, off it at the first thunder.';
const DRILL_CAUTION =
	'Look for power, water and gas in the wall before it is drilled; eyes covered. What the wall carries is its owner’s or an engineer’s word.';
const SUPPLY_CAUTION =
	'An injector without a standard feeds without asking: into a standard port, or a standard injector’s own network side, it may burn what is behind. Mains side by licensed people only.';

/** A heading nobody reads closer than this off a compass, nor sets, degrees. */
const CLOSEST_HEADING_DEG = 2;
/** Wider than this a heading is not set, however much room there is, degrees. */
const WIDEST_HEADING_DEG = 15;
const HEIGHT_TOLERANCE_M = 1;

/**
 * The ordered work at one unit of a hub or one terminal, for its part and for how it is put up. Pure.
 *
 * @param hub whose channel width it is set to
 */
export function stationSteps(
	hub: Pick<HubInput, 'channelWidthMhz'>,
	station: Station
): readonly BuildStep[] {
	const drafts = [
		...groundSteps(hub, station),
		...mountingSteps(station),
		...cableSteps(station),
		...powerSteps(station)
	];
	return inOrderOf(STATION_ORDER, drafts.map(complete));
}

function groundSteps(hub: Pick<HubInput, 'channelWidthMhz'>, station: Station): Draft[] {
	const { kind, name, part, frequencyGhz } = station;
	const contents = part.installation?.contents ?? [];
	const channel =
		frequencyGhz === null
			? []
			: [
					`Channel about ${numberText(frequencyGhz, 3)} GHz, ${numberText(hub.channelWidthMhz, 0)} MHz wide`
				];
	return [
		{
			base: 'station-setup',
			phase: 'office',
			title: 'Set up on the ground',
			why: 'Powered once at the desk: what is set and seen there needs no laptop on a roof.',
			lines: [
				`Named “${name}”`,
				...channel,
				'Country and its limit of radiated power set; nothing above it',
				kind === 'unit'
					? 'Its own name and key for its terminals written down'
					: 'Looks for its unit by the name and key written down at the hub',
				'Software of the same version as the others of this hub',
				...(part.installation ? [`Reset button: ${part.installation.reset}`] : [])
			],
			tools: ['laptop']
		},
		{
			base: 'station-box',
			phase: 'receive',
			title: 'What is in the box',
			why: `${part.code}, ${part.name}. A missing insert or band is found here, not on a ladder.`,
			lines: contents.map(({ name, count }) => `${count} × ${name}`),
			...(contents.length
				? {
						quantity: counted(
							'Pieces',
							contents.reduce((sum, { count }) => sum + count, 0),
							`sheet of ${part.code}`
						)
					}
				: {})
		}
	];
}

function mountingSteps(station: Station): Draft[] {
	const { part, planned, aim, roomDeg, heightAglM } = station;
	const mounting = mountingOf(part, planned);
	const heading = bearingText(aim.headingDeg, 0);
	const room = Math.min(WIDEST_HEADING_DEG, Math.max(CLOSEST_HEADING_DEG, roomDeg ?? 0));
	const why = !steers(station)
		? 'By the compass for now: what it shows of the other end decides.'
		: station.kind === 'unit'
			? 'Its beams steer themselves: every terminal must lie in its window.'
			: 'Its beam steers itself: coarse is enough, the hub must lie in its window.';
	const on = { pole: poleStep, wall: wallStep, bracket: poleStep }[planned.how](station);
	return [
		on,
		{
			base: 'station-upright',
			phase: 'mount',
			title: 'The right way up',
			why: 'Upside down, water stands where it should drain, and up and down of the beam change places.',
			lines: [
				...(part.installation ? [sentence(part.installation.lowest)] : []),
				'Bubble in its ring, or a level held to its edge'
			],
			tools: ['digital-level']
		},
		{
			base: 'station-height',
			phase: 'mount',
			title: 'Height of its middle',
			why: 'Trees and roofs were judged from this height.',
			tools: ['measuring-tape'],
			quantity: measured('Above ground', 'm', heightAglM, HEIGHT_TOLERANCE_M, 'the plan')
		},
		{
			base: 'station-heading',
			phase: 'mount',
			title: pans(station) ? 'Coarse heading' : 'Bearing that the wall faces',
			why: `${why} ${pans(station) ? `Turned to ${heading}° true.` : `Nothing pans on a wall: if it does not face ${heading}° true, the plan is to be made anew.`} A compass is wrong by the declination, and near steel.`,
			tools: ['compass'],
			quantity: bearing(
				'Bearing, true',
				wrapBearingDeg(aim.headingDeg),
				room,
				roomDeg !== null && roomDeg >= room
					? 'the plan; so far off, all still lies in its window'
					: 'the plan, as near as a compass reads'
			)
		},
		...(tilts(station) && mounting
			? [
					{
						base: 'station-tilt',
						phase: 'mount' as const,
						title: 'Tilt',
						why: `Up is positive. ${mounting.name}.`,
						tools: ['digital-level' as const],
						quantity: measured('Tilt', '°', aim.tiltDeg, room, 'the plan')
					}
				]
			: [])
	];
}

function poleStep({ part, planned }: Station): Draft {
	const mounting = mountingOf(part, planned);
	const bracket = planned.how === 'bracket';
	return {
		base: bracket ? 'station-bracket' : 'station-bands',
		phase: 'mount',
		title: bracket ? 'Onto the pole, on its tilting bracket' : 'Onto the pole',
		why: `${mounting?.name ?? 'Its bands'}: tight enough that a hand does not turn it, not so tight that a thin pole gives.`,
		lines: [
			'Snap-in parts pressed until they are heard, then pulled at: what comes off was not seated',
			'Bands round and level, screw heads where a key reaches them'
		],
		card: 'climb',
		caution: ROOF_CAUTION,
		tools: ['spanners', 'calliper'],
		...(mounting && mounting.poleToMm > 0
			? {
					quantity: within(
						'Diameter of the pole',
						'mm',
						[mounting.poleFromMm, mounting.poleToMm],
						`sheet of ${part.code}`,
						0
					)
				}
			: {})
	};
}

function wallStep({ part, planned }: Station): Draft {
	return {
		base: 'station-wall',
		phase: 'mount',
		title: 'Onto the wall',
		why: `${mountingOf(part, planned)?.name ?? 'Its plate'}, by its template; nothing pans afterwards.`,
		lines: [
			'Concrete or solid brick: plugs and screws of the size on the template, into the stone and not into the joint',
			'Hollow brick or block: long plugs that knot behind, or anchors that are glued in',
			'Timber: wood screws into a stud, drilled before',
			'Sheet or foam in front: spacers to the bearing wall, or another place',
			'Upper holes sealed, lower edge left open to drain'
		],
		card: 'climb',
		caution: `${ROOF_CAUTION} ${DRILL_CAUTION}`,
		tools: ['digital-level', 'spanners']
	};
}

function cableSteps({ part }: Station): Draft[] {
	const sheet = part.installation;
	const from = `sheet of ${part.code}`;
	const glands = sheet?.glands ?? [];
	const [thinnest, thickest] = [
		Math.min(...glands.map(({ fromMm }) => fromMm)),
		Math.max(...glands.map(({ toMm }) => toMm))
	];
	return [
		{
			base: 'station-cable',
			phase: 'cable',
			title: 'Its cable',
			why: sheet
				? `${sentence(sheet.cable)} The screen is clamped all round by the metal of the plug at either end.`
				: 'Outdoor, screened, of the class that its sheet asks.',
			lines: ['Every wire tested through before it is plugged in anywhere'],
			tools: ['crimping-pliers', 'wire-mapper', 'measuring-tape'],
			quantity: within(
				'Length',
				'm',
				[1, sheet?.longestCableM ?? 100],
				sheet ? from : 'Ethernet',
				0
			)
		},
		{
			base: 'station-gland',
			phase: 'cable',
			title: glands.length ? 'Through its gland, into its port' : 'Into its port',
			why: `${sheet ? `Port: ${sheet.power.port}.` : 'The port that is marked for data and power.'} Shells are turned by hand only.`,
			lines: [
				...glands.map(
					({ name, fromMm, toMm }) =>
						`${name}: for ${numberText(fromMm, 1)} to ${numberText(toMm, 1)} mm`
				),
				'Plug pressed until it clicks, then pulled at'
			],
			tools: ['calliper'],
			...(glands.length
				? { quantity: within('Cable', 'mm', [thinnest, thickest], `inserts, ${from}`) }
				: {})
		},
		{
			base: 'station-loop',
			phase: 'cable',
			title: 'Drip loop and ties',
			why: 'Water runs down the cable: its lowest point is a loop below the port, not the port.',
			lines: ['Held within half a metre of the unit; no tie so tight that it dents the cable']
		},
		{
			base: 'station-earth',
			phase: 'earth',
			title: 'Earth',
			why: `${sheet ? sentence(sheet.earth) : 'At its earth point.'} Bonded to the earth of mast or house, the lead running down; where it needs none here, leave the step out and write why.`,
			caution:
				'Earthing and lightning protection by the local code, and by licensed people where it says so. Not during thunder.',
			tools: ['spanners']
		},
		{
			base: 'station-surge',
			phase: 'earth',
			title: 'Surge protector',
			why: 'One where the cable enters the house, its earth as short as it will go; a second near a unit that hangs on a mast.'
		}
	];
}

function powerSteps({ kind, part }: Station): Draft[] {
	const sheet = part.installation;
	return [
		{
			base: 'station-power',
			phase: 'power-up',
			title: 'Power',
			why: sheet
				? `Takes ${numberText(sheet.consumptionW, 0)} W at ${numberText(sheet.supplyMinV, 0)} to ${numberText(sheet.power.maxV, 0)} V from a ${POWER_WORDS[sheet.power.kind]}, in this port: ${sheet.power.port.toLowerCase()}. Read the plate of what feeds it.`
				: 'By what its sheet says; read the plate of what feeds it.',
			lines: sheet ? [`Unconnected: ${sheet.power.unconnected}`] : [],
			card: 'transmit',
			caution: SUPPLY_CAUTION,
			...(sheet
				? {
						gate: {
							kind: 'source' as const,
							unit: {
								consumptionW: sheet.consumptionW,
								supplyMinV: sheet.supplyMinV,
								power: sheet.power
							},
							// Its own step holds the cable to what it works over.
							cableLengthM: 0
						}
					}
				: {})
		},
		{
			base: 'station-boot',
			phase: 'power-up',
			title: 'Wait until it is up',
			why: `Takes ${numberText(part.bootMinutes, 0)} min. Pulling its plug meanwhile begins it anew.`
		},
		{
			base: 'station-cover',
			phase: 'weatherproof',
			title: 'Gasket and cover',
			why: `Last of all, once the lamp is right${kind === 'unit' ? '' : ' and the link is read'}: a cover that is opened again is a gasket pinched.`,
			lines: ['Gasket clean and all round in its groove', 'Cover heard to close, no cable under it']
		}
	];
}
