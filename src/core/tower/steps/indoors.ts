import type { CableItem, IndoorItem, Inventory } from '../../budget/inventory';
import { serviceLine } from '../../budget/services';
import { BOARD_WORDS, boardsInOrder, emptySlots, radioPorts } from '../../catalogue/chassis';
import type { BoardData, ChassisData } from '../../catalogue/parts';
import type { End } from '../../ends';
import { numberText } from '../../units/text';
import type { BuildSite, Draft } from '../buildStep';
import { atLeast, counted } from '../quantity';

export const EARTH_CAUTION = 'Local code and a licensed person decide on earthing.';

const PLACE_WORDS: Record<IndoorItem['part']['place'], string> = {
	rack: 'in the rack',
	wall: 'on the wall',
	shelf: 'on the shelf'
};

/** What stands under a roof. */
export function indoorSteps({ own, inventory, input, end }: BuildSite): Draft[] {
	const { indoorUnit, powerSource, cables } = inventory;
	const stands = [indoorUnit, powerSource].filter((item) => item !== null);
	if (stands.length === 0) return [];
	const phase = 'indoors' as const;
	return [
		...stands.map((item): Draft => ({
			base: item.kind === 'indoor-unit' ? 'indoor-mount' : 'source-mount',
			phase,
			title: `${item.name} ${item.part.code}${item.kind === 'indoor-unit' ? ` ${PLACE_WORDS[item.part.place]}` : ' in its place'}`,
			why: `${own.conditions.indoorPlace || 'Where the plan has it'}; ${item.kind === 'indoor-unit' && item.part.heightUnits ? `${numberText(item.part.heightUnits, 0)} height units, ` : ''}air free to pass above and below.${item.kind === 'indoor-unit' && item.part.place === 'rack' ? ' Cage nuts into the holes of its own units first, all of them.' : ''}`,
			caution: 'Static precautions at open boards. Mains: licensed people.',
			items: [item.key],
			duties: ['mount'],
			tools: ['spanners'],
			people: item.part.weightKg > 20 ? 2 : 1,
			...(item.kind === 'indoor-unit' && item.part.place === 'rack' && item.part.heightUnits
				? {
						quantity: atLeast(
							'Free height units found',
							item.part.heightUnits,
							'U',
							`sheet of ${item.part.code}`
						)
					}
				: {})
		})),
		{
			base: 'indoor-earth',
			phase,
			title: 'Protective earth indoors',
			why: 'Each frame to the bar, on bare metal, before any supply.',
			caution: EARTH_CAUTION,
			items: stands.map(({ key }) => key),
			duties: ['earth'],
			tools: ['crimping-pliers', 'spanners'],
			quantity: counted('Leads', stands.length, 'one a frame')
		},
		...(indoorUnit?.part.chassis ? chassisSteps(indoorUnit, indoorUnit.part.chassis) : []),
		...(cables.length
			? [
					{
						base: 'indoor-ports',
						phase,
						title: 'Each cable on its port, labelled at both ends',
						why: 'Two cables changed over look alike from below, and send the wrong way. A label reads the same at both ends.',
						lines: cables.map(
							(cable, i) =>
								`${portLine(inventory, cable, i)}; label “${cableLabel(end, inventory, cable, i)}”`
						),
						photo: true,
						caution: 'Supply off.',
						items: [...stands.map(({ key }) => key), ...cables.map(({ key }) => key)],
						duties: ['connect' as const],
						quantity: counted('Labels', 2 * cables.length, 'both ends of each')
					}
				]
			: []),
		...(indoorUnit && input.services.length
			? [
					{
						base: 'service-cables',
						phase,
						title: 'Each service on its port, labelled at both ends',
						why: 'What is plugged one port beside carries the wrong traffic and raises no alarm. They are proved one by one before acceptance.',
						lines: input.services.map((service) => serviceLine(input, end, service)),
						items: [indoorUnit.key],
						duties: ['connect' as const],
						quantity: counted('Labels', 2 * input.services.length, 'both ends of each')
					}
				]
			: [])
	];
}

