import type { Catalogue, HubUnitPart, TerminalPart } from '../catalogue/parts';
import type { TerrainProfile } from '../path/samplePath';
import type { HubTyped, TypedTerminal } from './hubFields';
import type { HubInput, HubPlace } from './hubInput';

/** A terminal as it is kept: what is typed, and the ground on the way to it. */
export type TerminalDraft = TypedTerminal & { profile: TerrainProfile | null };

/** A hub as it is kept: part codes in place of parts. */
export interface HubDraft extends Omit<HubTyped, 'terminals'> {
	terminals: readonly TerminalDraft[];
}

export type ResolvedHub =
	{ kind: 'input'; input: HubInput } | { kind: 'unknown-parts'; fields: string[] };

/** A small radio that stands at one end of a link serves the one at the other end, with all its air time. */
const asUnit = (part: TerminalPart): HubUnitPart => ({
	...part,
	mostTerminals: 1,
	airTimePercent: 100
});

/** What a unit can be: a hub unit, or a small radio of a link. */
export const unitPartsOf = ({
	hubUnits,
	terminals
}: Pick<Catalogue, 'hubUnits' | 'terminals'>): readonly HubUnitPart[] => [
	...hubUnits,
	...terminals.map(asUnit)
];

/** Puts the parts of the catalogue in place of their codes. Used alike by page and server. */
export function resolveHub(draft: HubDraft, place: HubPlace, parts: Catalogue): ResolvedHub {
	const fields: string[] = [];
	const pick = <T extends { code: string }>(
		list: readonly T[],
		code: string,
		field: string
	): T[] => {
		const found = list.find((part) => part.code === code);
		if (!found) fields.push(field);
		return found ? [found] : [];
	};
	const units = draft.units.flatMap(({ partCode, ...unit }, i) =>
		pick(unitPartsOf(parts), partCode, `units.${i}.partCode`).map((part) => ({ ...unit, part }))
	);
	const terminals = draft.terminals.flatMap(({ partCode, unitId, ...terminal }, i) =>
		pick(parts.terminals, partCode, `terminals.${i}.partCode`).map((part) => ({
			...terminal,
			unitId: draft.units.some(({ id }) => id === unitId) ? unitId : null,
			part
		}))
	);
	if (fields.length > 0) return { kind: 'unknown-parts', fields };
	return { kind: 'input', input: { ...draft, place, units, terminals } };
}

/** Two of a list that have the same id or name, by the place of the second; −1 where none have. */
export function twiceNamed(list: readonly { id: string; name: string }[]): number {
	const seen = new Set<string>();
	return list.findIndex(({ id, name }) => {
		const words = [`id ${id}`, `name ${name.trim().toLowerCase()}`];
		const twice = words.some((word) => seen.has(word));
		words.forEach((word) => seen.add(word));
		return twice;
	});
}
