import type { CableItem, Inventory, RunItem } from '../budget/inventory';
import type { EndPlanInput, HopPlanInput } from '../budget/planInput';
import type { CablePart, CableWiring, RadioPart } from '../catalogue/parts';
import type { ConnectorData, WeatherproofingKind } from '../catalogue/installation';
import { clampPlan, rollsOf, tapeNeed, type Tape, type TapeNeed } from './towerArithmetic';

/** Clamps of parts whose sheet does not say, m apart. */
const CLAMP_EVERY_M = 1;
const EARTH_KIT_EVERY_M = 30;

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

/** Whether a cable goes up the mast, or only to a radio at its foot. */
export function goesUp(inventory: Inventory, cable: CableItem): boolean {
	return inventory.radios.some(({ number, place }) => number === cable.radio && place === 'dish');
}

/** Earth kits of a cable's screen: top, bottom and before entry; only before entry where it stays below. */
export function screenKits(inventory: Inventory, cable: CableItem): number {
	return goesUp(inventory, cable) ? 3 : 1;
}

/** Those of them that stand outside and are wrapped: the last one before entry is under its roof. */
function outsideKits(inventory: Inventory, cable: CableItem): number {
	return goesUp(inventory, cable) ? 2 : 1;
}

/** What a cable is made of: by its sheet, else by what its radio takes. */
export function wiringOf(
	cable: Pick<CablePart, 'wiring'>,
	radio: Pick<RadioPart, 'installation'>
): Pick<CableWiring, 'kind' | 'conductors'> & { insulationMohm: number | null } {
	if (cable.wiring) return cable.wiring;
	const dc = (radio.installation?.power.kind ?? 'dc') === 'dc';
	return { kind: dc ? 'dc' : 'ethernet', conductors: dc ? 2 : 8, insulationMohm: null };
}

/** Outdoor joints of one kind that are closed in one way. */
export interface ClosedJoints {
	what: 'connector' | 'earth kit' | 'flange';
	count: number;
	how: WeatherproofingKind;
	wrapMm: ConnectorData['wrapMm'];
}

/** How something that no shell fits is closed: by the school of the hop, else as its sheet says, else in layers. */
function taped(input: HopPlanInput, sheet: WeatherproofingKind | undefined): WeatherproofingKind {
	if (input.building.joints !== 'as-part') return input.building.joints;
	return sheet && sheet !== 'sleeve' ? sheet : 'layered-tape';
}

/** Outdoor joints of the cables: the plugs at the units, and the earth kits outside. */
export function cableJoints(input: HopPlanInput, inventory: Inventory): ClosedJoints[] {
	const { cables } = inventory;
	const sheet = cables[0]?.part.installation;
	if (!sheet) return [];
	const { wrapMm } = sheet.connector;
	// A shell or sleeve belongs to the plug that it screws on to; an earth kit has none.
	const plug = sheet.weatherproofing === 'sleeve' ? 'sleeve' : taped(input, sheet.weatherproofing);
	const kits = cables.reduce((sum, cable) => sum + outsideKits(inventory, cable), 0);
	return [
		{ what: 'connector', count: cables.length, how: plug, wrapMm },
		{ what: 'earth kit', count: kits, how: taped(input, sheet.weatherproofing), wrapMm }
	];
}

/** Outdoor joints of the runs: the flange at the dish and the one at the foot, and the earth kits. */
export function runJoints(input: HopPlanInput, runs: readonly RunItem[]): ClosedJoints[] {
	const [run] = runs;
	const wrapMm = run?.part.installation?.wrapMm;
	if (!run || !wrapMm) return [];
	const how = taped(input, undefined);
	return [
		{ what: 'flange', count: 2 * runs.length, how, wrapMm },
		{ what: 'earth kit', count: runs.length * feederEarthKits(run.lengthM), how, wrapMm }
	];
}

/** Tape for all of them, each kind once. */
export function tapeFor(joints: readonly ClosedJoints[]): TapeNeed[] {
	const needs = joints.flatMap(({ how, wrapMm, count }) => tapeNeed(how, { wrapMm }, count));
	const lengths = new Map<Tape, number>();
	for (const { tape, lengthM } of needs) lengths.set(tape, (lengths.get(tape) ?? 0) + lengthM);
	return [...lengths].map(([tape, lengthM]) => rollsOf(tape, lengthM));
}