const FIXING_WORDS: Record<BoardData['fixing'], string> = {
	levers: 'levers in together',
	screws: 'both screws by hand',
	latch: 'until the latch holds'
};

/** Boards, fillers, optics and management of a chassis, before any supply. */
function chassisSteps(unit: IndoorItem, { boards, optical }: ChassisData): Draft[] {
	const { part, key } = unit;
	const from = `sheet of ${part.code}`;
	const empty = emptySlots(part);
	const common = { phase: 'indoors' as const, items: [key] };
	return [
		{
			...common,
			base: 'boards',
			title: `Boards of ${part.code} in their slots`,
			why: 'Strap on the wrist and to the frame. By the edges, into both guides, straight in without force: a bent pin shows when it is too late.',
			lines: boardsInOrder(part).map(
				({ slot, kind, name, fixing }) =>
					`Slot ${slot}: ${BOARD_WORDS[kind]}, ${name}; ${FIXING_WORDS[fixing]}`
			),
			caution: 'Static precautions at open boards. Supply off.',
			duties: ['mount'],
			photo: true,
			quantity: counted('Boards seated', boards.length, from)
		},
		...(empty.length
			? [
					{
						...common,
						base: 'fillers',
						title: 'Filler panels over the empty slots',
						why: `${empty.length === 1 ? 'Slot' : 'Slots'} ${empty.join(', ')}. Through an open slot the air leaves before it has passed the boards.`,
						quantity: counted('Fillers', empty.length, from)
					}
				]
			: []),
		...(optical
			? [
					{
						...common,
						base: 'optics',
						title: 'Optical modules and their fibres',
						why: `No fibre tighter than ${numberText(optical.fibreBendMm, 0)} mm; a cap on every end that is not plugged; clean before plugging.`,
						caution: 'Never look into a fibre or a module.',
						duties: ['connect' as const],
						quantity: counted('Modules', optical.modules, from)
					}
				]
			: []),
		{
			...common,
			base: 'management',
			title: 'Management cable on its port, labelled',
			why: 'On the control board, away from the traffic; label at both ends.',
			duties: ['connect']
		}
	];
}

/**
 * What stands on the label of a radio's cable, the same at both its ends: end, radio, plane and port, such as
 * "A · radio 2 · H · slot 1, port 2".
 *
 * @param place of the port among those for radios, 0 or more
 */
export function cableLabel(
	end: End,
	{ radios, indoorUnit }: Pick<Inventory, 'radios' | 'indoorUnit'>,
	cable: Pick<CableItem, 'radio' | 'name'>,
	place: number
): string {
	const radio = radios.find(({ number }) => number === cable.radio);
	const port = (indoorUnit && radioPorts(indoorUnit.part)[place]) ?? `Port ${place + 1}`;
	const plane = radio?.polarization === 'horizontal' ? 'H' : 'V';
	return [
		end,
		radio ? `radio ${radio.number} · ${plane}` : cable.name.toLowerCase(),
		port.toLowerCase()
	].join(' · ');
}

/**
 * What hangs on one port indoors: the port as the front of the unit has it, and the radio behind it.
 *
 * @param place of the port among those for radios, 0 or more
 */
export function onPort(
	{ radios, indoorUnit }: Inventory,
	cable: CableItem,
	place: number
): { port: string; hangs: string } {
	const port = (indoorUnit && radioPorts(indoorUnit.part)[place]) ?? `Port ${place + 1}`;
	const radio = radios.find(({ number }) => number === cable.radio);
	return {
		port,
		hangs: radio
			? `${radio.name.toLowerCase()}, ${radio.part.code}, ${radio.seat}; ${radio.polarization}, ${numberText(radio.receiveFrequencyGhz, 3)} GHz received`
			: cable.name.toLowerCase()
	};
}

/**
 * The same in one line.
 *
 * @param place of the port among those for radios, 0 or more
 */
export function portLine(inventory: Inventory, cable: CableItem, place: number): string {
	const { port, hangs } = onPort(inventory, cable, place);
	return `${port}: ${hangs}`;
}
