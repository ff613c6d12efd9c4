import { analyseSweep, type SweepInput } from '$core/sweep/analyseSweep';
import { analyseSweepSchema } from '../../schemas/sweep';
import { endpoint } from '../endpoint';

export const computeEndpoints = [
	endpoint<SweepInput>({
		method: 'POST',
		path: '/sweeps/analyse',
		tag: 'Compute',
		summary: 'Read a recorded cut: main lobe or beside it, where its middle is, and why',
		access: 'signed-in',
		body: analyseSweepSchema,
		handle: async ({ body }) => analyseSweep(body)
	})
];
