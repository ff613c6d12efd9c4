import { secondHopsOf } from '#core/budget/secondHop';
import type { End } from '#core/ends';
import type { RecordKind, RecordPayloads } from '#core/record/records';
import { isOfSecond } from '#core/record/secondDish';
import type { StopCard } from '#core/safety/stopCards';
import { buildSteps, type BuildStep } from '#core/tower/buildSteps';
import { refusedStep } from '#core/tower/judgeStep';
import { refusal } from '../errors';
import { revisionByNumber } from './plans';

/** What was found out of revisions: they never change, and a crew records many times against one. */
const KNOWN_STEPS = new Map<string, readonly BuildStep[]>();
const KNOWN_SECONDS = new Map<string, boolean>();
const MOST_KNOWN = 64;

async function known<T>(found: Map<string, T>, key: string, find: () => Promise<T>): Promise<T> {
	const before = found.get(key);
	if (before !== undefined) return before;
	const made = await find();
	const [oldest] = found.keys();
	if (found.size >= MOST_KNOWN && oldest !== undefined) found.delete(oldest);
	found.set(key, made);
	return made;
}

function stepsOf(hopId: string, number: number, end: End): Promise<readonly BuildStep[]> {
	return known(KNOWN_STEPS, `${hopId}/${number}/${end}`, async () => {
		const { input, plan } = await revisionByNumber(hopId, number);
		return buildSteps(input, plan, end);
	});
}

function hasSecondDish(hopId: string, number: number): Promise<boolean> {
	return known(KNOWN_SECONDS, `${hopId}/${number}`, async () => {
		const { input, plan } = await revisionByNumber(hopId, number);
		return secondHopsOf(input, plan) !== null;
	});
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
 * Refuses records that close a step of the building against its gate, and those of a second dish that the plan
 * does not have, each at the field that says so.
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
		if (!ofStep(record) && !isOfSecond(record)) continue;
		const number = record.revisionNumber ?? revisions[0];
		// A revision that is not there is refused where records are given their places.
		if (!revisions.includes(number)) continue;
		if (isOfSecond(record)) {
			if (!(await hasSecondDish(hopId, number))) {
				throw refusal('no-second-dish').at(`records.${i}.payload.dish`);
			}
		}
		if (!ofStep(record)) continue;
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
