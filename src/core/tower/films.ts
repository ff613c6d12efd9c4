import { CONFIGURATION_RULES, radiosOf } from '../budget/configuration';
import type { HopPlanInput } from '../budget/planInput';
import type { End } from '../ends';

/** One protective film or cap that comes off before mating. */
export interface Film {
	part: string;
	name: string;
}

/** Every film and cap of an end's parts, by the sheets of those parts. */
export function filmsOf(input: HopPlanInput, end: End): Film[] {
	const own = input.ends[end];
	const rule = CONFIGURATION_RULES[input.configuration.kind];
	const parts = [
		own.dish,
		...(rule.dishes === 2 && own.secondDish ? [own.secondDish] : []),
		...radiosOf(input, end),
		...(own.coupling && rule.couplings.length ? [own.coupling] : []),
		...(own.feeder.kind === 'direct' ? [] : [own.feeder])
	];
	return parts.flatMap(({ code, installation }) =>
		(installation?.films ?? []).map((name) => ({ part: code, name }))
	);
}
