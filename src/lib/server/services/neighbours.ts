import { QueryTypes } from 'sequelize';
import { ENDS, farEnd, type End } from '#core/ends';
import type { NeighbourCarrier } from '#core/frequency/siteConflicts';
import { inverseGeodesic } from '#core/geodesy/geodesic';
import type { PlanDraftValues } from '../../plan/resolve';
import type { Actor } from '../auth/actor';
import { db } from '../db/connection';
import type { Hop } from './hops';

/** A hop as its sites' other hops need to know it. */
export interface HopAtSite {
	id: string;
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

/** More hops at a handful of sites than this are no sites any more. */
const MOST_HOPS = 4000;

/** Every hop that stands at one of the sites, also those the actor may not see. */
export async function hopsAtSites(actor: Actor, siteIds: readonly string[]): Promise<HopAtSite[]> {
	const ids = [...new Set(siteIds)];
	return db().query<HopAtSite>(
		`SELECT h.id, h.name, h.site_a_id AS siteA, h.site_b_id AS siteB, h.plan_draft AS planDraft,
			EXISTS (SELECT 1 FROM hop_members m WHERE m.hop_id = h.id AND m.user_id = ?) AS member,
			a.latitude_deg AS latA, a.longitude_deg AS lonA, b.latitude_deg AS latB, b.longitude_deg AS lonB
		FROM (
			SELECT id FROM hops WHERE site_a_id IN (?) UNION SELECT id FROM hops WHERE site_b_id IN (?)
		) near
		JOIN hops h ON h.id = near.id
		JOIN sites a ON a.id = h.site_a_id JOIN sites b ON b.id = h.site_b_id
		LIMIT ?`,
		{ replacements: [actor.userId, ids, ids, MOST_HOPS], type: QueryTypes.SELECT }
	);
}

/**
 * What the other hops at the sites of a hop send and receive there, as their drafts stand. All
 * count; of those the actor may not see the name is not told.
 */
export function carriersAt(
	actor: Actor,
	hopId: string,
	siteIds: Record<End, string>,
	around: readonly HopAtSite[]
): NeighbourCarrier[] {
	return around
		.filter((row) => row.id !== hopId)
		.flatMap((row) =>
			ENDS.flatMap((end) => {
				const theirs: End | undefined =
					row.siteA === siteIds[end] ? 'A' : row.siteB === siteIds[end] ? 'B' : undefined;
				return theirs ? [carrierAt(actor, row, theirs, end)] : [];
			})
		);
}

/** The neighbours of one hop. */
export async function neighboursOf(
	actor: Actor,
	hop: Pick<Hop, 'id' | 'sites'>
): Promise<NeighbourCarrier[]> {
	const siteIds = { A: hop.sites.A.id, B: hop.sites.B.id };
	return carriersAt(actor, hop.id, siteIds, await hopsAtSites(actor, Object.values(siteIds)));
}

function carrierAt(actor: Actor, row: HopAtSite, theirs: End, at: End): NeighbourCarrier {
	const plan = JSON.parse(row.planDraft) as PlanDraftValues;
	const line = inverseGeodesic(
		{ latitudeDeg: Number(row.latA), longitudeDeg: Number(row.lonA) },
		{ latitudeDeg: Number(row.latB), longitudeDeg: Number(row.lonB) }
	);
	return {
		hopName: row.member || actor.role === 'administrator' ? row.name : 'another hop',
		at,
		transmitGhz: plan.ends[theirs].transmitFrequencyGhz,
		receiveGhz: plan.ends[farEnd(theirs)].transmitFrequencyGhz,
		channelWidthMhz: plan.channelWidthMhz,
		polarization: plan.polarization,
		azimuthTrueDeg: theirs === 'A' ? line.azimuthAtFirstDeg : line.azimuthAtSecondDeg
	};
}
