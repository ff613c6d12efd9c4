import { findDishAt, type DishAtFrequency } from '../catalogue/dishAt';
import type { DishPart, RadioPart } from '../catalogue/parts';
import { farEnd, type End } from '../ends';
import { feederLossDb } from '../feeder/loss';
import { obstructionLoss } from '../path/obstructionLoss';
import { pathClearance } from '../path/pathClearance';
import { freeSpaceLossDb } from '../propagation/freeSpace';
import { gasAttenuation } from '../propagation/gas';
import { makeLevelCurve, type LevelCurveDirection } from '../radio/levelCurve';
import { checkOverload, type OverloadVerdict } from '../radio/overload';
import { receiverFloorDbm } from '../radio/receiverFloor';
import { thresholdRiseDb } from '../radio/thresholdRise';
import { runCarries, type Carrier } from './configuration';
import { antennaAmslM, type EndPlanInput, type HopPlanInput } from './planInput';

export interface ModulationMargin {
	modulation: string;
	thresholdDbm: number;
	/** Signal-to-noise ratio that the modulation needs, dB. */
	requiredSnrDb: number;
	marginDb: number;
	capacityMbitS: number;
}

/** One direction of one carrier, named by the end that receives. */
export interface DirectionBudget {
	receivingEnd: End;
	frequencyGhz: number;
	transmitGainDbi: number;
	receiveGainDbi: number;
	transmitFeederLossDb: number;
	receiveFeederLossDb: number;
	transmitBranchLossDb: number;
	receiveBranchLossDb: number;
	freeSpaceLossDb: number;
	gasLossDb: number;
	/** Diffraction at the plan's k, 0 without a profile. */
	obstructionLossDb: number;
	additionalLossDb: number;
	/** Radiated power of the sender in operation, dBm. */
	eirpDbm: number;
	/** Level in the alignment state: fixed power, fixed modulation, dry weather. */
	plannedLevelDbm: number;
	/** Level in operation and clear air: the power control, where there is one, sends that much less. */
	operatingLevelDbm: number;
	toleranceDb: number;
	/** The same at the receiving radio's own port. */
	plannedVolts: number;
	lowestAcceptedVolts: number;
	highestAcceptedVolts: number;
	betterDirection: LevelCurveDirection;
	floorDbm: number;
	/** What this end would read on its own first side lobe, the far end on its main lobe, dBm. */
	sideLobeHereDbm: number;
	/** The same with both ends on their first side lobes. */
	sideLobeBothDbm: number;
	/** With both on the main lobe and polarizations crossed, by the antennas' own discrimination. */
	crossedDbm: number;
	/** Fade margin to each modulation's threshold, dB, at its own highest allowed power. */
	margins: ModulationMargin[];
	/** By how much interference raises every threshold, dB; absent in plans frozen before it was counted. */
	degradationDb?: number;
	/** EIRP of the far end while aligning, dBm; absent in plans frozen before it was kept. */
	alignmentEirpDbm?: number;
	/** In the alignment state. */
	overload: OverloadVerdict;
	/** The same in operation; absent as above. */
	operatingOverload?: OverloadVerdict;
}

/**
 * The dish at a frequency; a frequency outside its bands is a programming error here.
 *
 * @param frequencyGhz in a band of the dish
 * @throws Error for another: the plan’s checks come first
 */
export function requireDishAt(dish: DishPart, frequencyGhz: number): DishAtFrequency {
	const found = findDishAt(dish, frequencyGhz);
	if (!found) throw new Error(`dish ${dish.code} has no band at ${frequencyGhz} GHz`);
	return found;
}

/** What the run between radio and dish loses, dB; nothing where a band’s radio sits straight on its dish. */
function runLossDb(own: EndPlanInput, frequencyGhz: number): number {
	return runCarries(own, frequencyGhz)
		? feederLossDb(own.feeder, frequencyGhz, own.feederLengthM)
		: 0;
}

/**
 * Budget of one direction of a carrier.
 *
 * RSL = P_tx − L_branch,tx − L_feed,tx + G_tx − FSPL − gas − obstruction − additional + G_rx
 * − L_feed,rx − L_branch,rx.
 *
 * @param pathKm 0.001 to 1000
 * @throws OutOfRangeError, or Error for a dish without a band at the frequency
 */
