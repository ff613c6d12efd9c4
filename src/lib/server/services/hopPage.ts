import { newerParts, type NewerPart } from '#core/budget/newerParts';
import type { Catalogue } from '#core/catalogue/parts';
import { noFindings, type Findings } from '#core/record/findings';
import type { FieldRecord } from '#core/record/records';
import { may, type Actor } from '../auth/actor';
import { AppError } from '../errors';
import { signedAcceptances, type SignedAcceptance } from './acceptance';
import { dayPlanOf, type KeptDayPlan } from './dayPlans';
import { findingsOf } from './findings';
import { readAllRecords } from './feed';
import { getHop, getHopRow, requireMayRecord, type Hop } from './hops';
import { catalogue } from './parts';
import { draftDiffers, findLatestRevision, type Revision } from './plans';

/** Everything the screens around one hop begin with. */
export interface HopPageData {
	hop: Hop;
	revision: Revision | null;
	records: FieldRecord[];
	findings: Findings;
	/** Every acceptance, the oldest first. */
	acceptances: SignedAcceptance[];
	/** Whether the draft would give another plan than the newest revision. */
	planChanged: boolean;
	/** Parts of the revision that the catalogue has changed since. */
	newerParts: NewerPart[];
	/** When it is built and aligned, and by whom; null while nobody has said. */
	dayPlan: KeptDayPlan | null;
	rights: { plan: boolean; record: boolean; sign: boolean };
}

export async function loadHopPage(actor: Actor, hopId: string): Promise<HopPageData> {
	const row = await getHopRow(actor, hopId);
	const hop = await getHop(actor, hopId);
	const parts = await catalogue();
	const revision = await findLatestRevision(hopId);
	const records = revision ? await readAllRecords(hopId) : [];
	return {
		hop,
		revision: revision ?? null,
		records,
		findings: revision ? await findingsOf(revision, records) : noFindings(),
		acceptances: await signedAcceptances(hopId),
		planChanged: revision ? planDiffers(hop, revision, parts) : true,
		newerParts: revision ? newerParts(revision.input, parts) : [],
		dayPlan: await dayPlanOf(actor, hopId),
		rights: {
			plan: may(actor, 'edit-hops'),
			record: mayRecord(() => requireMayRecord(actor, row)),
			sign: may(actor, 'sign')
		}
	};
}

function mayRecord(check: () => void): boolean {
	try {
		check();
		return true;
	} catch (error) {
		if (error instanceof AppError) return false;
		throw error;
	}
}

/** A draft with a part that has left the catalogue differs from anything issued. */
function planDiffers(hop: Hop, revision: Revision, parts: Catalogue): boolean {
	try {
		return draftDiffers(hop, revision, parts);
	} catch (error) {
		if (error instanceof AppError) return true;
		throw error;
	}
}
