import Papa from 'papaparse';
import type { AcceptanceJudgement } from '#core/accept/judgeAcceptance';
import type { HopPlan } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import { farEnd, type Axis, type End, type PerEnd } from '#core/ends';
import { originWords, type Provenance } from '#core/provenance/provenance';
import { weighedState } from '#core/guide/weigh';
import { currentLockSteps, type EndState, type HopState } from '#core/record/hopState';
import type { FieldRecord } from '#core/record/records';
import type { Actor } from '../auth/actor';
import type { SignedAcceptance } from '../repositories/acceptances';
import { judgeHop, signedAcceptances } from './acceptance';
import { findingsOf } from './findings';
import { readAllRecords, requireRevision } from './feed';
import { getHop } from './hops';

/** What was done at one dish. */
interface DishAsBuilt {
	adjusterTurns: Record<Axis, number>;
	roundsOverMainLobe: number;
	aim: EndState['aim'];
	lock: ReturnType<typeof currentLockSteps>;
	finalReading: EndState['finalReading'];
}

/** What was done at one end: of its first dish, and of its second where it has one. */
export interface EndAsBuilt extends DishAsBuilt {
	site: string;
	farSite: string;
	secondDish: DishAsBuilt | null;
}

/** Everything that was planned, measured, judged and signed, readable without this program. */
export interface AsBuilt {
	format: 'skiaxis-as-built';
	formatVersion: 1;
	/** Of a practice hop everything measured is simulated. */
	hop: { id: string; name: string; practice: boolean; provenance: Provenance | null };
	planRevision: { number: number; issuedAt: string; input: HopPlanInput; plan: HopPlan };
	ends: PerEnd<EndAsBuilt>;
	judgement: AcceptanceJudgement;
	acceptance: Pick<
		SignedAcceptance,
		| 'causes'
		| 'signature'
		| 'signedBy'
		| 'signedAt'
		| 'lastSeq'
		| 'revisionNumber'
		| 'recordDigest'
		| 'origin'
	> | null;
	records: FieldRecord[];
}

export async function asBuilt(actor: Actor, hopId: string): Promise<AsBuilt> {
	const hop = await getHop(actor, hopId);
	const revision = await requireRevision(hopId);
	const records = await readAllRecords(hopId);
	const acceptance = (await signedAcceptances(hopId)).at(-1);
	const judgement = acceptance?.judgement ?? (await judgeHop(actor, hopId));
	const findings = await findingsOf(revision, records);
	const state = weighedState(revision.input, revision.plan, records, findings);
	const ofDish = (of: HopState, end: End): DishAsBuilt => ({
		adjusterTurns: of.ends[end].turns,
		roundsOverMainLobe: of.ends[end].roundsDone,
		aim: of.ends[end].aim,
		lock: currentLockSteps(of, end),
		finalReading: of.ends[end].finalReading
	});
	const ofEnd = (end: End): EndAsBuilt => ({
		site: hop.sites[end].name,
		farSite: hop.sites[farEnd(end)].name,
		...ofDish(state, end),
		secondDish: state.second && ofDish(state.second[end], end)
	});
	return {
		format: 'skiaxis-as-built',
		formatVersion: 1,
		hop: { id: hop.id, name: hop.name, practice: hop.practice, provenance: hop.provenance },
		planRevision: {
			number: revision.number,
			issuedAt: revision.issuedAt.toISOString(),
			input: revision.input,
			plan: revision.plan
		},
		ends: { A: ofEnd('A'), B: ofEnd('B') },
		judgement,
		acceptance: acceptance
			? {
					causes: acceptance.causes,
					signature: acceptance.signature,
					signedBy: acceptance.signedBy,
					signedAt: acceptance.signedAt,
					lastSeq: acceptance.lastSeq,
					revisionNumber: acceptance.revisionNumber,
					recordDigest: acceptance.recordDigest,
					origin: acceptance.origin
				}
			: null,
		records
	};
}

/** Planned against measured, one row a line of the judgement. */
export async function asBuiltCsv(actor: Actor, hopId: string): Promise<string> {
	const hop = await getHop(actor, hopId);
	const revision = await requireRevision(hopId);
	const acceptance = (await signedAcceptances(hopId)).at(-1);
	const judgement = acceptance?.judgement ?? (await judgeHop(actor, hopId));
	return `${Papa.unparse(
		judgement.lines.map((line) => ({
			hop: hop.name,
			practice: hop.practice,
			plan_revision: acceptance?.revisionNumber ?? revision.number,
			end: line.end,
			item: line.label,
			planned: line.planned,
			measured: line.measured,
			verdict: line.verdict,
			reason: line.reason,
			cause: acceptance?.causes[line.code] ?? '',
			signed_by: acceptance?.signature.name ?? '',
			signed_at: acceptance?.signedAt ?? '',
			origin: acceptance ? originWords(acceptance.origin) : ''
		})),
		// A cell that a spreadsheet would run as a formula is quoted as text.
		{ escapeFormulae: true, newline: '\r\n' }
	)}\r\n`;
}
