import type { Snag } from '#core/accept/closing';
import type { AcceptanceJudgement } from '#core/accept/judgeAcceptance';
import type { PerEnd } from '#core/ends';
import type { EndState, HopState } from '#core/record/hopState';
import type { FieldRecord } from '#core/record/records';
import type { BuildState } from '#core/tower/buildState';
import type { Discrepancy } from '#core/tower/receiving';
import type { Visit } from '#core/visit/visits';
import type { SignedAcceptance } from '../repositories/acceptances';
import type { Hop } from '../services/hops';
import type { Revision } from '../services/plans';

export interface PackPhoto {
	id: string;
	caption: string;
	image: Uint8Array;
}

/** Everything of a hop that goes into its acceptance pack. */
export interface Pack {
	hop: Hop;
	revision: Revision;
	judgement: AcceptanceJudgement;
	acceptance: SignedAcceptance | undefined;
	records: FieldRecord[];
	state: HopState;
	building: PerEnd<BuildState>;
	torqueTools: NonNullable<EndState['torqueTool']>[];
	discrepancies: Discrepancy[];
	snags: Snag[];
	crewSignatures: NonNullable<EndState['crewSignature']>[];
	photos: PackPhoto[];
	photosLeftOut: number;
	/** Coming to the hop since, where this is its newest acceptance. */
	visits: Visit[];
}
