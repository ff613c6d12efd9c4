import { ENDS, farEnd, type End } from '../ends';
import { inverseGeodesic } from '../geodesy/geodesic';
import { levelText, numberText } from '../units/text';
import type { RadioPart } from '../catalogue/parts';
import { indoorConsumptionW, serviceCapacityMbitS } from '../catalogue/chassis';
import { coaxialLossDb, worstIntermediateMhz } from '../catalogue/cableFigures';
import { dcSupply } from '../firstlook/dcSupply';
import { swayVariationDb } from '../firstlook/wind';
import { nearFieldM } from '../path/pathClearance';
import type { Found, PlanFinding } from '../finding/planFinding';
import type { DirectionBudget } from './directionBudget';
import type { HopPlan } from './planTypes';
import { availabilityText } from './availability';
import { carriersOf, radiosOf } from './configuration';
import { inventoryOf } from './inventory';
import { serviceFindings } from './serviceChecks';
import { hopCapacityMbitS } from './services';
import { airFindings } from './airChecks';
import { reachFindings } from './reachChecks';
import { secondPathsOf } from './pathFigures';
import { antennaAmslM, supplyVoltageV, type HopPlanInput } from './planInput';
import { STALE_PROFILE_M } from '../path/samplePath';
import { itemAt, lastOf } from '../units/lists';

/** Ground of the profile and of the site sheet may differ by this much, m. */
const GROUND_DIFFERENCE_M = 15;
/** More lean than this turns azimuth moves into tilt, degrees. */
const MOST_LEAN_DEG = 1;
/** More loss by sway than this is worth a word, dB. */
const SWAY_LOSS_DB = 1;

/** Horizontal field below which a compass errs, and below which it is of no use, nT. Source: the caution and blackout zones of the World Magnetic Model. */
const COMPASS_CAUTION_NT = 6000;
const COMPASS_USELESS_NT = 2000;

/** What only shows once the plan is computed. */
export function resultFindings(input: HopPlanInput, plan: HopPlan): PlanFinding[] {
	const list: PlanFinding[] = [];
	const found: Found = (severity, code, field, message) =>
		list.push({ severity, code, field, message });
	for (const end of ENDS) {
		levelFindings(input, plan, end, found);
		pointingFindings(input, plan, end, found);
		siteFindings(input, plan, end, found);
	}
	pathFindings(input, plan, found);
	secondPathFindings(input, found);
	nearFieldFindings(input, plan, found);
	airFindings(input, plan, found);
	serviceFindings(input, found);
	firstBandFindings(input, found);
	wholeFindings(input, plan, found);
	return list;
}

function levelFindings(input: HopPlanInput, plan: HopPlan, end: End, found: Found): void {
	const far = farEnd(end);
	for (const carrier of plan.carriers) {
		const budget = carrier.received[end];
		const name = plan.carriers.length > 1 ? ` (${carrier.name.toLowerCase()})` : '';
		const field =
			carrier.role === 'second-band'
				? `ends.${far}.secondPowerDbm`
				: `ends.${far}.alignmentPowerDbm`;
		const states = [
			{ overload: budget.overload, levelDbm: budget.plannedLevelDbm, at: field, aligning: true },
			{
				...{ overload: budget.operatingOverload, levelDbm: budget.operatingLevelDbm },
				at: carrier.role === 'second-band' ? field : `ends.${far}.transmitPowerDbm`,
				aligning: false
			}
		];
		for (const { overload, levelDbm, at, aligning } of states) {
			if (!overload || overload.kind === 'fine') continue;
			// One power serves both states of a second band: said once.
			if (!aligning && at === field) continue;
			const remedy =
				overload.powerToSetDbm === null
					? `even the lowest power of ${far} is too much: add attenuation`
					: `set ${far} to ${overload.powerToSetDbm} dBm ${aligning ? 'while aligning' : 'in operation'}`;
			const { beamwidthDeg } = plan.dish[end];
			const swing = swayVariationDb(beamwidthDeg / 2, input.wind.mastSwayDeg, beamwidthDeg);
			found(
				'error',
				aligning ? `receiver-${overload.kind}` : `receiver-${overload.kind}-operating`,
				at,
				`The ${aligning ? 'aligned' : 'operating'} level at ${end}${name} (${levelText(levelDbm)}) would ` +
					`${overload.kind === 'damage' ? 'damage' : 'overload'} its receiver: ${remedy}. ` +
					`Do not point off to lower it: on the shoulder a sway of ${input.wind.mastSwayDeg}° swings the level by ${swing.toFixed(1)} dB, so every gust becomes a fade.`
			);
		}
		const aboveDb = budget.plannedLevelDbm - budget.floorDbm;
		if (aboveDb < 10) {
			const where =
				aboveDb < 0 ? `${(-aboveDb).toFixed(1)} dB below` : `only ${aboveDb.toFixed(1)} dB above`;
			found(
				'error',
				'level-near-floor',
				field,
				`The planned level at ${end}${name} is ${where} the receiver floor: nothing can be aligned on it.`
			);
		}
	}
	eirpFindings(input, plan, end, found);
}

