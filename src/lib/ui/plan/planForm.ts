import type { MeasuredPattern } from '#core/antenna/measuredPattern';
import { bodyOf, typedOf, valuesOf, type TypedOf } from '#core/budget/fieldTable';
import {
	END_FIELDS,
	END_INITIAL,
	PATH_FIELDS,
	PATH_INITIAL,
	PLAN_FIELDS,
	PLAN_INITIAL
} from '#core/budget/planFields';
import type { EndFieldValues, PathFieldValues, PlanFieldValues } from '#core/budget/planInput';
import type { PartIdentity } from '#core/catalogue/partIdentity';
import type { CablePart, Catalogue, DishPart } from '#core/catalogue/parts';
import type { End } from '#core/ends';
import type { TerrainProfile } from '#core/path/samplePath';
import type { EndDraftValues, PlanDraftValues, SiteValues } from '$lib/plan/resolve';

/** The end of a plan as typed; its measured pattern as JSON, or empty. */
export interface EndForm extends TypedOf<EndFieldValues> {
	patternJson: string;
}

export type ObstacleForm = TypedOf<PathFieldValues>['obstacles'][number];

/** A hop as it is typed: the tables of fields, and what is no field of text. */
export interface HopForm extends TypedOf<PlanFieldValues>, TypedOf<PathFieldValues> {
	name: string;
	siteAId: string;
	siteBId: string;
	practice: boolean;
	/** Empty: none. */
	plantedFault: string;
	/** The profile as JSON, or empty: thousands of numbers are no form fields. */
	profileJson: string;
	acceptances: { key: string; text: string }[];
	ends: Record<End, EndForm>;
}

export interface PickedSite extends SiteValues {
	id: string;
}

export interface SavedHop {
	id: string;
	name: string;
	sites: Record<End, PickedSite>;
	plan: PlanDraftValues;
	practice: boolean;
	plantedFault?: string | null;
	version: number;
}

/** The first part in use of a list; no code where there is none. */
const firstCode = (list: readonly PartIdentity[], fits: (part: never) => boolean): string =>
	list.find((part) => !part.retired && fits(part as never))?.code ?? '';

/** An end of a new plan with parts that go together, as far as the catalogue has them. */
function emptyEnd(parts: Catalogue, end: End): EndForm {
	const covers = (dish: DishPart, frequencyGhz: number): boolean =>
		dish.bands.some((band) => band.fromGhz <= frequencyGhz && band.toGhz >= frequencyGhz);
	const radio = parts.radios.find(
		({ retired, rangeGhz }) =>
			!retired && parts.dishes.some((dish) => !dish.retired && covers(dish, rangeGhz[0]))
	);
	const subBand = radio?.subBands[0];
	const half = end === 'A' ? subBand?.lowGhz : subBand?.highGhz;
	const frequencyGhz = half ? Number(((half[0] + half[1]) / 2).toFixed(4)) : 0;
	const power = radio?.modulations.at(-1)?.maxPowerDbm ?? 0;
	return endForm({
		...END_INITIAL,
		radioCode: radio?.code ?? '',
		dishCode: firstCode(
			parts.dishes,
			(dish: DishPart) => radio !== undefined && covers(dish, radio.rangeGhz[0])
		),
		mountCode: firstCode(parts.mounts, () => true),
		feederCode: firstCode(parts.feeders, ({ kind }: { kind: string }) => kind === 'direct'),
		feederLengthM: 0,
		antennaHeightAglM: 20,
		transmitFrequencyGhz: frequencyGhz,
		subBandUnit: subBand ? `${subBand.index}${end === 'A' ? 'L' : 'H'}` : '',
		transmitPowerDbm: power,
		alignmentPowerDbm: power,
		// A radio with its modem indoors takes a coaxial cable, and no other does.
		cableCode: firstCode(
			parts.cables,
			({ coaxial }: CablePart) => Boolean(coaxial) === Boolean(radio?.intermediate)
		),
		cableLengthM: 30,
		pattern: null
	});
}

const endForm = ({ pattern, ...values }: EndDraftValues): EndForm => ({
	...typedOf<EndFieldValues>(END_FIELDS, values),
	patternJson: pattern ? JSON.stringify(pattern) : ''
});

