import { radioKeys } from '#core/budget/inventory';
import { secondHopsOf } from '#core/budget/secondHop';
import type { End } from '#core/ends';
import type { RecordKind, RecordPayloads } from '#core/record/records';
import { radiosProblem } from '#core/record/radioStates';
import { isOfSecond } from '#core/record/secondDish';
import type { StopCard } from '#core/safety/stopCards';
import { buildSteps, type BuildStep } from '#core/tower/buildSteps';
import { refusedStep } from '#core/tower/judgeStep';
import { refusal } from '../errors';
import { revisionByNumber } from './plans';

/** What was found out of revisions: they never change, and a crew records many times against one. */
const KNOWN_STEPS = new Map<string, readonly BuildStep[]>();
const KNOWN_SECONDS = new Map<string, boolean>();
const KNOWN_RADIOS = new Map<string, readonly string[]>();
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

function radiosOf(hopId: string, number: number, end: End): Promise<readonly string[]> {
	return known(KNOWN_RADIOS, `${hopId}/${number}/${end}`, async () => {
		const { input } = await revisionByNumber(hopId, number);
		return radioKeys(input, end);
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

type StateRecord = Made &
	(
		| { kind: 'alignment-state'; payload: RecordPayloads['alignment-state'] }
		| { kind: 'operating-state'; payload: RecordPayloads['operating-state'] }
	);

const ofState = (record: Made): record is StateRecord =>
	record.kind === 'alignment-state' || record.kind === 'operating-state';

type StepRecord = Made &
	(
		| { kind: 'build-step'; payload: RecordPayloads['build-step'] }
		| { kind: 'step-skipped'; payload: RecordPayloads['step-skipped'] }
	);

const ofStep = (record: Made): record is StepRecord =>
	record.kind === 'build-step' || record.kind === 'step-skipped';

/**
 * Refuses records that close a step of the building against its gate, those of a second dish that the plan does
 * not have, and states of an end that leave one of its radios out, each at the field that says so.
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
		if (!ofStep(record) && !isOfSecond(record) && !ofState(record)) continue;
		const number = record.revisionNumber ?? revisions[0];
		// A revision that is not there is refused where records are given their places.
		if (!revisions.includes(number)) continue;
		if (isOfSecond(record)) {
			if (!(await hasSecondDish(hopId, number))) {
				throw refusal('no-second-dish').at(`records.${i}.payload.dish`);
			}
		}
		if (ofState(record)) {
			const planned = await radiosOf(hopId, number, record.end);
			const problem = radiosProblem(planned, record);
			if (problem) throw refusal('not-these-radios', problem).at(`records.${i}.payload.radios`);
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
