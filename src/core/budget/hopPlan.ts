import { findDishAt, type DishAtFrequency } from '../antenna/dishAt';
import type { RadioPart } from '../catalogue/parts';
import { ENDS, farEnd, type End, type PerEnd } from '../ends';
import { compassBearingDeg, magneticDeclination } from '../geodesy/declination';
import { inverseGeodesic, type GeodesicLine } from '../geodesy/geodesic';
import { antennaTiltDeg } from '../geodesy/tilt';
import { feederLossDb } from '../feeder/loss';
import { freeSpaceLossDb } from '../propagation/freeSpace';
import { gasAttenuation } from '../propagation/gas';
import { makeLevelCurve, type LevelCurveDirection } from '../radio/levelCurve';
import { checkOverload, type OverloadVerdict } from '../radio/overload';
import { receiverFloorDbm } from '../radio/receiverFloor';
import type { PlanFinding } from './finding';
import { levelText } from '../units/text';
import { findInputProblems } from './planChecks';
import type { EndPlanInput, HopPlanInput } from './planInput';

/** Where one end's dish must look. */
export interface Pointing {
	azimuthTrueDeg: number;
	azimuthCompassDeg: number;
	declinationDeg: number;
	magneticModel: string;
	magneticModelOutdated: boolean;
	tiltDeg: number;
	antennaHeightAmslM: number;
}

/** One direction of the hop, named by the end that receives. */
export interface DirectionBudget {
	receivingEnd: End;
	frequencyGhz: number;
	transmitGainDbi: number;
	receiveGainDbi: number;
	transmitFeederLossDb: number;
	receiveFeederLossDb: number;
	freeSpaceLossDb: number;
	gasLossDb: number;
	additionalLossDb: number;
	/** Level in the alignment state: fixed power, fixed modulation, dry weather. */
	plannedLevelDbm: number;
	/** Level at operating power. */
	operatingLevelDbm: number;
	toleranceDb: number;
	/** The same at the receiving radio's own port. */
	plannedVolts: number;
	lowestAcceptedVolts: number;
	highestAcceptedVolts: number;
	betterDirection: LevelCurveDirection;
	floorDbm: number;
	/** Fade margin to each modulation's threshold, dB, at its own highest allowed power. */
	margins: { modulation: string; thresholdDbm: number; marginDb: number; capacityMbitS: number }[];
	overload: OverloadVerdict;
}

export interface EndElectrical extends DishAtFrequency {
	/** Frequency this end receives on: its beam for aligning. */
	receiveFrequencyGhz: number;
}

export interface HopPlan {
	pathKm: number;
	pointing: PerEnd<Pointing>;
	/** Budget of the direction received at each end. */
	received: PerEnd<DirectionBudget>;
	/** The dish at each end, at the frequency it receives. */
	dish: PerEnd<EndElectrical>;
	findings: PlanFinding[];
}

/** A plan, or the errors that keep it from being computed at all. */
export type HopPlanResult =
	{ kind: 'plan'; plan: HopPlan } | { kind: 'impossible'; findings: PlanFinding[] };

/**
 * Computes a single-radio hop from the choices of its planner: geometry, losses, the planned level
 * of both directions in dBm and volts of each receiving radio's own port, overload, and findings.
 *
 * RSL = P_tx − L_feed,tx + G_tx − FSPL − gas − additional + G_rx − L_feed,rx.
 *
 * Expected mistakes of a plan come back as findings; the function throws only on shapes that the
 * caller's validation should have refused.
 */
export function planHop(input: HopPlanInput): HopPlanResult {
	const problems = findInputProblems(input);
	if (problems.some((finding) => finding.severity === 'error')) {
		return { kind: 'impossible', findings: problems };
	}
	const line = inverseGeodesic(input.ends.A.position, input.ends.B.position);
	const dish = perEnd((end) => electricalAt(input, end));
	const plan: HopPlan = {
		pathKm: line.lengthM / 1000,
		pointing: perEnd((end) => pointingOf(input, line, end)),
		received: perEnd((end) => budgetReceivedAt(input, line.lengthM / 1000, end)),
		dish,
		findings: problems
	};
	return { kind: 'plan', plan: { ...plan, findings: [...problems, ...resultFindings(plan)] } };
}

function perEnd<T>(make: (end: End) => T): PerEnd<T> {
	return { A: make('A'), B: make('B') };
}

function antennaAmslM(end: EndPlanInput): number {
	return end.groundAmslM + end.antennaHeightAglM;
}

function electricalAt(input: HopPlanInput, end: End): EndElectrical {
	const receiveFrequencyGhz = input.ends[farEnd(end)].transmitFrequencyGhz;
	return {
		...requireDishAt(input.ends[end], receiveFrequencyGhz),
		receiveFrequencyGhz
	};
}

function requireDishAt(end: EndPlanInput, frequencyGhz: number): DishAtFrequency {
	const found = findDishAt(end.dish, frequencyGhz);
	if (!found) throw new Error(`dish ${end.dish.code} has no band at ${frequencyGhz} GHz`);
	return found;
}