/** A limit holds in every state: in operation, and while aligning. */
function eirpFindings(input: HopPlanInput, plan: HopPlan, end: End, found: Found): void {
	const limit = input.eirpLimitDbm;
	if (limit === null) return;
	const budgets = plan.carriers.map((carrier) => ({
		second: carrier.role === 'second-band',
		budget: carrier.received[farEnd(end)]
	}));
	const strongest = (of: (budget: DirectionBudget) => number): (typeof budgets)[number] =>
		budgets.reduce((p, q) => (of(q.budget) > of(p.budget) ? q : p));
	const inOperation = strongest((budget) => budget.eirpDbm);
	const aligning = strongest((budget) => budget.alignmentEirpDbm ?? budget.eirpDbm);
	const say = (sent: number, state: string, field: string, code: string): void => {
		if (sent <= limit + 1e-9) return;
		found(
			'error',
			code,
			field,
			`${end} radiates ${levelText(sent)} (EIRP) ${state}, ${(sent - limit).toFixed(1)} dB over the licensed ${levelText(limit)}: lower that power of ${end} by as much, or take a smaller dish.`
		);
	};
	const fieldOf = (second: boolean, own: string): string =>
		second ? `ends.${end}.secondPowerDbm` : `ends.${end}.${own}`;
	say(
		inOperation.budget.eirpDbm,
		'in operation',
		fieldOf(inOperation.second, 'transmitPowerDbm'),
		'eirp-over-limit'
	);
	if (aligning.second) return;
	say(
		aligning.budget.alignmentEirpDbm ?? aligning.budget.eirpDbm,
		'while aligning',
		fieldOf(false, 'alignmentPowerDbm'),
		'eirp-over-limit-aligning'
	);
}

function pointingFindings(input: HopPlanInput, plan: HopPlan, end: End, found: Found): void {
	const pointing = plan.pointing[end];
	if (pointing.magneticModelOutdated) {
		found(
			'warning',
			'magnetic-model-outdated',
			'workDate',
			`${pointing.magneticModel} does not cover the day of the work; the compass bearing at ${end} may be off.`
		);
	}
	const fieldNt = pointing.horizontalFieldNt;
	if (fieldNt !== undefined && fieldNt < COMPASS_CAUTION_NT) {
		found(
			'warning',
			'compass-weak',
			`sites.${end}`,
			`The earth's field at ${end} is too ${fieldNt < COMPASS_USELESS_NT ? 'weak for any compass' : 'weak to trust a compass'} (${(fieldNt / 1000).toFixed(1)} µT across): take the heading from a landmark, the sun or a satellite compass.`
		);
	}
	const { tilt, azimuth } = pointing.window;
	if (Math.abs(pointing.tiltDeg) > tilt.travelDeg) {
		found(
			'error',
			'tilt-beyond-adjuster',
			`ends.${end}.mountCode`,
			`The tilt of ${pointing.tiltDeg.toFixed(1)}° at ${end} lies beyond the ${tilt.travelDeg}° of ${input.ends[end].mount.code}: take another mount, or other heights.`
		);
	} else if (tilt.turnsRemaining < 0 || azimuth.turnsRemaining < 0) {
		const axis = tilt.turnsRemaining < 0 ? 'tilt' : 'azimuth';
		const short = -pointing.window[axis].turnsRemaining;
		found(
			'warning',
			'search-beyond-adjuster',
			`ends.${end}.mountCode`,
			`The ${axis} adjuster at ${end} is ${short.toFixed(1)} turns short of the search window (± ${pointing.window[axis].halfWidthDeg.toFixed(1)}°): set the first heading better, or be ready to turn the mount on the pipe.`
		);
	}
}

