import { refusalOf, standingOf, type CardRefusal } from '../safety/cardRule';
import { refusedStep } from '../tower/judgeStep';
import { stationOf, type HubWork } from './bringUp';
import { stationState, type HubState } from './foldHub';
import type { HubRecord } from './hubRecords';

export type HubRuleCode = CardRefusal['code'] | 'no-such-station' | 'not-at-a-unit' | 'gate';

/** Why a record of a hub cannot stand. */
export interface HubRuleRefusal {
	code: HubRuleCode;
	message: string;
	/** Field of its payload that says so; absent where it is the record itself. */
	field?: string;
}

/** What only a terminal has. */
const OF_TERMINALS: ReadonlySet<HubRecord['kind']> = new Set(['link-level', 'link-test']);

/**
 * What stands against a record of a hub, asked before it is kept; the form of a step asks the same gates and cards
 * before it makes one.
 *
 * @param state as it stands before the record
 */
export function refusedHubRecord(
	work: HubWork,
	state: HubState,
	record: Pick<HubRecord, 'station' | 'kind' | 'payload' | 'recordedAt'>
): HubRuleRefusal | undefined {
	const station = stationOf(work, record.station);
	if (!station) {
		return {
			code: 'no-such-station',
			message: 'The issued plan has no such unit or terminal.'
		};
	}
	if (station.kind === 'unit' && OF_TERMINALS.has(record.kind)) {
		return { code: 'not-at-a-unit', message: 'This is recorded at a terminal.' };
	}
	const of = record as HubRecord;
	if (of.kind !== 'build-step' && of.kind !== 'step-skipped') return undefined;
	const steps = work.stepsOf(station);
	const step = steps.find(({ key }) => key === of.payload.step);
	const { card } = step ?? {};
	if (card && of.kind === 'build-step') {
		const answered = stationState(state, station.id).cards[card];
		const standing = answered && standingOf(card, answered);
		const against = refusalOf(standing, { card, where: station.name }, of.recordedAt);
		if (against) return against;
	}
	const refused = refusedStep(steps, of);
	return refused && { code: 'gate', message: refused.message, field: refused.field };
}
