import type { Found, PlanFinding } from '../finding/planFinding';
import { isProfileBetween } from '../path/samplePath';
import { numberText } from '../units/text';
import { mountingOf, type HubInput, type Mounted } from './hubInput';
import type { SteeredUnitPart } from '../catalogue/parts';
import type { NoService, ServedTerminal, TerminalPlan, UnitPlan } from './hubFigures';

/** A window is called tight from this margin down, degrees: a crew sets a unit by a hand compass. */
const TIGHT_DEG = 3;

/** Degrees outside a window, never said to be none. */
const outside = (deg: number): string => numberText(Math.max(0.1, deg), 1);

/** Why a terminal is not served, as a planner is told. */
export function noServiceText(why: NoService): string {
	switch (why.code) {
		case 'no-window':
			return why.unitName === null
				? 'The hub has no unit.'
				: `Outside every window: ${outside(why.outsideDeg)}° beyond that of ${why.unitName}.`;
		case 'terminal-window':
			return `Its own mounting does not let it look at the hub: ${outside(why.outsideDeg)}° outside its window.`;
		case 'blocked':
			return `Blocked: what stands in the way takes ${numberText(why.obstructionDb, 1)} dB, ${numberText(why.missingDb, 1)} dB more than it can spare.`;
		case 'too-weak':
			return `Too weak: ${numberText(why.missingDb, 1)} dB are missing for the slowest modulation with its reserve.`;
		case 'full':
			return `${why.unitName} has it in its window and takes no more terminals.`;
		case 'drowned':
			return `${why.byName ?? 'Another unit'} drowns it on the same channel when both send: give them channels apart.`;
	}
}

/** What is wrong with a hub, and what is worth knowing, in the order of its fields. */
export function hubFindings(
	hub: HubInput,
	units: readonly UnitPlan[],
	terminals: readonly TerminalPlan[]
): PlanFinding[] {
	const findings: PlanFinding[] = [];
	const found: Found = (severity, code, field, message) =>
		findings.push({ severity, code, field, message });
	if (hub.units.length === 0) found('error', 'no-units', 'units', 'The hub has no unit yet.');
	if (hub.eirpLimitDbm === null) {
		found(
			'warning',
			'no-eirp-limit',
			'eirpLimitDbm',
			'Nobody has said what may be radiated there: full power is taken. Ask who licenses it locally.'
		);
	}
	units.forEach((unit, i) => unitFindings(hub, unit, `units.${i}`, found));
	terminals.forEach((terminal, i) => terminalFindings(hub, terminal, `terminals.${i}`, found));
	return findings;
}

function unitFindings(hub: HubInput, plan: UnitPlan, field: string, found: Found): void {
	const { unit, terminals, marginDeg, airTime, airTimeThere } = plan;
	mountedFindings(unit.part, unit, field, found);
	const [low, high] = unit.part.rangeGhz;
	const half = hub.channelWidthMhz / 2000;
	if (unit.frequencyGhz - half < low - 1e-9 || unit.frequencyGhz + half > high + 1e-9) {
		const message = `${unit.name}: the channel does not lie within ${low} to ${high} GHz.`;
		found('error', 'hub-channel', `${field}.frequencyGhz`, message);
	}
	if (!unit.part.channelWidthsMhz.includes(hub.channelWidthMhz)) {
		const widths = unit.part.channelWidthsMhz.join(', ');
		found('error', 'hub-width', 'channelWidthMhz', `${unit.name} takes channels of ${widths} MHz.`);
	}
	const mounting = mountingOf(unit.part, unit);
	if (
		mounting &&
		(unit.tiltDeg < mounting.lowestTiltDeg - 0.05 || unit.tiltDeg > mounting.highestTiltDeg + 0.05)
	) {
		const range = `${numberText(mounting.lowestTiltDeg, 0)}° to ${numberText(mounting.highestTiltDeg, 0)}°`;
		const message =
			mounting.lowestTiltDeg === mounting.highestTiltDeg
				? `${unit.name}: ${mounting.name.toLowerCase()} does not tilt; it stands at ${numberText(mounting.lowestTiltDeg, 0)}°.`
				: `${unit.name}: ${mounting.name.toLowerCase()} tilts from ${range}.`;
		found('error', 'hub-tilt', `${field}.tiltDeg`, message);
	}
	if (unit.how === 'wall' && unit.wallBearingDeg !== null) {
		const apart = Math.abs(((unit.headingDeg - unit.wallBearingDeg + 540) % 360) - 180);
		if (apart > 0.1) {
			const message = `${unit.name}: on a wall nothing pans; it looks where the wall does, ${numberText(unit.wallBearingDeg, 1)}°.`;
			found('error', 'hub-wall-heading', `${field}.headingDeg`, message);
		}
	}
	if (terminals.length === 0) {
		found('note', 'idle-unit', field, `${unit.name} serves no terminal.`);
		return;
	}
	if (marginDeg !== null && marginDeg < TIGHT_DEG) {
		const message = `${unit.name}: a terminal lies ${numberText(marginDeg, 1)}° inside the edge of its window; a compass is no better than that.`;
		found('warning', 'tight-window', `${field}.headingDeg`, message);
	}
	if (airTime > airTimeThere) {
		const share = Math.floor((100 * airTimeThere) / airTime);
		const message = `${unit.name}: what is promised takes ${numberText(100 * airTime, 0)} % of its air time, ${numberText(100 * airTimeThere, 0)} % carry traffic. With all at once each gets ${share} % of its promise.`;
		found('warning', 'air-time', field, message);
	}
}

