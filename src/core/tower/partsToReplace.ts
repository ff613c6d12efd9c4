import { inventoryOf, itemsOf } from '../budget/inventory';
import type { End } from '../ends';
import type { HopState } from '../record/hopState';

/** A part of an end that can be changed for another, by the name that records use for it. */
export interface ReplaceablePart {
	key: string;
	name: string;
}

/** Every part of one end that can be changed, as the plan in force has them. */
export function partsToReplace({ input }: Pick<HopState, 'input'>, end: End): ReplaceablePart[] {
	const inventory = inventoryOf(input, end);
	const { feeder } = input.ends[end];
	const parts = itemsOf(inventory).map(({ key, name, part }) => ({
		key,
		name: `${name}, ${part.code}`
	}));
	// Records of a radio straight on its dish name the joint between them so.
	return inventory.runs.length
		? parts
		: [...parts, { key: 'feeder', name: `Feeder, ${feeder.code}` }];
}
