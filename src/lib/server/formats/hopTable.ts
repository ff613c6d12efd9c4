import type { PlanFields } from '#core/budget/fieldTable';
import { END_FIELDS, PLAN_FIELDS } from '#core/budget/planFields';
import { ENDS } from '#core/ends';
import type { PlanDraftValues } from '../../plan/resolve';
import { flatten, unflatten, type Flat } from './dotted';

/** A hop in open formats: its sites by name. */
export interface OpenHop {
	name: string;
	siteA: string;
	siteB: string;
	practice: boolean;
	plan: PlanDraftValues;
}

/** Parts of a plan that stay one cell of JSON. */
const WHOLE = [
	'plan.path.profile',
	'plan.path.obstacles',
	'plan.path.water',
	'plan.landmarks',
	'plan.services',
	'plan.acceptances',
	'plan.ends.A.pattern',
	'plan.ends.B.pattern'
];
/** Columns whose empty cell says "there is none", by the tables of fields. */
function nullable(fields: PlanFields, inside: string): string[] {
	return Object.entries(fields).flatMap(([key, field]) => {
		const path = `${inside}${key}`;
		if (field.type === 'group') return nullable(field.fields, `${path}.`);
		return field.type === 'number' && field.orNone ? [path] : [];
	});
}

const NULLABLE = [
	...nullable(PLAN_FIELDS, 'plan.'),
	...ENDS.flatMap((end) => nullable(END_FIELDS, `plan.ends.${end}.`))
];

export const NEEDED_HOP_COLUMNS = ['name', 'site_a', 'site_b'];

/** One hop as a row: `name,site_a,site_b,practice`, then the plan by dotted path. */
export function hopRow({ name, siteA, siteB, practice, plan }: OpenHop): Flat {
	return {
		name,
		site_a: siteA,
		site_b: siteB,
		practice: String(practice),
		...flatten({ plan }, WHOLE)
	};
}

/** A row as an unchecked hop. @throws SyntaxError when a JSON cell holds none */
export function hopFromRow(row: Readonly<Flat>): Record<string, unknown> {
	const { name = '', site_a: siteA = '', site_b: siteB = '', practice = 'false', ...rest } = row;
	const planned = Object.fromEntries(
		Object.entries(rest).filter(([column]) => column.startsWith('plan.'))
	);
	return { name, siteA, siteB, practice, ...unflatten(planned, WHOLE, NULLABLE) };
}
