import type { End } from '#core/ends';
import type { RecordKind, RecordPayloads } from '#core/record/records';
import type { StopCard } from '#core/safety/stopCards';
import { buildSteps, type BuildStep } from '#core/tower/buildSteps';
import { refusedStep } from '#core/tower/judgeStep';
import { refusal } from '../errors';
import { revisionByNumber } from './plans';

/** Steps of an end by revision: a revision never changes, and a crew records many steps of one. */
const KNOWN_STEPS = new Map<string, readonly BuildStep[]>();
const MOST_KNOWN = 64;

async function stepsOf(hopId: string, number: number, end: End): Promise<readonly BuildStep[]> {
	const key = `${hopId}/${number}/${end}`;
	const known = KNOWN_STEPS.get(key);
	if (known) return known;
	const { input, plan } = await revisionByNumber(hopId, number);
	const steps = buildSteps(input, plan, end);
	const [oldest] = KNOWN_STEPS.keys();
	if (KNOWN_STEPS.size >= MOST_KNOWN && oldest !== undefined) KNOWN_STEPS.delete(oldest);
	KNOWN_STEPS.set(key, steps);
	return steps;
}

/** As much of a record as is looked at here. */
interface Made {
	id: string;
	end: End;
	kind: RecordKind;
	payload: RecordPayloads[RecordKind];
	revisionNumber?: number;
}

type StepRecord = Made &
	(
		| { kind: 'build-step'; payload: RecordPayloads['build-step'] }
		| { kind: 'step-skipped'; payload: RecordPayloads['step-skipped'] }
	);

const ofStep = (record: Made): record is StepRecord =>
	record.kind === 'build-step' || record.kind === 'step-skipped';

/**
 * Refuses records that close a step of the building against its gate, each at the field that says so.
 *
 * @param revisions numbers of the hop’s revisions that records may name; the first is the newest
 * @returns the card that stands before each step that is recorded as done, by the id of its record
 */
export async function throughGates(
	hopId: string,
	revisions: readonly [number, ...number[]],
	records: readonly Made[]
): Promise<ReadonlyMap<string, StopCard>> {
	const cards = new Map<string, StopCard>();
	for (const [i, record] of records.entries()) {
		if (!ofStep(record)) continue;
		const number = record.revisionNumber ?? revisions[0];
		// A revision that is not there is refused where records are given their places.
		if (!revisions.includes(number)) continue;
		const steps = await stepsOf(hopId, number, record.end);
		const refused = refusedStep(steps, record);
		if (refused) {
			throw refusal('against-gate', refused.message).at(`records.${i}.payload.${refused.field}`);
		}
		const card = steps.find(({ key }) => key === record.payload.step)?.card;
		if (card && record.kind === 'build-step') cards.set(record.id, card);
	}
	return cards;
}
