import cables from '#catalog/cables.json';
import couplings from '#catalog/couplings.json';
import dishes from '#catalog/dishes.json';
import feeders from '#catalog/feeders.json';
import hubUnits from '#catalog/hub-units.json';
import indoorUnits from '#catalog/indoor-units.json';
import mounts from '#catalog/mounts.json';
import powerSources from '#catalog/power-sources.json';
import radios from '#catalog/radios.json';
import terminals from '#catalog/terminals.json';
import type { PartKind } from '#core/catalogue/partKinds';
import { checkedPart, type CheckedPart } from '../services/parts';

const FILES: Record<PartKind, readonly object[]> = {
	radio: radios,
	dish: dishes,
	mount: mounts,
	coupling: couplings,
	feeder: feeders,
	cable: cables,
	'indoor-unit': indoorUnits,
	'power-source': powerSources,
	'hub-unit': hubUnits,
	terminal: terminals
};

/** The made-up parts of the demo, checked like anyone's; throws with kind and field when one is wrong. */
export function demoParts(): CheckedPart[] {
	return (Object.entries(FILES) as [PartKind, readonly object[]][]).flatMap(([kind, parts]) =>
		parts.map((data) => ({ kind, data: checkedPart(kind, data, kind) }))
	);
}
