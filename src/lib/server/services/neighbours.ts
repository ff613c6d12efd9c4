import { ENDS, farEnd, type End } from '#core/ends';
import type { NeighbourCarrier } from '#core/frequency/siteConflicts';
import { inverseGeodesic } from '#core/geodesy/geodesic';
import type { PlanDraftValues } from '../../plan/resolve';
import type { Actor } from '../auth/actor';
import { hopsAtSites, type HopAtSite } from '../repositories/hops';
import type { Hop } from './hops';

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
	return carriersAt(
		actor,
		hop.id,
		siteIds,
		await hopsAtSites(actor.userId, Object.values(siteIds))
	);
}

/** Whether the actor sees a hop beside their own, or only counts with it. */
export const seesHop = (actor: Actor, { member }: { member: number }): boolean =>
	member > 0 || actor.role === 'administrator';
/** What a hop is called for who does not see it. */
export const UNSEEN_HOP = 'another hop';

function carrierAt(actor: Actor, row: HopAtSite, theirs: End, at: End): NeighbourCarrier {
	const plan = JSON.parse(row.planDraft) as PlanDraftValues;
	const line = inverseGeodesic(
		{ latitudeDeg: row.latA, longitudeDeg: row.lonA },
		{ latitudeDeg: row.latB, longitudeDeg: row.lonB }
	);
	return {
		hopName: seesHop(actor, row) ? row.name : UNSEEN_HOP,
		at,
		transmitGhz: plan.ends[theirs].transmitFrequencyGhz,
		receiveGhz: plan.ends[farEnd(theirs)].transmitFrequencyGhz,
		channelWidthMhz: plan.channelWidthMhz,
		polarization: plan.polarization,
		azimuthTrueDeg: theirs === 'A' ? line.azimuthAtFirstDeg : line.azimuthAtSecondDeg
	};
}
