import { stationOf } from '#core/bringup/bringUp';
import type { LinkTest } from '#core/bringup/linkTests';

import { present } from '#core/units/lists';
import {
	lampOf,
	pageOf,
	pointingOf,
	testOutcome,
	truthOf,
	type PlantedTrouble
} from '#core/simulate/simulatedHub';
import { requireMay, type Actor } from '../auth/actor';
import { inTransaction } from '../db/transaction';
import { invalid, notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';
import { findHub } from '../repositories/hubs';
import { lockHubFeed, setHubPractice } from '../repositories/hubWork';
import type { AppendResult } from './feed';
import { getHub, type Hub } from './hubs';
import { appendToHub, requireHubRevision, workOfRevision, type NewHubRecord } from './hubWork';

/** What somebody looks at on a hub for practice. */
export interface StandInLook {
	/** Id of the record that it becomes. */
	id: string;
	station: string;
	look: 'lamp' | 'page' | 'test' | 'pointing';
	test?: LinkTest;
	headingDeg?: number;
}

const SEEDS = 2 ** 32;

/** Makes a hub one for practice, or a real one, and plants its troubles. */
export async function setPractice(
	actor: Actor,
	hubId: string,
	{ practice, planted }: { practice: boolean; planted: readonly PlantedTrouble[] }
): Promise<Hub> {
	requireMay(actor, 'edit-hops');
	const hub = await findHub(hubId);
	if (!hub) throw notFound('hub');
	const unknown = planted.findIndex(
		({ terminal }) => !hub.plan.terminals.some(({ id }) => id === terminal)
	);
	if (unknown >= 0) {
		const message = 'The hub has no such terminal.';
		throw invalid([{ field: `planted.${unknown}.terminal`, message }]);
	}
	await inTransaction(async (unit) => {
		const feed = await lockHubFeed(hubId, unit);
		if (!feed) throw notFound('hub');
		if (feed.lastSeq > 0 && practice !== (feed.practice !== null)) {
			throw refusal('hub-practice-fixed').at('practice');
		}
		const seed = feed.practice?.seed ?? Math.floor(Math.random() * SEEDS);
		await setHubPractice(hubId, practice ? { seed, planted } : null, unit);
		const detail = { name: hub.name, practice, planted: planted.length };
		await audit(actor.userId, 'hub-practice', `hub:${hubId}`, detail, unit);
	});
	return getHub(actor, hubId);
}

/** Looks at what stands in for a hub: what is seen becomes a record. A repeat with the same id does nothing. */
export async function lookAtStandIn(
	actor: Actor,
	hubId: string,
	look: StandInLook
): Promise<AppendResult> {
	const hub = await findHub(hubId);
	if (!hub) throw notFound('hub');
	if (!hub.practice) throw refusal('hub-not-practice');
	requireMay(actor, 'record-practice');
	const revision = await requireHubRevision(hubId);
	const work = await workOfRevision(revision);
	const station = stationOf(work, look.station);
	const field = 'station';
	if (!station) {
		throw invalid([{ field, message: 'The issued plan has no such unit or terminal.' }]);
	}
	const to = { hubId, revision, keepOlder: false };
	const [result] = await appendToHub(actor, to, (state, { practice }) => {
		if (!practice) throw refusal('hub-not-practice');
		const truth = truthOf(work, state, practice);
		const source = 'simulated' as const;
		const record = (made: Pick<NewHubRecord, 'kind' | 'payload'>): NewHubRecord[] => [
			{ id: look.id, station: station.id, recordedAt: new Date().toISOString(), ...made }
		];
		switch (look.look) {
			case 'lamp':
				return record({ kind: 'lamp', payload: { state: lampOf(truth, station), source } });
			case 'pointing': {
				const headingDeg = look.headingDeg ?? station.aim.headingDeg;
				const shown = pointingOf(truth, station, headingDeg);
				return record({ kind: 'pointing', payload: { ...shown, source } });
			}
			case 'page':
			case 'test': {
				if (station.kind === 'unit') {
					throw invalid([{ field, message: 'This is looked at from a terminal.' }]);
				}
				if (look.look === 'test') {
					const test = present(look.test, 'test');
					const value = testOutcome(truth, station, test) ? 'yes' : 'no';
					return record({ kind: 'link-test', payload: { test, value, source } });
				}
				const page = pageOf(truth, station);
				if (!page) throw refusal('hub-no-link');
				return record({ kind: 'link-level', payload: { ...page, source } });
			}
		}
	});
	return present(result, 'record');
}
