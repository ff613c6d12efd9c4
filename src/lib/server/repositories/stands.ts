import type { End } from '#core/ends';
import type { EndStanding, HopStanding } from '#core/stage/standing';
import { run, select, timeText } from '../db/sql';
import type { Unit } from '../db/transaction';

/** A hop whose record went on since its standing was kept. */
export interface StaleStand {
	hopId: string;
	lastSeq: number;
	revision: number;
	acceptances: number;
}

/** Hops with a plan in force whose standing is not kept as they stand now. */
export function staleStands(limit: number): Promise<StaleStand[]> {
	return select<StaleStand>(
		`SELECT r.hop_id AS hopId, f.last_seq AS lastSeq, r.number AS revision,
			COALESCE(x.signed, 0) AS acceptances
		FROM (SELECT hop_id, MAX(number) AS number FROM plan_revisions GROUP BY hop_id) r
		JOIN hop_feeds f ON f.hop_id = r.hop_id
		LEFT JOIN (SELECT hop_id, COUNT(*) AS signed FROM acceptances GROUP BY hop_id) x ON x.hop_id = r.hop_id
		LEFT JOIN hop_stands s ON s.hop_id = r.hop_id
		WHERE s.hop_id IS NULL OR s.last_seq <> f.last_seq OR s.revision <> r.number
			OR s.acceptances <> COALESCE(x.signed, 0) LIMIT ?`,
		[limit]
	);
}

/** Keeps where both ends of a hop stand. */
export function keepStand(
	{ hopId, lastSeq, revision, acceptances }: StaleStand,
	{ ends, shortParts }: HopStanding,
	unit: Unit
): Promise<void> {
	const of = (end: End): unknown[] => {
		const { stage, state, note, waitsFor, since } = ends[end];
		return [stage, state, note.slice(0, 300), waitsFor, since && timeText(new Date(since))];
	};
	return run(
		`REPLACE INTO hop_stands (hop_id, last_seq, revision, acceptances, stage_a, state_a, note_a,
			waits_a, since_a, stage_b, state_b, note_b, waits_b, since_b, short_parts)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		[hopId, lastSeq, revision, acceptances, ...of('A'), ...of('B'), shortParts],
		unit
	);
}

/** Columns of `hop_stands s` for one end, as {@link standIn} reads them; of a hop without a plan those of a draft. */
export const standColumns = (end: End): string => {
	const at = end.toLowerCase();
	return `COALESCE(s.stage_${at}, 'prepare') AS stage${end}, COALESCE(s.state_${at}, 'open') AS state${end},
		COALESCE(s.note_${at}, '') AS note${end}, s.since_${at} AS since${end},
		IF(s.hop_id IS NULL, 'planner', s.waits_${at}) AS waits${end}`;
};

export type StandColumns = { [E in End as `stage${E}`]: EndStanding['stage'] } & {
	[E in End as `state${E}`]: EndStanding['state'];
} & { [E in End as `note${E}`]: string } & { [E in End as `since${E}`]: Date | null } & {
	[E in End as `waits${E}`]: EndStanding['waitsFor'];
};

/** Where an end stands, from a row with {@link standColumns}. */
export function standIn(row: StandColumns, end: End): EndStanding {
	return {
		...{ stage: row[`stage${end}`], state: row[`state${end}`], note: row[`note${end}`] },
		waitsFor: row[`waits${end}`],
		since: row[`since${end}`]?.toISOString() ?? null
	};
}
