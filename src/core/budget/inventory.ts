import { findDishAt } from '../catalogue/dishAt';
import type { CouplingPart } from '../catalogue/coupling';
import type {
	CablePart,
	DishPart,
	FeederPart,
	IndoorUnitPart,
	MountPart,
	PowerSourcePart,
	RadioPart
} from '../catalogue/parts';
import { farEnd, type End } from '../ends';
import { unitForPair } from '../frequency/subBand';
import { inverseGeodesic } from '../geodesy/geodesic';
import { antennaTiltDeg } from '../geodesy/tilt';
import { hoistClass, type HoistClass } from '../firstlook/hoist';
import type { LinearPolarization } from '../propagation/rain';
import { itemAt } from '../units/lists';
import { remembered } from '../units/memo';
import {
	carriersOf,
	CONFIGURATION_RULES,
	radiosOf,
	runCarries,
	throughSecondDish,
	type Carrier,
	type ConfigurationRule
} from './configuration';
import { antennaAmslM, type EndPlanInput, type HopPlanInput } from './planInput';

interface Item {
	/** Stable name that records use, such as `radio-2`. */
	key: string;
	/** What the crew calls it, such as "Radio 2" or "Second dish". */
	name: string;
}

/** One radio, with its own plan values. */
export interface RadioItem extends Item {
	kind: 'radio';
	number: number;
	part: RadioPart;
	role: Carrier['role'];
	place: 'dish' | 'foot';
	/** What it sits on, in words. */
	seat: string;
	/** Port of the coupling that it sits on; null without a coupling. */
	arm: string | null;
	/** The dish that it works through, 1 or 2. */
	dish: 1 | 2;
	polarization: LinearPolarization;
	transmitFrequencyGhz: number;
	receiveFrequencyGhz: number;
	channelWidthMhz: number;
	modulation: string;
	/** As planned, else the unit that holds its channels; null where none is known. */
	subBandUnit: string | null;
	/** In operation and while aligning, dBm. */
	transmitPowerDbm: number;
	alignmentPowerDbm: number;
	/** What feeds it; null while none is planned. */
	cable: CableItem | null;
}

/** One dish with its mount and where it looks from. */
export interface DishItem extends Item {
	kind: 'dish';
	number: 1 | 2;
	part: DishPart;
	mount: MountItem;
	/** Centre above ground, m. */
	heightAglM: number;
	/** Where it looks up (positive) or down, degrees. */
	tiltDeg: number;
	/** Half-power beamwidth at what it receives, degrees; null where its sheet has no such band. */
	beamwidthDeg: number | null;
	/** What passes it, GHz, sent and received. */
	frequenciesGhz: readonly number[];
	polarization: LinearPolarization;
	/** Whether both polarizations pass it. */
	bothPlanes: boolean;
}

export interface MountItem extends Item {
	kind: 'mount';
	part: MountPart;
	dish: 1 | 2;
}

export interface CouplingItem extends Item {
	kind: 'coupling';
	part: CouplingPart;
	place: 'dish' | 'foot';
	dish: 1;
	/** Whether it joins radios of both polarizations. */
	bothPlanes: boolean;
}

/** One run of waveguide or coaxial line between a radio’s place and a dish. */
export interface RunItem extends Item {
	kind: 'run';
	part: FeederPart;
	lengthM: number;
	dish: 1 | 2;
	/** Port of a coupling at the dish that it comes down from; null otherwise. */
	arm: string | null;
}

/** One supply cable. */
export interface CableItem extends Item {
	kind: 'cable';
	part: CablePart;
	lengthM: number;
	radio: number;
}

export interface IndoorItem extends Item {
	kind: 'indoor-unit';
	part: IndoorUnitPart;
}

export interface PowerItem extends Item {
	kind: 'power-source';
	part: PowerSourcePart;
}

/** Anything that is put up at an end. */
export type InventoryItem =
	RadioItem | DishItem | MountItem | CouplingItem | RunItem | CableItem | IndoorItem | PowerItem;

