import type { SteeredUnitPart } from '../catalogue/parts';
import type { HubPlan, ServedTerminal, UnitPlan } from '../hub/hubFigures';
import { mountingOf, type HubInput, type HubUnitInput, type TerminalInput } from '../hub/hubInput';
import type { FaceAim } from '../hub/scanWindow';
import { itemAt } from '../units/lists';

interface StationBase {
	/** Its id in the plan: records refer to it. */
	id: string;
	name: string;
	part: SteeredUnitPart;
	heightAglM: number;
	/** How it is to stand: of a terminal what makes the hub lie best in its own window. */
	aim: FaceAim;
	/** How far it may be off and still hold all it has to hold, degrees; null where it holds nothing. */
	roomDeg: number | null;
	/** Middle of its channel, GHz; null of a terminal that no unit serves. */
	frequencyGhz: number | null;
}

export interface UnitStation extends StationBase {
	kind: 'unit';
	planned: HubUnitInput;
	figures: UnitPlan;
}

export interface TerminalStation extends StationBase {
	kind: 'terminal';
	planned: TerminalInput;
	/** What the plan makes of it; null where no unit serves it. */
	served: ServedTerminal | null;
	/** Id of the unit that serves it. */
	unitId: string | null;
}

/** Something that is put up: a unit of the hub or a terminal. */
export type Station = UnitStation | TerminalStation;

/** Everything that is put up, the hub before its terminals. */
export function stationsOf(plan: HubPlan): Station[] {
	const units = plan.units.map((figures): UnitStation => {
		const { unit } = figures;
		const { id, name, part, heightAglM, headingDeg, tiltDeg, frequencyGhz } = unit;
		return {
			...{ kind: 'unit', id, name, part, heightAglM, frequencyGhz },
			aim: { headingDeg, tiltDeg },
			roomDeg: figures.marginDeg,
			...{ planned: unit, figures }
		};
	});
	const terminals = plan.terminals.map(({ terminal, path, served }): TerminalStation => {
		const { id, name, part, heightAglM } = terminal;
		const { headingDeg, tiltDeg, marginDeg } = (served?.path ?? path).atTerminal;
		return {
			...{ kind: 'terminal', id, name, part, heightAglM, served },
			aim: { headingDeg, tiltDeg },
			roomDeg: served ? marginDeg : null,
			frequencyGhz: served?.unit.frequencyGhz ?? null,
			planned: terminal,
			unitId: served?.unit.id ?? null
		};
	});
	return [...units, ...terminals];
}

/** Whether a hub is a link of two small radios: one unit of a kind that serves one terminal, and that terminal. */
export const isSmallLink = ({ units, terminals }: Pick<HubInput, 'units' | 'terminals'>): boolean =>
	units.length === 1 && terminals.length === 1 && itemAt(units, 0).part.mostTerminals === 1;

/** Whether a station can be set to a heading where it is put up: on a wall nothing pans. */
export const pans = ({ planned }: Station): boolean => planned.how !== 'wall';

/** Whether it steers its beam itself; one that does not has a window of half its beam to either side. */
export const steers = ({ part }: Pick<Station, 'part'>): boolean =>
	part.scan.azimuthDeg > part.beamwidthDeg / 2;

/** Whether its mounting tilts. */
export function tilts({ part, planned }: Station): boolean {
	const mounting = mountingOf(part, planned);
	return mounting !== undefined && mounting.highestTiltDeg > mounting.lowestTiltDeg;
}