/** What feeds the end, and what stands indoors, against what they have to serve. */
function sourceFindings(input: HopPlanInput, end: End, found: Found): void {
	const { powerSource, indoorUnit } = input.ends[end];
	const radios = radiosOf(input, end);
	if (indoorUnit && radios.length > indoorUnit.radioPorts) {
		found(
			'error',
			'indoor-ports',
			`ends.${end}.indoorUnitCode`,
			`${indoorUnit.code} at ${end} serves ${indoorUnit.radioPorts} radios; the plan has ${radios.length}.`
		);
	}
	const carriedMbitS = indoorUnit && serviceCapacityMbitS(indoorUnit);
	const wantedMbitS = hopCapacityMbitS(input);
	if (indoorUnit && typeof carriedMbitS === 'number' && carriedMbitS < wantedMbitS) {
		found(
			'warning',
			'indoor-capacity',
			`ends.${end}.indoorUnitCode`,
			`The service boards of ${indoorUnit.code} at ${end} carry ${carriedMbitS.toFixed(0)} Mbit/s; the hop is planned for ${wantedMbitS.toFixed(0)} Mbit/s.`
		);
	}
	if (!powerSource) return;
	const field = `ends.${end}.powerSourceCode`;
	const fed = indoorUnit?.feedsRadios ? [] : radios;
	const kind = fed.find(({ installation }) => installation)?.installation?.power.kind;
	if (kind && kind !== powerSource.kind) {
		found(
			'error',
			'supply-kind',
			field,
			`${powerSource.code} at ${end} gives ${POWER_WORDS[powerSource.kind]}; ${itemAt(fed, 0).code} takes ${POWER_WORDS[kind]}. The wrong kind can destroy the unit.`
		);
	}
	// What the cables turn into heat comes out of the source too.
	const lostW = fed.reduce((sum, radio) => sum + cableLossW(input, end, radio), 0);
	const loadW =
		radios.reduce((sum, radio) => sum + radio.consumptionW, 0) +
		(indoorUnit ? indoorConsumptionW(indoorUnit) : 0) +
		lostW;
	if (loadW > powerSource.powerW) {
		found(
			'error',
			'supply-power',
			field,
			`Radios and IDU at ${end} take ${loadW.toFixed(0)} W${lostW >= 0.5 ? `, ${lostW.toFixed(0)} W of it in the cable` : ''}; ${powerSource.code} gives ${powerSource.powerW} W.`
		);
	}
	if (indoorUnit) {
		const [least, most] = indoorUnit.supplyV;
		if (powerSource.outputV < least || powerSource.outputV > most) {
			found(
				'error',
				'indoor-supply',
				field,
				`${powerSource.code} at ${end} gives ${powerSource.outputV} V; ${indoorUnit.code} takes ${least} to ${most} V.`
			);
		}
	}
}