/** Every part of one end, each with its own values of the plan. */
export interface Inventory {
	end: End;
	radios: readonly RadioItem[];
	dishes: readonly DishItem[];
	coupling: CouplingItem | null;
	/** Empty where the radios sit straight on the dish. */
	runs: readonly RunItem[];
	cables: readonly CableItem[];
	indoorUnit: IndoorItem | null;
	powerSource: PowerItem | null;
}

/**
 * The parts of one end, from its configuration: how many there are of each, what each of them is for,
 * where it stands and what the plan wants of it. Steps, lists, sheets and judgements are made from it.
 * A part that the configuration needs and nobody has chosen is left out; the plan's checks name it.
 * Remembered for an input, which nobody changes once it is made.
 */
export function inventoryOf(input: HopPlanInput, end: End): Inventory {
	return ofInput(input, end, () => madeInventory(input, end));
}

const ofInput = remembered<Inventory>();

function madeInventory(input: HopPlanInput, end: End): Inventory {
	const own = input.ends[end];
	const rule = CONFIGURATION_RULES[input.configuration.kind];
	const cables = cablesOf(own, rule);
	const coupling = couplingOf(own, rule);
	const radios = radiosAt(input, end, coupling, cables);
	return {
		end,
		radios,
		dishes: dishesOf(input, end, radios, coupling),
		coupling,
		runs: runsOf(own, rule, radios, coupling),
		cables,
		indoorUnit: own.indoorUnit && {
			kind: 'indoor-unit',
			key: 'indoor-unit',
			name: 'Indoor unit',
			part: own.indoorUnit
		},
		powerSource: own.powerSource && {
			kind: 'power-source',
			key: 'power-source',
			name: 'Power source',
			part: own.powerSource
		}
	};
}

/** Everything of an inventory in one list: dishes and their mounts first, what stands indoors last. */
export function itemsOf(inventory: Inventory): InventoryItem[] {
	const { radios, dishes, coupling, runs, cables, indoorUnit, powerSource } = inventory;
	return [
		...dishes.flatMap((dish) => [dish, dish.mount]),
		...(coupling ? [coupling] : []),
		...runs,
		...radios,
		...cables,
		...(indoorUnit ? [indoorUnit] : []),
		...(powerSource ? [powerSource] : [])
	];
}

/** Keys of the radios of an end, such as `radio-2`, in their order. */
export function radioKeys(input: HopPlanInput, end: End): string[] {
	return inventoryOf(input, end).radios.map(({ key }) => key);
}

/** Whether the radios stand away from the dish, at the foot of a run. */
function isSplit({ feeder }: Pick<EndPlanInput, 'feeder'>): boolean {
	return feeder.kind !== 'direct';
}

function couplingOf(own: EndPlanInput, rule: ConfigurationRule): CouplingItem | null {
	if (!own.coupling || rule.couplings.length === 0) return null;
	const bothPlanes = own.coupling.arms.some((arm) => arm.plane === 'crossed');
	return {
		kind: 'coupling',
		key: 'coupling',
		name: 'Coupling',
		part: own.coupling,
		// A guide carries one polarization: what joins both stands at the dish, with a run for every port.
		place: isSplit(own) && !bothPlanes ? 'foot' : 'dish',
		dish: 1,
		bothPlanes
	};
}

function runsOf(
	own: EndPlanInput,
	rule: ConfigurationRule,
	radios: readonly RadioItem[],
	coupling: CouplingItem | null
): RunItem[] {
	if (!isSplit(own)) return [];
	const arms: readonly { arm: string | null; dish: 1 | 2 }[] =
		coupling?.place === 'dish'
			? coupling.part.arms.map(({ name }) => ({ arm: name, dish: 1 as const }))
			: dishNumbers(rule, own)
					.filter((dish) => radios.some((radio) => radio.place === 'foot' && radio.dish === dish))
					.map((dish) => ({ arm: null, dish }));
	return arms.map(({ arm, dish }, i): RunItem => ({
		kind: 'run',
		key: i === 0 ? 'feeder' : `feeder-${i + 1}`,
		name: arm ? `Run from ${arm.toLowerCase()}` : dish === 2 ? 'Second run' : 'Run',
		part: own.feeder,
		lengthM: own.feederLengthM,
		dish,
		arm
	}));
}

