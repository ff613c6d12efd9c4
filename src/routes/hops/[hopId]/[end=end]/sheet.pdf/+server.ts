import { AppError, unauthenticated } from '$lib/server/errors';
import { errorResponse } from '$lib/server/api/dispatch';
import { inWorker } from '$lib/server/jobs/pool';
import { sheetQuerySchema } from '$lib/server/schemas/inputs';
import { validate } from '$lib/server/schemas/joi';
import type { UnitSystem } from '#core/units/systems';
import { prepareSheet } from '$lib/server/services/sheets';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = async ({ locals, params, url }) => {
	try {
		if (!locals.actor) throw unauthenticated();
		const end = params.end === 'a' ? 'A' : 'B';
		const { units } = validate<{ units: UnitSystem }>(
			sheetQuerySchema,
			Object.fromEntries(url.searchParams)
		);
		const prepared = await prepareSheet(locals.actor, params.hopId, end, url.origin);
		const pdf = await inWorker('sheet-pdf', { sheet: prepared, system: units });
		const name = `site-sheet-${end}-revision-${prepared.sheet.revisionNumber}.pdf`;
		return new Response(new Uint8Array(pdf), {
			headers: {
				'content-type': 'application/pdf',
				'content-disposition': `attachment; filename="${name}"`,
				'cache-control': 'no-store'
			}
		});
	} catch (error) {
		if (error instanceof AppError) return errorResponse(error);
		throw error;
	}
};
