import type { MeasuredPattern } from '#core/antenna/measuredPattern';
import { END_DEFAULTS, HOP_DEFAULTS } from '#core/budget/planDefaults';
import type { PartIdentity } from '#core/catalogue/partIdentity';
import type { Catalogue, DishPart } from '#core/catalogue/parts';
import type { End } from '#core/ends';
import type { TerrainProfile } from '#core/path/samplePath';
import type { EndDraftValues, PlanDraftValues, SiteValues } from '$lib/plan/resolve';

/** Every number of a type stays text until it is sent, so that what was typed is never lost. */
type Typed<T> = {
	[K in keyof T]: string;
};

/** The end of a plan as typed; its measured pattern as JSON, or empty. */
export type EndForm = Typed<Omit<EndDraftValues, 'pattern'>> & { patternJson: string };

export interface ObstacleForm {
	name: string;
	kind: string;
	distanceKm: string;
	lengthM: string;
	heightM: string;
}

export interface LandmarkForm {
	name: string;
	latitudeDeg: string;
	longitudeDeg: string;
}

export interface HopForm {
	name: string;
	siteAId: string;
	siteBId: string;
	practice: boolean;
	/** Empty: none. */
	plantedFault: string;
	polarization: string;
	channelWidthMhz: string;
	operatingModulation: string;
	configuration: { kind: string; cancellerDb: string };
	/** The profile as JSON, or empty: thousands of numbers are no form fields. */
	profileJson: string;
	obstacles: ObstacleForm[];
	school: string;
	obstruction: string;
	requiredAvailabilityPercent: string;
	multipathMethod: string;
	eirpLimitDbm: string;
	publicExposureWM2: string;
	workerExposureWM2: string;
	wind: { operatingMS: string; survivalMS: string; mastSwayDeg: string };
	search: { compassSigmaDeg: string; levelSigmaDeg: string };
	landmarks: LandmarkForm[];
	acceptances: { key: string; text: string }[];
	kFactor: string;
	dryAirPressureHpa: string;
	temperatureC: string;
	waterVapourGM3: string;
	additionalLossDb: string;
	toleranceDb: string;
	firstToMove: string;
	workDate: string;
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

const text = (value: string | number | null): string => (value === null ? '' : String(value));

/** Every value of a flat object as text. */
function typed<T extends object>(values: T): Typed<T> {
	return Object.fromEntries(
		Object.entries(values).map(([key, value]) => [key, text(value as string | number | null)])
	) as Typed<T>;
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
		radioCode: radio?.code ?? '',
		dishCode: firstCode(
			parts.dishes,
			(dish: DishPart) => radio !== undefined && covers(dish, radio.rangeGhz[0])
		),
		mountCode: firstCode(parts.mounts, () => true),
		feederCode: firstCode(parts.feeders, ({ kind }: { kind: string }) => kind === 'direct'),
		feederLengthM: 0,
		bendEPlaneMm: 0,
		bendHPlaneMm: 0,
		antennaHeightAglM: 20,
		transmitFrequencyGhz: frequencyGhz,
		subBandUnit: subBand ? `${subBand.index}${end === 'A' ? 'L' : 'H'}` : '',
		transmitPowerDbm: power,
		alignmentPowerDbm: power,
		couplingCode: '',
		secondDishCode: '',
		secondDishOffsetM: END_DEFAULTS.secondDishOffsetM,
		secondRadioCode: '',
		secondTransmitFrequencyGhz: null,
		secondPowerDbm: END_DEFAULTS.secondPowerDbm,
		cableCode: firstCode(parts.cables, () => true),
		cableLengthM: 30,
		indoorUnitCode: '',
		powerSourceCode: '',
		mountSide: 'centred',
		landmark: '',
		siteNotes: '',
		pattern: null
	});
}

