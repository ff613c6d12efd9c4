import { QueryTypes } from 'sequelize';
import { ENDS, type End } from '$core/ends';
import type { NeighbourCarrier } from '$core/frequency/siteConflicts';
import { inverseGeodesic } from '$core/geodesy/geodesic';
import type { PlanDraftValues } from '../../plan/resolve';
import type { Actor } from '../auth/actor';
import { db } from '../db/connection';
import type { Hop } from './hops';

interface NeighbourRow {
	name: string;
	member: number;
	siteA: string;
	siteB: string;
	planDraft: string;
	latA: number;
	lonA: number;
	latB: number;
	lonB: number;
}

/** More hops at one site than this are no site any more. */
const MOST_NEIGHBOURS = 400;

/**
 * What the other hops at the sites of a hop send and receive there, as their drafts stand. All
 * count, also those the actor may not see; of these the name is not told.
 */
export async function neighboursOf(
	actor: Actor,
	hop: Pick<Hop, 'id' | 'sites'>
): Promise<NeighbourCarrier[]> {
	const siteIds = ENDS.map((end) => hop.sites[end].id);
	const rows = await db().query<NeighbourRow>(
		`SELECT h.name, h.site_a_id AS siteA, h.site_b_id AS siteB, h.plan_draft AS planDraft,
			EXISTS (SELECT 1 FROM hop_members m WHERE m.hop_id = h.id AND m.user_id = ?) AS member,
			a.latitude_deg AS latA, a.longitude_deg AS lonA, b.latitude_deg AS latB, b.longitude_deg AS lonB
		FROM (
			SELECT id FROM hops WHERE site_a_id IN (?) UNION SELECT id FROM hops WHERE site_b_id IN (?)
		) near
		JOIN hops h ON h.id = near.id
		JOIN sites a ON a.id = h.site_a_id JOIN sites b ON b.id = h.site_b_id
		WHERE h.id <> ? LIMIT ?`,
		{
			replacements: [actor.userId, siteIds, siteIds, hop.id, MOST_NEIGHBOURS],
			type: QueryTypes.SELECT
		}
	);
	return rows.flatMap((row) =>
		ENDS.flatMap((end) => {
			const theirs: End | undefined =
				row.siteA === hop.sites[end].id ? 'A' : row.siteB === hop.sites[end].id ? 'B' : undefined;
			return theirs ? [carrierAt(actor, row, theirs, end)] : [];
		})
	);
}

function carrierAt(actor: Actor, row: NeighbourRow, theirs: End, at: End): NeighbourCarrier {
	const plan = JSON.parse(row.planDraft) as PlanDraftValues;
	const line = inverseGeodesic(
		{ latitudeDeg: Number(row.latA), longitudeDeg: Number(row.lonA) },
		{ latitudeDeg: Number(row.latB), longitudeDeg: Number(row.lonB) }
	);
	return {
		hopName: row.member || actor.role === 'administrator' ? row.name : 'another hop',
		at,
		transmitGhz: plan.ends[theirs].transmitFrequencyGhz,
		receiveGhz: plan.ends[theirs === 'A' ? 'B' : 'A'].transmitFrequencyGhz,
		channelWidthMhz: plan.channelWidthMhz,
		polarization: plan.polarization,
		azimuthTrueDeg: theirs === 'A' ? line.azimuthAtFirstDeg : line.azimuthAtSecondDeg
	};
}
