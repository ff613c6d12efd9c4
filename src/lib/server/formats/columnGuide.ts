import Papa from 'papaparse';
import type { PlanField, PlanFields } from '#core/budget/fieldTable';
import { END_FIELDS, PATH_FIELDS, PLAN_FIELDS } from '#core/budget/planFields';
import { ENDS } from '#core/ends';
import { numberText } from '#core/units/text';
import type { Subject } from './importFile';
import { NEEDED_HOP_COLUMNS } from './hopTable';
import { NEEDED_SITE_COLUMNS, SITE_COLUMNS } from './siteTable';

/** One column of a file that is imported, for who makes one. */
export interface ColumnGuide {
	column: string;
	/** What it holds, with what it may be. */
	means: string;
	/** Whether a row is nothing without it. */
	needed: boolean;
	/** What stands in the example file. */
	example: string;
}

/** What the columns of the site table mean, and what the example has in them. */
const SITE_WORDS: Record<string, readonly [means: string, example: string]> = {
	name: ['Name of the site', 'North Skerry'],
	latitude_deg: ['Latitude in decimal degrees, north positive', '-46.21045'],
	longitude_deg: ['Longitude in decimal degrees, east positive', '-118.36112'],
	ground_amsl_m: ['Ground height above sea level, m', '142'],
	notes: ['Notes for the site sheet', 'Lattice mast of 30 m.'],
	broad_climate: ['Broad climate, where no values of the place are known', 'temperate-maritime'],
	rain_rate_001_mm_h: ['Rain rate exceeded for 0.01 % of the year, mm/h', '30'],
	gradient_dn1: ['Refractivity gradient not exceeded for 1 % of the year, N/km', '-190'],
	low_k: ['Effective-earth factor k exceeded for 99.9 % of the time', '0.7'],
	climate_source: ['Where the climate values come from', 'own gauges'],
	pipe_diameter_mm: ['Diameter of the mount pipe, mm', '114'],
	mast_height_m: ['Top of the mast or pipe above ground, m', '30'],
	pipe_lean_deg: ['Lean of the pipe off plumb, °', '0.2'],
	earth_point: ['Earth point', 'Bar at 24 m'],
	supply_v: ['Supply at the foot of the cable, V DC', '50'],
	indoor_place: ['Indoor place', 'Hut, rack 1'],
	access: ['Access', 'Track, closed by snow'],
	hazards: ['Hazards', 'Guys across the track'],
	grid_central_meridian_deg: ['Central meridian of the grid of the site’s drawings, °', '-118.5']
};

const siteGuide = (): ColumnGuide[] =>
	SITE_COLUMNS.map(([column]) => {
		const [means, example] = SITE_WORDS[column] ?? [column, ''];
		return { column, means, needed: NEEDED_SITE_COLUMNS.includes(column), example };
	});

/** What a field takes, in words. */
function takes(field: PlanField): string {
	switch (field.type) {
		case 'number':
			return `${numberText(field.from, digitsOf(field.from))} to ${numberText(field.to, digitsOf(field.to))}${field.orNone ? ', empty for none' : ''}`;
		case 'word':
			return field.words.join(' or ');
		case 'text':
			return field.most > 1 ? `at most ${field.most} characters` : '';
		case 'day':
			return 'YYYY-MM-DD';
		default:
			return 'JSON list';
	}
}
const digitsOf = (value: number): number => (Number.isInteger(value) ? 0 : 2);

/** The columns of a table of fields, groups by dotted path. */
function planColumns(fields: PlanFields, path: string, about = ''): ColumnGuide[] {
	return Object.entries(fields).flatMap(([key, field]): ColumnGuide[] => {
		const column = `${path}.${key}`;
		if (field.type === 'group') return planColumns(field.fields, column, about);
		const initial = 'initial' in field ? field.initial : undefined;
		const shown = 'example' in field && field.example !== undefined ? field.example : initial;
		return [
			{
				column,
				means: [`${field.label}${about}`, takes(field)].filter(Boolean).join('; '),
				needed: initial === undefined && field.type !== 'list',
				example: field.type === 'list' ? '[]' : String(shown ?? '')
			}
		];
	});
}

const HOP_WORDS: Record<string, readonly [means: string, example: string]> = {
	name: ['Name of the hop', 'North Skerry to South Head'],
	site_a: ['Name of the site at A, which is here already', 'North Skerry'],
	site_b: ['Name of the site at B, which is here already', 'South Head'],
	practice: ['Whether it is a practice hop; true or false', 'false']
};

const hopGuide = (): ColumnGuide[] => [
	...Object.entries(HOP_WORDS).map(([column, [means, example]]) => ({
		...{ column, means, example },
		needed: NEEDED_HOP_COLUMNS.includes(column)
	})),
	...planColumns(PLAN_FIELDS, 'plan'),
	...planColumns(PATH_FIELDS, 'plan.path'),
	...ENDS.flatMap((end) => planColumns(END_FIELDS, `plan.ends.${end}`, ` at ${end}`))
];

/** Every column that an import knows, in the order of an export. */
export const columnGuide = (subject: Subject): ColumnGuide[] =>
	subject === 'sites' ? siteGuide() : hopGuide();

/** A CSV file of one made-up row, to be filled in. */
export function exampleCsv(subject: Subject): string {
	const guide = columnGuide(subject);
	const row = Object.fromEntries(guide.map(({ column, example }) => [column, example]));
	return `${Papa.unparse([row], { newline: '\r\n' })}\r\n`;
}