const endForm = ({ pattern, ...values }: EndDraftValues): EndForm => ({
	...typed(values),
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
		polarization: 'vertical',
		channelWidthMhz: text(
			radio?.channelWidthsMhz.find((width) => width >= 28) ?? radio?.channelWidthsMhz.at(-1) ?? null
		),
		operatingModulation: radio?.modulations.at(-1)?.name ?? '',
		configuration: typed(HOP_DEFAULTS.configuration),
		profileJson: '',
		obstacles: [],
		school: HOP_DEFAULTS.path.school,
		obstruction: HOP_DEFAULTS.path.obstruction,
		requiredAvailabilityPercent: text(HOP_DEFAULTS.requiredAvailabilityPercent),
		multipathMethod: HOP_DEFAULTS.multipathMethod,
		eirpLimitDbm: '',
		publicExposureWM2: text(HOP_DEFAULTS.publicExposureWM2),
		workerExposureWM2: text(HOP_DEFAULTS.workerExposureWM2),
		wind: typed(HOP_DEFAULTS.wind),
		search: typed(HOP_DEFAULTS.search),
		landmarks: [],
		acceptances: [],
		kFactor: '1.333',
		dryAirPressureHpa: '1013.25',
		temperatureC: '15',
		waterVapourGM3: '7.5',
		additionalLossDb: '0',
		toleranceDb: '2',
		firstToMove: 'A',
		workDate: today,
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
		polarization: plan.polarization,
		channelWidthMhz: text(plan.channelWidthMhz),
		operatingModulation: plan.operatingModulation,
		configuration: typed(plan.configuration),
		profileJson: plan.path.profile ? JSON.stringify(plan.path.profile) : '',
		obstacles: plan.path.obstacles.map((obstacle) => typed(obstacle)),
		school: plan.path.school,
		obstruction: plan.path.obstruction,
		requiredAvailabilityPercent: text(plan.requiredAvailabilityPercent),
		multipathMethod: plan.multipathMethod,
		eirpLimitDbm: text(plan.eirpLimitDbm),
		publicExposureWM2: text(plan.publicExposureWM2),
		workerExposureWM2: text(plan.workerExposureWM2),
		wind: typed(plan.wind),
		search: typed(plan.search),
		landmarks: plan.landmarks.map((landmark) => typed(landmark)),
		acceptances: Object.entries(plan.acceptances).map(([key, said]) => ({ key, text: said })),
		kFactor: text(Number(plan.kFactor.toFixed(4))),
		dryAirPressureHpa: text(plan.dryAirPressureHpa),
		temperatureC: text(plan.temperatureC),
		waterVapourGM3: text(plan.waterVapourGM3),
		additionalLossDb: text(plan.additionalLossDb),
		toleranceDb: text(plan.toleranceDb),
		firstToMove: plan.firstToMove,
		workDate: plan.workDate.slice(0, 10),
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

/** The input of the API, text as typed: the server converts and names every field that is wrong. */
export function hopInputOf(form: HopForm, version?: number): object {
	const {
		name,
		siteAId,
		siteBId,
		practice,
		plantedFault,
		profileJson,
		obstacles,
		school,
		obstruction,
		acceptances,
		eirpLimitDbm,
		ends,
		...plain
	} = form;
	const end = ({ patternJson, ...own }: EndForm): object => ({
		...own,
		pattern: patternOf(patternJson),
		secondTransmitFrequencyGhz: nullIfEmpty(own.secondTransmitFrequencyGhz)
	});
	const plan = {
		...plain,
		eirpLimitDbm: nullIfEmpty(eirpLimitDbm),
		path: { profile: profileOf(profileJson), obstacles, school, obstruction },
		acceptances: Object.fromEntries(acceptances.map(({ key, text: said }) => [key, said])),
		ends: { A: end(ends.A), B: end(ends.B) }
	};
	return {
		name,
		siteAId,
		siteBId,
		practice,
		plantedFault: practice ? nullIfEmpty(plantedFault) : null,
		plan,
		...(version ? { version } : {})
	};
}

/** The numeric fields of an end; all the rest stays text. */
const END_NUMBERS = [
	'feederLengthM',
	'bendEPlaneMm',
	'bendHPlaneMm',
	'antennaHeightAglM',
	'transmitFrequencyGhz',
	'transmitPowerDbm',
	'alignmentPowerDbm',
	'secondDishOffsetM',
	'secondPowerDbm',
	'cableLengthM'
] as const satisfies readonly (keyof EndDraftValues)[];

/** The draft with numbers, or undefined while a number is missing or is none. */
export function draftValuesOf(form: HopForm): PlanDraftValues | undefined {
	let sound = true;
	const number = (value: string): number => {
		const parsed = value.trim() === '' ? Number.NaN : Number(value);
		if (!Number.isFinite(parsed)) sound = false;
		return parsed;
	};
	const ifAny = (value: string): number | null => (value.trim() === '' ? null : number(value));
	const numbers = <K extends string>(
		keys: readonly K[],
		from: Record<K, string>
	): Record<K, number> =>
		Object.fromEntries(keys.map((key) => [key, number(from[key])])) as Record<K, number>;
	const end = ({ patternJson, ...own }: EndForm): EndDraftValues => ({
		...own,
		...numbers(END_NUMBERS, own),
		pattern: patternOf(patternJson),
		mountSide: own.mountSide as EndDraftValues['mountSide'],
		secondTransmitFrequencyGhz: ifAny(own.secondTransmitFrequencyGhz)
	});
	const values: PlanDraftValues = {
		polarization: form.polarization as PlanDraftValues['polarization'],
		channelWidthMhz: number(form.channelWidthMhz),
		operatingModulation: form.operatingModulation,
		configuration: {
			kind: form.configuration.kind as PlanDraftValues['configuration']['kind'],
			cancellerDb: number(form.configuration.cancellerDb)
		},
		path: {
			profile: profileOf(form.profileJson),
			obstacles: form.obstacles.map((obstacle) => ({
				name: obstacle.name,
				kind: obstacle.kind as 'trees' | 'building' | 'other',
				...numbers(['distanceKm', 'lengthM', 'heightM'], obstacle)
			})),
			school: form.school as 'p530' | 'practice',
			obstruction: form.obstruction as 'isolated' | 'extended'
		},
		requiredAvailabilityPercent: number(form.requiredAvailabilityPercent),
		multipathMethod: form.multipathMethod as 'quick' | 'detailed',
		eirpLimitDbm: ifAny(form.eirpLimitDbm),
		publicExposureWM2: number(form.publicExposureWM2),
		workerExposureWM2: number(form.workerExposureWM2),
		wind: numbers(['operatingMS', 'survivalMS', 'mastSwayDeg'], form.wind),
		search: numbers(['compassSigmaDeg', 'levelSigmaDeg'], form.search),
		landmarks: form.landmarks.map((landmark) => ({
			name: landmark.name,
			...numbers(['latitudeDeg', 'longitudeDeg'], landmark)
		})),
		acceptances: Object.fromEntries(form.acceptances.map(({ key, text: said }) => [key, said])),
		kFactor: number(form.kFactor),
		dryAirPressureHpa: number(form.dryAirPressureHpa),
		temperatureC: number(form.temperatureC),
		waterVapourGM3: number(form.waterVapourGM3),
		additionalLossDb: number(form.additionalLossDb),
		toleranceDb: number(form.toleranceDb),
		firstToMove: form.firstToMove as End,
		workDate: form.workDate,
		ends: { A: end(form.ends.A), B: end(form.ends.B) }
	};
	if (Number.isNaN(Date.parse(form.workDate))) sound = false;
	return sound ? values : undefined;
}
