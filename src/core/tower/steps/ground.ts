import { filmsOf } from '../films';
import { among, ofDish, ofRadio, sentence, type BuildSite, type Draft } from '../buildStep';
import { counted, atLeast, measured } from '../quantity';
import { footRunSteps } from './raise';
import { chainOf } from '../../polarization/chain';
import type { CouplingItem, DishItem, RadioItem } from '../../budget/inventory';
import { whileAligning } from '../../budget/senders';
import { PAPERS, PROTECTION } from '../../safety/packed';
import { numberText } from '../../units/text';

/** What is done before anybody leaves: the radios, the papers, what protects people. */
export function officeSteps({ inventory }: BuildSite): Draft[] {
	return [
		...inventory.radios.map((radio) => configureStep(radio, inventory.radios.length)),
		{
			base: 'papers',
			phase: 'office' as const,
			title: 'Papers and protection packed',
			why: 'Asked for at the gate, and not to be had up there.',
			lines: [
				...PAPERS,
				...PROTECTION,
				...(inventory.radios.length > 1 ? ['Which radio is which, on a label on each'] : [])
			]
		}
	];
}

function configureStep(radio: RadioItem, radios: number): Draft {
	const { part } = radio;
	const beside = whileAligning(radio);
	const hears = `hears ${numberText(radio.receiveFrequencyGhz, 4)} GHz`;
	const channel = `Channel ${numberText(radio.channelWidthMhz, 1)} MHz`;
	const modulation = `Fixed modulation ${part.alignmentState.modulation}`;
	const lines =
		radio.role === 'diversity'
			? [`Only ${hears}: its transmitter off`, channel, modulation, 'ACM off']
			: [
					`Sends ${numberText(radio.transmitFrequencyGhz, 4)} GHz, ${hears}`,
					channel,
					`Power fixed at ${numberText(radio.alignmentPowerDbm, 0)} dBm while aligning`,
					modulation,
					'ATPC off',
					'ACM off',
					...(beside && radio.role !== 'second-band' ? [sentence(beside)] : [])
				];
	return {
		...ofRadio('configure', radio),
		phase: 'office',
		title: `Set up ${radios > 1 ? radio.name.toLowerCase() : 'the radio'} on a desk and read it back`,
		why: `A mistake made over the only cable means a climb with a laptop. Aligning needs no more than this; traffic can be another person’s later work. ${part.code}${radio.subBandUnit ? `, unit ${radio.subBandUnit}` : ''}.`,
		lines,
		items: [radio.key],
		duties: ['configure'],
		tools: ['laptop'],
		quantity: counted('Settings read back', lines.length, 'plan')
	};
}

/**
 * What arrives, counted and read before anything is taken away.
 *
 * @param lines of the list that is counted, 1 or more
 * @param labels that are read, 1 or more
 */
export function receiveSteps({ inventory }: BuildSite, lines: number, labels: number): Draft[] {
	const everything = [
		...inventory.dishes.flatMap((dish) => [dish.key, dish.mount.key]),
		...[inventory.coupling, inventory.indoorUnit, inventory.powerSource].flatMap((item) =>
			item ? [item.key] : []
		),
		...[...inventory.radios, ...inventory.runs, ...inventory.cables].map(({ key }) => key)
	];
	return [
		{
			base: 'parties',
			phase: 'receive',
			title: 'Who is here to receive',
			why: 'A count is only a proof when both sides made it. An absence needs somebody who authorised it.',
			work: 'parties'
		},
		{
			base: 'warm-up',
			phase: 'receive',
			title: 'Let cold goods warm before opening',
			why: 'Cold metal in warm damp air sweats inside.',
			quantity: atLeast('Waited', 0, 'min', 'judged by the crew: none when goods and air are alike')
		},
		{
			base: 'packing',
			phase: 'receive',
			title: 'Count every item',
			why: 'By number, never by a tick: what is short today is a second climb.',
			caution: 'Crates upright, no lever inside; static precautions at open boards.',
			work: 'packing',
			items: everything,
			duties: ['receive'],
			people: 2,
			quantity: counted('Lines counted', lines, 'parts list')
		},
		{
			base: 'labels',
			phase: 'receive',
			title: 'Read the labels against the plan',
			why: 'A part for another band can look alike and fit.',
			work: 'labels',
			quantity: counted('Labels read', labels, 'plan')
		}
	];
}

