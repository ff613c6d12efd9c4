import type { Catalogue } from './parts';

/** Kinds of part, each with its list in the catalogue and its words. */
export const PART_KINDS = {
	radio: { list: 'radios', one: 'Radio', many: 'Radios' },
	dish: { list: 'dishes', one: 'Dish', many: 'Dishes' },
	mount: { list: 'mounts', one: 'Mount', many: 'Mounts' },
	coupling: { list: 'couplings', one: 'Coupling', many: 'Couplings' },
	feeder: { list: 'feeders', one: 'Feeder', many: 'Feeders' },
	cable: { list: 'cables', one: 'Cable', many: 'Cables' },
	'indoor-unit': { list: 'indoorUnits', one: 'Indoor unit', many: 'Indoor units' },
	'power-source': { list: 'powerSources', one: 'Power source', many: 'Power sources' },
	'hub-unit': { list: 'hubUnits', one: 'Hub unit', many: 'Hub units' },
	terminal: { list: 'terminals', one: 'Terminal', many: 'Terminals' }
} as const satisfies Record<string, { list: keyof Catalogue; one: string; many: string }>;

export type PartKind = keyof typeof PART_KINDS;

export const PART_KIND_NAMES = Object.keys(PART_KINDS) as readonly PartKind[];

/** Whether a word is the name of a kind of part. */
export const isPartKind = (word: unknown): word is PartKind =>
	(PART_KIND_NAMES as readonly unknown[]).includes(word);

/** The part of one kind. */
export type PartOf<K extends PartKind> = Catalogue[(typeof PART_KINDS)[K]['list']][number];
export type AnyPart = PartOf<PartKind>;

/** Type codes: capitals, figures and hyphens. */
export const PART_CODE = /^[A-Z0-9-]{2,20}$/;

/** Frequencies a part is for, GHz; null where it has none. */
export function bandOf(kind: PartKind, part: AnyPart): readonly [number, number] | null {
	if (kind === 'dish') {
		const { bands } = part as PartOf<'dish'>;
		return [
			Math.min(...bands.map((band) => band.fromGhz)),
			Math.max(...bands.map((band) => band.toGhz))
		];
	}
	return 'rangeGhz' in part ? part.rangeGhz : null;
}

/** A catalogue without any part. */
export const EMPTY_CATALOGUE: Catalogue = {
	radios: [],
	dishes: [],
	mounts: [],
	couplings: [],
	feeders: [],
	cables: [],
	indoorUnits: [],
	powerSources: [],
	hubUnits: [],
	terminals: []
};
