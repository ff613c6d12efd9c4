// The set and date below live for one computation; what screens read is $state.
/* eslint-disable svelte/prefer-svelte-reactivity */
import type { DraftPlace } from '../form/draft.svelte';
import { getContext, setContext } from 'svelte';
import type { HopPlan } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import type { Axis, End } from '#core/ends';
import { needsFinding, type Findings } from '#core/record/findings';
import { advanced } from '#core/record/foldRecord';
import { emptyHopState, openVisit, type HopState } from '#core/record/hopState';
import type { FieldRecord, RecordKind, RecordPayloads } from '#core/record/records';
import type { LinearPolarization } from '#core/propagation/rain';
import type { SimulatorActionKind } from '#core/simulate/actions';
import type { SweepAnalysis, SweepSample } from '#core/sweep/analyseSweep';
import { callApi, Unreachable } from '../api';
import { onSessionBack } from '../session.svelte';
import { FeedStream } from './feedStream.svelte';
import { keepFeed, readFeed, type Owner, type OwnPhoto } from './outbox';
import { Outgoing } from './outgoing.svelte';
import { Weighing } from './weighing.svelte';
import type { StepPlace } from '../build/stepPlace';

export interface HopRevision {
	number: number;
	input: HopPlanInput;
	plan: HopPlan;
	issuedAt: string;
}

export interface LiveHopStart {
	hopId: string;
	revision: HopRevision;
	records: FieldRecord[];
	findings: Findings;
	mayRecord: boolean;
	accepted: boolean;
	/** Who records here: what waits on this device is theirs. */
	person: Owner;
}

export interface SimulatorAction {
	end: End;
	/** Which dish of the end; the first where nothing is said. */
	dish?: 2;
	action: SimulatorActionKind;
	purpose?: 'watch' | 'sweep' | 'final';
	axis?: Axis;
	turns?: number[];
	byDeg?: number;
	compassDeg?: number;
	feedDeg?: number;
	sent?: LinearPolarization;
	/** Which frequency pair; the first where nothing is said. */
	pair?: 2;
	turned?: End;
	carrier?: number;
	test?: string;
	fastenerIndex?: number;
}

export interface SimulatorAnswer {
	samples: SweepSample[];
	volts: number;
	levelDbm: number | null;
	results: { id: string; seq: number }[];
}

/** How long a screen waits for its own record to come back through the feed. */
const FEED_PATIENCE_MS = 3000;
/** How often it looks whether it has. */
const LOOK_AGAIN_MS = 30;

/**
 * The record of one hop as this device knows it: what the server has sent, in order and each once,
 * then what was made here and waits. Everything a hop screen shows is derived from it.
 */
export class LiveHop {
	/** What its own bench works on: the first dishes. */
	readonly dish = 1;
	readonly hopId: string;
	/** Whether an acceptance of the hop is signed. */
	readonly accepted: boolean;
	/** Ticks every second, for the age of readings. */
	nowMs = $state(0);
	readonly #issued: HopRevision;
	readonly #mayRecord: boolean;
	readonly #stream: FeedStream;
	readonly #outgoing: Outgoing;
	readonly #weighing: Weighing;
	readonly #person: Owner;
	#server: FieldRecord[] = $state.raw([]);
	/** The server's records folded so far. */
	#fold: { count: number; state: HopState };
	/** The hop before its first record. */
	readonly #start: HopState;

