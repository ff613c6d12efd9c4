import Papa from 'papaparse';
import type { HubDraft, TerminalDraft } from '#core/hub/hubDraft';
import { MOST_TERMINALS } from '#core/hub/hubInput';
import { invalid } from '../errors';
import { hubPlanSchema, terminalSchema } from '../schemas/hubs';
import { validate } from '../schemas/joi';
import { flatten, unflatten, type Flat } from './dotted';
import { FORMULA, unmarked } from './importFile';

export const HUB_FORMATS = ['csv', 'geojson', 'json'] as const;
export type HubFormat = (typeof HUB_FORMATS)[number];

/** A hub as it goes out, with its site by name and place. */
export interface OpenHub {
	name: string;
	site: { name: string; latitudeDeg: number; longitudeDeg: number; groundAmslM: number };
	plan: HubDraft;
}

/** What a file says: a whole hub, or terminals alone. */
export interface ReadHub {
	/** Null where the file holds terminals only. */
	plan: Omit<HubDraft, 'terminals'> | null;
	terminals: TerminalDraft[];
}

/** Columns of the table of terminals and the fields they hold, in order. */
const TERMINAL_COLUMNS: readonly (readonly [string, string])[] = [
	['name', 'name'],
	['latitude_deg', 'latitudeDeg'],
	['longitude_deg', 'longitudeDeg'],
	['ground_amsl_m', 'groundAmslM'],
	['height_agl_m', 'heightAglM'],
	['part_code', 'partCode'],
	['mounted_on', 'how'],
	['wall_bearing_deg', 'wallBearingDeg'],
	['pole_mm', 'poleMm'],
	['down_mbit_s', 'downMbitS'],
	['up_mbit_s', 'upMbitS'],
	['served_by', 'unitId'],
	['id', 'id'],
	['obstacles', 'obstacles'],
	['profile', 'profile']
];
const WHOLE_CELLS = ['obstacles', 'profile'];
const NULLABLE = ['wallBearingDeg', 'poleMm'];

/** The terminals of a hub as a table: nothing of them is left out. */
export function terminalTable({ plan }: OpenHub): string {
	const rows = plan.terminals.map((terminal) => {
		const flat = flatten(terminal, WHOLE_CELLS);
		return Object.fromEntries(TERMINAL_COLUMNS.map(([column, key]) => [column, flat[key] ?? '']));
	});
	const columns = TERMINAL_COLUMNS.map(([column]) => column);
	return Papa.unparse(rows, { columns, newline: '\r\n', escapeFormulae: FORMULA });
}

/** Hub and terminals as points; the hub's own holds all that is planned of it. */
export function hubFeatures({ name, site, plan }: OpenHub): string {
	const { terminals, ...own } = plan;
	const point = (at: { latitudeDeg: number; longitudeDeg: number }): object => ({
		type: 'Point',
		coordinates: [at.longitudeDeg, at.latitudeDeg]
	});
	const hub = {
		type: 'Feature',
		geometry: point(site),
		properties: { is: 'hub', name, site: site.name, ...own }
	};
	const points = terminals.map(({ latitudeDeg, longitudeDeg, ...terminal }) => ({
		type: 'Feature',
		geometry: point({ latitudeDeg, longitudeDeg }),
		properties: { is: 'terminal', ...terminal }
	}));
	return `${JSON.stringify({ type: 'FeatureCollection', features: [hub, ...points] }, null, '\t')}\n`;
}

/** A hub whole. */
export const hubDocument = (hub: OpenHub): string =>
	`${JSON.stringify({ format: 'skiaxis-hub', ...hub }, null, '\t')}\n`;

/** What a file holds of a hub; a file that is none, or a wrong row, is refused by line and column. */
export function readHubFile(format: HubFormat, text: string): ReadHub {
	try {
		switch (format) {
			case 'csv':
				return { plan: null, terminals: checkedTerminals(tableRows(text)) };
			case 'geojson':
				return readFeatures(JSON.parse(text));
			case 'json':
				return readDocument(JSON.parse(text));
		}
	} catch (error) {
		if (!(error instanceof SyntaxError)) throw error;
		throw invalid([{ field: 'text', message: `This is no ${format.toUpperCase()} file.` }]);
	}
}

