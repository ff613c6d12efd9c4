import { CONFIGURATION_RULES, radiosOf } from '../budget/configuration';
import type { End } from '../ends';
import type { HopState } from '../record/hopState';

/** A part of an end that can be changed for another, by the name that records use for it. */
export interface ReplaceablePart {
	key: string;
	name: string;
}

/** Every part of one end that can be changed, as the plan in force has them. */
export function partsToReplace({ input }: Pick<HopState, 'input'>, end: End): ReplaceablePart[] {
	const own = input.ends[end];
	const rule = CONFIGURATION_RULES[input.configuration.kind];
	const radios = radiosOf(input, end);
	return [
		...radios.map(({ code }, i) => ({
			key: `radio-${i + 1}`,
			name: radios.length > 1 ? `Radio ${i + 1}, ${code}` : `Radio, ${code}`
		})),
		{ key: 'dish', name: `Dish, ${own.dish.code}` },
		...(rule.dishes === 2 && own.secondDish
			? [{ key: 'second-dish', name: `Second dish, ${own.secondDish.code}` }]
			: []),
		{ key: 'mount', name: `Mount, ${own.mount.code}` },
		...(rule.couplings.length && own.coupling
			? [{ key: 'coupling', name: `Coupling, ${own.coupling.code}` }]
			: []),
		{ key: 'feeder', name: `Feeder, ${own.feeder.code}` },
		...(own.cable ? [{ key: 'cable', name: `Cable, ${own.cable.code}` }] : [])
	];
}