/** Each dish with its mount, put together on the ground. */
export function assembleSteps({ own, inventory }: BuildSite): Draft[] {
	return inventory.dishes.flatMap((dish): Draft[] => {
		const sheet = dish.part.installation;
		const mount = dish.mount.part.installation;
		const which = among(dish.name, inventory.dishes.length);
		const phase = 'assemble' as const;
		return [
			{
				...ofDish('orientation', dish),
				phase,
				title: `Orientation${which}: ${own.mountSide === 'centred' ? 'in the middle of the mast' : `on the ${own.mountSide} of the mast`}`,
				why: `${sentence(sheet?.drain ?? 'drain lowest')} Turned over up there it costs a second lift.`,
				items: [dish.key, dish.mount.key],
				photo: true,
				caution: 'Crate upright, nothing pressed on the reflector, no lever inside.'
			},
			...(mount
				? (['azimuth', 'tilt'] as const).map((axis): Draft => ({
						...ofDish(`centre-${axis}`, dish),
						phase,
						title: `Centre the ${axis} adjuster${which}`,
						why: 'Travel both ways, or the search ends at a stop.',
						items: [dish.mount.key],
						tools: ['measuring-tape', 'spanners'],
						quantity: measured(
							'Free length of the rod',
							'mm',
							mount.centredRodMm[axis],
							mount.rodToleranceMm,
							`sheet of ${dish.mount.part.code}`,
							0
						)
					}))
				: []),
			{
				...ofDish('pivots', dish),
				phase,
				title: `Pivots${which} fast, not tight; the right screw in each`,
				why: 'Loose enough to move, tight enough not to sag.',
				items: [dish.mount.key],
				tools: ['spanners']
			},
			...(sheet
				? [
						{
							...ofDish('dish-bolts', dish),
							phase,
							title: `${dish.name} to its mount, in two stages`,
							why: 'All in by hand first, then in opposite pairs: a nut tightened in one go bends what it holds.',
							items: [dish.key, dish.mount.key],
							duties: ['mount' as const, 'torque' as const],
							people: 2,
							tools: ['spanners' as const],
							torquesNm: [sheet.bolts.torqueNm],
							quantity: counted(
								`Bolts at ${numberText(sheet.bolts.torqueNm, 0)} N·m`,
								sheet.bolts.count,
								`sheet of ${dish.part.code}`
							)
						}
					]
				: [])
		];
	});
}

/** The plane, on every part where it is set before the part goes anywhere. */
export function polarizationSteps({ input, end, inventory }: BuildSite): Draft[] {
	const joints = chainOf(input, end).filter(({ set }) => set === 'part');
	return [
		...(joints.length
			? [
					{
						base: 'chain',
						phase: 'polarization' as const,
						title: 'The plane of every part that is set before it is mounted',
						why: 'One part of two turned is a loss of 25 dB or more, found only from the ground again.',
						work: 'chain' as const,
						items: joints.map(({ item }) => item),
						duties: ['polarization' as const],
						joints: joints.map(({ key }) => key),
						quantity: counted('Joints looked at', joints.length, 'plan')
					}
				]
			: []),
		...inventory.dishes.flatMap((dish) => bothPlanesStep(dish))
	];
}

function bothPlanesStep(dish: DishItem): Draft[] {
	const sheet = dish.part.installation;
	if (!dish.bothPlanes || !sheet) return [];
	const says = sheet.bothPlanes?.setting;
	// A feed that turns stays as delivered, and is looked at with the joints.
	if (sheet.polarization.how === 'turn') return [];
	return [
		{
			...ofDish('both-planes', dish),
			phase: 'polarization',
			title: 'The feed lets both planes through',
			why: says
				? `${sentence(says)} What is left in lets one plane through only.`
				: `The sheet of ${dish.part.code} does not say what is done to its feed: ask before it is mounted.`,
			caution: 'Transmitter off before anyone looks into a waveguide.',
			items: [dish.key],
			duties: ['polarization'],
			photo: true
		}
	];
}

/** What goes together at a dish: films off, rings in, coupling and radios; aloft, or on the ground. */
export function mountSteps(site: BuildSite): Draft[] {
	const { inventory, whole } = site;
	const { coupling, radios, dishes } = inventory;
	return [
		// Dish by dish: a film comes off the moment before mating.
		...dishes.flatMap((dish) => [
			...matingSteps(site, dish),
			...(coupling?.place === 'dish' && coupling.dish === dish.number
				? [couplingStep(coupling)]
				: []),
			...radios
				.filter((radio) => radio.place === 'dish' && radio.dish === dish.number)
				.map((radio) => radioStep(site, radio))
		]),
		...mountedChain(site)
		// Who looks at the plane is up already.
	].map((step): Draft => (whole || step.work === 'chain' ? step : { card: 'climb', ...step }));
}

/** What stands at the foot of the runs. */
export function footSteps(site: BuildSite): Draft[] {
	const { radios, coupling } = site.inventory;
	const there = [
		...(coupling?.place === 'foot' ? [coupling] : []),
		...radios.filter(({ place }) => place === 'foot')
	];
	const off = filmsOf(site.input, site.end).filter(({ item }) =>
		there.some(({ key }) => key === item)
	);
	return [
		...(off.length
			? [
					{
						base: 'foot-films',
						key: 'films-foot',
						dish: 0,
						phase: 'foot' as const,
						title: 'Films and caps at the foot off, counted',
						why: 'Off the moment before mating. Left in, it is a loss nobody can find from below.',
						lines: off.map(({ part, name }) => `${part}: ${name}`),
						items: there.map(({ key }) => key),
						quantity: counted('Films and caps in your hand', off.length, 'sheets of the parts'),
						photo: true
					}
				]
			: []),
		...(coupling?.place === 'foot' ? [couplingStep(coupling)] : []),
		...radios.filter(({ place }) => place === 'foot').map((radio) => radioStep(site, radio)),
		...footRunSteps(site)
	];
}

