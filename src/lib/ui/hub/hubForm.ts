import { bodyOf, typedOf, valuesOf, type TypedOf } from '#core/budget/fieldTable';
import type { Catalogue } from '#core/catalogue/parts';
import { typedCoordinate } from '#core/geodesy/typedCoordinate';
import type { HubDraft, TerminalDraft } from '#core/hub/hubDraft';
import { HUB_FIELDS, HUB_INITIAL, type HubTyped } from '#core/hub/hubFields';
import type { TerrainProfile } from '#core/path/samplePath';
import type { PickedSite } from '../plan/planForm';

/** A hub as it is kept. */
export interface SavedHub {
	id: string;
	name: string;
	site: PickedSite;
	plan: HubDraft;
	version: number;
}

type TypedHub = TypedOf<HubTyped>;
export type UnitForm = TypedHub['units'][number];
/** A terminal as typed; its ground as JSON, or empty. */
export type TerminalForm = TypedHub['terminals'][number] & { profileJson: string };

/** A hub as it is typed. */
export interface HubForm extends Omit<TypedHub, 'terminals'> {
	name: string;
	siteId: string;
	terminals: TerminalForm[];
}

/** The parts a hub may be made of. */
export type HubParts = Pick<Catalogue, 'hubUnits' | 'terminals'>;

export function hubFormOf({ name, site, plan }: SavedHub): HubForm {
	const typed = typedOf<HubTyped>(HUB_FIELDS, plan);
	return {
		...typed,
		name,
		siteId: site.id,
		terminals: typed.terminals.map((terminal, i) => {
			const profile = plan.terminals[i]?.profile;
			return { ...terminal, profileJson: profile ? JSON.stringify(profile) : '' };
		})
	};
}

/** A new hub: one unit as the parts have it, no terminal yet. */
export function emptyHubForm(parts: HubParts): HubForm {
	const unit = parts.hubUnits.find(({ retired }) => !retired);
	return {
		...hubFormOf({
			id: '',
			name: '',
			site: { id: '' } as PickedSite,
			plan: { ...HUB_INITIAL, channelWidthMhz: unit?.channelWidthsMhz[0] ?? 0, terminals: [] },
			version: 0
		}),
		units: unit ? [newUnit(parts, [], '0')] : []
	};
}

const nameFor = (word: string, taken: readonly { name: string }[]): string => {
	for (let i = 1; ; i++) {
		if (!taken.some(({ name }) => name === `${word} ${i}`)) return `${word} ${i}`;
	}
};

/** One more unit, like those that are there. */
export function newUnit(parts: HubParts, units: readonly UnitForm[], headingDeg: string): UnitForm {
	const last = units.at(-1);
	const part = parts.hubUnits.find(({ retired, code }) =>
		last ? code === last.partCode : !retired
	);
	const [low, high] = part?.rangeGhz ?? [0, 0];
	return {
		id: crypto.randomUUID(),
		name: nameFor('Sector', units),
		partCode: part?.code ?? '',
		how: last?.how ?? part?.mountings[0]?.how ?? 'pole',
		wallBearingDeg: '',
		poleMm: last?.poleMm ?? '',
		heightAglM: last?.heightAglM ?? '10',
		frequencyGhz: last?.frequencyGhz ?? String(Number(((low + high) / 2).toFixed(2))),
		headingDeg,
		tiltDeg: '0'
	};
}

