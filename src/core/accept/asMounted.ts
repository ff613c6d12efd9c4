import { CAUSE_TABLE } from '../diagnose/causes/table';
import type { End } from '../ends';
import type { HopState } from '../record/hopState';
import { partsToLabel } from '../tower/labels';
import { recordNamesOf } from '../tower/recordNames';

/** A part that hangs or stands at an end, by the label that was read on it. */
export interface MountedPart {
	end: End;
	/** What the crew calls it, such as "Radio 2". */
	name: string;
	code: string;
	serial: string;
	/** Why it was changed for what hung there before; empty where it was not. */
	changed: string;
}

/** The parts of an end whose labels were read, as they are now: what was changed later counts. */
export function mountedParts(state: HopState, end: End): MountedPart[] {
	const { building, replaced } = state.ends[end];
	const called = new Map(partsToLabel(state.input, end).map((one) => [one.part, one.called]));
	const names = recordNamesOf(state);
	const keys = new Set([...Object.keys(building.labels), ...replaced.map(({ part }) => part)]);
	return [...keys].flatMap((key) => {
		const label = building.labels[key];
		const later = replaced.filter(({ part }) => part === key).at(-1);
		const now = later ?? label;
		if (!now) return [];
		const { code, serial } = now;
		return {
			end,
			name: called.get(key) ?? names.part(end, key) ?? key,
			code,
			serial,
			changed: later?.reason ?? ''
		};
	});
}

/** A fault that was found on the way, and set right. */
export interface MendedFault {
	end: End;
	name: string;
	/** ISO 8601. */
	at: string;
	by: string;
}

/** What was found wrong between the two ends and set right, in the order of the record. */
export function mendedFaults({ remedies }: HopState): MendedFault[] {
	return remedies.map(({ end, cause, at, by }) => ({ end, name: CAUSE_TABLE[cause].name, at, by }));
}
