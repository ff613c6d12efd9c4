import { selectOne } from '../db/sql';
import { STANDING_COLUMNS, standingOf, type FeedStanding, type StandingRow } from './feeds';

/** What has to be known of a hop before anything is recorded in it. */
export interface RecordPlace {
	hopId: string;
	/** Null unless it is a practice hop. */
	simulationSeed: number | null;
	/** Whether the person asked about works on it. */
	isMember: boolean;
	/** The newest revision; null while none is issued. */
	latest: { id: string; number: number } | null;
	/** Its feed as it stood when this was read. */
	feed: FeedStanding;
}

/** Columns of a {@link PlaceRow}, of `hops h` joined by {@link placeFor}. */
export const PLACE = `h.id AS hopId, h.simulation_seed AS simulationSeed,
	revision.id AS revisionId, revision.number AS revisionNumber,
	(member.user_id IS NOT NULL) AS isMember, ${STANDING_COLUMNS}`;

export interface PlaceRow extends StandingRow {
	hopId: string;
	simulationSeed: number | null;
	revisionId: string | null;
	revisionNumber: number | null;
	isMember: number;
}

/**
 * Joins `hops h` to its feed, its newest revision and the membership of a person.
 *
 * @param person who is asked about, as SQL
 */
export const placeFor = (person: string): string => `
	LEFT JOIN hop_feeds ON hop_feeds.hop_id = h.id
	LEFT JOIN hop_members member ON member.hop_id = h.id AND member.user_id = ${person}
	LEFT JOIN plan_revisions revision ON revision.hop_id = h.id
		AND revision.number = (SELECT MAX(n.number) FROM plan_revisions n WHERE n.hop_id = h.id)`;

export function placeOf(row: PlaceRow): RecordPlace {
	const { hopId, simulationSeed, revisionId, revisionNumber, isMember } = row;
	const latest =
		revisionId !== null && revisionNumber !== null
			? { id: revisionId, number: revisionNumber }
			: null;
	const feed = standingOf(hopId, row);
	return { hopId, simulationSeed, isMember: Boolean(isMember), latest, feed };
}

/** Where a hop stands for a person; undefined where there is no such hop. */
export async function findRecordPlace(
	hopId: string,
	userId: string
): Promise<RecordPlace | undefined> {
	const row = await selectOne<PlaceRow>(
		`SELECT ${PLACE} FROM hops h ${placeFor(':userId')} WHERE h.id = :hopId`,
		{ hopId, userId }
	);
	return row && placeOf(row);
}