function terminalFindings(hub: HubInput, plan: TerminalPlan, field: string, found: Found): void {
	const { terminal, served, why } = plan;
	mountedFindings(terminal.part, terminal, field, found);
	if (why) {
		found('warning', `unserved-${why.code}`, field, `${terminal.name}: ${noServiceText(why)}`);
	}
	const { profile } = terminal;
	if (!profile) {
		const message = `${terminal.name}: no profile of the ground, so nothing is known of what stands in the way.`;
		found('warning', 'no-profile', `${field}.profile`, message);
	} else if (!isProfileBetween(profile, hub.place, terminal)) {
		const message = `${terminal.name}: the profile was taken between other places: take it again.`;
		found('error', 'profile-stale', `${field}.profile`, message);
	}
	if (served) servedFindings(hub, terminal.name, served, field, found);
}

function servedFindings(
	hub: HubInput,
	name: string,
	served: ServedTerminal,
	field: string,
	found: Found
): void {
	if (!served.terminalChannelFits) {
		const message = `${name}: its terminal does not take the channel of ${served.unit.name}.`;
		found('error', 'terminal-channel', `${field}.partCode`, message);
	}
	const { percent, range } = served.rain;
	const allowed = 100 - hub.targetPercent;
	if (range !== 'less' && percent > allowed) {
		const message = `${name}: rain takes the link away for ${percentText(percent)} % of the year; ${percentText(allowed)} % is allowed.`;
		found('warning', 'rain', field, message);
	}
	if (range === 'less' && percent > allowed) {
		const message = `${name}: the rain method says nothing below ${percent} % of the year, and less is allowed.`;
		found('note', 'rain-unsaid', field, message);
	}
	if (served.path.atTerminal.marginDeg < TIGHT_DEG) {
		const message = `${name}: the hub lies ${numberText(served.path.atTerminal.marginDeg, 1)}° inside the edge of its own window.`;
		found('warning', 'tight-terminal', field, message);
	}
}

const percentText = (percent: number): string =>
	percent >= 0.1 ? numberText(percent, 2) : String(Number(percent.toPrecision(1)));

/** Whether it can be put up so. */
function mountedFindings(
	part: SteeredUnitPart,
	mounted: Mounted & { name: string },
	field: string,
	found: Found
): void {
	const mounting = mountingOf(part, mounted);
	if (!mounting) {
		const message = `${mounted.name}: ${part.code} has no mounting for that.`;
		found('error', 'hub-mounting', `${field}.how`, message);
		return;
	}
	if (mounted.how === 'wall') {
		if (mounted.wallBearingDeg === null) {
			const message = `${mounted.name}: which way the wall faces decides where it looks. Type its bearing.`;
			found('error', 'wall-bearing', `${field}.wallBearingDeg`, message);
		}
		return;
	}
	const { poleMm } = mounted;
	if (poleMm === null || mounting.poleToMm === 0) return;
	if (poleMm < mounting.poleFromMm || poleMm > mounting.poleToMm) {
		const message = `${mounted.name}: ${mounting.name.toLowerCase()} takes poles of ${mounting.poleFromMm} to ${mounting.poleToMm} mm.`;
		found('error', 'hub-pole', `${field}.poleMm`, message);
	}
}
