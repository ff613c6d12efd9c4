import { ENDS, type End } from '../ends';
import type { Found } from '../finding/planFinding';
import { GROUND_WORDS } from '../path/reflectionCoefficient';
import { carriesTraffic, carriersOf, type Carrier } from './configuration';
import { obstructionLossDb, type DirectionBudget, type ModulationMargin } from './directionBudget';
import type { HopPlanInput } from './planInput';
import type { HopPlan } from './planTypes';

/** What air and ground do to the level from hour to hour, and what the power control leaves for it. */
export function airFindings(input: HopPlanInput, plan: HopPlan, found: Found): void {
	reflectionFindings(input, plan, found);
	bendingFindings(input, plan, found);
	controlFindings(input, plan, found);
}

/** A reflection that moves the level by more than the window makes the window say little. */
function reflectionFindings(input: HopPlanInput, plan: HopPlan, found: Found): void {
	const worst = (plan.reflections ?? [])
		.toSorted((p, q) => p.lowDb - q.lowDb)
		.find(({ highDb, lowDb }) => Math.max(highDb, -lowDb) > input.toleranceDb);
	const strongest = worst?.reflections[0];
	if (!worst || !strongest) return;
	const { pitchM } = strongest;
	found(
		'warning',
		'reflection-swings',
		'toleranceDb',
		`${GROUND_WORDS[strongest.ground].replace(/^./, (c) => c.toUpperCase())} ${(strongest.distanceM / 1000).toFixed(1)} km from A reflects: the level at ${worst.receivingEnd} can stand ${worst.highDb.toFixed(1)} dB over and ${(-worst.lowDb).toFixed(1)} dB under the plan as air${input.path.water.some(({ tideM }) => tideM > 0) ? ' and tide' : ''} change, and the window of ± ${input.toleranceDb} dB says little at one hour. Choose heights that hide or weaken the reflection; read again at other hours before accepting; a second dish helps most ${(pitchM[worst.receivingEnd] / 2).toFixed(1)} m above or below.`
	);
}

/** From this length on a path over the sea is called long, km. Source: experience of coastal links, as in ITU-R P.530-17, §2.3 (coastal areas). */
const LONG_SEA_PATH_KM = 20;
/** So much of it over the sea makes a path coastal. */
const COASTAL_SHARE = 0.25;
/** A gradient below this holds the ray to the earth, N/km. Source: ITU-R P.453. */
const DUCTING_GRADIENT = -157;
/** A climate whose gradient of 1 % lies this far beyond it has ducts on many days, N/km. */
const DUCTING_CLIMATE = -400;

/** Ducts, and a low k that lifts the ground into the ray: no figure of the plan holds them. */
function bendingFindings(input: HopPlanInput, plan: HopPlan, found: Found): void {
	const { water } = input.path;
	const seaKm = water
		.filter(({ kind }) => kind === 'sea')
		.reduce((sum, { fromKm, toKm }) => sum + Math.max(0, Math.min(toKm, plan.pathKm) - fromKm), 0);
	const coastal = seaKm >= COASTAL_SHARE * plan.pathKm;
	const dn1 = input.climate.gradientDn1;
	if (plan.pathKm >= LONG_SEA_PATH_KM && (coastal || dn1 <= DUCTING_CLIMATE)) {
		found(
			'warning',
			'ducting',
			'sites.A',
			`${coastal ? `${seaKm.toFixed(0)} km of the path lie over the sea` : `The gradient of 1 % of the year is ${dn1} N/km, far beyond the ${DUCTING_GRADIENT} at which air holds a ray to the earth`}: in a duct the level can rise or vanish for hours. That is not in the availability. Heights that differ, a shorter hop or a second dish help.`
		);
	}
	if (!input.path.profile) return;
	const { lowK } = input.climate;
	for (const { carrier, end, budget, margin } of wantedDirections(input, plan)) {
		if (margin.marginDb <= 0) continue;
		const lossDb =
			obstructionLossDb(input, carrier, budget.frequencyGhz, end, lowK) - budget.obstructionLossDb;
		if (lossDb <= margin.marginDb) continue;
		found(
			'warning',
			'low-k-fading',
			`ends.${end}.antennaHeightAglM`,
			`With k = ${lowK} (${input.climate.lowKSource}) the ground takes ${lossDb.toFixed(1)} dB from ${carrier.modulation} toward ${end}${plan.carriers.length > 1 ? ` (${carrier.name.toLowerCase()})` : ''}, whose margin is ${margin.marginDb.toFixed(1)} dB: the hop is out for as long as the air stays so. Raise the antennas.`
		);
		return;
	}
}

/** Every direction with traffic: its budget, and the margin of the modulation wanted of it. */
function wantedDirections(
	input: HopPlanInput,
	plan: HopPlan
): { carrier: Carrier; end: End; budget: DirectionBudget; margin: ModulationMargin }[] {
	return carriersOf(input)
		.filter((carrier) => carriesTraffic(carrier, input.configuration.kind))
		.flatMap((carrier) =>
			ENDS.flatMap((end) => {
				const budget = plan.carriers.find(({ number }) => number === carrier.number)?.received[end];
				const margin = budget?.margins.find(({ modulation }) => modulation === carrier.modulation);
				return budget && margin ? [{ carrier, end, budget, margin }] : [];
			})
		);
}

/** Less than this above the threshold, a fade is there before the power follows, dB. */
const CONTROL_RESERVE_DB = 10;

/** What the power control leaves in clear air must outlast a fade until the power has followed. */
function controlFindings(input: HopPlanInput, plan: HopPlan, found: Found): void {
	if (input.powerControlDb === 0) return;
	for (const { carrier, end, budget, margin } of wantedDirections(input, plan)) {
		const leftDb = budget.operatingLevelDbm - margin.thresholdDbm;
		if (leftDb >= CONTROL_RESERVE_DB || margin.marginDb < CONTROL_RESERVE_DB) continue;
		found(
			'warning',
			'power-control-deep',
			'powerControlDb',
			`ATPC leaves only ${leftDb.toFixed(1)} dB above the threshold of ${carrier.modulation} at ${end} in clear air: a fast fade is there before the power follows. Leave at least ${CONTROL_RESERVE_DB} dB.`
		);
		return;
	}
}