export function directionBudget(
	input: HopPlanInput,
	carrier: Carrier,
	pathKm: number,
	end: End
): DirectionBudget {
	const far = farEnd(end);
	const receiver = input.ends[end];
	const sender = input.ends[far];
	const frequencyGhz = carrier.transmitFrequencyGhz[far];
	const farDish = requireDishAt(carrier.transmitDish[far], frequencyGhz);
	const ownDish = requireDishAt(carrier.receiveDish[end], frequencyGhz);
	const losses = {
		transmitFeederLossDb: runLossDb(sender, frequencyGhz),
		receiveFeederLossDb: runLossDb(receiver, frequencyGhz),
		transmitBranchLossDb: carrier.transmitBranchLossDb[far],
		receiveBranchLossDb: carrier.receiveBranchLossDb[end],
		freeSpaceLossDb: freeSpaceLossDb(frequencyGhz, pathKm),
		gasLossDb: gasAttenuation(frequencyGhz, input.air).totalDbKm * pathKm,
		obstructionLossDb: obstructionLossDb(input, carrier, frequencyGhz, end),
		additionalLossDb: input.additionalLossDb
	};
	const gainLessLossDb =
		farDish.gainDbi + ownDish.gainDbi - Object.values(losses).reduce((sum, loss) => sum + loss, 0);
	const alignmentPowerDbm = carrier.alignmentPowerDbm[far];
	const plannedLevelDbm = alignmentPowerDbm + gainLessLossDb;
	const operatingPowerDbm = clearAirPowerDbm(input, carrier, far);
	const radiatedDb = farDish.gainDbi - losses.transmitBranchLossDb - losses.transmitFeederLossDb;
	const radio = carrier.radio[end];
	const curve = makeLevelCurve(radio.levelPort.curve);
	const windowVolts = [
		curve.voltsAt(plannedLevelDbm - input.toleranceDb),
		curve.voltsAt(plannedLevelDbm + input.toleranceDb)
	];
	const discriminationDb = Math.min(
		ownDish.crossPolarDiscriminationDb,
		farDish.crossPolarDiscriminationDb
	);
	return {
		receivingEnd: end,
		frequencyGhz,
		transmitGainDbi: farDish.gainDbi,
		receiveGainDbi: ownDish.gainDbi,
		...losses,
		eirpDbm: carrier.transmitPowerDbm[far] + radiatedDb,
		alignmentEirpDbm: alignmentPowerDbm + radiatedDb,
		plannedLevelDbm,
		operatingLevelDbm: operatingPowerDbm + gainLessLossDb,
		toleranceDb: input.toleranceDb,
		plannedVolts: curve.voltsAt(plannedLevelDbm),
		lowestAcceptedVolts: Math.min(...windowVolts),
		highestAcceptedVolts: Math.max(...windowVolts),
		betterDirection: curve.direction,
		floorDbm: receiverFloorDbm(carrier.channelWidthMhz, radio.noiseFigureDb),
		sideLobeHereDbm: plannedLevelDbm - ownDish.firstSideLobeDb,
		sideLobeBothDbm: plannedLevelDbm - ownDish.firstSideLobeDb - farDish.firstSideLobeDb,
		crossedDbm: plannedLevelDbm - discriminationDb,
		degradationDb: degradationAt(carrier, end),
		margins: marginsOf(carrier, end, gainLessLossDb),
		overload: checkOverload(plannedLevelDbm, radio, alignmentPowerDbm, carrier.radio[far]),
		operatingOverload: checkOverload(
			operatingPowerDbm + gainLessLossDb,
			radio,
			operatingPowerDbm,
			carrier.radio[far]
		)
	};
}

/** What a sender gives in operation and clear air, dBm: no less than its radio can. */
function clearAirPowerDbm(input: HopPlanInput, carrier: Carrier, end: End): number {
	const full = carrier.transmitPowerDbm[end];
	const least = Math.min(full, carrier.radio[end].minPowerDbm);
	return Math.max(least, full - input.powerControlDb);
}

/** What the interference typed for an end adds to its noise, dB. */
function degradationAt(carrier: Carrier, end: End): number {
	const level = carrier.interferenceDbm[end];
	if (level === null) return 0;
	return thresholdRiseDb(
		level,
		receiverFloorDbm(carrier.channelWidthMhz, carrier.radio[end].noiseFigureDb)
	);
}

function marginsOf(carrier: Carrier, end: End, gainLessLossDb: number): ModulationMargin[] {
	const far = farEnd(end);
	const receiver: RadioPart = carrier.radio[end];
	const floor = receiverFloorDbm(carrier.channelWidthMhz, receiver.noiseFigureDb);
	const raisedDb = degradationAt(carrier, end);
	return carrier.radio[far].modulations.map((modulation) => {
		const thresholdDbm = floor + raisedDb + modulation.requiredSnrDb;
		const powerDbm = Math.min(carrier.transmitPowerDbm[far], modulation.maxPowerDbm);
		return {
			modulation: modulation.name,
			thresholdDbm,
			requiredSnrDb: modulation.requiredSnrDb,
			marginDb: powerDbm + gainLessLossDb - thresholdDbm,
			capacityMbitS: modulation.mbitSPerMhz * carrier.channelWidthMhz
		};
	});
}

/** Antenna centres above mean sea level of a carrier received at `end`. */
export function antennaHeights(
	input: HopPlanInput,
	carrier: Carrier,
	end: End
): { A: number; B: number } {
	const at = (of: End): number =>
		antennaAmslM(input.ends[of]) +
		(of === end ? carrier.receiveHeightOffsetM : carrier.transmitHeightOffsetM)[of];
	return { A: at('A'), B: at('B') };
}

/**
 * Diffraction loss of the path of a carrier received at an end, dB; 0 without a profile.
 *
 * @param frequencyGhz 0.1 to 1000
 * @param kFactor 0.3 to 10; that of the plan where not given
 * @throws OutOfRangeError outside these ranges
 */
export function obstructionLossDb(
	input: HopPlanInput,
	carrier: Carrier,
	frequencyGhz: number,
	end: End,
	kFactor = input.kFactor
): number {
	const { profile, obstacles } = input.path;
	if (!profile) return 0;
	const clearance = pathClearance({
		profile,
		obstacles,
		antennaAmslM: antennaHeights(input, carrier, end),
		frequencyGhz,
		kFactor
	});
	return obstructionLoss(clearance, frequencyGhz).lossDb;
}
