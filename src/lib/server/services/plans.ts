import { isSimulatedFault, type SimulatedFault } from '#core/simulate/faults';
import { UniqueConstraintError } from 'sequelize';
import type { Catalogue } from '#core/catalogue/parts';
import { planHop, type HopPlan, type HopPlanResult } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import { withPlanDefaults } from '#core/budget/planDefaults';
import { comparePlans, type RevisionComparison } from '#core/review/comparePlans';
import { reviewPlan, type PlanReview } from '#core/review/reviewPlan';
import { requireMay, type Actor } from '../auth/actor';
import { inTransaction } from '../db/connection';
import { revisions, type HopRow, type RevisionRow } from '../db/models';
import { invalid, notFound, refusal } from '../errors';
import { findLatestAcceptance } from '../repositories/acceptances';
import { audit } from '../repositories/audit';
import { latestRevisionNumber, lockHop } from '../repositories/revisions';
import { resolvePlanInput } from '../../plan/resolve';
import { catalogue } from './parts';
import { getHop, getHopRow, type Hop } from './hops';
import { neighboursOf } from './neighbours';

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
	const [before, after] = await Promise.all(
		[from, to].map((number) => revisionByNumber(hopId, number))
	);
	return comparePlans(before!, after!);
}

/** A revision of a hop by its number. No check of the actor. */
export async function revisionByNumber(hopId: string, number: number): Promise<Revision> {
	const row = (await revisions().findOne({
		where: { hopId, number },
		raw: true
	})) as RevisionRow | null;
	if (!row) throw notFound('plan revision');
	return revisionOf(row);
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
	const earlier = (await revisions().findByPk(request.id, { raw: true })) as RevisionRow | null;
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
	try {
		await inTransaction(async (transaction) => {
			// Locked, so that two issuers cannot take one number, and none is accepted meanwhile.
			await lockHop(hopId, transaction);
			const last = await latestRevisionNumber(hopId, transaction);
			await revisions().create(
				{
					id: request.id,
					hopId,
					number: last + 1,
					input: JSON.stringify(input),
					plan: JSON.stringify(result.plan),
					review: JSON.stringify(review),
					note: request.note,
					issuedBy: actor.userId,
					issuedAt: new Date()
				},
				{ transaction }
			);
			await audit(actor.userId, 'issue-revision', `hop:${hopId}`, { id: request.id }, transaction);
		});
	} catch (error) {
		if (!(error instanceof UniqueConstraintError)) throw error;
	}
	return getRevision(hopId, request.id);
}

async function getRevision(hopId: string, id: string): Promise<Revision> {
	const row = (await revisions().findOne({
		where: { id, hopId },
		raw: true
	})) as RevisionRow | null;
	if (!row) throw notFound('plan revision');
	return revisionOf(row);
}

/** The newest revision of a hop, or undefined while none is issued. No check of the actor. */
export async function findLatestRevision(hopId: string): Promise<Revision | undefined> {
	const row = (await revisions().findOne({
		where: { hopId },
		order: [['number', 'DESC']],
		raw: true
	})) as RevisionRow | null;
	return row ? revisionOf(row) : undefined;
}

export async function listRevisions(
	actor: Actor,
	hopId: string
): Promise<{ id: string; number: number; note: string; issuedAt: Date }[]> {
	await getHopRow(actor, hopId);
	const rows = await revisions().findAll({
		where: { hopId },
		attributes: ['id', 'number', 'note', 'issuedAt'],
		order: [['number', 'DESC']],
		limit: 200,
		raw: true
	});
	return rows as unknown as { id: string; number: number; note: string; issuedAt: Date }[];
}

/** Whether the draft would give another plan than the newest revision. */
export function draftDiffers(hop: Hop, revision: Revision, parts: Catalogue): boolean {
	// Through JSON, so that the order of keys and dates compare as they are stored.
	const input = planInputOf(hop, parts);
	return comparePlans({ input, plan: revision.plan }, revision).changed.length > 0;
}

function revisionOf(row: RevisionRow): Revision {
	const input = JSON.parse(row.input) as HopPlanInput;
	return {
		id: row.id,
		hopId: row.hopId,
		number: row.number,
		input: withPlanDefaults({ ...input, workDate: new Date(input.workDate) }),
		plan: wholePlan(JSON.parse(row.plan) as HopPlan, input),
		review: row.review ? (JSON.parse(row.review) as PlanReview) : null,
		note: row.note,
		issuedBy: row.issuedBy,
		issuedAt: row.issuedAt
	};
}

/** Results stored before carriers were planned lack what came since; what they hold stays as it is. */
function wholePlan(stored: HopPlan, input: HopPlanInput): HopPlan {
	if ('carriers' in stored) return stored;
	const again = planHop(withPlanDefaults({ ...input, workDate: new Date(input.workDate) }));
	return again.kind === 'plan' ? { ...again.plan, ...(stored as object) } : stored;
}

export interface Simulation {
	seed: number;
	faults: SimulatedFault[];
}

/** What the simulated hop is made from, beside the plan. */
export function simulationOf(row: HopRow): Simulation {
	if (row.simulationSeed === null) {
		throw refusal('not-a-practice-hop');
	}
	const fault = row.plantedFault;
	return {
		seed: row.simulationSeed,
		faults: fault !== null && isSimulatedFault(fault) ? [fault] : []
	};
}
