import type { DishItem, Inventory, RadioItem } from '../budget/inventory';
import type { HopPlan } from '../budget/hopPlan';
import type { EndPlanInput, HopPlanInput } from '../budget/planInput';
import type { UnitPower } from '../catalogue/installation';
import type { End } from '../ends';
import type { StopCard } from '../safety/stopCards';
import type { Quantity } from './quantity';

/** Stretches of the work, in the order in which a crew that lifts piece by piece meets them. */
export const PHASES = [
	'office',
	'receive',
	'assemble',
	'polarization',
	'raise',
	'mount',
	'waveguide',
	'foot',
	'earth',
	'cable',
	'weatherproof',
	'indoors',
	'power-up'
] as const;
export type Phase = (typeof PHASES)[number];

/** How a step is recorded: by its own form, or by looking elsewhere at what was recorded. */
export type StepWork = 'confirm' | 'packing' | 'labels' | 'parties' | 'chain';

/** A calculation that is shown where the step needs it. */
export type StepSheet =
	'lift' | 'clamps' | 'slack' | 'strips' | 'tape' | 'gland' | 'supply' | 'hangers' | 'bends';

/** What a part is owed before it works: every part has its own. */
export type Duty =
	'configure' | 'receive' | 'mount' | 'polarization' | 'earth' | 'connect' | 'power' | 'torque';

/** Tools that steps ask for; a torque wrench is asked for by its torque. */
export type Tool =
	| 'laptop'
	| 'knife'
	| 'crimping-pliers'
	| 'spanners'
	| 'digital-level'
	| 'measuring-tape'
	| 'calliper'
	| 'compass'
	| 'ohmmeter'
	| 'insulation-meter'
	| 'wire-mapper'
	| 'cable-tester'
	| 'voltmeter'
	| 'lifting-gear'
	| 'pressure-gauge';

/**
 * Where a step can hurt somebody or destroy something it is judged by more than a number, and is not
 * closed against that judgement without the override of a named person.
 */
export type Gate =
	/** `loadKg` null: no sheet says it, and who lifts types what the papers or a scale say. */
	| { kind: 'lift'; loadKg: number | null }
	| {
			kind: 'source';
			unit: { consumptionW: number; supplyMinV: number; power: Pick<UnitPower, 'kind' | 'maxV'> };
			cableLengthM: number;
	  }
	/** Reversed or too high a voltage destroys; too low only does not work. */
	| { kind: 'supply'; maxV: number }
	/** What lies outside the limits of its quantity can come down. */
	| { kind: 'limits' };

export interface BuildStep {
	/** Stable name; records refer to it. */
	key: string;
	/** What kind of step it is: facts of order are said of these. */
	base: string;
	phase: Phase;
	title: string;
	why: string;
	/** Single things to go through at the step. */
	lines: readonly string[];
	work: StepWork;
	/** The parts of the inventory it is about, by their keys. */
	items: readonly string[];
	/** What it does for them. */
	duties: readonly Duty[];
	/** The dish that it belongs to alone, 0 for what stands at the foot of a run; null: to none or all. */
	dish: number | null;
	/** The radio that it belongs to alone. */
	radio: number | null;
	people: number;
	tools: readonly Tool[];
	/** Torques that a wrench must give, N·m. */
	torquesNm: readonly number[];
	caution?: string;
	quantity?: Quantity;
	/** A photo proves something here; without one the step is not done. */
	photo: boolean;
	/** Steps that must be done before, with the reason. */
	after: { key: string; reason: string }[];
	card?: StopCard;
	gate?: Gate;
	sheet?: StepSheet;
	/** The joints of the polarization chain that are looked at here, by their keys. */
	joints: readonly string[];
}

type Said = 'base' | 'phase' | 'title' | 'why';
/** A step as it is written down: what it does not say is none. */
export type Draft = Pick<BuildStep, Said> & Partial<Omit<BuildStep, Said | 'after'>>;

/** A step from what is written down of it. */
export function complete(draft: Draft): BuildStep {
	return {
		key: draft.base,
		lines: [],
		work: 'confirm',
		items: [],
		duties: [],
		dish: null,
		radio: null,
		people: 1,
		tools: [],
		torquesNm: [],
		photo: false,
		joints: [],
		...draft,
		after: []
	};
}

/** Everything one end’s building depends on. */
export interface BuildSite {
	input: HopPlanInput;
	plan: HopPlan;
	own: EndPlanInput;
	end: End;
	inventory: Inventory;
	/** Dish, coupling and radios are put together on the ground and go up as one. */
	whole: boolean;
}

/**
 * Name of a step of one part among others of its kind: the first keeps the plain name, which records
 * older than the others have.
 *
 * @param place of the part among its kind, from 0
 */
export function stepKey(base: string, itemKey: string, place: number): string {
	return place === 0 ? base : `${base}-${itemKey}`;
}

/** What marks a step as one dish’s own. */
export function ofDish(
	base: string,
	{ key, number }: DishItem
): Pick<BuildStep, 'base' | 'key' | 'dish'> {
	return { base, key: stepKey(base, key, number - 1), dish: number };
}

/** What marks a step as one radio’s own. */
export function ofRadio(
	base: string,
	{ key, number }: RadioItem
): Pick<BuildStep, 'base' | 'key' | 'radio'> {
	return { base, key: stepKey(base, key, number - 1), radio: number };
}

/**
 * What tells a part from others of its kind in a sentence; nothing where it is the only one.
 *
 * @param all how many there are, 1 or more
 */
export function among(name: string, all: number): string {
	return all > 1 ? ` of the ${name.toLowerCase()}` : '';
}

/** A sentence from words of a part’s sheet. */
export function sentence(words: string): string {
	const text = `${words.charAt(0).toUpperCase()}${words.slice(1)}`;
	return /[.!?]$/.test(text) || text === '' ? text : `${text}.`;
}
