import type { HopPlanInput } from '#core/budget/planInput';
import { weighedState } from '#core/guide/weigh';
import { noFindings, type Findings } from '#core/record/findings';
import type { HopState } from '#core/record/hopState';
import type { FieldRecord, RecordKind, RecordPayloads } from '#core/record/records';
import { soundPlan } from './planFixture';

export const ready = {
	powerControlOff: true,
	adaptiveModulationOff: true,
	fixedPower: true,
	transmitterOn: true
};

export type Made = {
	[K in RecordKind]: [end: 'A' | 'B', kind: K, payload: RecordPayloads[K]];
}[RecordKind];

/** Records of a hop in order, a second apart. */
export function feed(...made: Made[]): FieldRecord[] {
	return made.map(([end, kind, payload], i) => ({
		id: `r${i}`,
		seq: i + 1,
		end,
		kind,
		payload,
		revisionNumber: 1,
		recordedAt: new Date(i * 1000).toISOString(),
		recordedBy: 'test'
	})) as FieldRecord[];
}

export const reading = (
	levelDbm: number | null,
	purpose: 'watch' | 'final' = 'watch'
): RecordPayloads['reading'] => ({
	volts: levelDbm === null ? 1 : null,
	levelDbm,
	source: 'hand',
	purpose
});

/** Every fastener of an end tightened in its order, the level held. */
export const locksOf = (input: HopPlanInput, end: 'A' | 'B'): Made[] =>
	input.ends[end].mount.fasteners.map(({ name, locks, torqueNm }, fastenerIndex): Made => [
		end,
		'lock-step',
		{
			fastenerIndex,
			fastener: name,
			locks,
			torqueNm,
			beforeDbm: -43,
			afterDbm: -43,
			source: 'hand'
		}
	]);

/** The state of a hop after some records, its own to change. */
export function stateAfter(
	input: HopPlanInput,
	records: readonly FieldRecord[] = [],
	findings: Findings = noFindings()
): HopState {
	return structuredClone(weighedState(input, soundPlan(input), records, findings));
}