type Loose = Record<string, unknown>;
const isObject = (value: unknown): value is Loose =>
	typeof value === 'object' && value !== null && !Array.isArray(value);

function tableRows(text: string): Loose[] {
	const { data } = Papa.parse<Flat>(text, { header: true, skipEmptyLines: 'greedy' });
	const fieldOf = new Map(TERMINAL_COLUMNS);
	return data.map((row) => {
		const flat: Flat = {};
		for (const [column, cell] of Object.entries(row)) {
			const field = fieldOf.get(column.trim().toLowerCase());
			const empty = cell === '' && !NULLABLE.includes(field ?? '');
			// A cell left empty takes what is taken where nothing is said.
			if (field && typeof cell === 'string' && !empty) flat[field] = unmarked(cell);
		}
		return unflatten(flat, WHOLE_CELLS, NULLABLE);
	});
}

function checkedTerminals(values: readonly Loose[]): TerminalDraft[] {
	if (values.length > MOST_TERMINALS) {
		const message = `A hub has ${MOST_TERMINALS} terminals at most; the file has ${values.length}.`;
		throw invalid([{ field: 'text', message }]);
	}
	return values.map(checkedTerminal);
}

/** A terminal of a file; a new one has no id yet, and the program gives it one. */
function checkedTerminal(value: Loose, i: number): TerminalDraft {
	try {
		return validate<TerminalDraft>(terminalSchema, { id: `row-${i + 1}`, ...value });
	} catch (error) {
		throw inRow(error, i);
	}
}

/** The same refusal, said of a row. */
function inRow(error: unknown, i: number): unknown {
	const { fields } = error as { fields?: readonly { field: string; message: string }[] };
	if (!fields) return error;
	const [first] = fields;
	const column = TERMINAL_COLUMNS.find(([, key]) => key === first?.field)?.[0] ?? first?.field;
	const message = `Terminal ${i + 1} of the file, ${column}: ${first?.message ?? 'cannot be read'}.`;
	return invalid([{ field: 'text', message }]);
}

function readFeatures(document: unknown): ReadHub {
	if (!isObject(document) || !Array.isArray(document.features)) {
		throw invalid([{ field: 'text', message: 'A GeoJSON file has features; this one has none.' }]);
	}
	const features = (document.features as unknown[]).flatMap((feature) => {
		if (!isObject(feature) || !isObject(feature.geometry)) return [];
		const { type, coordinates } = feature.geometry;
		if (type !== 'Point' || !Array.isArray(coordinates)) return [];
		const [longitudeDeg, latitudeDeg] = coordinates as unknown[];
		const properties = isObject(feature.properties) ? feature.properties : {};
		const { is, ...own } = properties;
		return [{ is, own, at: { latitudeDeg, longitudeDeg } }];
	});
	const hub = features.find(({ is }) => is === 'hub');
	const terminals = checkedTerminals(
		features.filter(({ is }) => is !== 'hub').map(({ own, at }) => ({ ...own, ...at }))
	);
	return { plan: hub ? planOf(hub.own) : null, terminals };
}

function readDocument(document: unknown): ReadHub {
	if (!isObject(document) || document.format !== 'skiaxis-hub' || !isObject(document.plan)) {
		const message = 'The document must say "format": "skiaxis-hub".';
		throw invalid([{ field: 'text', message }]);
	}
	const { terminals, ...own } = document.plan;
	const list = Array.isArray(terminals) ? (terminals as unknown[]) : [];
	return {
		plan: planOf(own),
		terminals: checkedTerminals(list.map((one) => (isObject(one) ? one : {})))
	};
}

/** What is planned of the hub itself, checked as if it were sent. */
function planOf({ name, site, ...own }: Loose): Omit<HubDraft, 'terminals'> {
	if (name !== undefined && typeof name !== 'string') {
		throw invalid([{ field: 'text', message: `The hub at ${String(site)} has no name.` }]);
	}
	return validate<Omit<HubDraft, 'terminals'>>(hubPlanSchema, own);
}