function pointingOf(input: HopPlanInput, line: GeodesicLine, end: End): Pointing {
	const own = input.ends[end];
	const far = input.ends[farEnd(end)];
	const azimuthTrueDeg = end === 'A' ? line.azimuthAtFirstDeg : line.azimuthAtSecondDeg;
	const declination = magneticDeclination(own.position, antennaAmslM(own), input.workDate);
	return {
		azimuthTrueDeg,
		azimuthCompassDeg: compassBearingDeg(azimuthTrueDeg, declination.declinationDeg),
		declinationDeg: declination.declinationDeg,
		magneticModel: declination.modelName,
		magneticModelOutdated: declination.outsideModelYears,
		tiltDeg: antennaTiltDeg(antennaAmslM(own), antennaAmslM(far), line.lengthM, input.kFactor),
		antennaHeightAmslM: antennaAmslM(own)
	};
}

function budgetReceivedAt(input: HopPlanInput, pathKm: number, end: End): DirectionBudget {
	const receiver = input.ends[end];
	const sender = input.ends[farEnd(end)];
	const frequencyGhz = sender.transmitFrequencyGhz;
	const transmitGainDbi = requireDishAt(sender, frequencyGhz).gainDbi;
	const receiveGainDbi = requireDishAt(receiver, frequencyGhz).gainDbi;
	const transmitFeederLossDb = feederLossDb(sender.feeder, frequencyGhz, sender.feederLengthM);
	const receiveFeederLossDb = feederLossDb(receiver.feeder, frequencyGhz, receiver.feederLengthM);
	const spaceLossDb = freeSpaceLossDb(frequencyGhz, pathKm);
	const gasLossDb = gasAttenuation(frequencyGhz, input.air).totalDbKm * pathKm;
	const gainLessLossDb =
		transmitGainDbi +
		receiveGainDbi -
		transmitFeederLossDb -
		receiveFeederLossDb -
		spaceLossDb -
		gasLossDb -
		input.additionalLossDb;
	const plannedLevelDbm = sender.alignmentPowerDbm + gainLessLossDb;
	const curve = makeLevelCurve(receiver.radio.levelPort.curve);
	const windowVolts = [
		curve.voltsAt(plannedLevelDbm - input.toleranceDb),
		curve.voltsAt(plannedLevelDbm + input.toleranceDb)
	];
	return {
		receivingEnd: end,
		frequencyGhz,
		transmitGainDbi,
		receiveGainDbi,
		transmitFeederLossDb,
		receiveFeederLossDb,
		freeSpaceLossDb: spaceLossDb,
		gasLossDb,
		additionalLossDb: input.additionalLossDb,
		plannedLevelDbm,
		operatingLevelDbm: sender.transmitPowerDbm + gainLessLossDb,
		toleranceDb: input.toleranceDb,
		plannedVolts: curve.voltsAt(plannedLevelDbm),
		lowestAcceptedVolts: Math.min(...windowVolts),
		highestAcceptedVolts: Math.max(...windowVolts),
		betterDirection: curve.direction,
		floorDbm: receiverFloorDbm(input.channelWidthMhz, receiver.radio.noiseFigureDb),
		margins: marginsOf(input, sender, receiver.radio, gainLessLossDb),
		overload: checkOverload(plannedLevelDbm, receiver.radio, sender.alignmentPowerDbm, sender.radio)
	};
}

function marginsOf(
	input: HopPlanInput,
	sender: EndPlanInput,
	receiver: RadioPart,
	gainLessLossDb: number
): DirectionBudget['margins'] {
	const floor = receiverFloorDbm(input.channelWidthMhz, receiver.noiseFigureDb);
	return sender.radio.modulations.map((modulation) => {
		const thresholdDbm = floor + modulation.requiredSnrDb;
		const powerDbm = Math.min(sender.transmitPowerDbm, modulation.maxPowerDbm);
		return {
			modulation: modulation.name,
			thresholdDbm,
			marginDb: powerDbm + gainLessLossDb - thresholdDbm,
			capacityMbitS: modulation.mbitSPerMhz * input.channelWidthMhz
		};
	});
}

/** What only shows once the levels are known. */
function resultFindings(plan: HopPlan): PlanFinding[] {
	return ENDS.flatMap((end) => {
		const found: PlanFinding[] = [];
		const budget = plan.received[end];
		const far = farEnd(end);
		const { overload } = budget;
		if (overload.kind !== 'fine') {
			const remedy =
				overload.powerToSetDbm === null
					? `even the lowest power of ${far} is too much: add attenuation`
					: `set ${far} to ${overload.powerToSetDbm} dBm while aligning`;
			found.push({
				severity: 'error',
				code: `receiver-${overload.kind}`,
				field: `ends.${far}.alignmentPowerDbm`,
				message:
					`The aligned level at ${end} (${levelText(budget.plannedLevelDbm)}) would ` +
					`${overload.kind === 'damage' ? 'damage' : 'overload'} its receiver: ${remedy}. ` +
					`Do not point off to lower it: on the slope every gust becomes a fade.`
			});
		}
		if (budget.plannedLevelDbm < budget.floorDbm + 10) {
			found.push({
				severity: 'error',
				code: 'level-near-floor',
				field: `ends.${far}.alignmentPowerDbm`,
				message: `The planned level at ${end} is only ${(budget.plannedLevelDbm - budget.floorDbm).toFixed(1)} dB above the receiver floor: nothing can be aligned on it.`
			});
		}
		if (plan.pointing[end].magneticModelOutdated) {
			found.push({
				severity: 'warning',
				code: 'magnetic-model-outdated',
				field: 'workDate',
				message: `${plan.pointing[end].magneticModel} does not cover the day of the work; the compass bearing at ${end} may be off.`
			});
		}
		return found;
	});
}
