import { inventoryOf } from '../budget/inventory';
import type { HopPlanInput } from '../budget/planInput';
import type { End } from '../ends';
import { numberText } from '../units/text';
import type { BuildStep, Tool } from './buildStep';
import type { PartsLine } from './partsList';

const TOOL_WORDS: Record<Tool, { code: string; name: string }> = {
	laptop: { code: 'TL-P', name: 'Laptop with the lead for these radios, for the desk' },
	knife: { code: 'TL-K', name: 'Knife and stripping tool' },
	'crimping-pliers': { code: 'TL-Z', name: 'Crimping pliers with dies for these terminals' },
	spanners: { code: 'TL-S', name: 'Set of spanners and hex keys, on lanyards' },
	'digital-level': { code: 'TL-L', name: 'Digital level, 0.1°' },
	'measuring-tape': { code: 'TL-M', name: 'Measuring tape, 30 m, and a steel rule' },
	calliper: { code: 'TL-G', name: 'Calliper, to 150 mm' },
	compass: { code: 'TL-C', name: 'Compass or binoculars' },
	ohmmeter: { code: 'TL-O', name: 'Ohmmeter that reads 0.01 Ω' },
	'insulation-meter': { code: 'TL-I', name: 'Insulation meter' },
	'wire-mapper': { code: 'TL-W', name: 'Wire mapper for eight conductors and the screen' },
	'cable-tester': {
		code: 'TL-X',
		name: 'Signal source and level meter for the intermediate frequency'
	},
	voltmeter: { code: 'TL-D', name: 'Voltmeter for the supply' },
	'lifting-gear': {
		code: 'TL-R',
		name: 'Rope, pulley, slings and tag lines, rated for the load'
	},
	'pressure-gauge': { code: 'TL-Y', name: 'Dry-air pump with gauge' }
};

/** Every kind of tool that steps ask for. */
export const TOOLS = Object.keys(TOOL_WORDS) as Tool[];
/** What a tool is called. */
export const toolName = (tool: Tool): string => TOOL_WORDS[tool].name;

/** A wrench reads true from about a fifth of its range. */
const WRENCH_SPAN = 5;

/** One torque wrench by what is asked of it, N·m. */
export interface Wrench {
	fromNm: number;
	toNm: number;
}

/**
 * The fewest wrenches that give every torque, each over the upper four fifths of its range; greatest first.
 *
 * @param torquesNm above 0 each
 */
export function wrenchesFor(torquesNm: readonly number[]): Wrench[] {
	const left = [...torquesNm].sort((p, q) => q - p);
	const wrenches: Wrench[] = [];
	for (const torqueNm of left) {
		const last = wrenches.at(-1);
		if (last && torqueNm * WRENCH_SPAN >= last.toNm) last.fromNm = torqueNm;
		else wrenches.push({ fromNm: torqueNm, toNm: torqueNm });
	}
	return wrenches;
}

/** Every torque that is asked for at an end: by the building, and by what locks each dish. */
export function torquesOf(
	input: HopPlanInput,
	end: End,
	steps: readonly Pick<BuildStep, 'torquesNm'>[]
): number[] {
	return [
		...steps.flatMap(({ torquesNm }) => torquesNm),
		...input.ends[end].mount.fasteners.map(({ torqueNm }) => torqueNm)
	];
}

/** The tools of one end, from the steps that ask for them and from what is aligned and fixed after. */
export function toolLines(
	input: HopPlanInput,
	end: End,
	steps: readonly Pick<BuildStep, 'tools' | 'torquesNm'>[]
): PartsLine[] {
	const asked = new Set(steps.flatMap(({ tools }) => tools));
	const line = (code: string, name: string): PartsLine => ({
		code,
		name,
		count: 1,
		unit: 'piece',
		group: 'tool'
	});
	const wrenches = wrenchesFor(torquesOf(input, end, steps)).map(({ fromNm, toNm }, i) =>
		line(
			i === 0 ? 'TL-T' : `TL-T${i + 1}`,
			`Torque wrench for ${fromNm === toNm ? '' : `${numberText(fromNm, 0)} to `}${numberText(toNm, 0)} N·m, in calibration`
		)
	);
	const ports = new Set(inventoryOf(input, end).radios.map(({ part }) => part.levelPort.connector));
	return [
		...wrenches,
		...[...ports].map((connector, i) =>
			line(i === 0 ? 'TL-V' : `TL-V${i + 1}`, `Voltmeter with lead for: ${connector}`)
		),
		...(Object.keys(TOOL_WORDS) as Tool[])
			.filter((tool) => asked.has(tool))
			.map((tool) => line(TOOL_WORDS[tool].code, TOOL_WORDS[tool].name))
	];
}
