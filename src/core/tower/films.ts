import { inventoryOf, itemsOf } from '../budget/inventory';
import type { HopPlanInput } from '../budget/planInput';
import type { End } from '../ends';

/** One protective film or cap that comes off before mating. */
export interface Film {
	/** The part of the inventory it is on. */
	item: string;
	/** That part in words, such as "Radio 2, RU-18". */
	part: string;
	name: string;
}

/** Every film and cap of an end's parts, by the sheets of those parts. */
export function filmsOf(input: HopPlanInput, end: End): Film[] {
	return itemsOf(inventoryOf(input, end)).flatMap((item) => {
		const sheet = 'installation' in item.part ? item.part.installation : undefined;
		const films = sheet && 'films' in sheet ? sheet.films : [];
		return films.map((name) => ({ item: item.key, part: `${item.name}, ${item.part.code}`, name }));
	});
}
