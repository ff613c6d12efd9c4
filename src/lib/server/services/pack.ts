import { snagsOf } from '#core/accept/closing';
import { ENDS, type PerEnd } from '#core/ends';
import { weighedState } from '#core/guide/weigh';
import { emptyHopState } from '#core/record/hopState';
import { recordsOf } from '#core/record/records';
import { buildStateOf } from '#core/tower/buildState';
import { discrepancies } from '#core/tower/receiving';
import { visitsOf } from '#core/visit/visits';
import type { Actor } from '../auth/actor';
import { notFound } from '../errors';
import type { Pack } from '../pdf/pack';
import { thumbnailsOf } from '../repositories/photos';
import { judgeHop, signedAcceptances } from './acceptance';
import { findingsOf } from './findings';
import { readAllRecords, requireRevision } from './feed';
import { getHop } from './hops';
import { revisionByNumber } from './plans';

/** More photos than this are in the archive, not in the printed pack. */
const MOST_PRINTED_PHOTOS = 24;

/**
 * The pack of an acceptance: the plan, the records and the judgement that were signed; without one,
 * the hop as it stands.
 *
 * @param number of the acceptance; the newest by default
 */
export async function gatherPack(actor: Actor, hopId: string, number?: number): Promise<Pack> {
	const hop = await getHop(actor, hopId);
	const signed = await signedAcceptances(hopId);
	const acceptance =
		number === undefined ? signed.at(-1) : signed.find((one) => one.number === number);
	if (number !== undefined && !acceptance) throw notFound('acceptance');
	const revision = acceptance
		? await revisionByNumber(hopId, acceptance.revisionNumber)
		: await requireRevision(hopId);
	const all = await readAllRecords(hopId);
	const records = acceptance ? all.filter(({ seq }) => seq <= acceptance.lastSeq) : all;
	const findings = await findingsOf(revision, all);
	const state = weighedState(revision.input, revision.plan, records, findings);
	const perEnd = <T>(make: (end: 'A' | 'B') => T): PerEnd<T> => ({ A: make('A'), B: make('B') });
	const rows = await thumbnailsOf(hopId);
	const about = new Map(
		recordsOf(records, 'photo').map(({ payload, end }) => [
			payload.photoId,
			`${end}, ${payload.caption || payload.about.replaceAll('-', ' ')}`
		])
	);
	return {
		hop,
		revision,
		judgement: acceptance?.judgement ?? (await judgeHop(actor, hopId)),
		acceptance,
		records,
		state,
		building: perEnd((end) => buildStateOf(state, end)),
		torqueTools: ENDS.flatMap((end) => state.ends[end].torqueTool ?? []),
		discrepancies: discrepancies(state),
		snags: snagsOf(state),
		crewSignatures: ENDS.flatMap((end) => state.ends[end].crewSignature ?? []),
		photos: rows
			.slice(0, MOST_PRINTED_PHOTOS)
			.map(({ id, thumbnail }) => ({ id, image: thumbnail, caption: about.get(id) ?? '' })),
		photosLeftOut: Math.max(0, rows.length - MOST_PRINTED_PHOTOS),
		visits:
			acceptance && acceptance === signed.at(-1)
				? visitsOf(emptyHopState(revision.input, revision.plan), all, findings).filter(
						({ visitId, fromSeq }) => visitId !== null && fromSeq > acceptance.lastSeq
					)
				: []
	};
}
