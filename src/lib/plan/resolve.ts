import type { MeasuredPattern } from '#core/antenna/measuredPattern';
import { withPattern } from '#core/catalogue/withPattern';
import { climateOf, combineClimates, type ClimateChoice } from '#core/budget/climate';
import { pickedBy } from '#core/budget/fieldTable';
import { HOP_FIELDS } from '#core/budget/planFields';
import type {
	EndFieldValues,
	HopPlanInput,
	PathInput,
	PlanFieldValues,
	SiteConditions
} from '#core/budget/planInput';
import type { Catalogue, DishPart } from '#core/catalogue/parts';
import { ENDS, type End } from '#core/ends';

/** The draft of one end as typed: part codes instead of parts, empty where none is chosen. */
export interface EndDraftValues extends EndFieldValues {
	/** Measured pattern of this end's own dish, in place of the catalogue's values. */
	pattern: MeasuredPattern | null;
}

export interface PlanDraftValues extends PlanFieldValues {
	path: PathInput;
	/** Warnings accepted in writing, by `code field`. */
	acceptances: Record<string, string>;
	ends: Record<End, EndDraftValues>;
}

export interface SiteValues {
	name: string;
	latitudeDeg: number;
	longitudeDeg: number;
	groundAmslM: number;
	climate: ClimateChoice;
	conditions: SiteConditions;
}

export type ResolvedPlan =
	{ kind: 'input'; input: HopPlanInput } | { kind: 'unknown-parts'; fields: string[] };

/** Puts the parts of the catalogue in place of their codes. Used alike by page and server. */
export function resolvePlanInput(
	hopName: string,
	draft: PlanDraftValues,
	sites: Record<End, SiteValues>,
	parts: Catalogue
): ResolvedPlan {
	const fields: string[] = [];
	const pick = <T extends { code: string }>(list: readonly T[], code: string, field: string): T => {
		const found = list.find((part) => part.code === code);
		if (!found) fields.push(field);
		// Never used where it is missing: the answer is then which fields are to be chosen.
		return (found ?? list[0])!;
	};
	/** A part that may be absent: empty code, no part. */
	const pickIfAny = <T extends { code: string }>(
		list: readonly T[],
		code: string,
		field: string
	): T | null => (code === '' ? null : pick(list, code, field));
	const end = (name: End): HopPlanInput['ends'][End] => {
		const {
			radioCode,
			dishCode,
			mountCode,
			feederCode,
			couplingCode,
			secondDishCode,
			secondRadioCode,
			cableCode,
			indoorUnitCode,
			powerSourceCode,
			pattern,
			...typed
		} = draft.ends[name];
		const site = sites[name];
		const at = (field: string): string => `ends.${name}.${field}`;
		const secondDish = pickIfAny(parts.dishes, secondDishCode, at('secondDishCode'));
		return {
			...typed,
			siteName: site.name,
			position: { latitudeDeg: site.latitudeDeg, longitudeDeg: site.longitudeDeg },
			groundAmslM: site.groundAmslM,
			conditions: site.conditions,
			radio: pick(parts.radios, radioCode, at('radioCode')),
			dish: dishOf(pick(parts.dishes, dishCode, at('dishCode')), pattern, draft.polarization),
			mount: pick(parts.mounts, mountCode, at('mountCode')),
			feeder: pick(parts.feeders, feederCode, at('feederCode')),
			coupling: pickIfAny(parts.couplings, couplingCode, at('couplingCode')),
			secondDish: secondDish && dishOf(secondDish, null, draft.polarization),
			secondRadio: pickIfAny(parts.radios, secondRadioCode, at('secondRadioCode')),
			cable: pickIfAny(parts.cables, cableCode, at('cableCode')),
			indoorUnit: pickIfAny(parts.indoorUnits, indoorUnitCode, at('indoorUnitCode')),
			powerSource: pickIfAny(parts.powerSources, powerSourceCode, at('powerSourceCode')),
			polarization: draft.polarization
		};
	};
	const [A, B] = ENDS.map(end) as [HopPlanInput['ends'][End], HopPlanInput['ends'][End]];
	if (fields.length) return { kind: 'unknown-parts', fields };
	return {
		kind: 'input',
		input: {
			hopName,
			ends: { A, B },
			...pickedBy(HOP_FIELDS, draft),
			path: draft.path,
			climate: combineClimates(climateOf(sites.A.climate), climateOf(sites.B.climate)),
			air: {
				dryAirPressureHpa: draft.dryAirPressureHpa,
				temperatureK: draft.temperatureC + 273.15,
				waterVapourGM3: draft.waterVapourGM3
			},
			workDate: new Date(draft.workDate)
		}
	};
}

/** A dish with its measured pattern, of the very dish or of its type; nothing where none was found. */
function dishOf(
	dish: DishPart,
	pattern: MeasuredPattern | null,
	polarization: PlanDraftValues['polarization']
): DishPart {
	return (dish as DishPart | undefined)
		? withPattern(dish, pattern ?? dish.pattern ?? null, polarization)
		: dish;
}
