import type { PowerSource } from '#core/safety/gear';
import { typedNumber } from '../align/numberInput';

/** What feeds a unit, as it is typed off its plate. */
export interface TypedSource {
	kind: PowerSource['kind'];
	volts: string;
	watts: string;
}

/** The source as typed; undefined while a number is missing or no such plate has it. */
export function sourceOf({ kind, volts, watts }: TypedSource): PowerSource | undefined {
	const voltageV = typedNumber(volts);
	const powerW = typedNumber(watts);
	if (voltageV === undefined || voltageV < 1 || voltageV > 100) return undefined;
	if (powerW === undefined || powerW < 1 || powerW > 5000) return undefined;
	return { kind, voltageV, powerW };
}
