import { randomUUID } from 'node:crypto';
import type { HubRecordKind, HubRecordPayloads } from '#core/bringup/hubRecords';
import type { LinkCause } from '#core/bringup/linkCauses';
import { STOP_CARD_WORDS, type StopCard } from '#core/safety/stopCards';
import type { BuildStep } from '#core/tower/buildStep';
import { present } from '#core/units/lists';
import type { Actor } from '../auth/actor';
import { lookAtStandIn, setPractice } from '../services/hubStandIn';
import type { Hub } from '../services/hubs';
import { issueHub, recordAtHub, workOfRevision } from '../services/hubWork';

/** What is said of the work at a demo's hub, by the names of its terminals and units. */
interface DemoWork {
	planted: readonly { terminal: string; cause: string }[];
	/** Units and terminals that are put up already, in that order. */
	built: readonly string[];
}

/** Issues the plan of a demo's hub for practice, and brings some of it up. */
export async function loadHubWork(
	hub: Hub,
	{ planted, built }: DemoWork,
	{ planner, crew }: { planner: Actor; crew: Actor }
): Promise<void> {
	const idOf = (name: string): string =>
		present(
			[...hub.plan.units, ...hub.plan.terminals].find((one) => one.name === name),
			`${name} of the demo's hub`
		).id;
	await setPractice(planner, hub.id, {
		practice: true,
		planted: planted.map(({ terminal, cause }) => ({
			terminal: idOf(terminal),
			cause: cause as LinkCause
		}))
	});
	const revision = await issueHub(planner, hub.id, {
		...{ id: randomUUID(), version: hub.version, note: '' }
	});
	const work = await workOfRevision(revision);
	const keep = <K extends HubRecordKind>(
		station: string,
		kind: K,
		payload: HubRecordPayloads[K]
	): Promise<unknown> =>
		recordAtHub(crew, hub.id, [
			{ ...{ id: randomUUID(), station, kind, payload }, recordedAt: new Date().toISOString() }
		]);
	const look = (station: string, what: 'lamp' | 'page'): Promise<unknown> =>
		lookAtStandIn(crew, hub.id, { id: randomUUID(), station, look: what });
	for (const name of built) {
		const station = present(
			work.stations.find(({ id }) => id === idOf(name)),
			name
		);
		for (const card of ['climb', 'transmit'] as const) {
			await keep(station.id, 'stop-card', goOf(card));
		}
		for (const step of work.stepsOf(station)) {
			if (step.base !== 'station-cover') {
				await keep(station.id, 'build-step', { ...asPlanned(step), note: '', photoIds: [] });
			}
		}
		await look(station.id, 'lamp');
		const troubled = planted.some(({ terminal }) => terminal === name);
		if (station.kind === 'terminal' && !troubled) await look(station.id, 'page');
		const cover = { step: 'station-cover', value: null, note: '', photoIds: [] };
		if (!troubled) await keep(station.id, 'build-step', cover);
	}
}

/** A card answered safely. */
const goOf = (card: StopCard): HubRecordPayloads['stop-card'] => ({
	...{ card, note: '' },
	answers: Object.fromEntries(STOP_CARD_WORDS[card].questions.map(({ key }) => [key, 'yes']))
});

/** A step as its quantity and its gate would have it. */
function asPlanned({
	key,
	quantity,
	gate
}: BuildStep): Pick<HubRecordPayloads['build-step'], 'step' | 'value' | 'source'> {
	const value = quantity ? (quantity.expected ?? (quantity.low + quantity.high) / 2) : null;
	if (gate?.kind !== 'source') return { step: key, value };
	const { power, supplyMinV, consumptionW } = gate.unit;
	return {
		...{ step: key, value },
		source: { kind: power.kind, voltageV: Math.ceil(supplyMinV) + 2, powerW: consumptionW + 5 }
	};
}
