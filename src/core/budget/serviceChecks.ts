import { ENDS, type End } from '../ends';
import { numberText } from '../units/text';
import type { HopPlanInput } from './planInput';
import {
	hopCapacityMbitS,
	placeOf,
	placeProblem,
	placeWords,
	radioCapacityMbitS
} from './services';
import type { Found } from '../finding/planFinding';

/** Whether the services of a plan have ports, radios and room. */
export function serviceFindings(input: HopPlanInput, found: Found): void {
	for (const end of ENDS) placeFindings(input, end, found);
	serviceLoads(input, found);
}

/** The ports and radios of the services at an end, and what a rack still takes. */
function placeFindings(input: HopPlanInput, end: End, found: Found): void {
	const { indoorUnit, rackFreeUnits } = input.ends[end];
	const { services } = input;
	services.forEach((service, i) => {
		const place = placeOf(service, end);
		const field = (name: string): string => `services.${i}.${name}`;
		const problem = placeProblem(indoorUnit, place);
		if (problem) {
			found('error', 'service-port', field(`slot${end}`), `${service.name} at ${end}: ${problem}`);
		}
		const before = services.slice(0, i).find((one) => {
			const { slot, port } = placeOf(one, end);
			return slot === place.slot && port === place.port;
		});
		if (before) {
			found(
				'error',
				'service-port-twice',
				field(`port${end}`),
				`${service.name} and ${before.name} plug into one port at ${end}: ${placeWords(place).toLowerCase()}.`
			);
		}
	});
	if (indoorUnit?.place === 'rack' && typeof rackFreeUnits === 'number') {
		if (indoorUnit.heightUnits > rackFreeUnits) {
			found(
				'error',
				'rack-full',
				`ends.${end}.rackFreeUnits`,
				`${indoorUnit.code} at ${end} is ${indoorUnit.heightUnits} U high; the rack has ${rackFreeUnits} U free.`
			);
		}
	}
}

/** Radios that are asked to carry services, against those that carry traffic and what they carry. */
function serviceLoads(input: HopPlanInput, found: Found): void {
	const { services } = input;
	const asked = new Map<number, { first: number; mbitS: number }>();
	services.forEach(({ name, radio, mbitS }, i) => {
		if (services.findIndex((one) => one.name.trim() === name.trim()) < i) {
			found(
				'error',
				'service-name-twice',
				`services.${i}.name`,
				`Two services are called ${name}.`
			);
		}
		if (radio !== 0 && radioCapacityMbitS(input, radio) === undefined) {
			found(
				'error',
				'service-radio',
				`services.${i}.radio`,
				`${name}: radio ${radio} has no traffic of its own on this hop.`
			);
			return;
		}
		const { first = i, mbitS: before = 0 } = asked.get(radio) ?? {};
		asked.set(radio, { first, mbitS: before + mbitS });
	});
	for (const [radio, { first, mbitS }] of asked) {
		const most = radio === 0 ? hopCapacityMbitS(input) : radioCapacityMbitS(input, radio)!;
		if (mbitS > most) {
			found(
				'warning',
				'service-load',
				`services.${first}.mbitS`,
				`${radio === 0 ? 'Over all radios' : `Over radio ${radio}`} go ${numberText(mbitS, 0)} Mbit/s; ${radio === 0 ? 'they carry' : 'it carries'} ${numberText(most, 0)} Mbit/s in ${input.operatingModulation}.`
			);
		}
	}
}
