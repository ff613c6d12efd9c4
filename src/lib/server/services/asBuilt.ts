import Papa from 'papaparse';
import { ENDS, farEnd } from '#core/ends';
import { weighedState } from '#core/guide/weigh';
import { currentLockSteps } from '#core/record/hopState';
import type { Actor } from '../auth/actor';
import { findLatestAcceptance } from '../repositories/acceptances';
import { judgeHop } from './acceptance';
import { findingsOf } from './findings';
import { readAllRecords, requireRevision } from './feed';
import { getHop } from './hops';

/** Everything that was planned, measured, judged and signed, readable without this program. */
export async function asBuilt(actor: Actor, hopId: string): Promise<object> {
	const hop = await getHop(actor, hopId);
	const revision = await requireRevision(hopId);
	const records = await readAllRecords(hopId);
	const acceptance = await findLatestAcceptance(hopId);
	const judgement = acceptance?.judgement ?? (await judgeHop(actor, hopId));
	const findings = await findingsOf(revision, records);
	const state = weighedState(revision.input, revision.plan, records, findings);
	return {
		format: 'skiaxis-as-built',
		formatVersion: 1,
		hop: { id: hop.id, name: hop.name },
		planRevision: {
			number: revision.number,
			issuedAt: revision.issuedAt.toISOString(),
			input: revision.input,
			plan: revision.plan
		},
		ends: Object.fromEntries(
			ENDS.map((end) => [
				end,
				{
					site: hop.sites[end].name,
					farSite: hop.sites[farEnd(end)].name,
					adjusterTurns: state.ends[end].turns,
					roundsOverMainLobe: state.ends[end].roundsDone,
					aim: state.ends[end].aim,
					lock: currentLockSteps(state, end),
					finalReading: state.ends[end].finalReading
				}
			])
		),
		judgement,
		acceptance: acceptance
			? {
					causes: acceptance.causes,
					signature: acceptance.signature,
					signedBy: acceptance.signedBy,
					signedAt: acceptance.signedAt,
					lastSeq: acceptance.lastSeq
				}
			: null,
		records
	};
}

/** Planned against measured, one row a line of the judgement. */
export async function asBuiltCsv(actor: Actor, hopId: string): Promise<string> {
	const hop = await getHop(actor, hopId);
	const revision = await requireRevision(hopId);
	const acceptance = await findLatestAcceptance(hopId);
	const judgement = acceptance?.judgement ?? (await judgeHop(actor, hopId));
	return `${Papa.unparse(
		judgement.lines.map((line) => ({
			hop: hop.name,
			plan_revision: revision.number,
			end: line.end,
			item: line.label,
			planned: line.planned,
			measured: line.measured,
			verdict: line.verdict,
			reason: line.reason,
			cause: acceptance?.causes[line.code] ?? '',
			signed_by: acceptance?.signature.name ?? '',
			signed_at: acceptance?.signedAt ?? ''
		})),
		// A cell that a spreadsheet would run as a formula is quoted as text.
		{ escapeFormulae: true, newline: '\r\n' }
	)}\r\n`;
}
