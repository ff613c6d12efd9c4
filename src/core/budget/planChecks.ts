import { findDishAt } from '../antenna/dishAt';
import { ENDS, farEnd, type End } from '../ends';
import { inverseGeodesic } from '../geodesy/geodesic';
import type { PlanFinding } from './finding';
import type { EndPlanInput, HopPlanInput } from './planInput';

/** A hop is at least this long, m: nearer, the dishes stand in each other's near field. */
export const SHORTEST_PATH_M = 10;
/** And at most this long, m: further, no terrestrial line of sight exists. */
export const LONGEST_PATH_M = 300_000;

/** Contradictions between the choices of a plan, each at the field where it is mended. */
export function findInputProblems(input: HopPlanInput): PlanFinding[] {
	return [
		...pathProblems(input),
		...ENDS.flatMap((end) => endProblems(input, end)),
		...pairProblems(input)
	];
}

function error(code: string, field: string, message: string): PlanFinding {
	return { severity: 'error', code, field, message };
}

function pathProblems(input: HopPlanInput): PlanFinding[] {
	const { lengthM } = inverseGeodesic(input.ends.A.position, input.ends.B.position);
	if (lengthM < SHORTEST_PATH_M) {
		return [
			error(
				'path-too-short',
				'ends.B.siteId',
				`The ends are ${lengthM.toFixed(1)} m apart; a hop needs at least ${SHORTEST_PATH_M} m.`
			)
		];
	}
	if (lengthM > LONGEST_PATH_M) {
		return [
			error(
				'path-too-long',
				'ends.B.siteId',
				`The ends are ${(lengthM / 1000).toFixed(0)} km apart; no line of sight reaches that far.`
			)
		];
	}
	return [];
}

function endProblems(input: HopPlanInput, end: End): PlanFinding[] {
	const own = input.ends[end];
	const found: PlanFinding[] = [];
	const field = (name: string): string => `ends.${end}.${name}`;
	const receiveGhz = input.ends[farEnd(end)].transmitFrequencyGhz;
	const [from, to] = own.radio.rangeGhz;
	if (own.transmitFrequencyGhz < from || own.transmitFrequencyGhz > to) {
		found.push(
			error(
				'frequency-outside-radio',
				field('transmitFrequencyGhz'),
				`${own.transmitFrequencyGhz} GHz is outside the range of ${own.radio.code} (${from} to ${to} GHz).`
			)
		);
	} else if (receiveGhz < from || receiveGhz > to) {
		found.push(
			error(
				'receive-frequency-outside-radio',
				field('radioCode'),
				`${own.radio.code} (${from} to ${to} GHz) cannot receive ${receiveGhz} GHz, which ${farEnd(end)} sends.`
			)
		);
	}
	for (const ghz of [own.transmitFrequencyGhz, receiveGhz]) {
		if (!findDishAt(own.dish, ghz)) {
			found.push(
				error(
					'dish-band',
					field('dishCode'),
					`The feed of ${own.dish.code} is not made for ${ghz} GHz.`
				)
			);
			break;
		}
	}
	found.push(...feederProblems(own, field, [own.transmitFrequencyGhz, receiveGhz]));
	found.push(...powerProblems(own, input, field));
	if (!own.radio.channelWidthsMhz.includes(input.channelWidthMhz)) {
		found.push(
			error(
				'channel-width',
				'channelWidthMhz',
				`${own.radio.code} at ${end} has no ${input.channelWidthMhz} MHz channel; it has ${own.radio.channelWidthsMhz.join(', ')} MHz.`
			)
		);
	}
	return found;
}

function feederProblems(
	own: EndPlanInput,
	field: (name: string) => string,
	frequenciesGhz: readonly number[]
): PlanFinding[] {
	const [from, to] = own.feeder.rangeGhz;
	if (frequenciesGhz.some((ghz) => ghz < from || ghz > to)) {
		return [
			error(
				'feeder-band',
				field('feederCode'),
				`${own.feeder.code} carries ${from} to ${to} GHz, not what this end sends and receives.`
			)
		];
	}
	if (own.feeder.kind !== 'direct' && own.feederLengthM === 0) {
		return [
			error(
				'feeder-length',
				field('feederLengthM'),
				`Give the length of the ${own.feeder.kind} run.`
			)
		];
	}
	return [];
}

function powerProblems(
	own: EndPlanInput,
	input: HopPlanInput,
	field: (name: string) => string
): PlanFinding[] {
	const found: PlanFinding[] = [];
	const { radio } = own;
	const operating = radio.modulations.find((m) => m.name === input.operatingModulation);
	const reference = radio.modulations.find((m) => m.name === radio.alignmentState.modulation);
	if (!operating) {
		found.push(
			error(
				'modulation-unknown',
				'operatingModulation',
				`${radio.code} does not have ${input.operatingModulation}.`
			)
		);
	}
	const limits: [string, number, number | undefined, string][] = [
		['transmitPowerDbm', own.transmitPowerDbm, operating?.maxPowerDbm, input.operatingModulation],
		[
			'alignmentPowerDbm',
			own.alignmentPowerDbm,
			reference?.maxPowerDbm,
			radio.alignmentState.modulation
		]
	];
	for (const [name, power, most, modulation] of limits) {
		if (most === undefined) continue;
		if (power > most || power < radio.minPowerDbm) {
			found.push(
				error(
					'power-outside-radio',
					field(name),
					`${radio.code} gives ${radio.minPowerDbm} to ${most} dBm in ${modulation}, not ${power} dBm.`
				)
			);
		}
	}
	return found;
}

function pairProblems(input: HopPlanInput): PlanFinding[] {
	const { A, B } = input.ends;
	const found: PlanFinding[] = [];
	if (A.polarization !== B.polarization) {
		found.push(
			error(
				'polarization-differs',
				'ends.B.polarization',
				`A is ${A.polarization}, B is ${B.polarization}: the link would be crossed.`
			)
		);
	}
	const spacingMhz = Math.abs(A.transmitFrequencyGhz - B.transmitFrequencyGhz) * 1000;
	if (spacingMhz < input.channelWidthMhz) {
		found.push(
			error(
				'duplex-overlap',
				'ends.B.transmitFrequencyGhz',
				`Both ends send within ${spacingMhz.toFixed(1)} MHz of each other; the channel is ${input.channelWidthMhz} MHz wide.`
			)
		);
	} else if (
		ENDS.some((end) => Math.abs(spacingMhz - input.ends[end].radio.duplexSpacingMhz) > 0.5)
	) {
		found.push({
			severity: 'warning',
			code: 'duplex-spacing',
			field: 'ends.B.transmitFrequencyGhz',
			message: `The pair is ${spacingMhz.toFixed(1)} MHz apart; the radios are made for ${A.radio.duplexSpacingMhz} MHz (A) and ${B.radio.duplexSpacingMhz} MHz (B).`
		});
	}
	return found;
}
