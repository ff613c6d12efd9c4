import { randomUUID } from 'node:crypto';
import { hubWorkOf, type HubWork } from '#core/bringup/bringUp';
import type { HubRecord, HubRecordKind, HubRecordPayloads } from '#core/bringup/hubRecords';
import type { HubRevision } from '$lib/server/services/hubWork';
import { call, goCard, hubRecord, newHub, type Answer, type Caller } from './world';

export const postRecords = (
	crew: Caller,
	hubId: string,
	records: object[],
	more: object = {}
): Promise<Answer> => call(crew, 'POST', `/hubs/${hubId}/records`, { records, ...more });

export async function keepAt<K extends HubRecordKind>(
	crew: Caller,
	hubId: string,
	station: string,
	kind: K,
	payload: HubRecordPayloads[K]
): Promise<void> {
	const answer = await postRecords(crew, hubId, [hubRecord(station, kind, payload)]);
	if (answer.status !== 200) throw new Error(answer.text);
}

export const recordsOfHub = async (crew: Caller, hubId: string): Promise<HubRecord[]> =>
	(await call<{ records: HubRecord[] }>(crew, 'GET', `/hubs/${hubId}/records`)).body.records;

export const workOfHub = async (crew: Caller, hubId: string): Promise<HubWork> => {
	const { body } = await call<{ revision: HubRevision }>(crew, 'GET', `/hubs/${hubId}/revision`);
	return hubWorkOf(body.revision.hub);
};

export const lookAt = (
	crew: Caller,
	hubId: string,
	station: string,
	what: string,
	more: object = {}
): Promise<Answer> =>
	call(crew, 'POST', `/hubs/${hubId}/stand-in`, {
		...{ id: randomUUID(), station, look: what },
		...more
	});

/** Every step of a station as it should be, its cover left out. */
export async function buildStation(crew: Caller, hubId: string, stationId: string): Promise<void> {
	const work = await workOfHub(crew, hubId);
	const station = work.stations.find(({ id }) => id === stationId)!;
	await keepAt(crew, hubId, stationId, 'stop-card', goCard('climb'));
	await keepAt(crew, hubId, stationId, 'stop-card', goCard('transmit'));
	for (const { key, quantity, gate } of work.stepsOf(station)) {
		if (key === 'station-cover') continue;
		const value = quantity ? (quantity.expected ?? quantity.low) : null;
		const unit = gate?.kind === 'source' ? gate.unit : undefined;
		await keepAt(crew, hubId, stationId, 'build-step', {
			...{ step: key, value, note: '', photoIds: [] },
			...(unit
				? {
						source: {
							...{ kind: unit.power.kind, voltageV: unit.supplyMinV + 1 },
							powerW: unit.consumptionW + 1
						}
					}
				: {})
		});
	}
}

/** A hub for practice, built, linked and read as planned, with everything closed. */
export async function readyHub(
	planner: Caller,
	crew: Caller
): Promise<{ id: string; lastSeq: number }> {
	const { id } = await newHub(planner, { practice: true });
	await buildStation(crew, id, 'u1');
	await buildStation(crew, id, 't1');
	await lookAt(crew, id, 'u1', 'lamp');
	await lookAt(crew, id, 't1', 'lamp');
	await lookAt(crew, id, 't1', 'page');
	const cover = { step: 'station-cover', value: null, note: '', photoIds: [] };
	await keepAt(crew, id, 'u1', 'build-step', cover);
	await keepAt(crew, id, 't1', 'build-step', cover);
	return { id, lastSeq: (await recordsOfHub(crew, id)).length };
}