/** One more terminal at a place, like those that are there. */
export function newTerminal(
	parts: HubParts,
	terminals: readonly TerminalForm[],
	place: { latitudeDeg: number; longitudeDeg: number; groundAmslM: number }
): TerminalForm {
	const last = terminals.at(-1);
	const band = parts.hubUnits[0]?.rangeGhz ?? [0, Number.POSITIVE_INFINITY];
	const part = parts.terminals.find(({ retired, code, rangeGhz }) =>
		last ? code === last.partCode : !retired && rangeGhz[1] > band[0] && rangeGhz[0] < band[1]
	);
	return {
		id: crypto.randomUUID(),
		name: nameFor('Terminal', terminals),
		latitudeDeg: place.latitudeDeg.toFixed(6),
		longitudeDeg: place.longitudeDeg.toFixed(6),
		groundAmslM: String(place.groundAmslM),
		heightAglM: last?.heightAglM ?? '6',
		partCode: part?.code ?? '',
		how: part?.mountings[0]?.how ?? 'pole',
		wallBearingDeg: '',
		poleMm: '',
		unitId: '',
		downMbitS: last?.downMbitS ?? '0',
		upMbitS: last?.upMbitS ?? '0',
		obstacles: [],
		profileJson: ''
	};
}

/** What a file says, as it is typed. */
export interface HubFile {
	plan: Omit<HubDraft, 'terminals'> | null;
	terminals: TerminalDraft[];
}

/** A form with what a file says: terminals of a name that is there are changed, others added. */
export function withFile(
	form: HubForm,
	{ plan, terminals }: HubFile
): { form: HubForm; added: number; changed: number } {
	const read = hubFormOf({
		...{ id: '', name: form.name, site: { id: form.siteId } as PickedSite, version: 0 },
		plan: { ...HUB_INITIAL, channelWidthMhz: 0, ...plan, terminals }
	});
	const list = [...form.terminals];
	let changed = 0;
	for (const terminal of read.terminals) {
		const at = list.findIndex(
			({ id, name }) =>
				id === terminal.id || name.trim().toLowerCase() === terminal.name.trim().toLowerCase()
		);
		if (at >= 0) {
			list[at] = { ...terminal, id: list[at]!.id };
			changed++;
		} else {
			const id = terminal.id.startsWith('row-') ? crypto.randomUUID() : terminal.id;
			list.push({ ...terminal, id });
		}
	}
	const own = plan ? read : form;
	return {
		form: { ...own, terminals: list },
		added: read.terminals.length - changed,
		changed
	};
}

/** Where a unit looks: on a wall nothing pans, so it looks where the wall does. */
export const headingOf = ({ how, wallBearingDeg, headingDeg }: UnitForm): string =>
	how === 'wall' ? wallBearingDeg : headingDeg;

/** A form as it is meant: every heading said, places in decimal degrees. */
const meant = (form: HubForm): HubForm => ({
	...form,
	units: form.units.map((unit) => ({ ...unit, headingDeg: headingOf(unit) || unit.headingDeg })),
	terminals: form.terminals.map(placed)
});

/** Coordinates in any way they are written; what cannot be read stays as it is typed. */
const placed = (terminal: TerminalForm): TerminalForm => ({
	...terminal,
	latitudeDeg: String(typedCoordinate(terminal.latitudeDeg, 'latitude') ?? terminal.latitudeDeg),
	longitudeDeg: String(typedCoordinate(terminal.longitudeDeg, 'longitude') ?? terminal.longitudeDeg)
});

const profileOf = ({ profileJson }: TerminalForm): TerrainProfile | null =>
	profileJson ? (JSON.parse(profileJson) as TerrainProfile) : null;

/** What is typed as a plan, or undefined while a number is missing or is none. */
export function hubDraftOf(form: HubForm): HubDraft | undefined {
	const values = valuesOf<HubTyped>(HUB_FIELDS, meant(form));
	if (!values) return undefined;
	return {
		...values,
		terminals: values.terminals.map((terminal, i): TerminalDraft => ({
			...terminal,
			profile: profileOf(form.terminals[i]!)
		}))
	};
}

/** What is sent: as typed, so that the server names every field that is wrong. */
export function hubBodyOf(form: HubForm, version: number | undefined): object {
	const body = bodyOf(HUB_FIELDS, meant(form)) as { terminals: object[] };
	return {
		...body,
		terminals: body.terminals.map((terminal, i) => ({
			...terminal,
			profile: profileOf(form.terminals[i]!)
		})),
		name: form.name,
		siteId: form.siteId || null,
		...(version === undefined ? {} : { version })
	};
}
