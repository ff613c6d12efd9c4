import { ENDS } from '#core/ends';
import {
	sumAt,
	withTerrain,
	type Contribution,
	type ReceiverInterference
} from '#core/interference/interference';
import type { QuieterChoice } from '#core/interference/quieter';
import { obstructionLoss } from '#core/path/obstructionLoss';
import { pathClearance } from '#core/path/pathClearance';
import type { Station } from '#core/interference/stations';
import type { Actor } from '../auth/actor';
import { inWorker } from '../jobs/pool';
import { hopsInReach, type HopInReach } from '../repositories/hops';
import { siteValuesOf } from '../repositories/sites';
import type { SiteValues } from '../../plan/resolve';
import { getHop, type Hop } from './hops';
import { seesHop, UNSEEN_HOP } from './neighbours';
import { catalogue } from './parts';
import { planInputOf } from './plans';
import { takeProfile } from './terrain';

/** How far others are looked for, km: beyond it the bulge of the earth hides what stands on common masts. */
const REACH_KM = 120;
/** Channels further off than this share of the frequency are not looked at. */
const BAND_SHARE = 0.03;
const MOST_HOPS = 2000;
/** So many of the strongest are looked at over the terrain. */
const MOST_OVER_TERRAIN = 30;
const TERRAIN_STEP_M = 150;
/** Contributions told of each receiver, and receivers of others. */
const MOST_TOLD = 8;
const MOST_HARMED = 20;
/** A receiver of others is told of where it loses at least this, dB. */
const HARM_DB = 0.1;
const KM_PER_DEG = 111.2;
const K_FACTOR = 4 / 3;

/** What one sender brings to one receiver, as it is told. */
export interface ToldContribution {
	hopName: string;
	siteName: string;
	distanceKm: number;
	offAxisHereDeg: number;
	offAxisThereDeg: number;
	crossed: boolean;
	channels: Contribution['channels'];
	terrainDb: number | null;
	levelDbm: number;
}

export interface ToldReceiver {
	hopName: string;
	siteName: string;
	end: Station['end'];
	carrierNumber: number;
	carrierName: string;
	secondPair: boolean;
	/** Null where nothing is heard. */
	levelDbm: number | null;
	carrierToInterferenceDb: number | null;
	degradationDb: number;
	contributions: ToldContribution[];
}

export interface HopInterference {
	/** Hops that were reckoned with, and whether there were more than that. */
	looked: number;
	more: boolean;
	reachKm: number;
	/** Hops whose drafts contradict themselves. */
	leftOut: string[];
	/** Whether a receiver states nothing of neighbouring channels: then only overlap was counted. */
	overlapOnly: boolean;
	heard: ToldReceiver[];
	harmed: ToldReceiver[];
	choices: QuieterChoice[];
}

/**
 * What a hop hears of the other hops in its reach and does to them, by the drafts as they are saved. The
 * strongest are looked at over the terrain. Of hops that the actor does not see no name is told.
 */
export async function interferenceOf(actor: Actor, hopId: string): Promise<HopInterference> {
	const hop = await getHop(actor, hopId);
	const parts = await catalogue();
	const own = planInputOf(hop, parts);
	const rows = (await hopsInReach(actor.userId, reachOf(hop), bandOf(hop), MOST_HOPS + 2)).filter(
		({ id }) => id !== hopId
	);
	const others = rows.slice(0, MOST_HOPS).map((row) => told(actor, row));
	const found = await inWorker('network-interference', { hopId, own, others, parts });
	const lost = await terrainLosses(actor, [...found.heard, ...found.harmed]);
	const over = (receivers: readonly ReceiverInterference[]): ReceiverInterference[] =>
		receivers.map(({ at, contributions }) =>
			sumAt(
				at,
				contributions.map((one) => {
					const lossDb = lost.get(pathKey(one));
					return lossDb === undefined ? one : withTerrain(one, lossDb);
				})
			)
		);
	return {
		looked: others.length,
		more: rows.length > MOST_HOPS,
		reachKm: REACH_KM,
		leftOut: found.leftOut,
		overlapOnly: found.heard.some(({ at }) => at.hears.adjacentChannelDb === null),
		heard: over(found.heard).map(receiverTold),
		harmed: over(found.harmed)
			.filter(({ degradationDb }) => degradationDb >= HARM_DB)
			.toSorted((p, q) => q.degradationDb - p.degradationDb)
			.slice(0, MOST_HARMED)
			.map(receiverTold),
		choices: found.choices
	};
}