function matingSteps({ inventory, input, end }: BuildSite, dish: DishItem): Draft[] {
	const { coupling, radios, dishes } = inventory;
	const which = among(dish.name, dishes.length);
	const atDish = [
		...(coupling?.place === 'dish' && coupling.dish === dish.number ? [coupling] : []),
		...radios.filter((radio) => radio.place === 'dish' && radio.dish === dish.number)
	];
	const items = [dish.key, ...atDish.map(({ key }) => key)];
	const off = filmsOf(input, end).filter(({ item }) => items.includes(item));
	const rings =
		(dish.part.installation?.oRings ?? 0) +
		(coupling && atDish.includes(coupling) ? (coupling.part.installation?.oRings ?? 0) : 0);
	return [
		...(off.length
			? [
					{
						...ofDish('films', dish),
						phase: 'mount' as const,
						title: `Films and caps${which} off, counted`,
						why: 'Off the moment before mating. Left in, it is a loss nobody can find from below.',
						lines: off.map(({ part, name }) => `${part}: ${name}`),
						items,
						quantity: counted('Films and caps in your hand', off.length, 'sheets of the parts'),
						photo: true
					}
				]
			: []),
		...(rings
			? [
					{
						...ofDish('o-rings', dish),
						phase: 'mount' as const,
						title: `O-rings${which} greased and seated`,
						why: sentence(dish.part.installation?.grease ?? ''),
						items: [dish.key],
						quantity: counted(
							'O-rings',
							rings,
							coupling && atDish.includes(coupling)
								? 'sheets of dish and coupling'
								: `sheet of ${dish.part.code}`
						)
					}
				]
			: [])
	];
}

function couplingStep(coupling: CouplingItem): Draft {
	const { code, installation } = coupling.part;
	const bolts = installation?.bolts;
	return {
		base: coupling.place === 'dish' ? 'mount-coupling' : 'foot-coupling',
		key: 'mount-coupling',
		phase: coupling.place === 'dish' ? 'mount' : 'foot',
		dish: coupling.place === 'dish' ? coupling.dish : 0,
		title: `Coupling ${code} ${coupling.place === 'dish' ? 'on the dish' : 'at the foot of the run'}`,
		why: 'All screws in by hand, then in opposite pairs; no grease on a flange face.',
		caution: 'Transmitter off before anyone looks into a waveguide.',
		items: [coupling.key],
		duties: ['mount', 'torque'],
		people: 2,
		tools: ['spanners'],
		...(bolts
			? {
					torquesNm: [bolts.torqueNm],
					quantity: counted(
						`Bolts at ${numberText(bolts.torqueNm, 0)} N·m`,
						bolts.count,
						`sheet of ${code}`
					)
				}
			: {})
	};
}

function radioStep({ inventory }: BuildSite, radio: RadioItem): Draft {
	const { part, polarization } = radio;
	const fixing = part.installation?.fixing;
	const setting = part.installation?.polarization;
	const orientation =
		radio.place === 'dish' && setting
			? `${sentence(`${setting.shows[polarization]} (${polarization})`)} `
			: '';
	const foot =
		radio.place === 'foot' ? 'Its wide wall in line with the wide wall of the run. ' : '';
	return {
		...ofRadio('mount-radio', radio),
		...(radio.place === 'foot' ? { base: 'foot-radio' } : {}),
		dish: radio.place === 'dish' ? radio.dish : 0,
		phase: radio.place === 'dish' ? 'mount' : 'foot',
		title: `${inventory.radios.length > 1 ? radio.name : `Radio ${part.code}`} ${radio.seat}`,
		why: `${orientation}${foot}${part.code}${radio.subBandUnit ? `, unit ${radio.subBandUnit}` : ''}: read its label once more, then straight on, without leaning on the flange.`,
		caution: 'Supply off. Tied on before it is let go.',
		items: [radio.key],
		duties: ['mount', 'torque'],
		people: 2,
		tools: ['spanners'],
		...(fixing
			? {
					torquesNm: [fixing.torqueNm],
					quantity: counted(
						`Screws at ${numberText(fixing.torqueNm, 0)} N·m`,
						fixing.count,
						`sheet of ${part.code}`
					)
				}
			: {})
	};
}

function mountedChain({ input, end }: BuildSite): Draft[] {
	const joints = chainOf(input, end).filter(({ set }) => set === 'mounting');
	return joints.length
		? [
				{
					base: 'chain-mounted',
					phase: 'mount',
					title: 'The plane of what was mounted',
					why: 'Ports, sides and radios, looked at where they now sit. A mark can be painted over; the walls of a guide cannot.',
					work: 'chain',
					items: joints.map(({ item }) => item),
					duties: ['polarization'],
					joints: joints.map(({ key }) => key),
					quantity: counted('Joints looked at', joints.length, 'plan')
				}
			]
		: [];
}
