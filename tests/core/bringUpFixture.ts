import { advancedHub, EMPTY_HUB_STATE, type HubState } from '#core/bringup/foldHub';
import { hubWorkOf, progressOf, type HubWork, type StationProgress } from '#core/bringup/bringUp';
import type { HubRecord, HubRecordKind, HubRecordPayloads } from '#core/bringup/hubRecords';
import { resolveHub, type HubDraft } from '#core/hub/hubDraft';
import type { StepDone } from '#core/tower/judgeStep';
import type { BuildStep } from '#core/tower/buildStep';
import { harbour, hubTerminal, hubUnit, QUAY } from './hubFixture';
import { catalogue } from './planFixture';

/** Two units back to back with two terminals each. */
export const twoSectors = (more: Partial<HubDraft> = {}): HubDraft =>
	harbour({
		units: [
			hubUnit({ headingDeg: 90 }),
			hubUnit({ id: 'u2', name: 'Sector 2', headingDeg: 270, frequencyGhz: 62.64 })
		],
		terminals: [
			hubTerminal({ name: 'Net loft', bearingDeg: 80 }),
			hubTerminal({ name: 'Ice house', bearingDeg: 105, how: 'wall', wallBearingDeg: 280 }),
			hubTerminal({ name: 'Slip', bearingDeg: 265 }),
			hubTerminal({ name: 'Boat shed', bearingDeg: 285, how: 'bracket' })
		],
		...more
	});

export function workOf(draft: HubDraft): HubWork {
	const resolved = resolveHub(draft, QUAY, catalogue);
	if (resolved.kind !== 'input') throw new Error(resolved.fields.join());
	return hubWorkOf(resolved.input);
}

const FIRST = Date.parse('2026-05-04T08:00:00.000Z');

/** The records of a hub as they come in, a minute apart. */
export class HubFeed {
	state: HubState = EMPTY_HUB_STATE;
	readonly records: HubRecord[] = [];

	constructor(readonly work: HubWork) {}

	add<K extends HubRecordKind>(station: string, kind: K, payload: HubRecordPayloads[K]): this {
		const seq = this.records.length + 1;
		const record = {
			...{ id: `r${seq}`, seq, station, kind, payload, revisionNumber: 1, recordedBy: 'Crew' },
			recordedAt: new Date(FIRST + seq * 60_000).toISOString()
		} as HubRecord;
		this.records.push(record);
		this.state = advancedHub(this.state, [record]);
		return this;
	}

	step(station: string, key: string, more: Partial<StepDone> = {}): this {
		const found = this.stepsOf(station).find((step) => step.key === key);
		if (!found) throw new Error(`no step ${key} at ${station}`);
		return this.add(station, 'build-step', {
			...{ step: key, note: '', photoIds: [] },
			...good(found),
			...more
		});
	}

	/** Every step of a station up to the one of its cover, as it should be. */
	built(station: string): this {
		for (const { key } of this.stepsOf(station)) {
			if (key !== 'station-cover') this.step(station, key);
		}
		return this;
	}

	stepsOf(station: string): readonly BuildStep[] {
		return this.work.stepsOf(this.work.stations.find(({ id }) => id === station)!);
	}

	all(): StationProgress[] {
		return progressOf(this.work, this.state);
	}

	at(station: string): StationProgress {
		return this.all().find((one) => one.station.id === station)!;
	}
}

/** A step done as its quantity and its gate would have it. */
function good({ quantity, gate }: BuildStep): StepDone {
	const value = quantity
		? (quantity.expected ??
			(quantity.high === Infinity ? quantity.low : (quantity.low + quantity.high) / 2))
		: null;
	if (gate?.kind !== 'source') return { value };
	const { power, consumptionW } = gate.unit;
	return {
		value,
		source: { kind: power.kind, voltageV: power.maxV - 2, powerW: consumptionW + 5 }
	};
}

export const LINKED = { state: 'linked', source: 'hand' } as const;
