import type { Durations } from '#core/schedule/tasks';
import type { Observed } from '#core/schedule/spread';
import { select, selectOne } from '../db/sql';
import { saidDurations, seenDurations } from '../db/tables';
import type { Unit } from '../db/transaction';

/** What the firm says of how long work takes. */
export interface SaidDurations {
	said: Durations;
	/** 0 where nobody has said anything yet. */
	version: number;
	/** Display name of who changed it last. */
	changedBy: string | null;
	changedAt: Date | null;
}

const ONE = 1;

export async function findSaid(): Promise<SaidDurations> {
	const row = await selectOne<Omit<SaidDurations, 'said'> & { content: string }>(
		`SELECT d.content, d.version, d.changed_at AS changedAt, u.display_name AS changedBy
		FROM said_durations d JOIN users u ON u.id = d.changed_by WHERE d.id = ?`,
		[ONE]
	);
	if (!row) return { said: {}, version: 0, changedBy: null, changedAt: null };
	const { content, ...rest } = row;
	return { ...rest, said: JSON.parse(content) as Durations };
}

/**
 * Keeps what the firm says on top of a version, 0 where there was none. Throws TakenError where somebody has said
 * something meanwhile.
 *
 * @returns whether it still had that version
 */
export async function keepSaid(
	said: Durations,
	version: number,
	by: { userId: string; at: Date },
	unit: Unit
): Promise<boolean> {
	const values = {
		...{ content: JSON.stringify(said), version: version + 1 },
		...{ changedBy: by.userId, changedAt: by.at }
	};
	if (version > 0) return (await saidDurations.change({ id: ONE, version }, values, unit)) > 0;
	await saidDurations.add({ id: ONE, ...values }, unit);
	return true;
}

/** What was seen of each kind of work, over all hops of the firm's own: none for practice, none from elsewhere. */
export async function allSeen(): Promise<Record<string, Observed>> {
	const rows = await select<Omit<Observed, 'n'> & { kind: string; n: number | string }>(
		`SELECT s.kind, CAST(SUM(s.n) AS INT) AS n, SUM(s.sum_log) AS sumLog, SUM(s.sum_log2) AS sumLog2
		FROM seen_durations s JOIN hops h ON h.id = s.hop_id AND h.simulation_seed IS NULL
		LEFT JOIN hop_imports i ON i.hop_id = s.hop_id WHERE i.hop_id IS NULL GROUP BY s.kind`
	);
	return Object.fromEntries(
		rows.map(({ kind, ...observed }) => [kind, { ...observed, n: Number(observed.n) }])
	);
}

/** Keeps what was seen of each kind of work at a hop in place of what was seen before. */
export async function keepSeen(
	hopId: string,
	seen: Readonly<Record<string, Observed>>,
	unit: Unit
): Promise<void> {
	await seenDurations.remove({ hopId }, unit);
	const rows = Object.entries(seen).map(([kind, observed]) => ({ hopId, kind, ...observed }));
	if (rows.length) await seenDurations.add(rows, unit);
}