/** A radio whose modem stands indoors, and the one cable between them. */
function coaxialFindings(input: HopPlanInput, end: End, found: Found): void {
	const { cable, cableLengthM, indoorUnit } = input.ends[end];
	const radios = radiosOf(input, end);
	const split = radios.find(({ intermediate }) => intermediate !== undefined);
	const whole = radios.find(({ intermediate }) => intermediate === undefined);
	const field = `ends.${end}.cableCode`;
	if (whole && cable?.coaxial) {
		found(
			'error',
			'cable-coaxial',
			field,
			`${whole.code} at ${end} takes no intermediate frequency: a coaxial cable is not for it.`
		);
	}
	if (!split?.intermediate) return;
	if (!indoorUnit) {
		found(
			'error',
			'modem-missing',
			`ends.${end}.indoorUnitCode`,
			`The modem of ${split.code} stands indoors: choose the IDU at ${end}.`
		);
	}
	if (!cable) return;
	if (!cable.coaxial) {
		found(
			'error',
			'cable-not-coaxial',
			field,
			`${split.code} at ${end} needs a coaxial cable; ${cable.code} is none.`
		);
		return;
	}
	const mhz = worstIntermediateMhz(split.intermediate);
	const lossDb = coaxialLossDb(cable.coaxial, cableLengthM, mhz);
	const { maxLossDb } = split.intermediate;
	if (lossDb > maxLossDb) {
		const longestM = (cableLengthM * maxLossDb) / lossDb;
		found(
			'error',
			'cable-loss',
			`ends.${end}.cableLengthM`,
			`${cable.code} takes ${numberText(lossDb, 1)} dB at ${numberText(mhz, 0)} MHz over ${numberText(cableLengthM, 0)} m; ${split.code} bears ${numberText(maxLossDb, 0)} dB, which is ${numberText(longestM, 0)} m. Shorter, or a thicker cable.`
		);
	}
}

/** Power lost on the way to one radio, W; 0 where cable or voltage are not said. */
function cableLossW(input: HopPlanInput, end: End, radio: RadioPart): number {
	const own = input.ends[end];
	const supplyV = supplyVoltageV(own);
	if (!own.cable || supplyV === null) return 0;
	const fed = dcSupply(supplyV, radio.consumptionW, own.cable, own.cableLengthM);
	return fed.kind === 'fed' ? fed.dropV * fed.currentA : 0;
}

const POWER_WORDS = {
	dc: 'DC',
	'poe-standard': 'Power over Ethernet of a standard class',
	'poe-passive': 'passive Power over Ethernet'
} as const;

function siteFindings(input: HopPlanInput, plan: HopPlan, end: End, found: Found): void {
	const own = input.ends[end];
	const { pipeDiameterMm, pipeLeanDeg } = own.conditions;
	const supplyV = supplyVoltageV(own);
	const field = `sites.${end}`;
	const [least, most] = own.mount.pipeDiameterMm;
	if (pipeDiameterMm === null) {
		found(
			'warning',
			'pipe-unknown',
			field,
			`The diameter of the mount pipe at ${own.siteName} is not known; ${own.mount.code} takes ${least} to ${most} mm.`
		);
	} else if (pipeDiameterMm < least || pipeDiameterMm > most) {
		found(
			'error',
			'pipe-diameter',
			`ends.${end}.mountCode`,
			`The pipe at ${own.siteName} is ${pipeDiameterMm} mm; ${own.mount.code} takes ${least} to ${most} mm. Take another mount or have the pipe changed.`
		);
	}
	reachFindings(input, end, found);
	if (pipeLeanDeg !== null && pipeLeanDeg > MOST_LEAN_DEG) {
		found(
			'warning',
			'pipe-leans',
			field,
			`The pipe at ${own.siteName} leans by ${pipeLeanDeg}°: azimuth moves will turn into tilt. Plumb it first.`
		);
	}
	const { supply } = plan.firstLook[end];
	if (supply === null) {
		found(
			'warning',
			'supply-unplanned',
			supplyV === null ? field : `ends.${end}.cableCode`,
			`The supply at ${end} is not planned: ${supplyV === null ? `the voltage at ${own.siteName} is not known` : 'choose cable and length'}.`
		);
	} else if (supply.kind === 'collapses') {
		found(
			'error',
			'supply-collapses',
			`ends.${end}.cableCode`,
			`Over this cable the supply at ${end} gives at most ${supply.mostPowerW.toFixed(0)} W; ${own.radio.code} takes ${own.radio.consumptionW} W. Take a thicker cable.`
		);
	} else if (supply.voltageAtUnitV < own.radio.supplyMinV) {
		found(
			'error',
			'supply-too-low',
			`ends.${end}.cableCode`,
			`Only ${supply.voltageAtUnitV.toFixed(1)} V reach the unit at ${end} (cable hot, full power); ${own.radio.code} needs ${own.radio.supplyMinV} V. Take a thicker or shorter cable.`
		);
	}
	coaxialFindings(input, end, found);
	sourceFindings(input, end, found);
	const { swayLossDb } = plan.firstLook[end].wind;
	if (swayLossDb > SWAY_LOSS_DB) {
		found(
			'warning',
			'sway-loss',
			'wind.mastSwayDeg',
			`At the operating wind the sway of ${input.wind.mastSwayDeg}° costs ${swayLossDb.toFixed(1)} dB at ${end}: the beam is ${plan.dish[end].beamwidthDeg.toFixed(2)}° wide. A smaller dish or a stiffer mast; a structural engineer decides.`
		);
	}
}

