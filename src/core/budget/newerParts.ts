import type { EndPlanInput, HopPlanInput } from './planInput';
import { ENDS, type End } from '../ends';
import { PART_KINDS, type PartKind } from '../catalogue/partKinds';
import type { Catalogue } from '../catalogue/parts';
import type { PartIdentity } from '../catalogue/partIdentity';

/** A part of an issued plan that the catalogue has in a newer version, or no longer in use. */
export interface NewerPart {
	end: End;
	kind: PartKind;
	code: string;
	/** As the plan has it; null in plans older than versions. */
	frozenVersion: number | null;
	/** As the catalogue has it now. */
	version: number;
	retired: boolean;
}

const PLACES: readonly [keyof EndPlanInput, PartKind][] = [
	['radio', 'radio'],
	['secondRadio', 'radio'],
	['dish', 'dish'],
	['secondDish', 'dish'],
	['mount', 'mount'],
	['coupling', 'coupling'],
	['feeder', 'feeder'],
	['cable', 'cable'],
	['indoorUnit', 'indoor-unit'],
	['powerSource', 'power-source']
];

/** Parts of a plan that have changed in the catalogue since the plan froze them. */
export function newerParts(input: HopPlanInput, parts: Catalogue): NewerPart[] {
	return ENDS.flatMap((end) =>
		PLACES.flatMap(([place, kind]): NewerPart[] => {
			const frozen = input.ends[end][place] as PartIdentity | null | undefined;
			const now = frozen && partOfCode(parts, kind, frozen.code);
			if (!frozen || !now) return [];
			const version = now.version ?? 1;
			const newer = version > (frozen.version ?? 1);
			if (!newer && !now.retired) return [];
			return [
				{
					end,
					kind,
					code: frozen.code,
					frozenVersion: frozen.version ?? null,
					version,
					retired: now.retired === true
				}
			];
		})
	);
}

function partOfCode(parts: Catalogue, kind: PartKind, code: string): PartIdentity | undefined {
	return (parts[PART_KINDS[kind].list] as readonly PartIdentity[]).find(
		(part) => part.code === code
	);
}
