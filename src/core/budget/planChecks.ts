import { findDishAt } from '../catalogue/dishAt';
import type { RadioPart } from '../catalogue/parts';
import { usableBandGhz } from '../feeder/waveguide';
import { findSubBandUnit, holdsChannel, sideOf } from '../frequency/subBand';
import { CONFIGURATION_RULES } from './configuration';
import { ENDS, farEnd, type End } from '../ends';
import { inverseGeodesic } from '../geodesy/geodesic';
import type { PlanFinding } from '../finding/planFinding';
import type { EndPlanInput, HopPlanInput } from './planInput';

/** A hop is at least this long, m: nearer, the dishes stand in each other's near field. */
export const SHORTEST_PATH_M = 10;
/** And at most this long, m: further, no terrestrial line of sight exists. */
export const LONGEST_PATH_M = 300_000;

/** Findings without which nothing more can be computed. */
const FATAL = new Set([
	'path-too-short',
	'path-too-long',
	'dish-band',
	'second-dish-band',
	'second-dish-missing',
	'second-radio-missing',
	'second-frequency-missing'
]);

/** Whether a finding keeps the plan from being computed at all. */
export function isFatal(finding: PlanFinding): boolean {
	return FATAL.has(finding.code);
}

/** Contradictions between the choices of a plan, each at the field where it is mended. */
export function findInputProblems(input: HopPlanInput): PlanFinding[] {
	return [
		...pathProblems(input),
		...waterProblems(input),
		...ENDS.flatMap((end) => endProblems(input, end)),
		...ENDS.flatMap((end) => configurationProblems(input, end)),
		...ENDS.flatMap((end) => subBandProblems(input, end)),
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

/** Water that ends before it begins, or lies where the path does not run. */
function waterProblems(input: HopPlanInput): PlanFinding[] {
	const km = inverseGeodesic(input.ends.A.position, input.ends.B.position).lengthM / 1000;
	return input.path.water.flatMap(({ fromKm, toKm }, i) => {
		if (toKm <= fromKm) {
			return [
				error(
					'water-reversed',
					`path.water.${i}.toKm`,
					`The farther shore (${toKm} km) is not beyond the nearer one (${fromKm} km).`
				)
			];
		}
		if (fromKm < km) return [];
		return [
			error(
				'water-beyond',
				`path.water.${i}.fromKm`,
				`The path is ${km.toFixed(2)} km long; this water begins at ${fromKm} km.`
			)
		];
	});
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

function configurationProblems(input: HopPlanInput, end: End): PlanFinding[] {
	const rule = CONFIGURATION_RULES[input.configuration.kind];
	const own = input.ends[end];
	const field = (name: string): string => `ends.${end}.${name}`;
	const found: PlanFinding[] = [];
	if (rule.couplings.length) {
		if (!own.coupling) {
			found.push(
				error(
					'coupling-missing',
					field('couplingCode'),
					`${rule.name} needs a coupling at ${end}: choose one of ${rule.couplings.map((kind) => kind.replace('-', ' ')).join(', ')}.`
				)
			);
		} else if (!rule.couplings.includes(own.coupling.kind)) {
			found.push(
				error(
					'coupling-kind',
					field('couplingCode'),
					`${own.coupling.code} at ${end} does not serve ${rule.name.toLowerCase()}: it needs ${rule.couplings.map((kind) => kind.replace('-', ' ')).join(' or ')}.`
				)
			);
		} else if (
			own.transmitFrequencyGhz < own.coupling.rangeGhz[0] ||
			own.transmitFrequencyGhz > own.coupling.rangeGhz[1]
		) {
			found.push(
				error(
					'coupling-band',
					field('couplingCode'),
					`${own.coupling.code} is made for ${own.coupling.rangeGhz.join(' to ')} GHz, not for ${own.transmitFrequencyGhz} GHz: parts for another band can look alike and fit.`
				)
			);
		}
	}
	if (rule.dishes === 2 && !own.secondDish) {
		found.push(
			error(
				'second-dish-missing',
				field('secondDishCode'),
				`${rule.name} needs a second dish at ${end}.`
			)
		);
	}
	if (rule.secondPair && own.secondTransmitFrequencyGhz === null) {
		found.push(
			error(
				'second-frequency-missing',
				field('secondTransmitFrequencyGhz'),
				`${rule.name} needs a second frequency at ${end}.`
			)
		);
	}
	return [...found, ...secondBandProblems(input, end, field)];
}

function secondBandProblems(
	input: HopPlanInput,
	end: End,
	field: (name: string) => string
): PlanFinding[] {
	const own = input.ends[end];
	const far = input.ends[farEnd(end)];
	const kind = input.configuration.kind;
	const ghz: (number | null)[] =
		kind === 'two-bands'
			? [own.secondTransmitFrequencyGhz, far.secondTransmitFrequencyGhz]
			: kind === 'space-diversity'
				? [far.transmitFrequencyGhz]
				: [];
	const found: PlanFinding[] = [];
	if (kind === 'two-bands' && !own.secondRadio) {
		found.push(
			error(
				'second-radio-missing',
				field('secondRadioCode'),
				`Two bands need a second radio at ${end}.`
			)
		);
	}
	if (kind === 'two-bands' && own.secondRadio) {
		found.push(...secondRadioProblems(input, own.secondRadio, end));
	}
	const { secondDish } = own;
	if (secondDish && ghz.some((f) => f !== null && !findDishAt(secondDish, f))) {
		found.push(
			error(
				'second-dish-band',
				field('secondDishCode'),
				`The feed of ${secondDish.code} is not made for what the second arm carries.`
			)
		);
	}
	const secondPair = CONFIGURATION_RULES[kind].secondPair && kind !== 'two-bands';
	if (secondPair && own.secondTransmitFrequencyGhz !== null) {
		const spacingMhz = Math.abs(own.secondTransmitFrequencyGhz - own.transmitFrequencyGhz) * 1000;
		if (spacingMhz < input.channelWidthMhz) {
			found.push(
				error(
					'second-channel-overlap',
					field('secondTransmitFrequencyGhz'),
					`Both channels of ${end} lie ${spacingMhz.toFixed(1)} MHz apart and are ${input.channelWidthMhz} MHz wide: they overlap.`
				)
			);
		}
		if (!findDishAt(own.dish, own.secondTransmitFrequencyGhz)) {
			found.push(
				error(
					'dish-band',
					field('dishCode'),
					`The feed of ${own.dish.code} is not made for ${own.secondTransmitFrequencyGhz} GHz.`
				)
			);
		}
	}
	return found;
}

/** The unit that was ordered must send and receive this pair, and match the far end's. */
function subBandProblems(input: HopPlanInput, end: End): PlanFinding[] {
	const own = input.ends[end];
	const far = input.ends[farEnd(end)];
	const field = `ends.${end}.subBandUnit`;
	if (own.radio.subBands.length === 0) return [];
	if (own.subBandUnit === '') {
		return [
			{
				severity: 'warning',
				code: 'sub-band-unsaid',
				field,
				message: `Nobody has said which sub-band unit of ${own.radio.code} stands at ${end}: a wrong one is found on the tower.`
			}
		];
	}
	const unit = findSubBandUnit(own.radio, own.subBandUnit);
	if (!unit) {
		return [error('sub-band-unknown', field, `${own.radio.code} has no unit ${own.subBandUnit}.`)];
	}
	const found: PlanFinding[] = [];
	if (
		!holdsChannel(unit.transmitGhz, own.transmitFrequencyGhz, input.channelWidthMhz) ||
		!holdsChannel(unit.receiveGhz, far.transmitFrequencyGhz, input.channelWidthMhz)
	) {
		found.push(
			error(
				'outside-sub-band',
				field,
				`Unit ${unit.unit} of ${own.radio.code} sends ${unit.transmitGhz.join(' to ')} GHz and receives ${unit.receiveGhz.join(' to ')} GHz; ${end} is planned to send ${own.transmitFrequencyGhz} and receive ${far.transmitFrequencyGhz} GHz.`
			)
		);
	}
	const other = findSubBandUnit(far.radio, far.subBandUnit);
	if (end === 'A' && other && (other.index !== unit.index || other.side === unit.side)) {
		found.push(
			error(
				'sub-bands-no-pair',
				'ends.B.subBandUnit',
				`Unit ${unit.unit} at A and ${other.unit} at B are no pair: A sends ${sideOf(own.transmitFrequencyGhz, far.transmitFrequencyGhz)}, so they must be of one index, one low and one high.`
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
	const { waveguide } = own.feeder;
	if (waveguide) {
		const [low, high] = usableBandGhz(waveguide.broadWallMm);
		if (frequenciesGhz.some((ghz) => ghz < low || ghz > high)) {
			return [
				error(
					'waveguide-cut-off',
					field('feederCode'),
					`${own.feeder.code} carries one mode from ${low.toFixed(1)} to ${high.toFixed(1)} GHz (1.25 to 1.9 times its cut-off).`
				)
			];
		}
		const bends: [string, number, number][] = [
			['E', own.bendEPlaneMm, waveguide.minBendEPlaneMm],
			['H', own.bendHPlaneMm, waveguide.minBendHPlaneMm]
		];
		for (const [plane, bend, least] of bends) {
			if (bend > 0 && bend < least) {
				return [
					error(
						'waveguide-bend',
						field(`bend${plane}PlaneMm`),
						`A bend of ${bend} mm in the ${plane} plane is tighter than the ${least} mm of ${own.feeder.code}.`
					)
				];
			}
		}
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

/** The second band has a channel and a modulation of its own, and its radio must have both. */
function secondRadioProblems(input: HopPlanInput, radio: RadioPart, end: End): PlanFinding[] {
	const { secondChannelWidthMhz, secondModulation } = input.configuration;
	const width = secondChannelWidthMhz ?? input.channelWidthMhz;
	const modulation = secondModulation || input.operatingModulation;
	const found: PlanFinding[] = [];
	if (!radio.channelWidthsMhz.includes(width)) {
		found.push(
			error(
				'second-channel-width',
				'configuration.secondChannelWidthMhz',
				`${radio.code} at ${end} has no ${width} MHz channel; it has ${radio.channelWidthsMhz.join(', ')} MHz.`
			)
		);
	}
	if (!radio.modulations.some(({ name }) => name === modulation)) {
		found.push(
			error(
				'second-modulation-unknown',
				'configuration.secondModulation',
				`${radio.code} at ${end} does not have ${modulation}; it has ${radio.modulations.map(({ name }) => name).join(', ')}.`
			)
		);
	}
	return found;
}