function pathFindings(input: HopPlanInput, plan: HopPlan, found: Found): void {
	const { profile } = input.path;
	if (!profile) {
		found(
			'warning',
			'no-profile',
			'path.profile',
			'There is no terrain profile: nobody has looked whether the path is clear.'
		);
		return;
	}
	for (const [end, point] of [
		['A', profile.from],
		['B', profile.to]
	] as const) {
		const offM = inverseGeodesic(point, input.ends[end].position).lengthM;
		if (offM > STALE_PROFILE_M) {
			found(
				'error',
				'profile-stale',
				'path.profile',
				`The profile was taken ${offM.toFixed(0)} m away from where ${end} stands now: take it again.`
			);
		}
	}
	const grounds = profile.groundsAmslM;
	const ends: [End, number][] = [
		['A', itemAt(grounds, 0)],
		['B', lastOf(grounds)]
	];
	for (const [end, ground] of ends) {
		const own = input.ends[end];
		if (antennaAmslM(own) < ground) {
			found(
				'error',
				'antenna-below-ground',
				`ends.${end}.antennaHeightAglM`,
				`The antenna at ${end} (${antennaAmslM(own).toFixed(0)} m) stands below the ground of the profile (${ground.toFixed(0)} m).`
			);
		} else if (Math.abs(ground - own.groundAmslM) > GROUND_DIFFERENCE_M) {
			found(
				'warning',
				'ground-differs',
				`sites.${end}`,
				`The profile has the ground at ${end} at ${ground.toFixed(0)} m, the site at ${own.groundAmslM.toFixed(0)} m: one of them is wrong.`
			);
		}
	}
	for (const check of plan.clearance?.checks ?? []) {
		if (check.holds) continue;
		const blocked = check.worstRatio < 0 && check.kFactor === input.kFactor;
		const where = `${check.worstDistanceKm.toFixed(2)} km from A${check.worstObstacle ? ` (${check.worstObstacle})` : ''}`;
		if (check.beforeDish && check.kFactor === input.kFactor) {
			const { distanceKm, obstacle, clearanceM, dishRadiusM } = check.beforeDish;
			found(
				'error',
				'before-dish',
				'path.profile',
				`In the near field of a dish, ${(distanceKm * 1000).toFixed(0)} m from A${obstacle ? ` (${obstacle})` : ''}, ${clearanceM < 0 ? `the axis is ${(-clearanceM).toFixed(1)} m under the surface` : `only ${clearanceM.toFixed(1)} m are free below the axis`}: the beam is as wide as the dish there and wants ${dishRadiusM.toFixed(1)} m.`
			);
		}
		if (check.worstRatio >= check.wantedRatio) continue;
		found(
			blocked ? 'error' : 'warning',
			blocked ? 'path-blocked' : 'clearance-short',
			'path.profile',
			`${blocked ? 'The path is blocked' : 'The clearance is short'}: ${check.worstRatio.toFixed(2)} F1 at ${where}, wanted ${check.wantedRatio.toFixed(1)} F1 at k = ${check.kFactor.toFixed(2)} (${check.why}). The ray must come up by ${check.missingM.toFixed(1)} m.`
		);
	}
}