	constructor(start: LiveHopStart) {
		this.hopId = start.hopId;
		this.#issued = start.revision;
		this.#person = start.person;
		this.#mayRecord = start.mayRecord;
		this.accepted = start.accepted;
		this.#start = emptyHopState(start.revision.input, start.revision.plan);
		this.#fold = { count: 0, state: this.#start };
		this.#server = start.records;
		this.#outgoing = new Outgoing(start.hopId, start.person);
		this.#weighing = new Weighing(start.findings);
		this.#stream = new FeedStream(start.hopId, {
			after: () => this.lastSeq,
			taken: (record) => this.#take(record),
			opened: () => void this.#outgoing.flush()
		});
	}

	get id(): string {
		return this.hopId;
	}

	/** An end as a place where steps are done. */
	stepPlace(end: End): StepPlace {
		const { hopId } = this;
		const cards = (): StepPlace['cards'] => this.recorded.ends[end].stopCards;
		const live = this as Pick<LiveHop, 'mayRecord' | 'nowMs'>;
		return {
			key: `${hopId}-${end}`,
			get cards() {
				return cards();
			},
			get mayRecord() {
				return live.mayRecord;
			},
			get nowMs() {
				return live.nowMs;
			},
			draftPlace: (form) => this.placeOf(end, form),
			add: (kind, payload) => this.add(end, kind, payload)
		};
	}

	/** Where what is typed into a form of an end is kept, for this person. */
	placeOf(end: End, form: string): DraftPlace {
		return { hopId: this.hopId, end, form, userId: this.#person.id };
	}

	/** The hop with all its dishes: itself. */
	get whole(): this {
		return this;
	}

	/** All records in order: the server's, then those that wait, with provisional places. */
	readonly records: FieldRecord[] = $derived.by(() => {
		const last = this.#server.at(-1)?.seq ?? 0;
		const known = new Set(this.#server.map((record) => record.id));
		const own = this.#outgoing.records
			.filter((record) => !known.has(record.id))
			.map((record, i) => ({
				...record,
				seq: last + 1 + i,
				revisionNumber: this.#issued.number,
				// What waits is this person's alone.
				recordedBy: this.#person.name
			})) as FieldRecord[];
		return [...this.#server, ...own];
	});

	readonly lastSeq: number = $derived(this.#server.at(-1)?.seq ?? 0);

	/** Whether the feed is heard and what is sent is answered, just now. */
	get connected(): boolean {
		return this.#stream.connected && !this.#outgoing.failing;
	}
	/** Words of the server where it shows this hop to this person no longer. */
	get barred(): string | undefined {
		return this.#stream.barred;
	}
	/** How many records the server has not answered for. */
	get waitingCount(): number {
		return this.#outgoing.count;
	}
	/** Photos taken here that the server does not have yet. */
	get photosWaiting(): OwnPhoto[] {
		return this.#outgoing.photos;
	}
	/** What was made here and does not go out: refused, of others, in the way of somebody else's session. */
	get outgoing(): Outgoing {
		return this.#outgoing;
	}
	/** Words of the server when a newer plan stands in the way of what waits. */
	get planRevised(): string | undefined {
		return this.#outgoing.planRevised;
	}

	/** The plan in force, its adjusters as measured where somebody has measured them. */
	readonly revision: HopRevision = $derived.by(() => {
		const { input } = this.state;
		return input === this.#issued.input ? this.#issued : { ...this.#issued, input };
	});

	/** Records in order up to the first that is still being weighed: what lies behind it waits with it. */
	readonly weighed: FieldRecord[] = $derived.by(() => {
		const second = this.#start.second !== null;
		const waits = this.records.findIndex((record) => needsFinding(record, this.findings, second));
		return waits < 0 ? this.records : this.records.slice(0, waits);
	});

	readonly weighing: boolean = $derived(this.weighed.length < this.records.length);

	/** Where the hop stands by all that is weighed. */
	readonly state: HopState = $derived.by(() => this.#folded(this.weighed));

	/** The same by all that is recorded: what is still being weighed counts as not said. */
	readonly recorded: HopState = $derived.by(() =>
		this.weighing
			? advanced(this.state, this.records.slice(this.weighed.length), this.findings)
			: this.state
	);

	/** Whether this person may record here and now: on an accepted hop only in an open visit. */
	readonly mayRecord: boolean = $derived.by(
		() => this.#mayRecord && (!this.accepted || openVisit(this.recorded) !== undefined)
	);
	/** Whether this person may begin a visit: the hop is accepted and no visit is open. */
	readonly mayOpenVisit: boolean = $derived.by(
		() => this.#mayRecord && this.accepted && openVisit(this.recorded) === undefined
	);

	/** State after a run of records: the server's only ever grow, so their part goes on from before. */
	#folded(records: readonly FieldRecord[]): HopState {
		const known = records.slice(0, this.#server.length);
		const { count, state } = this.#fold;
		const goesOn = count <= known.length;
		const from = goesOn ? state : this.#start;
		const next = advanced(from, goesOn ? known.slice(count) : known, this.findings);
		this.#fold = { count: known.length, state: next };
		return advanced(next, records.slice(known.length), this.findings);
	}

	/** What a sweep says, once it has been weighed. */
	analysisOf(recordId: string): SweepAnalysis | undefined {
		return this.findings.sweeps.get(recordId);
	}

	/** All that was found out so far, for working on with a part of the records. */
	get findings(): Findings {
		return this.#weighing.findings;
	}

	/** Connects to the feed and takes up what waited from an earlier visit. Browser only. */
	start(): () => void {
		this.nowMs = Date.now();
		const clock = setInterval(() => (this.nowMs = Date.now()), 1000);
		const online = (): void => void this.#outgoing.flush();
		addEventListener('online', online);
		const forgetSession = onSessionBack(online);
		this.#weighMissing();
		this.#stream.restart();
		void this.#takeKept().finally(() => this.#stream.connect());
		void this.#takeWaiting();
		return () => {
			clearInterval(clock);
			removeEventListener('online', online);
			forgetSession();
			this.#stream.stop();
			this.#outgoing.stop();
			this.#weighing.stop();
		};
	}

	/** Takes up what the device has kept of the feed beyond what the page came with. */
	async #takeKept(): Promise<void> {
		try {
			const known = this.#server.length;
			for (const record of await readFeed(this.hopId, this.lastSeq)) {
				if (record.seq === this.lastSeq + 1) this.#take(record);
			}
			await keepFeed(this.hopId, this.#server.slice(0, known));
		} catch {
			// Without storage on the device the page still has what it came with.
		}
	}

	async #takeWaiting(): Promise<void> {
		await this.#outgoing.takeUp((id) => this.#server.some((record) => record.id === id));
		this.#weighMissing();
		await this.#outgoing.flush();
	}

	#take(record: FieldRecord): void {
		if (record.seq <= this.lastSeq) return;
		this.#server = [...this.#server, record];
		void keepFeed(this.hopId, [record]).catch(() => undefined);
		this.#outgoing.cameBack(record.id);
		this.#weighMissing();
	}

	#weighMissing(): void {
		this.#weighing.ask(this.state, this.records.slice(this.weighed.length));
	}

	/** Keeps a record on the device, shows it, and sends it when it can. */
	async add<K extends RecordKind>(end: End, kind: K, payload: RecordPayloads[K]): Promise<void> {
		await this.#outgoing.add({
			id: crypto.randomUUID(),
			end,
			kind,
			payload: JSON.parse(JSON.stringify(payload)) as RecordPayloads[K],
			recordedAt: new Date().toISOString(),
			revisionNumber: this.#issued.number
		});
		this.#weighMissing();
		await this.#outgoing.flush();
	}

	/** Keeps a photo on the device and sends it when it can; its record tells what it is about. */
	async addPhoto(end: End, bytes: Blob, about: string, caption: string): Promise<string> {
		const photo = await this.#outgoing.addPhoto(end, bytes);
		await this.add(end, 'photo', { photoId: photo.id, about, caption });
		return photo.id;
	}

	/** The records that wait were measured against an older plan, and shall stand so. */
	keepAgainstOlder(): Promise<void> {
		return this.#outgoing.keepAgainstOlder();
	}

	/** Moves the simulated dish or reads its meter; both ends then see it through the feed. */
	async simulate(action: SimulatorAction): Promise<SimulatorAnswer> {
		await this.#outgoing.flush();
		if (this.waitingCount > 0) throw new Unreachable();
		const answer = await callApi<SimulatorAnswer>('POST', `/hops/${this.hopId}/simulator`, {
			...action,
			id: crypto.randomUUID(),
			readingId: crypto.randomUUID()
		});
		await this.#caughtUp(Math.max(0, ...answer.results.map((result) => result.seq)));
		return answer;
	}

	/** Waits until the feed has brought a record that the server already has, but not for ever. */
	async #caughtUp(seq: number): Promise<void> {
		const giveUpAt = Date.now() + FEED_PATIENCE_MS;
		while (this.lastSeq < seq && Date.now() < giveUpAt) {
			await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN_MS));
		}
	}
}

const KEY = Symbol('live hop');

export function provideLiveHop(get: () => LiveHop | undefined): void {
	setContext(KEY, get);
}

/** The live hop of the screens below, undefined while no revision is issued. */
export function useLiveHop(): () => LiveHop | undefined {
	return getContext(KEY);
}
