import { CONFIGURATION_RULES } from '../budget/configuration';
import type { EndPlanInput, HopPlanInput } from '../budget/planInput';
import type { CablePart } from '../catalogue/parts';
import type { End } from '../ends';
import { clampPlan, tapeNeed, type Tape } from './towerArithmetic';

export interface PartsLine {
	code: string;
	name: string;
	count: number;
	unit: 'piece' | 'm' | 'roll' | 'set';
	group: 'equipment' | 'material' | 'tool' | 'consumable';
}

/** Clamps of parts whose sheet does not say, m apart. */
const CLAMP_EVERY_M = 1;
const EARTH_KIT_EVERY_M = 30;
/** Earth kits of a cable's screen: at the top, at the bottom, before entry. */
export const KITS_A_CABLE = 3;
/** Joints of a cable that are wrapped outside: at the unit and at two of its earth kits. */
export const JOINTS_A_CABLE = 3;
/** Slack and drip loop at the unit and at the entry, m each. */
const LOOP_M = 1.5;

/** Everything one end needs, counted from its configuration. */
export function partsList(input: HopPlanInput, end: End): PartsLine[] {
	const own = input.ends[end];
	const rule = CONFIGURATION_RULES[input.configuration.kind];
	const twoBands = input.configuration.kind === 'two-bands';
	const radios = twoBands ? 1 : rule.radios;
	const lines: PartsLine[] = [
		piece(
			own.radio.code,
			`${own.radio.name}${own.subBandUnit ? `, unit ${own.subBandUnit}` : ''}`,
			radios
		),
		piece(own.dish.code, own.dish.name, 1),
		piece(own.mount.code, own.mount.name, rule.dishes)
	];
	if (own.coupling && rule.couplings.length)
		lines.push(piece(own.coupling.code, own.coupling.name, 1));
	if (rule.dishes === 2 && own.secondDish)
		lines.push(piece(own.secondDish.code, own.secondDish.name, 1));
	if (twoBands && own.secondRadio) lines.push(piece(own.secondRadio.code, own.secondRadio.name, 1));
	lines.push(...feederLines(own, rule.dishes), ...supplyLines(own, rule.radios));
	lines.push(
		{
			code: 'EK-R',
			name: 'Earth lead with clamp, one a radio',
			count: rule.radios,
			unit: 'piece',
			group: 'material'
		},
		...toolLines(own, rule.radios)
	);
	return merged(lines);
}

function piece(code: string, name: string, count: number): PartsLine {
	return { code, name, count, unit: 'piece', group: 'equipment' };
}

function feederLines(own: EndPlanInput, runs: number): PartsLine[] {
	if (own.feeder.kind === 'direct') return [];
	const lengthM = Math.ceil(own.feederLengthM) * runs;
	return [
		{ code: own.feeder.code, name: own.feeder.name, count: lengthM, unit: 'm', group: 'equipment' },
		{
			code: 'CL-W',
			name: 'Feeder clamp',
			count: runs * feederClamps(own),
			unit: 'piece',
			group: 'material'
		},
		{
			code: 'EK-F',
			name: 'Feeder earth kit: top, bottom, entry and between',
			count: runs * feederEarthKits(own.feederLengthM),
			unit: 'piece',
			group: 'material'
		},
		{
			code: 'SE-W',
			name: 'Flange seal and screw set',
			count: 2 * runs,
			unit: 'set',
			group: 'consumable'
		}
	];
}

function supplyLines(own: EndPlanInput, radios: number): PartsLine[] {
	const indoors = [own.indoorUnit, own.powerSource].flatMap((part) =>
		part ? [piece(part.code, part.name, 1)] : []
	);
	if (!own.cable || own.cableLengthM === 0) return indoors;
	const lengthM = Math.ceil(own.cableLengthM + 2 * LOOP_M) * radios;
	return [
		...indoors,
		{ code: own.cable.code, name: own.cable.name, count: lengthM, unit: 'm', group: 'material' },
		{
			code: 'CL-C',
			name: 'Cable clamp',
			count: radios * cableClamps(own.cable, own.cableLengthM),
			unit: 'piece',
			group: 'material'
		},
		{
			code: 'EK-C',
			name: 'Earth kit for the cable’s screen',
			count: KITS_A_CABLE * radios,
			unit: 'piece',
			group: 'material'
		},
		{
			code: 'SP-DC',
			name: 'Surge protector for the supply',
			count: radios,
			unit: 'piece',
			group: 'material'
		}
	];
}

function toolLines(own: EndPlanInput, radios: number): PartsLine[] {
	const most = Math.max(...own.mount.fasteners.map((fastener) => fastener.torqueNm));
	const tool = (code: string, name: string): PartsLine => ({
		code,
		name,
		count: 1,
		unit: 'piece',
		group: 'tool'
	});
	return [
		tool('TL-T', `Torque wrench to ${Math.ceil(most * 1.2)} N·m, in calibration`),
		tool('TL-V', `Voltmeter with lead for: ${own.radio.levelPort.connector}`),
		tool('TL-L', 'Digital level, 0.1°'),
		tool('TL-C', 'Compass or binoculars'),
		tool('TL-R', 'Rope, pulley, slings and tag lines, rated for the load'),
		...tapeLines(own, radios),
		{ code: 'CO-L', name: 'Cable labels', count: 1, unit: 'set', group: 'consumable' }
	];
}

/** Rolls by the school of the cable; a stock where its sheet does not say. */
function tapeLines(own: EndPlanInput, radios: number): PartsLine[] {
	const sheet = own.cable?.installation;
	const need = sheet
		? tapeNeed(sheet.weatherproofing, sheet.connector, JOINTS_A_CABLE * radios)
		: [{ tape: 'waterproof tape' as const, rolls: 1 + radios }];
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

/**
 * Clamps of one cable, by its sheet.
 *
 * @param lengthM 0 to 1000
 */
export function cableClamps({ installation }: CablePart, lengthM: number): number {
	const everyM = installation?.clampEveryM ?? CLAMP_EVERY_M;
	return clampPlan(lengthM, installation?.firstClampM ?? everyM / 2, everyM).count;
}

/** Hangers of one run, by its sheet. */
export function feederClamps({ feeder, feederLengthM }: EndPlanInput): number {
	const everyM = feeder.installation?.hangerEveryM ?? CLAMP_EVERY_M;
	return clampPlan(feederLengthM, feeder.installation?.firstHangerM ?? everyM / 2, everyM).count;
}

/**
 * Earth kits of one run: top, bottom, before entry, and between on a long one.
 *
 * @param lengthM 0 or more
 */
export function feederEarthKits(lengthM: number): number {
	return 3 + Math.floor(lengthM / EARTH_KIT_EVERY_M);
}

/** The same part named twice is one line. */
function merged(lines: readonly PartsLine[]): PartsLine[] {
	const byCode = new Map<string, PartsLine>();
	for (const line of lines) {
		const known = byCode.get(line.code);
		byCode.set(line.code, known ? { ...known, count: known.count + line.count } : line);
	}
	return [...byCode.values()];
}
