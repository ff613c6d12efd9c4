import { progressOf } from '#core/bringup/bringUp';
import {
	acceptanceStands,
	judgeTerminalOf,
	type TerminalJudgement
} from '#core/bringup/judgeTerminal';
import { originOf, type Origin, type Provenance } from '#core/provenance/provenance';
import { requireMay, type Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import { inTransaction } from '../db/transaction';
import { invalid, notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';
import { findHub } from '../repositories/hubs';
import {
	acceptancesOfHub,
	insertTerminalAcceptance,
	lockHubFeed,
	newestHubRevisionNumber,
	type KeptAcceptance
} from '../repositories/hubWork';
import type { AcceptanceRequest } from './acceptance';
import { requireHubRevision, standingOf, workOfRevision } from './hubWork';
import { hubProvenanceOf } from './provenance';

/** A signed acceptance of a terminal, and what is known of where it was signed. */
export interface TerminalAcceptance extends Omit<KeptAcceptance, 'importedPlace'> {
	origin: Origin;
}

export interface TerminalAcceptanceRequest extends AcceptanceRequest {
	terminal: string;
}

/** Every acceptance of a hub's terminals, the oldest first. */
export async function terminalAcceptances(
	actor: Actor,
	hubId: string
): Promise<TerminalAcceptance[]> {
	requireMay(actor, 'read-hops');
	if (!(await findHub(hubId))) throw notFound('hub');
	const provenance = await hubProvenanceOf(hubId);
	return (await acceptancesOfHub(hubId)).map((one) => told(one, provenance));
}

function told(
	{ importedPlace, ...acceptance }: KeptAcceptance,
	provenance: Provenance | null
): TerminalAcceptance {
	const origin: Origin =
		importedPlace === null
			? { kind: 'own' }
			: originOf(provenance, { what: 'acceptance', number: importedPlace });
	return { ...acceptance, origin };
}

/** Signs the acceptance of one terminal as it stands. A repeat with the same id gives what was signed. */
export async function acceptTerminal(
	actor: Actor,
	hubId: string,
	request: TerminalAcceptanceRequest
): Promise<TerminalAcceptance> {
	requireMay(actor, 'sign');
	if (!(await findHub(hubId))) throw notFound('hub');
	const signedBefore = async (): Promise<TerminalAcceptance | undefined> => {
		const same = (await acceptancesOfHub(hubId)).find(({ id }) => id === request.id);
		return same && told(same, await hubProvenanceOf(hubId));
	};
	const same = await signedBefore();
	if (same) return same;
	const revision = await requireHubRevision(hubId);
	const work = await workOfRevision(revision);
	const { terminal, causes, signature } = request;
	const sign = (): Promise<void> =>
		inTransaction(async (unit) => {
			const feed = await lockHubFeed(hubId, unit);
			if (!feed) throw notFound('hub');
			if ((await newestHubRevisionNumber(hubId, unit)) !== revision.number) {
				throw refusal('plan-revised', { measuredAgainst: 'judged' });
			}
			const all = progressOf(work, await standingOf(hubId, unit));
			const judgement = judgeTerminalOf(all, terminal);
			if (!judgement) {
				const message = 'The issued plan has no such terminal.';
				throw invalid([{ field: 'terminal', message }]);
			}
			if (judgement.lastSeq !== request.lastSeq) throw refusal('record-moved-on');
			requireSignable(judgement, causes);
			const earlier = (await acceptancesOfHub(hubId)).filter((one) => one.terminal === terminal);
			const last = earlier.at(-1);
			if (last && acceptanceStands(last.judgement, judgement)) throw refusal('terminal-accepted');
			await insertTerminalAcceptance(
				{
					...{ id: request.id, hubId, terminal, revisionId: revision.id },
					number: (last?.number ?? 0) + 1,
					lastSeq: judgement.lastSeq,
					judgement: JSON.stringify(judgement),
					causes: JSON.stringify(causes),
					signature: JSON.stringify(signature),
					signedBy: actor.userId,
					signedAt: new Date(),
					recordDigest: feed.digest,
					importedPlace: null
				},
				unit
			);
			const detail = { terminal: judgement.terminal.name, revision: revision.number };
			await audit(actor.userId, 'accept-terminal', `hub:${hubId}`, detail, unit);
		});
	await unlessTaken(sign, () => undefined);
	const signed = await signedBefore();
	if (!signed) throw refusal('terminal-accepted');
	return signed;
}

function requireSignable({ lines }: TerminalJudgement, causes: Record<string, string>): void {
	const open = lines.filter(({ verdict }) => verdict === 'open');
	if (open.length) {
		throw refusal(
			'acceptance-incomplete',
			open.map(({ title, found }) => `${title}: ${found}`)
		).with(open.map(({ key, found }) => ({ field: `lines.${key}`, message: found })));
	}
	const uncaused = lines.filter(({ key, verdict }) => verdict === 'off' && !causes[key]?.trim());
	if (uncaused.length) {
		throw invalid(
			uncaused.map(({ key, title }) => ({
				field: `causes.${key}`,
				message: `Write the cause of this deviation: ${title}.`
			}))
		);
	}
}