/** Nearer than 2·D²/λ of the larger dish a gain of the far field is too much. */
function nearFieldFindings(input: HopPlanInput, plan: HopPlan, found: Found): void {
	for (const carrier of carriersOf(input)) {
		const nearM = Math.max(
			...ENDS.flatMap((end) => [
				nearFieldM(carrier.transmitDish[end].diameterM, carrier.transmitFrequencyGhz[end]),
				nearFieldM(carrier.receiveDish[end].diameterM, carrier.transmitFrequencyGhz[farEnd(end)])
			])
		);
		if (plan.pathKm * 1000 >= nearM) continue;
		found(
			'warning',
			'within-near-field',
			'ends.A.dishCode',
			`The ends are ${(plan.pathKm * 1000).toFixed(0)} m apart, within the near field of a dish (${nearM.toFixed(0)} m, 2·D²/λ): the real levels will be lower than planned, and beams have no lobes to read there. Take smaller dishes, or expect less.`
		);
		return;
	}
}

/** The paths of second dishes, each judged for itself. */
function secondPathFindings(input: HopPlanInput, found: Found): void {
	for (const { carrier, end, check } of secondPathsOf(input, carriersOf(input))) {
		if (check.holds) continue;
		const { worst } = check.clearance;
		const blocked = check.worstRatio < 0;
		const obstacle = worst?.obstacle ? ` (${worst.obstacle})` : '';
		found(
			blocked ? 'error' : 'warning',
			blocked ? 'second-path-blocked' : 'second-clearance-short',
			'path.profile',
			`${blocked ? 'The path is blocked' : 'The clearance is short'} for ${carrier.name.toLowerCase()}${end ? ` at ${end}` : ''}: ${check.worstRatio.toFixed(2)} F1 at ${((worst?.distanceM ?? 0) / 1000).toFixed(2)} km from A${obstacle}, wanted ${check.wantedRatio.toFixed(1)} F1 (${check.why}). The ray must come up by ${check.missingM.toFixed(1)} m.`
		);
	}
}

const COMBINED_WORDS = {
	all: 'The weakest of the carriers',
	any: 'The best of the carriers',
	capacity: 'The carriers, each by what it carries,'
} as const;

/** Of two bands the narrower beam is set first: the second dish beside it is set without moving it. */
function firstBandFindings(input: HopPlanInput, found: Found): void {
	if (input.configuration.kind !== 'two-bands') return;
	for (const end of ENDS) {
		const [first, second] = inventoryOf(input, end).dishes;
		if (!first?.beamwidthDeg || !second?.beamwidthDeg) continue;
		if (second.beamwidthDeg >= first.beamwidthDeg) continue;
		found(
			'warning',
			'wider-beam-first',
			`ends.${end}.secondDishCode`,
			`The second band has the narrower beam at ${end} (${numberText(second.beamwidthDeg, 2)}° against ${numberText(first.beamwidthDeg, 2)}°), and would be set beside a dish that may not move any more. Make it the first band: the narrower beam is aligned first.`
		);
	}
}

function wholeFindings(input: HopPlanInput, plan: HopPlan, found: Found): void {
	const { availability } = plan;
	if (!availability.holds) {
		found(
			'warning',
			'availability-short',
			'requiredAvailabilityPercent',
			`${availability.combined ? COMBINED_WORDS[availability.combined.rule] : input.operatingModulation} reaches ${availabilityText(availability.achievedPercent, availability.bound)} of the year ${availability.byDirection?.rule === 'either' ? 'in both directions at once' : 'in its worse direction'}; ${availability.requiredPercent} % is asked for.`
		);
	}
	if (input.climate.isDefault) {
		found(
			'note',
			'climate-default',
			'sites.A',
			`Rain rate ${input.climate.rainRate001MmH} mm/h (${input.climate.rainRateSource}), dN1 ${input.climate.gradientDn1} N/km (${input.climate.gradientSource}), low k ${input.climate.lowK} (${input.climate.lowKSource}): type local values where you have them.`
		);
	}
	for (const improved of availability.diversity?.outside ?? []) {
		found(
			'note',
			'diversity-outside',
			'configuration.kind',
			`The diversity improvement is used outside the range of its source: ${improved}.`
		);
	}
}
