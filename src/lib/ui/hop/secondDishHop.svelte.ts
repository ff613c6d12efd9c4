import type { End } from '#core/ends';
import type { HopState } from '#core/record/hopState';
import type { FieldRecord, RecordKind, RecordPayloads } from '#core/record/records';
import { inSecondHop, isOfADish } from '#core/record/secondDish';
import type { SweepAnalysis } from '#core/sweep/analyseSweep';
import { present } from '#core/units/lists';
import type { BenchHop } from './benchHop';
import type { HopRevision, LiveHop, SimulatorAction, SimulatorAnswer } from './liveHop.svelte';

/** The second dish of an end as its bench works on it; everything recorded here says that it is the second. */
export class SecondDishHop implements BenchHop {
	readonly dish = 2;

	constructor(
		readonly whole: LiveHop,
		readonly end: End
	) {}

	readonly state: HopState = $derived.by(() => this.#of(this.whole.state));
	readonly recorded: HopState = $derived.by(() => this.#of(this.whole.recorded));
	readonly records: FieldRecord[] = $derived.by(() => this.#seen(this.whole.records));
	readonly weighed: FieldRecord[] = $derived.by(() => this.#seen(this.whole.weighed));
	readonly revision: HopRevision = $derived.by(() => ({
		...this.whole.revision,
		input: this.state.input,
		plan: this.state.plan
	}));

	#of({ second }: HopState): HopState {
		return present(second, 'second dishes')[this.end];
	}
	#seen(records: readonly FieldRecord[]): FieldRecord[] {
		const { stands } = this.state;
		return records.flatMap((record) => inSecondHop(record, this.end, stands) ?? []);
	}

	get hopId(): string {
		return this.whole.hopId;
	}
	get nowMs(): number {
		return this.whole.nowMs;
	}
	get weighing(): boolean {
		return this.whole.weighing;
	}
	get mayRecord(): boolean {
		return this.whole.mayRecord;
	}
	analysisOf(recordId: string): SweepAnalysis | undefined {
		return this.whole.analysisOf(recordId);
	}

	add<K extends RecordKind>(end: End, kind: K, payload: RecordPayloads[K]): Promise<void> {
		return this.whole.add(end, kind, isOfADish(kind) ? { ...payload, dish: 2 } : payload);
	}
	simulate(action: SimulatorAction): Promise<SimulatorAnswer> {
		return this.whole.simulate({ ...action, dish: 2 });
	}
}