/** A hop in reach by value; of those the actor does not see without its names. */
function told(
	actor: Actor,
	row: HopInReach
): { id: string; name: string; planDraft: string; sites: { A: SiteValues; B: SiteValues } } {
	const { id, planDraft, sites } = row;
	const seen = seesHop(actor, row);
	const valuesAt = (site: HopInReach['sites']['A']): SiteValues => ({
		...site,
		...siteValuesOf(site),
		...(seen ? {} : { name: 'another site' })
	});
	return {
		...{ id, planDraft, name: seen ? row.name : UNSEEN_HOP },
		sites: { A: valuesAt(sites.A), B: valuesAt(sites.B) }
	};
}

/** A box that holds all within reach of either end. */
function reachOf({ sites }: Hop): { west: number; south: number; east: number; north: number } {
	const latitudes = ENDS.map((end) => sites[end].latitudeDeg);
	const longitudes = ENDS.map((end) => sites[end].longitudeDeg);
	const up = REACH_KM / KM_PER_DEG;
	const poleward = Math.min(85, Math.max(...latitudes.map(Math.abs)) + up);
	const across = up / Math.cos((poleward * Math.PI) / 180);
	return {
		south: Math.max(-90, Math.min(...latitudes) - up),
		north: Math.min(90, Math.max(...latitudes) + up),
		west: Math.max(-180, Math.min(...longitudes) - across),
		east: Math.min(180, Math.max(...longitudes) + across)
	};
}

/** The frequencies around those of a hop. */
function bandOf({ plan }: Hop): readonly [number, number] {
	const sent = ENDS.flatMap((end) => {
		const { transmitFrequencyGhz, secondTransmitFrequencyGhz } = plan.ends[end];
		return secondTransmitFrequencyGhz === null
			? [transmitFrequencyGhz]
			: [transmitFrequencyGhz, secondTransmitFrequencyGhz];
	});
	return [Math.min(...sent) * (1 - BAND_SHARE), Math.max(...sent) * (1 + BAND_SHARE)];
}

/** A path between two antennas is one for all carriers on it of about one frequency. */
const pathKey = ({ from, at }: Contribution): string =>
	[
		...[from.hopId, from.end, from.antennaAmslM, at.hopId, at.end, at.antennaAmslM],
		at.hears.frequencyGhz.toFixed(1)
	].join(' ');

/** What the ground takes from the strongest contributions, dB, by their paths; nothing where no raster knows it. */
async function terrainLosses(
	actor: Actor,
	receivers: readonly ReceiverInterference[]
): Promise<Map<string, number>> {
	const strongest = receivers
		.flatMap(({ contributions }) => contributions)
		.toSorted((p, q) => q.levelDbm - q.at.hears.floorDbm - (p.levelDbm - p.at.hears.floorDbm));
	const losses = new Map<string, number>();
	for (const one of strongest) {
		if (losses.size >= MOST_OVER_TERRAIN) break;
		const key = pathKey(one);
		if (losses.has(key)) continue;
		const sampled = await takeProfile(actor, {
			a: one.from.position,
			b: one.at.position,
			stepM: TERRAIN_STEP_M
		});
		if (sampled.kind === 'no-terrain') continue;
		const { frequencyGhz } = one.at.hears;
		const clearance = pathClearance({
			profile: sampled.profile,
			obstacles: [],
			antennaAmslM: { A: one.from.antennaAmslM, B: one.at.antennaAmslM },
			frequencyGhz,
			kFactor: K_FACTOR
		});
		losses.set(key, obstructionLoss(clearance, frequencyGhz).lossDb);
	}
	return losses;
}

function receiverTold(receiver: ReceiverInterference): ToldReceiver {
	const { at, contributions, levelDbm, carrierToInterferenceDb, degradationDb } = receiver;
	const { hopName, siteName, end, carrierNumber, carrierName, secondPair } = at;
	const heard = contributions.length > 0;
	return {
		...{ hopName, siteName, end, carrierNumber, carrierName, secondPair, degradationDb },
		levelDbm: heard ? levelDbm : null,
		carrierToInterferenceDb: heard ? carrierToInterferenceDb : null,
		contributions: contributions.slice(0, MOST_TOLD).map((one) => ({
			hopName: one.from.hopName,
			siteName: one.from.siteName,
			distanceKm: one.distanceKm,
			offAxisHereDeg: one.offAxisHereDeg,
			offAxisThereDeg: one.offAxisThereDeg,
			crossed: one.crossed,
			channels: one.channels,
			terrainDb: one.terrainDb,
			levelDbm: one.levelDbm
		}))
	};
}