function dishNumbers(rule: ConfigurationRule, own: EndPlanInput): (1 | 2)[] {
	return rule.dishes === 2 && own.secondDish ? [1, 2] : [1];
}

function cablesOf(own: EndPlanInput, rule: ConfigurationRule): CableItem[] {
	const { cable, cableLengthM } = own;
	if (!cable || cableLengthM === 0) return [];
	return Array.from({ length: rule.radios }, (_, i) => ({
		kind: 'cable',
		key: i === 0 ? 'cable' : `cable-${i + 1}`,
		name: rule.radios === 1 ? 'Cable' : `Cable of radio ${i + 1}`,
		part: cable,
		lengthM: cableLengthM,
		radio: i + 1
	}));
}

function radiosAt(
	input: HopPlanInput,
	end: End,
	coupling: CouplingItem | null,
	cables: readonly CableItem[]
): RadioItem[] {
	const own = input.ends[end];
	const carriers = carriersOf(input);
	const parts = radiosOf(input, end);
	return parts.map((part, i): RadioItem => {
		// A carrier whose part is missing works as the main one does, until the plan is whole.
		const carrier = carriers.find(({ number }) => number === i + 1) ?? itemAt(carriers, 0);
		const [transmitGhz, receiveGhz] = [
			carrier.transmitFrequencyGhz[end],
			carrier.transmitFrequencyGhz[farEnd(end)]
		];
		const dish = throughSecondDish(carrier) ? 2 : 1;
		const place = isSplit(own) && runCarries(own, transmitGhz) ? 'foot' : 'dish';
		const arm = coupling?.part.arms[i]?.name ?? null;
		// The plan names the unit of the first pair; what holds another follows from its channels.
		const firstPair = carrier.role !== 'second-band' && carrier.role !== 'second';
		return {
			kind: 'radio',
			key: `radio-${i + 1}`,
			number: i + 1,
			name: parts.length === 1 ? 'Radio' : `Radio ${i + 1}`,
			part,
			role: carrier.role,
			place,
			seat: seatOf({ arm, dish, place, coupling }),
			arm,
			dish,
			polarization: carrier.polarization,
			transmitFrequencyGhz: transmitGhz,
			receiveFrequencyGhz: receiveGhz,
			channelWidthMhz: carrier.channelWidthMhz,
			modulation: carrier.modulation,
			subBandUnit:
				(firstPair && own.subBandUnit) ||
				(unitForPair(part, transmitGhz, receiveGhz, carrier.channelWidthMhz)?.unit ?? null),
			transmitPowerDbm: carrier.transmitPowerDbm[end],
			alignmentPowerDbm: carrier.alignmentPowerDbm[end],
			cable: cables[i] ?? null
		};
	});
}

function seatOf({
	arm,
	dish,
	place,
	coupling
}: {
	arm: string | null;
	dish: 1 | 2;
	place: 'dish' | 'foot';
	coupling: CouplingItem | null;
}): string {
	const which = dish === 1 ? 'the dish' : 'the second dish';
	if (coupling && arm) {
		return coupling.place === place
			? `on ${arm.toLowerCase()} of the coupling`
			: `at the foot of the run from ${arm.toLowerCase()}`;
	}
	return place === 'dish' ? `on ${which}` : `at the foot of the run to ${which}`;
}

