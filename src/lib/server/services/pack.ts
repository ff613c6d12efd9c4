import { QueryTypes } from 'sequelize';
import type { AcceptanceJudgement } from '#core/accept/judgeAcceptance';
import { snagsOf, type Snag } from '#core/accept/closing';
import { buildStateOf, type BuildState } from '#core/tower/buildState';
import { discrepancies, type Discrepancy } from '#core/tower/receiving';
import { ENDS, type PerEnd } from '#core/ends';
import { weighedState } from '#core/guide/weigh';
import { currentLockSteps, type EndState, type HopState } from '#core/record/hopState';
import { recordsOf, type FieldRecord } from '#core/record/records';
import type { Actor } from '../auth/actor';
import { db } from '../db/connection';
import { findLatestAcceptance, type Acceptance } from '../repositories/acceptances';
import { judgeHop } from './acceptance';
import { findingsOf } from './findings';
import { readAllRecords, requireRevision } from './feed';
import { getHop, type Hop } from './hops';
import type { Revision } from './plans';

/** More photos than this are in the archive, not in the printed pack. */
const MOST_PRINTED_PHOTOS = 24;

export interface PackPhoto {
	id: string;
	caption: string;
	image: Buffer;
}

/** Everything of a hop that goes into its acceptance pack. */
export interface Pack {
	hop: Hop;
	revision: Revision;
	judgement: AcceptanceJudgement;
	acceptance: Acceptance | undefined;
	records: FieldRecord[];
	state: HopState;
	building: PerEnd<BuildState>;
	locks: PerEnd<ReturnType<typeof currentLockSteps>>;
	torqueTools: NonNullable<EndState['torqueTool']>[];
	discrepancies: Discrepancy[];
	snags: Snag[];
	crewSignatures: NonNullable<EndState['crewSignature']>[];
	photos: PackPhoto[];
	photosLeftOut: number;
}

export async function gatherPack(actor: Actor, hopId: string): Promise<Pack> {
	const hop = await getHop(actor, hopId);
	const revision = await requireRevision(hopId);
	const records = await readAllRecords(hopId);
	const acceptance = await findLatestAcceptance(hopId);
	const findings = await findingsOf(revision, records);
	const state = weighedState(revision.input, revision.plan, records, findings);
	const perEnd = <T>(make: (end: 'A' | 'B') => T): PerEnd<T> => ({ A: make('A'), B: make('B') });
	const rows = await db().query<{ id: string; image: Buffer }>(
		'SELECT id, thumbnail AS image FROM photos WHERE hop_id = ? ORDER BY uploaded_at, id',
		{ replacements: [hopId], type: QueryTypes.SELECT }
	);
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
		locks: perEnd((end) => currentLockSteps(state, end)),
		torqueTools: ENDS.flatMap((end) => state.ends[end].torqueTool ?? []),
		discrepancies: discrepancies(state),
		snags: snagsOf(state),
		crewSignatures: ENDS.flatMap((end) => state.ends[end].crewSignature ?? []),
		photos: rows
			.slice(0, MOST_PRINTED_PHOTOS)
			.map(({ id, image }) => ({ id, image, caption: about.get(id) ?? '' })),
		photosLeftOut: Math.max(0, rows.length - MOST_PRINTED_PHOTOS)
	};
}
