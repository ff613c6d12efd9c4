import { END_FIELDS, PATH_FIELDS, PLAN_FIELDS } from '../budget/planFields';
import type { PlanField, PlanFields } from '../budget/fieldTable';
import type {
	ClimateInput,
	EndPlanInput,
	EndTypedValues,
	HopFieldValues,
	HopPlanInput,
	PathFieldValues,
	PathInput,
	SiteConditions
} from '../budget/planInput';
import { ENDS } from '../ends';

type Words<Key extends PropertyKey> = Readonly<Record<Key, string>>;

/** What a plan holds beside the fields that a planner types of it, in words. */
const END_PARTS: Words<Exclude<keyof EndPlanInput, keyof EndTypedValues | 'conditions'>> = {
	siteName: 'Name of the site',
	position: 'Position',
	groundAmslM: 'Ground above sea level',
	radio: 'Radio',
	dish: 'Dish',
	mount: 'Mount',
	feeder: 'Feeder',
	polarization: 'Polarization',
	coupling: 'Coupling',
	secondDish: 'Second dish',
	secondRadio: 'Second radio',
	cable: 'Supply cable',
	indoorUnit: 'IDU',
	powerSource: 'Power source'
};
const CONDITIONS: Words<keyof SiteConditions> = {
	pipeDiameterMm: 'Pipe diameter',
	mastHeightM: 'Top of the mast',
	pipeLeanDeg: 'Lean of the pipe',
	earthPoint: 'Earth point',
	supplyV: 'Supply of the site',
	indoorPlace: 'Indoor place',
	access: 'Access',
	hazards: 'Hazards',
	gridCentralMeridianDeg: 'Central meridian of the grid'
};
const CLIMATE: Words<keyof ClimateInput> = {
	kind: 'Climate',
	rainRate001MmH: 'Rain rate for 0.01 %',
	rainRateSource: 'Source of the rain rate',
	gradientDn1: 'Refractivity gradient for 1 %',
	gradientSource: 'Source of the gradient',
	lowK: 'Effective k for 99.9 %',
	lowKSource: 'Source of the effective k',
	isDefault: 'Climate values are of a broad climate'
};
const HOP: Words<
	| Exclude<keyof HopPlanInput, keyof HopFieldValues | 'ends' | 'path' | 'climate' | 'air'>
	| keyof HopPlanInput['air']
	| Exclude<keyof PathInput, keyof PathFieldValues>
> = {
	hopName: 'Name of the hop',
	workDate: 'Day of the work',
	dryAirPressureHpa: 'Air pressure',
	temperatureK: 'Temperature',
	waterVapourGM3: 'Water vapour',
	profile: 'Terrain profile'
};
const PLACE: Words<'latitudeDeg' | 'longitudeDeg'> = {
	latitudeDeg: 'Latitude',
	longitudeDeg: 'Longitude'
};
const PROFILE: Words<'source' | 'from' | 'to' | 'distancesM' | 'groundsAmslM'> = {
	source: 'source',
	from: 'from',
	to: 'to',
	distancesM: 'distances',
	groundsAmslM: 'ground'
};

/** Unit by the end of a name; the longer end comes first. */
const UNITS: readonly (readonly [RegExp, string])[] = [
	[/MmH$/, 'mm/h'],
	[/GM3$/, 'g/m³'],
	[/WM2$/, 'W/m²'],
	[/Dn1$/, 'N/km'],
	[/Dbm$/, 'dBm'],
	[/Db$/, 'dB'],
	[/Ghz$/, 'GHz'],
	[/Mhz$/, 'MHz'],
	[/Hpa$/, 'hPa'],
	[/Percent$/, '%'],
	[/Deg$/, '°'],
	[/Km$/, 'km'],
	[/Mm$/, 'mm'],
	[/MS$/, 'm/s'],
	[/[a-z]M$/, 'm'],
	[/[a-z]V$/, 'V'],
	[/[a-z]K$/, 'K']
];

function labelIn(fields: PlanFields, keys: readonly string[]): string | undefined {
	const [key = '', ...rest] = keys;
	const field: PlanField | undefined = Object.hasOwn(fields, key) ? fields[key] : undefined;
	if (!field) return undefined;
	return field.type === 'group' && rest.length > 0 ? labelIn(field.fields, rest) : field.label;
}

function wordOf(words: Readonly<Record<string, string>>, key: string): string | undefined {
	return Object.hasOwn(words, key) ? words[key] : undefined;
}

function label(keys: readonly string[]): string | undefined {
	const [first = '', second = '', third = ''] = keys;
	if (first === 'ends' && ENDS.some((end) => end === second)) {
		const own =
			third === 'conditions'
				? wordOf(CONDITIONS, keys[3] ?? '')
				: third === 'position'
					? wordOf(PLACE, keys[3] ?? '')
					: (labelIn(END_FIELDS, keys.slice(2)) ?? wordOf(END_PARTS, third));
		return own && `${second}: ${own}`;
	}
	if (first === 'climate') return wordOf(CLIMATE, second);
	if (first === 'air') return wordOf(HOP, second);
	if (first === 'path' && second === 'profile' && third) {
		const part = wordOf(PROFILE, third);
		return part && `${HOP.profile}, ${part}`;
	}
	if (first === 'path') return labelIn(PATH_FIELDS, keys.slice(1)) ?? wordOf(HOP, second);
	return labelIn(PLAN_FIELDS, keys) ?? wordOf(HOP, first);
}

/**
 * A value of a plan's input in words with its unit, such as "A: Antenna height, m" for
 * `ends.A.antennaHeightAglM`; the path itself where the plan names none.
 */
export function fieldWords(path: string): string {
	const keys = path.split('.');
	const words = label(keys);
	if (!words) return path;
	const unit = UNITS.find(([ending]) => ending.test(keys.at(-1) ?? ''))?.[1];
	return unit ? `${words}, ${unit}` : words;
}
