import type { CouplingKind, CouplingPart } from '../catalogue/coupling';
import type { DishPart, RadioPart } from '../catalogue/parts';
import type { End, PerEnd } from '../ends';
import type { LinearPolarization } from '../propagation/rain';
import type { ConfigurationKind } from './configurationKinds';
import type { EndPlanInput, HopPlanInput } from './planInput';

export interface ConfigurationRule {
	name: string;
	/** Radios at each end. */
	radios: number;
	/** Dishes at each end. */
	dishes: number;
	/** Couplings that serve it; empty: none is used. */
	couplings: readonly CouplingKind[];
	/** Whether a second frequency pair is planned. */
	secondPair: boolean;
	/** Whether both polarizations carry traffic on one channel. */
	coChannelDual: boolean;
}

export const CONFIGURATION_RULES: Record<ConfigurationKind, ConfigurationRule> = {
	single: rule('Single radio', 1, 1, [], false, false),
	'hot-standby': rule('Hot standby', 2, 1, ['equal-coupler', 'uneven-coupler'], false, false),
	'frequency-diversity': rule(
		'Frequency diversity',
		2,
		1,
		['equal-coupler', 'uneven-coupler', 'orthomode'],
		true,
		false
	),
	'space-diversity': rule('Space diversity', 2, 2, [], false, false),
	'dual-polarized': rule('Two radios, both polarizations', 2, 1, ['orthomode'], false, true),
	'four-radios': rule('Four radios on a dual coupler', 4, 1, ['dual-coupler'], true, true),
	'two-bands': rule('Two bands on one structure', 2, 2, [], true, false)
};

function rule(
	name: string,
	radios: number,
	dishes: number,
	couplings: readonly CouplingKind[],
	secondPair: boolean,
	coChannelDual: boolean
): ConfigurationRule {
	return { name, radios, dishes, couplings, secondPair, coChannelDual };
}

/** One signal each way between the ends: which radio, arm, dish, polarization and frequency. */
export interface Carrier {
	/** 1, 2 … in the order of the arms. */
	number: number;
	role: 'main' | 'standby' | 'second' | 'crossed' | 'diversity' | 'second-band';
	name: string;
	polarization: LinearPolarization;
	channelWidthMhz: number;
	/** Wanted in operation. */
	modulation: string;
	transmitFrequencyGhz: PerEnd<number>;
	radio: PerEnd<RadioPart>;
	transmitDish: PerEnd<DishPart>;
	receiveDish: PerEnd<DishPart>;
	transmitBranchLossDb: PerEnd<number>;
	receiveBranchLossDb: PerEnd<number>;
	transmitPowerDbm: PerEnd<number>;
	alignmentPowerDbm: PerEnd<number>;
	/** Interference of others that each end hears on it, dBm; null: none is counted. */
	interferenceDbm: PerEnd<number | null>;
	/** Metres by which the receiving antenna stands above (or below) the main one. */
	receiveHeightOffsetM: PerEnd<number>;
	/** The same of the antenna that sends. */
	transmitHeightOffsetM: PerEnd<number>;
}

/** Whether a carrier has traffic of its own, or only stands by or helps another. */
export function carriesTraffic({ role }: Pick<Carrier, 'role'>, kind: ConfigurationKind): boolean {
	if (role === 'standby' || role === 'diversity') return false;
	return !(role === 'second' && kind === 'frequency-diversity');
}

/** Whether a carrier comes in through the second dish of its end. */
export function throughSecondDish({ role }: Pick<Carrier, 'role'>): boolean {
	return role === 'diversity' || role === 'second-band';
}

/**
 * Whether the run of an end carries a frequency. A second band that it does not carry has its radio straight
 * on its own dish.
 *
 * @param frequencyGhz any
 */
export function runCarries(
	{ feeder }: Pick<EndPlanInput, 'feeder'>,
	frequencyGhz: number
): boolean {
	const [from, to] = feeder.rangeGhz;
	return feeder.kind === 'direct' || (frequencyGhz >= from && frequencyGhz <= to);
}

/** The polarization at right angles to one. */
export function crossed(polarization: LinearPolarization): LinearPolarization {
	return polarization === 'vertical' ? 'horizontal' : 'vertical';
}

/** The radios of one end, in the order of their arms. */
export function radiosOf(input: HopPlanInput, end: End): RadioPart[] {
	const { radio, secondRadio } = input.ends[end];
	const { kind } = input.configuration;
	return Array.from({ length: CONFIGURATION_RULES[kind].radios }, (_, i) =>
		kind === 'two-bands' && i > 0 && secondRadio ? secondRadio : radio
	);
}

/**
 * The carriers of a hop, in the order of its arms: the first is the one that is aligned on.
 * Parts that the configuration needs and lacks are findings of the plan's checks, not errors here;
 * a carrier whose part is missing is left out.
 */
