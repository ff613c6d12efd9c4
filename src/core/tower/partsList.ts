import { boardsInOrder, emptySlots } from '../catalogue/chassis';
import type { IndoorUnitPart } from '../catalogue/parts';
import { inventoryOf, type Inventory, type RadioItem } from '../budget/inventory';
import type { EndPlanInput, HopPlanInput } from '../budget/planInput';
import type { End } from '../ends';
import {
	cableClamps,
	cableJoints,
	feederClamps,
	feederEarthKits,
	runJoints,
	screenKits,
	tapeFor
} from './counts';
import type { Tape } from './towerArithmetic';

export interface PartsLine {
	code: string;
	name: string;
	count: number;
	unit: 'piece' | 'm' | 'roll' | 'set';
	group: 'equipment' | 'material' | 'tool' | 'consumable';
}

/** Slack and drip loop at the unit and at the entry, m each. */
const LOOP_M = 1.5;

/** The parts, material and consumables that one end needs, counted from its inventory; its tools follow from the steps. */
export function partsList(input: HopPlanInput, end: End): PartsLine[] {
	const inventory = inventoryOf(input, end);
	const { radios, dishes, coupling, indoorUnit, powerSource } = inventory;
	return merged([
		...radioLines(radios),
		...dishes.map(({ part }) => piece(part)),
		...dishes.map(({ mount }) => piece(mount.part)),
		...[coupling, indoorUnit, powerSource].flatMap((item) => (item ? [piece(item.part)] : [])),
		...(indoorUnit ? chassisLines(indoorUnit.part) : []),
		...feederLines(input.ends[end], inventory),
		...cableLines(inventory),
		material('EK-R', 'Earth lead with clamp, one a radio', radios.length),
		...[indoorUnit, powerSource]
			.filter((item) => item !== null)
			.map(() => material('EK-I', 'Earth lead indoors, one a frame', 1)),
		...tapeLines(input, inventory),
		{ code: 'CO-L', name: 'Cable labels', count: 1, unit: 'set', group: 'consumable' }
	]);
}

/** What is put into a chassis comes beside it. */
function chassisLines(part: IndoorUnitPart): PartsLine[] {
	const empty = emptySlots(part).length;
	const modules = part.chassis?.optical?.modules ?? 0;
	return [
		...boardsInOrder(part).map(({ slot, name }) =>
			material(`${part.code}-${slot}`, `Board for slot ${slot}: ${name}`, 1)
		),
		...(empty ? [material(`${part.code}-F`, 'Filler panel', empty)] : []),
		...(modules ? [material(`${part.code}-O`, 'Optical module with fibre', modules)] : [])
	];
}

/** Radios of one type are one line, with every unit that is wanted of it. */
function radioLines(radios: readonly RadioItem[]): PartsLine[] {
	return radios.map(({ part }) => {
		const units = new Set(
			radios.filter((other) => other.part.code === part.code).map(({ subBandUnit }) => subBandUnit)
		);
		const said = [...units].filter((unit) => unit !== null);
		return {
			...piece(part),
			name: said.length
				? `${part.name}, ${said.length > 1 ? 'units' : 'unit'} ${said.join(' and ')}`
				: part.name
		};
	});
}

function piece({ code, name }: { code: string; name: string }): PartsLine {
	return { code, name, count: 1, unit: 'piece', group: 'equipment' };
}

function material(code: string, name: string, count: number): PartsLine {
	return { code, name, count, unit: 'piece', group: 'material' };
}

function feederLines(own: EndPlanInput, { runs }: Inventory): PartsLine[] {
	if (runs.length === 0) return [];
	const lengthM = Math.ceil(own.feederLengthM) * runs.length;
	return [
		{ code: own.feeder.code, name: own.feeder.name, count: lengthM, unit: 'm', group: 'equipment' },
		material('CL-W', 'Feeder clamp', runs.length * feederClamps(own)),
		material(
			'EK-F',
			'Feeder earth kit: top, bottom, entry and between',
			runs.length * feederEarthKits(own.feederLengthM)
		),
		{
			code: 'SE-W',
			name: 'Flange seal and screw set',
			count: 2 * runs.length,
			unit: 'set',
			group: 'consumable'
		}
	];
}

function cableLines(inventory: Inventory): PartsLine[] {
	return inventory.cables.flatMap((cable): PartsLine[] => [
		{
			code: cable.part.code,
			name: cable.part.name,
			count: Math.ceil(cable.lengthM + 2 * LOOP_M),
			unit: 'm',
			group: 'material'
		},
		material('CL-C', 'Cable clamp', cableClamps(cable.part, cable.lengthM)),
		material('EK-C', 'Earth kit for the cable’s screen', screenKits(inventory, cable)),
		...(cable.part.coaxial
			? [
					material('SP-IF', 'Surge protector that passes supply and intermediate frequency', 1),
					material('PL-X', `Plug: ${cable.part.installation?.connector.name ?? 'coaxial'}`, 2),
					material('EN-B', 'Boot for the cable entry', 1)
				]
			: [material('SP-DC', 'Surge protector for the supply', 1)])
	]);
}

/** Rolls by the school of every joint; a stock where no sheet says. */
function tapeLines(input: HopPlanInput, inventory: Inventory): PartsLine[] {
	const joints = [...cableJoints(input, inventory), ...runJoints(input, inventory.runs)];
	const need = joints.length
		? tapeFor(joints)
		: [{ tape: 'waterproof tape' as const, rolls: 1 + inventory.radios.length }];
	return need.map(({ tape, rolls }): PartsLine => ({
		code: TAPE_CODES[tape],
		name: tape.charAt(0).toUpperCase() + tape.slice(1),
		count: rolls,
		unit: 'roll',
		group: 'consumable'
	}));
}

const TAPE_CODES: Record<Tape, string> = {
	'insulating tape': 'CO-I',
	'waterproof tape': 'CO-T',
	'sealing compound': 'CO-C'
};

/** The same part named twice is one line. */
function merged(lines: readonly PartsLine[]): PartsLine[] {
	const byCode = new Map<string, PartsLine>();
	for (const line of lines) {
		const known = byCode.get(line.code);
		byCode.set(line.code, known ? { ...known, count: known.count + line.count } : line);
	}
	return [...byCode.values()];
}