/** A new plan: nothing of the place, a sound middle for the rest. */
export function emptyHopForm(today: string, parts: Catalogue): HopForm {
	const ends = { A: emptyEnd(parts, 'A'), B: emptyEnd(parts, 'B') };
	const radio = parts.radios.find(({ code }) => code === ends.A.radioCode);
	return {
		name: '',
		siteAId: '',
		siteBId: '',
		practice: false,
		plantedFault: '',
		...typedOf<PlanFieldValues>(PLAN_FIELDS, {
			...PLAN_INITIAL,
			polarization: 'vertical',
			channelWidthMhz:
				radio?.channelWidthsMhz.find((width) => width >= 28) ?? radio?.channelWidthsMhz.at(-1) ?? 0,
			operatingModulation: radio?.modulations.at(-1)?.name ?? '',
			workDate: today
		}),
		...(radio ? {} : { channelWidthMhz: '' }),
		...typedOf<PathFieldValues>(PATH_FIELDS, PATH_INITIAL),
		profileJson: '',
		acceptances: [],
		ends
	};
}

export function hopFormOf(hop: SavedHop): HopForm {
	const { plan } = hop;
	return {
		name: hop.name,
		siteAId: hop.sites.A.id,
		siteBId: hop.sites.B.id,
		practice: hop.practice,
		plantedFault: hop.plantedFault ?? '',
		...typedOf<PlanFieldValues>(PLAN_FIELDS, plan),
		...typedOf<PathFieldValues>(PATH_FIELDS, plan.path),
		profileJson: plan.path.profile ? JSON.stringify(plan.path.profile) : '',
		acceptances: Object.entries(plan.acceptances).map(([key, said]) => ({ key, text: said })),
		ends: { A: endForm(plan.ends.A), B: endForm(plan.ends.B) }
	};
}

/** What a field keeps as JSON; null where it is empty, or a kept draft was damaged. */
function keptJson(text: string): unknown {
	try {
		return text ? (JSON.parse(text) as unknown) : null;
	} catch {
		return null;
	}
}

/** The profile of a form. */
export function profileOf(profileJson: string): TerrainProfile | null {
	return keptJson(profileJson) as TerrainProfile | null;
}

/** The measured pattern of a form. */
export function patternOf(patternJson: string): MeasuredPattern | null {
	return keptJson(patternJson) as MeasuredPattern | null;
}

const nullIfEmpty = (value: string): string | null => (value.trim() === '' ? null : value);

const acceptancesOf = ({ acceptances }: HopForm): Record<string, string> =>
	Object.fromEntries(acceptances.map(({ key, text }) => [key, text]));

/** The input of the API, text as typed: the server converts and names every field that is wrong. */
export function hopInputOf(form: HopForm, version?: number): object {
	const { name, siteAId, siteBId, practice, plantedFault, ends } = form;
	const end = (own: EndForm): object => ({
		...bodyOf(END_FIELDS, own),
		pattern: patternOf(own.patternJson)
	});
	return {
		name,
		siteAId,
		siteBId,
		practice,
		plantedFault: practice ? nullIfEmpty(plantedFault) : null,
		plan: {
			...bodyOf(PLAN_FIELDS, form),
			path: { profile: profileOf(form.profileJson), ...bodyOf(PATH_FIELDS, form) },
			acceptances: acceptancesOf(form),
			ends: { A: end(ends.A), B: end(ends.B) }
		},
		...(version ? { version } : {})
	};
}

/** The draft with numbers, or undefined while a number or the day is missing or is none. */
export function draftValuesOf(form: HopForm): PlanDraftValues | undefined {
	const plan = valuesOf<PlanFieldValues>(PLAN_FIELDS, form);
	const path = valuesOf<PathFieldValues>(PATH_FIELDS, form);
	const [A, B] = [
		valuesOf<EndFieldValues>(END_FIELDS, form.ends.A),
		valuesOf<EndFieldValues>(END_FIELDS, form.ends.B)
	];
	if (!plan || !path || !A || !B) return undefined;
	return {
		...plan,
		path: { profile: profileOf(form.profileJson), ...path },
		acceptances: acceptancesOf(form),
		ends: {
			A: { ...A, pattern: patternOf(form.ends.A.patternJson) },
			B: { ...B, pattern: patternOf(form.ends.B.patternJson) }
		}
	};
}
