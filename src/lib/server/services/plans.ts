import { readPlanted, type PlantedFault } from '#core/simulate/planted';
import type { Catalogue } from '#core/catalogue/parts';
import { planHop, type HopPlan, type HopPlanResult } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import { withPlanDefaults } from '#core/budget/planDefaults';
import { comparePlans, type RevisionComparison } from '#core/review/comparePlans';
import { reviewPlan, type PlanReview } from '#core/review/reviewPlan';
import { requireMay, type Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import { inTransaction } from '../db/transaction';
import { invalid, notFound, refusal } from '../errors';
import { findLatestAcceptance } from '../repositories/acceptances';
import { audit } from '../repositories/audit';
import type { HopRow } from '../repositories/hops';
import {
	findRevision,
	insertRevision,
	latestRevisionNumber,
	lockHop,
	newestRevisionId,
	pageOfRevisions,
	type FrozenRevision,
	type RevisionHead
} from '../repositories/revisions';
import { resolvePlanInput } from '../../plan/resolve';
import { catalogue } from './parts';
import { getHop, getHopRow, type Hop } from './hops';
import { neighboursOf } from './neighbours';
import { pageOf, type Page } from './paging';

export type { RevisionHead };

export interface Revision {
	id: string;
	hopId: string;
	number: number;
	input: HopPlanInput;
	plan: HopPlan;
	/** The review that let it be issued; null on revisions older than the review. */
	review: PlanReview | null;
	note: string;
	issuedBy: string;
	issuedAt: Date;
}

/** The inputs of a hop with its parts by value, or the fields whose part codes are unknown. */
export function planInputOf(hop: Hop, parts: Catalogue): HopPlanInput {
	const resolved = resolvePlanInput(hop.name, hop.plan, hop.sites, parts);
	if (resolved.kind === 'unknown-parts') {
		throw invalid(
			resolved.fields.map((field) => ({
				field: `plan.${field}`,
				message: 'Choose a part of the catalogue.'
			}))
		);
	}
	return resolved.input;
}

/** Plan and review of a hop, beside the other hops at its sites. */
async function reviewed(
	actor: Actor,
	hop: Hop,
	input: HopPlanInput
): Promise<{ result: HopPlanResult; review: PlanReview }> {
	const result = planHop(input);
	const neighbours = await neighboursOf(actor, hop);
	return { result, review: reviewPlan(input, result, neighbours, hop.plan.acceptances) };
}

/** What the review says of the draft as it stands. */
export async function reviewDraft(actor: Actor, hopId: string): Promise<PlanReview> {
	const hop = await getHop(actor, hopId);
	return (await reviewed(actor, hop, planInputOf(hop, await catalogue()))).review;
}

/** Two issued revisions of a hop side by side. */
export async function compareRevisions(
	actor: Actor,
	hopId: string,
	from: number,
	to: number
): Promise<RevisionComparison> {
	await getHopRow(actor, hopId);
	return comparePlans(await revisionByNumber(hopId, from), await revisionByNumber(hopId, to));
}

/** A revision of a hop by its number. No check of the actor. */
export async function revisionByNumber(hopId: string, number: number): Promise<Revision> {
	return revisionOf((await findRevision({ hopId, number })) ?? noRevision());
}

/** Computes the plan of a hop as its draft stands. */
export async function computePlan(actor: Actor, hopId: string): Promise<HopPlanResult> {
	return planHop(planInputOf(await getHop(actor, hopId), await catalogue()));
}

/**
 * Issues a plan revision: the inputs and results frozen, numbered 1, 2, 3 …
 * A repeat with the same id gives the revision of the first time.
 */
export async function issueRevision(
	actor: Actor,
	hopId: string,
	request: { id: string; version: number; note: string }
): Promise<Revision> {
	requireMay(actor, 'issue-revision');
	await getHopRow(actor, hopId);
	const earlier = await findRevision({ id: request.id });
	if (earlier) {
		if (earlier.hopId !== hopId) throw refusal('id-used', 'revision');
		return revisionOf(earlier);
	}
	if (request.note.trim() === '' && (await findLatestAcceptance(hopId))) {
		throw invalid([
			{ field: 'note', message: 'This hop is accepted: say why its plan is changed.' }
		]);
	}
	const hop = await getHop(actor, hopId);
	if (hop.version !== request.version) {
		throw refusal('changed-meanwhile', { what: 'plan' });
	}
	const input = planInputOf(hop, await catalogue());
	const { result, review } = await reviewed(actor, hop, input);
	if (result.kind === 'impossible' || !review.mayIssue) {
		const blocking = review.findings.filter((finding) => finding.blocks);
		throw refusal(review.errors > 0 ? 'plan-has-errors' : 'plan-has-open-warnings').with(
			blocking.map(({ field, message }) => ({ field: `plan.${field}`, message }))
		);
	}
	const issue = (): Promise<void> =>
		inTransaction(async (unit) => {
			// Locked, so that two issuers cannot take one number, and none is accepted meanwhile.
			await lockHop(hopId, unit);
			const number = (await latestRevisionNumber(hopId, unit)) + 1;
			const { id, note } = request;
			const { plan } = result;
			const issued = { issuedBy: actor.userId, issuedAt: new Date() };
			await insertRevision({ id, hopId, number, input, plan, review, note, ...issued }, unit);
			await audit(actor.userId, 'issue-revision', `hop:${hopId}`, { id }, unit);
		});
	// The same request may have been answered meanwhile.
	await unlessTaken(issue, () => undefined);
	return getRevision(hopId, request.id);
}

async function getRevision(hopId: string, id: string): Promise<Revision> {
	const frozen = await findRevision({ id });
	return revisionOf(frozen?.hopId === hopId ? frozen : noRevision());
}

const noRevision = (): never => {
	throw notFound('plan revision');
};

/** The newest revision of a hop, or undefined while none is issued. No check of the actor. */
export async function findLatestRevision(hopId: string): Promise<Revision | undefined> {
	const id = await newestRevisionId(hopId);
	if (id === undefined) return undefined;
	const known = lately.get(id);
	// The one asked for last goes last, where it is kept longest.
	lately.delete(id);
	const revision = known ?? revisionOf((await findRevision({ id })) ?? noRevision());
	lately.set(id, revision);
	for (const oldest of lately.keys()) {
		if (lately.size <= MOST_KEPT) break;
		lately.delete(oldest);
	}
	return revision;
}

/** Revisions that were asked for lately, by id: they are frozen, so that what was read stays true. */
const lately = new Map<string, Revision>();
const MOST_KEPT = 64;

export async function listRevisions(
	actor: Actor,
	hopId: string,
	page: number
): Promise<Page<RevisionHead>> {
	await getHopRow(actor, hopId);
	return pageOf({ page }, ({ limit, offset }) => pageOfRevisions(hopId, limit, offset));
}

/** Whether the draft would give another plan than the newest revision. */
export function draftDiffers(hop: Hop, revision: Revision, parts: Catalogue): boolean {
	// Through JSON, so that the order of keys and dates compare as they are stored.
	const input = planInputOf(hop, parts);
	return comparePlans({ input, plan: revision.plan }, revision).changed.length > 0;
}

function revisionOf({ input, plan, ...frozen }: FrozenRevision): Revision {
	const whole = withPlanDefaults({ ...input, workDate: new Date(input.workDate) });
	return { ...frozen, input: whole, plan: wholePlan(plan, whole) };
}

/** Results stored before carriers were planned lack what came since; what they hold stays as it is. */
function wholePlan(stored: HopPlan, input: HopPlanInput): HopPlan {
	if ('carriers' in stored) return stored;
	const again = planHop(input);
	return again.kind === 'plan' ? { ...again.plan, ...(stored as object) } : stored;
}

export interface Simulation {
	seed: number;
	faults: readonly PlantedFault[];
}

/** What the simulated hop is made from, beside the plan. */
export function simulationOf(row: HopRow): Simulation {
	if (row.simulationSeed === null) {
		throw refusal('not-a-practice-hop');
	}
	return { seed: row.simulationSeed, faults: readPlanted(row.plantedFault ?? '') ?? [] };
}
