import type { PlanFinding } from '../finding/planFinding';
import type { RainOutage } from '../propagation/rainOutage';
import type { HubUnitInput, TerminalInput } from './hubInput';
import type { HubInterference } from './interference';
import type { LookAlong, SteeredMargin, TerminalPath } from './terminalLink';

/** Why a terminal is not served. */
export type NoService =
	| { code: 'no-window'; unitName: string | null; outsideDeg: number }
	| { code: 'terminal-window'; outsideDeg: number }
	| { code: 'blocked'; obstructionDb: number; missingDb: number }
	| { code: 'too-weak'; missingDb: number }
	| { code: 'full'; unitName: string }
	| { code: 'drowned'; byName: string | null };

/** One direction of a served terminal. */
export interface HubDirection {
	/** In clear air; each with the interference of the other units. */
	margins: SteeredMargin[];
	/** The modulation that keeps the reserve in clear air. */
	used: SteeredMargin;
	/** Rate of that modulation with the whole air time, Mbit/s. */
	rateMbitS: number;
	rain: RainOutage;
}

/** A terminal with the unit that serves it. */
export interface ServedTerminal {
	unit: HubUnitInput;
	path: TerminalPath;
	atUnit: LookAlong;
	down: HubDirection;
	up: HubDirection;
	interference: HubInterference;
	/** Air time that its promise takes, share of the whole. */
	airTime: number;
	/** Rain, percent of an average year: of the worse direction. */
	rain: RainOutage;
	/** Units whose window holds it too, by name. */
	others: string[];
	/** Whether the terminal can be set to the channel of its unit. */
	terminalChannelFits: boolean;
}

export interface TerminalPlan {
	terminal: TerminalInput;
	/** The path from the unit that serves it, or would be the nearest to. */
	path: TerminalPath;
	served: ServedTerminal | null;
	why: NoService | null;
}

export interface UnitPlan {
	unit: HubUnitInput;
	/** Terminals it serves, by their places in the plan. */
	terminals: number[];
	/** Smallest margin inside its window, degrees; null where it serves nothing. */
	marginDeg: number | null;
	/** Air time that all promises take together, and what there is, shares of the whole. */
	airTime: number;
	airTimeThere: number;
}

export interface HubPlan {
	units: UnitPlan[];
	terminals: TerminalPlan[];
	findings: PlanFinding[];
}
