import { BOARD_WORDS, boardsInOrder, radioPorts } from '../catalogue/chassis';
import type { IndoorUnitPart } from '../catalogue/parts';
import { farEnd, type End } from '../ends';
import { numberText } from '../units/text';
import { carriersOf, carriesTraffic } from './configuration';
import { inventoryOf } from './inventory';
import type { HopPlanInput, PlannedService } from './planInput';

/** Where the cable of a service plugs in at an end. */
export interface ServicePlace {
	/** 0 on a closed unit, which has no slots. */
	slot: number;
	port: number;
}

export const placeOf = (service: PlannedService, end: End): ServicePlace =>
	end === 'A'
		? { slot: service.slotA, port: service.portA }
		: { slot: service.slotB, port: service.portB };

/** A port as the front of the unit has it, such as "Slot 3, port 2". */
export const placeWords = ({ slot, port }: ServicePlace): string =>
	slot > 0 ? `Slot ${slot}, port ${port}` : `Port ${port}`;

/**
 * What a record calls a service at an end: its name, port and radio, so that what was proved of it says nothing
 * of another one, nor of the same one on another port.
 */
export const serviceKey = (end: End, service: PlannedService): string =>
	`${service.name}, ${placeWords(placeOf(service, end)).toLowerCase()}, radio ${service.radio}`;

/** Why a service cannot plug in there; undefined where it can, or where nobody knows the unit’s ports. */
export function placeProblem(
	unit: IndoorUnitPart | null,
	{ slot, port }: ServicePlace
): string | undefined {
	if (!unit) return undefined;
	if (!unit.chassis) {
		return slot === 0 ? undefined : `${unit.code} is one closed unit: it has no slot ${slot}.`;
	}
	const board = boardsInOrder(unit).find((one) => one.slot === slot);
	if (!board) return `${unit.code} has no board in slot ${slot}.`;
	if (board.kind !== 'ethernet' && board.kind !== 'circuit') {
		return `In slot ${slot} of ${unit.code} sits ${BOARD_WORDS[board.kind]}, which takes no service.`;
	}
	return port <= board.ports
		? undefined
		: `The board in slot ${slot} of ${unit.code} has ${numberText(board.ports, 0)} ports.`;
}

/**
 * What the radio of a number carries at its operating modulation, Mbit/s; undefined of one that has no traffic
 * of its own.
 *
 * @param number of the radio, 1 or more
 */
export function radioCapacityMbitS(input: HopPlanInput, number: number): number | undefined {
	const carrier = carriersOf(input).find((one) => one.number === number);
	if (!carrier || !carriesTraffic(carrier, input.configuration.kind)) return undefined;
	const own = carrier.radio.A.modulations.find(({ name }) => name === carrier.modulation);
	return (own?.mbitSPerMhz ?? 0) * carrier.channelWidthMhz;
}

/** What the carriers with traffic of their own carry together at their operating modulation, Mbit/s. */
export function hopCapacityMbitS(input: HopPlanInput): number {
	return carriersOf(input).reduce(
		(sum, { number }) => sum + (radioCapacityMbitS(input, number) ?? 0),
		0
	);
}

/** What goes over a service's port at an end: by the radio's port to the radio and its plane, in words. */
export function serviceWay(input: HopPlanInput, end: End, service: PlannedService): string {
	const { radios, indoorUnit, cables } = inventoryOf(input, end);
	const what = `${service.name}, ${numberText(service.mbitS, 0)} Mbit/s`;
	const radio = radios.find(({ number }) => number === service.radio);
	if (!radio) return `${what}; over all radios together`;
	const hung = cables.findIndex((cable) => cable.radio === radio.number);
	const port = indoorUnit && hung >= 0 ? radioPorts(indoorUnit.part)[hung] : undefined;
	return `${what}; ${port ? `by ${port.toLowerCase()} ` : ''}to ${radio.name.toLowerCase()}, ${radio.polarization}`;
}

/** The same with the port before it, in one line. */
export function serviceLine(input: HopPlanInput, end: End, service: PlannedService): string {
	return `${placeWords(placeOf(service, end))}: ${serviceWay(input, end, service)}`;
}

/** What is asked of a service at an end once the link stands: that it goes the way of the plan, and no other. */
export function serviceQuestion(end: End, service: PlannedService): string {
	const at = placeWords(placeOf(service, end)).toLowerCase();
	return service.radio > 0
		? `${service.name} on ${at}: falls while radio ${service.radio} of ${farEnd(end)} is muted, and comes back`
		: `${service.name} on ${at}: falls at ${farEnd(end)} while its plug is out here, and nothing else does`;
}
