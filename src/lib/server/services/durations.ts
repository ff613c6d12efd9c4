import usual from '#catalog/durations.json';
import { durationsOf, workTimes, type WorkTime } from '#core/schedule/workTimes';
import type { Durations } from '#core/schedule/tasks';
import { requireMay, type Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import { inTransaction } from '../db/transaction';
import { invalid, refusal } from '../errors';
import { audit } from '../repositories/audit';
import { allSeen, findSaid, keepSaid, type SaidDurations } from '../repositories/durations';
import { freshStands } from './stands';

/** How long every kind of work takes, and who has said what of it. */
export interface TimesOfWork extends Omit<SaidDurations, 'said'> {
	times: WorkTime[];
	/** Hops whose records are not read yet. */
	behind: number;
}

/** What is planned with changes little: it is asked for so rarely. */
const FRESH_FOR_MS = 60_000;
let inUse: { at: number; durations: Durations } | undefined;

/** How long work takes, by the firm's word and its records. */
export async function timesOfWork(actor: Actor): Promise<TimesOfWork> {
	requireMay(actor, 'read-hops');
	const behind = await freshStands();
	const { said, ...about } = await findSaid();
	return { ...about, times: workTimes(usual, said, await allSeen()), behind };
}

/** The same as durations that hops are planned with. */
export async function durationsInUse(): Promise<Durations> {
	if (!inUse || Date.now() - inUse.at > FRESH_FOR_MS) {
		const { said } = await findSaid();
		inUse = { at: Date.now(), durations: durationsOf(workTimes(usual, said, await allSeen())) };
	}
	return inUse.durations;
}

/**
 * Keeps what the firm says of how long work takes, all of it in place of what it said before.
 *
 * @param version that it is said on top of; 0 where there was none
 */
export async function sayTimes(
	actor: Actor,
	{ version, said }: { version: number; said: Durations }
): Promise<TimesOfWork> {
	requireMay(actor, 'edit-hops');
	const unknown = Object.keys(said).filter((kind) => !Object.hasOwn(usual, kind));
	if (unknown.length) {
		throw invalid(
			unknown.map((kind) => ({ field: `said.${kind}`, message: `There is no work “${kind}”.` }))
		);
	}
	const by = { userId: actor.userId, at: new Date() };
	const keep = (): Promise<boolean> =>
		inTransaction(async (unit) => {
			if (!(await keepSaid(said, version, by, unit))) return false;
			const detail = { kinds: Object.keys(said).length };
			await audit(actor.userId, 'say-times-of-work', 'durations', detail, unit);
			return true;
		});
	if (!(await unlessTaken(keep, () => false))) {
		throw refusal('changed-meanwhile', { what: 'list of times' });
	}
	inUse = undefined;
	return timesOfWork(actor);
}
