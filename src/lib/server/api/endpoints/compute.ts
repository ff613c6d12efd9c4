import { diagnose } from '#core/diagnose/diagnosis';
import type { DiagnosisInput } from '#core/diagnose/question';
import type { GuidanceInput } from '#core/guide/guidance';
import type { SweepInput } from '#core/sweep/analyseSweep';
import { attenuationSchema, budgetSchema, pathGeometrySchema } from '../../schemas/compute';
import { diagnosisSchema, guidanceSchema } from '../../schemas/guidance';
import { analyseSweepSchema } from '../../schemas/sweep';
import {
	budgetByValue,
	pathAttenuation,
	pathGeometry,
	type AttenuationRequest,
	type BudgetRequest,
	type GeometryRequest
} from '../../services/compute';
import { inWorker } from '../../jobs/pool';
import { endpoint, LONG_BODY_BYTES } from '../endpoint';

export const computeEndpoints = [
	endpoint<SweepInput>({
		method: 'POST',
		path: '/sweeps/analyse',
		tag: 'Compute',
		summary: 'Read a recorded cut: main lobe or beside it, where its middle is, and why',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: analyseSweepSchema,
		handle: ({ body }) => inWorker('analyse-sweep', body)
	}),
	endpoint<GuidanceInput>({
		method: 'POST',
		path: '/guidance/next',
		tag: 'Compute',
		summary:
			'What one end should do next, from its readings; stateless: what it learned comes back as `memory`, to be handed in again',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: guidanceSchema,
		handle: ({ body }) => inWorker('guide', body)
	}),
	endpoint<DiagnosisInput>({
		method: 'POST',
		path: '/diagnosis',
		tag: 'Compute',
		summary: 'Rank what may be wrong with a hop, and name the cheapest test that tells',
		access: 'signed-in',
		body: diagnosisSchema,
		handle: ({ body }) => diagnose(body)
	}),
	endpoint<GeometryRequest>({
		method: 'POST',
		path: '/paths/geometry',
		tag: 'Compute',
		summary: 'Length, true and compass bearings and tilts of a path, from either end',
		access: 'signed-in',
		body: pathGeometrySchema,
		handle: ({ body }) => pathGeometry(body)
	}),
	endpoint<AttenuationRequest>({
		method: 'POST',
		path: '/propagation/attenuation',
		tag: 'Compute',
		summary: 'Free space, gases, rain and multipath of a path, every part by itself',
		access: 'signed-in',
		body: attenuationSchema,
		handle: ({ body }) => pathAttenuation(body)
	}),
	endpoint<BudgetRequest>({
		method: 'POST',
		path: '/budgets',
		tag: 'Compute',
		summary: 'A whole hop by value: levels, availability, pointing, first looks and findings',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: budgetSchema,
		handle: async ({ body }) => budgetByValue(body)
	})
];