/** Where a dish looks: to the far dish that sends what it receives, degrees. */
function tiltOf(input: HopPlanInput, end: End, number: 1 | 2): number {
	const far = farEnd(end);
	const carriers = carriersOf(input);
	const carrier =
		(number === 2 ? carriers.find(throughSecondDish) : undefined) ?? itemAt(carriers, 0);
	return antennaTiltDeg(
		antennaAmslM(input.ends[end]) + carrier.receiveHeightOffsetM[end],
		antennaAmslM(input.ends[far]) + carrier.transmitHeightOffsetM[far],
		inverseGeodesic(input.ends.A.position, input.ends.B.position).lengthM,
		input.kFactor
	);
}

function dishesOf(
	input: HopPlanInput,
	end: End,
	radios: readonly RadioItem[],
	coupling: CouplingItem | null
): DishItem[] {
	const own = input.ends[end];
	const rule = CONFIGURATION_RULES[input.configuration.kind];
	return dishNumbers(rule, own).map((number): DishItem => {
		const part = number === 2 && own.secondDish ? own.secondDish : own.dish;
		const served = radios.filter(({ dish }) => dish === number);
		const receiveGhz = (served[0] ?? itemAt(radios, 0)).receiveFrequencyGhz;
		return {
			kind: 'dish',
			key: number === 2 ? 'second-dish' : 'dish',
			name: number === 2 ? 'Second dish' : 'Dish',
			number,
			part,
			mount: {
				kind: 'mount',
				key: number === 2 ? 'second-mount' : 'mount',
				name: number === 2 ? 'Second mount' : 'Mount',
				part: own.mount,
				dish: number
			},
			heightAglM: own.antennaHeightAglM + (number === 2 ? own.secondDishOffsetM : 0),
			tiltDeg: tiltOf(input, end, number),
			beamwidthDeg: findDishAt(part, receiveGhz)?.beamwidthDeg ?? null,
			frequenciesGhz: [
				...new Set(
					served.flatMap((radio) => [
						...(radio.role === 'diversity' ? [] : [radio.transmitFrequencyGhz]),
						radio.receiveFrequencyGhz
					])
				)
			],
			polarization: own.polarization,
			bothPlanes: number === 1 && coupling?.bothPlanes === true
		};
	});
}

/** One piece that goes up the mast by itself. */
export interface LiftedPiece {
	name: string;
	kg: number;
	/** The parts it is made of. */
	items: readonly string[];
}

/** What goes up, piece by piece, by the school of the hop; runs by themselves. */
export function liftedPieces(input: HopPlanInput, inventory: Inventory): LiftedPiece[] {
	const { dishes, radios, coupling } = inventory;
	const whole = input.building.lift === 'whole';
	const piece = (
		parts: readonly (DishItem | MountItem | RadioItem | CouplingItem)[]
	): LiftedPiece => ({
		name: parts
			.filter(({ kind }) => kind !== 'mount')
			.map(({ name }) => name.toLowerCase())
			.join(', '),
		kg: parts.reduce((sum, { part }) => sum + part.weightKg, 0),
		items: parts.map(({ key }) => key)
	});
	return dishes.flatMap((dish) => {
		const onIt = [
			...(coupling?.place === 'dish' && coupling.dish === dish.number ? [coupling] : []),
			...radios.filter((radio) => radio.place === 'dish' && radio.dish === dish.number)
		];
		const base = [dish, dish.mount];
		return whole ? [piece([...base, ...onIt])] : [piece(base), ...onIt.map((one) => piece([one]))];
	});
}

/** Weight of one run, kg; null where its sheet does not say. */
export function runWeightKg({ part, lengthM }: RunItem): number | null {
	const kgPerM = part.installation?.weight?.kgPerM;
	return kgPerM === undefined ? null : kgPerM * lengthM;
}

/** How the pieces of an end go up, its runs among them. */
export function hoistOf(input: HopPlanInput, inventory: Inventory): HoistClass {
	return hoistClass([
		...liftedPieces(input, inventory).map(({ kg }) => kg),
		...inventory.runs.map((run) => runWeightKg(run) ?? 0)
	]);
}