export function carriersOf(input: HopPlanInput): Carrier[] {
	const { kind } = input.configuration;
	const main = carrier(input, { number: 1, role: 'main', name: 'Main', arm: 0 });
	switch (kind) {
		case 'single':
			return [main];
		case 'hot-standby':
			return [main, standbyCarrier(input, main)];
		case 'frequency-diversity':
			return [
				main,
				carrier(input, {
					number: 2,
					role: 'second',
					name: 'Second frequency',
					arm: 1,
					second: true
				})
			];
		case 'space-diversity':
			return [main, diversityCarrier(input, main)].filter((c) => c !== undefined);
		case 'dual-polarized':
			return [
				main,
				carrier(input, { number: 2, role: 'crossed', name: 'Other polarization', arm: 1 })
			];
		case 'four-radios':
			return [0, 1, 2, 3].map((arm) =>
				carrier(input, {
					number: arm + 1,
					role: arm === 0 ? 'main' : arm % 2 === 1 ? 'second' : 'crossed',
					name: `Radio ${arm + 1}`,
					arm,
					second: arm % 2 === 1
				})
			);
		case 'two-bands':
			return [main, secondBandCarrier(input, main)].filter((c) => c !== undefined);
	}
}

function carrier(
	input: HopPlanInput,
	own: { number: number; role: Carrier['role']; name: string; arm: number; second?: boolean }
): Carrier {
	const { A } = input.ends;
	const arm = (end: End): CouplingPart['arms'][number] | undefined =>
		input.ends[end].coupling?.arms[own.arm];
	const armLoss = (end: End): number => arm(end)?.lossDb ?? 0;
	const per = <T>(of: (end: EndPlanInput) => T): PerEnd<T> => ({
		A: of(input.ends.A),
		B: of(input.ends.B)
	});
	const losses = { A: armLoss('A'), B: armLoss('B') };
	return {
		number: own.number,
		role: own.role,
		name: own.name,
		polarization: arm('A')?.plane === 'crossed' ? crossed(A.polarization) : A.polarization,
		channelWidthMhz: input.channelWidthMhz,
		modulation: input.operatingModulation,
		transmitFrequencyGhz: per((end) =>
			own.second
				? (end.secondTransmitFrequencyGhz ?? end.transmitFrequencyGhz)
				: end.transmitFrequencyGhz
		),
		radio: per((end) => end.radio),
		transmitDish: per((end) => end.dish),
		receiveDish: per((end) => end.dish),
		transmitBranchLossDb: losses,
		receiveBranchLossDb: losses,
		transmitPowerDbm: per((end) => end.transmitPowerDbm),
		alignmentPowerDbm: per((end) => end.alignmentPowerDbm),
		interferenceDbm: per((end) => (own.second ? end.secondInterferenceDbm : end.interferenceDbm)),
		receiveHeightOffsetM: { A: 0, B: 0 },
		transmitHeightOffsetM: { A: 0, B: 0 }
	};
}

/** In service only the far end’s main unit sends: the standby unit hears it through its own arm. */
function standbyCarrier(input: HopPlanInput, main: Carrier): Carrier {
	const own = carrier(input, { number: 2, role: 'standby', name: 'Standby', arm: 1 });
	return { ...own, transmitBranchLossDb: main.transmitBranchLossDb };
}

/** The second receiver hears the far end's main transmitter through the second dish. */
function diversityCarrier(input: HopPlanInput, main: Carrier): Carrier | undefined {
	const { A, B } = input.ends;
	if (!A.secondDish || !B.secondDish) return undefined;
	return {
		...main,
		number: 2,
		role: 'diversity',
		name: 'Diversity dish',
		receiveDish: { A: A.secondDish, B: B.secondDish },
		receiveHeightOffsetM: { A: A.secondDishOffsetM, B: B.secondDishOffsetM }
	};
}

function secondBandCarrier(input: HopPlanInput, main: Carrier): Carrier | undefined {
	const { A, B } = input.ends;
	if (!A.secondDish || !B.secondDish || !A.secondRadio || !B.secondRadio) return undefined;
	if (A.secondTransmitFrequencyGhz === null || B.secondTransmitFrequencyGhz === null)
		return undefined;
	const dishes = { A: A.secondDish, B: B.secondDish };
	const offsets = { A: A.secondDishOffsetM, B: B.secondDishOffsetM };
	return {
		...main,
		number: 2,
		role: 'second-band',
		name: 'Second band',
		channelWidthMhz: input.configuration.secondChannelWidthMhz ?? input.channelWidthMhz,
		modulation: input.configuration.secondModulation || input.operatingModulation,
		transmitFrequencyGhz: { A: A.secondTransmitFrequencyGhz, B: B.secondTransmitFrequencyGhz },
		radio: { A: A.secondRadio, B: B.secondRadio },
		transmitDish: dishes,
		receiveDish: dishes,
		receiveHeightOffsetM: offsets,
		transmitHeightOffsetM: offsets,
		transmitPowerDbm: { A: A.secondPowerDbm, B: B.secondPowerDbm },
		alignmentPowerDbm: { A: A.secondPowerDbm, B: B.secondPowerDbm },
		interferenceDbm: { A: A.secondInterferenceDbm, B: B.secondInterferenceDbm }
	};
}
