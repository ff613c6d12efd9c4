// The sets and maps below are bookkeeping that no screen reads; what screens read is $state.
/* eslint-disable svelte/prefer-svelte-reactivity */
import { getContext, setContext } from 'svelte';
import type { HopPlan } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import type { Axis, End } from '#core/ends';
import { keepFinding, openQuestions } from '#core/guide/weigh';
import { needsFinding, type Findings } from '#core/record/findings';
import { advanced } from '#core/record/foldRecord';
import { emptyHopState, openVisit, type HopState } from '#core/record/hopState';
import type { FieldRecord, RecordKind, RecordPayloads } from '#core/record/records';
import type { LinearPolarization } from '#core/propagation/rain';
import type { SimulatorActionKind } from '#core/simulate/actions';
import type { SweepAnalysis, SweepSample } from '#core/sweep/analyseSweep';
import { ApiRefusal, callApi, Unreachable, uploadFile } from '../api';
import {
	forgetPhoto,
	forgetWaiting,
	keepFeed,
	keepPhoto,
	keepWaiting,
	readFeed,
	readPhotos,
	readWaiting,
	type OwnPhoto,
	type OwnRecord
} from './outbox';
import { FindingReader } from './findingReader';

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
}

export interface SimulatorAction {
	end: End;
	action: SimulatorActionKind;
	purpose?: 'watch' | 'sweep' | 'final';
	axis?: Axis;
	turns?: number[];
	byDeg?: number;
	compassDeg?: number;
	feedDeg?: number;
	sent?: LinearPolarization;
	turned?: End;
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
const RETRY_MS = 2500;

/**
 * The record of one hop as this device knows it: what the server has sent, in order and each once,
 * then what was made here and waits. Everything a hop screen shows is derived from it.
 */
export class LiveHop {
	readonly hopId: string;
	readonly #issued: HopRevision;
	readonly #mayRecord: boolean;
	/** Whether an acceptance of the hop is signed. */
	readonly accepted: boolean;
	/** Whether the feed is connected just now. */
	connected = $state(false);
	/** Records the server refused, with its words. */
	refused: { record: OwnRecord; message: string }[] = $state.raw([]);
	/** Words of the server when a newer plan stands in the way of what waits. */
	planRevised: string | undefined = $state();
	#keepOlder = false;
	/** Why the server did not take a photo. */
	photoRefused: string | undefined = $state();
	/** Photos taken here that the server does not have yet. */
	photosWaiting: OwnPhoto[] = $state.raw([]);
	/** Ticks every second, for the age of readings. */
	nowMs = $state(0);
	#server: FieldRecord[] = $state.raw([]);
	#waiting: OwnRecord[] = $state.raw([]);
	#sent = new Set<string>();
	#found = $state(0);
	/** The server's records folded so far. */
	#fold: { count: number; state: HopState };
	readonly #findings: Findings;
	readonly #reader = new FindingReader();
	#asking = new Set<string>();
	#source: EventSource | undefined;
	#flushing: Promise<void> | undefined;
	#stopped = false;
	#timers: ReturnType<typeof setTimeout>[] = [];

	constructor(start: LiveHopStart) {
		this.hopId = start.hopId;
		this.#issued = start.revision;
		this.#mayRecord = start.mayRecord;
		this.accepted = start.accepted;
		this.#fold = { count: 0, state: emptyHopState(start.revision.input, start.revision.plan) };
		this.#server = start.records;
		this.#findings = start.findings;
	}

	/** All records in order: the server's, then those that wait, with provisional places. */
	readonly records: FieldRecord[] = $derived.by(() => {
		const last = this.#server.at(-1)?.seq ?? 0;
		const known = new Set(this.#server.map((record) => record.id));
		const own = this.#waiting
			.filter((record) => !known.has(record.id))
			.map((record, i) => ({
				...record,
				seq: last + 1 + i,
				revisionNumber: this.#issued.number,
				recordedBy: ''
			})) as FieldRecord[];
		return [...this.#server, ...own];
	});

	readonly lastSeq: number = $derived(this.#server.at(-1)?.seq ?? 0);
	readonly waitingCount: number = $derived(
		this.#waiting.filter((record) => !this.#sent.has(record.id)).length
	);

	/** The plan in force, its adjusters as measured where somebody has measured them. */
	readonly revision: HopRevision = $derived.by(() => {
		const { input } = this.state;
		return input === this.#issued.input ? this.#issued : { ...this.#issued, input };
	});

	/** Records in order up to the first that is still being weighed: what lies behind it waits with it. */
	readonly weighed: FieldRecord[] = $derived.by(() => {
		void this.#found;
		const waits = this.records.findIndex((record) => needsFinding(record, this.#findings));
		return waits < 0 ? this.records : this.records.slice(0, waits);
	});

	readonly weighing: boolean = $derived(this.weighed.length < this.records.length);

	/** Where the hop stands by all that is weighed. */
	readonly state: HopState = $derived.by(() => this.#folded(this.weighed));

	/** The same by all that is recorded: what is still being weighed counts as not said. */
	readonly recorded: HopState = $derived.by(() =>
		this.weighing
			? advanced(this.state, this.records.slice(this.weighed.length), this.#findings)
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
		const from = goesOn ? state : emptyHopState(this.#issued.input, this.#issued.plan);
		const next = advanced(from, goesOn ? known.slice(count) : known, this.#findings);
		this.#fold = { count: known.length, state: next };
		return advanced(next, records.slice(known.length), this.#findings);
	}

	/** What a sweep says, once it has been weighed. */
	analysisOf(recordId: string): SweepAnalysis | undefined {
		void this.#found;
		return this.#findings.sweeps.get(recordId);
	}

	/** All that was found out so far, for working on with a part of the records. */
	get findings(): Findings {
		void this.#found;
		return this.#findings;
	}

	/** Connects to the feed and takes up what waited from an earlier visit. Browser only. */
	start(): () => void {
		this.#stopped = false;
		this.nowMs = Date.now();
		const clock = setInterval(() => (this.nowMs = Date.now()), 1000);
		const online = (): void => void this.#flush();
		addEventListener('online', online);
		this.#weighMissing();
		void this.#takeKept().finally(() => this.#connect());
		void readPhotos(this.hopId)
			.then((photos) => {
				const known = new Set(this.photosWaiting.map((photo) => photo.id));
				this.photosWaiting = [
					...photos.filter((photo) => !known.has(photo.id)),
					...this.photosWaiting
				];
				return this.#flush();
			})
			.catch(() => undefined);
		void readWaiting(this.hopId)
			.then((waiting) => {
				const arrived = new Set(this.#server.map((record) => record.id));
				const known = new Set([...arrived, ...this.#waiting.map((record) => record.id)]);
				this.#waiting = [...waiting.filter((record) => !known.has(record.id)), ...this.#waiting];
				const done = waiting.filter((record) => arrived.has(record.id)).map(({ id }) => id);
				if (done.length) void forgetWaiting(this.hopId, done).catch(() => undefined);
				this.#weighMissing();
				return this.#flush();
			})
			.catch(() => undefined);
		return () => {
			this.#stopped = true;
			clearInterval(clock);
			removeEventListener('online', online);
			this.#timers.forEach(clearTimeout);
			this.#source?.close();
			this.#reader.stop();
		};
	}

	#later(ms: number, work: () => void): void {
		if (!this.#stopped) this.#timers.push(setTimeout(work, ms));
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

	#connect(): void {
		if (this.#stopped) return;
		const after = this.#server.at(-1)?.seq ?? 0;
		const source = new EventSource(`/api/v1/hops/${this.hopId}/feed?after=${after}`);
		this.#source = source;
		source.onopen = () => {
			this.connected = true;
			void this.#flush();
		};
		source.onmessage = (event: MessageEvent<string>) =>
			this.#take(JSON.parse(event.data) as FieldRecord);
		source.onerror = () => {
			this.connected = false;
			// The browser reconnects by itself unless the server answered with an error.
			if (source.readyState === EventSource.CLOSED) {
				source.close();
				this.#later(RETRY_MS, () => this.#connect());
			}
		};
	}

	#take(record: FieldRecord): void {
		if (record.seq <= (this.#server.at(-1)?.seq ?? 0)) return;
		this.#server = [...this.#server, record];
		void keepFeed(this.hopId, [record]).catch(() => undefined);
		if (this.#waiting.some((own) => own.id === record.id)) {
			this.#waiting = this.#waiting.filter((own) => own.id !== record.id);
			this.#sent.delete(record.id);
			void forgetWaiting(this.hopId, [record.id]).catch(() => undefined);
		}
		this.#weighMissing();
	}

	#weighMissing(): void {
		const rest = this.records.slice(this.weighed.length);
		for (const question of openQuestions(this.state, rest, this.#findings)) {
			if (this.#asking.has(question.id)) continue;
			this.#asking.add(question.id);
			void this.#reader.ask(question).then((finding) => {
				keepFinding(this.#findings, finding);
				this.#asking.delete(question.id);
				this.#found += 1;
			});
		}
	}

	/** Keeps a record on the device, shows it, and sends it when it can. */
	async add<K extends RecordKind>(end: End, kind: K, payload: RecordPayloads[K]): Promise<void> {
		const record: OwnRecord = {
			id: crypto.randomUUID(),
			end,
			kind,
			payload: JSON.parse(JSON.stringify(payload)) as RecordPayloads[K],
			recordedAt: new Date().toISOString(),
			revisionNumber: this.#issued.number
		};
		// Kept first and shown then: what a screen shows as recorded survives a browser that is killed.
		// Without storage on the device the record still lives in this page and is sent.
		await keepWaiting(this.hopId, record).catch(() => undefined);
		this.#waiting = [...this.#waiting, record];
		this.#weighMissing();
		await this.#flush();
	}

	/** Keeps a photo on the device and sends it when it can; its record tells what it is about. */
	async addPhoto(end: End, bytes: Blob, about: string, caption: string): Promise<string> {
		const photo: OwnPhoto = { id: crypto.randomUUID(), hopId: this.hopId, end, bytes };
		await keepPhoto(photo).catch(() => undefined);
		this.photosWaiting = [...this.photosWaiting, photo];
		await this.add(end, 'photo', { photoId: photo.id, about, caption });
		return photo.id;
	}

	/** The records that wait were measured against an older plan, and shall stand so. */
	async keepAgainstOlder(): Promise<void> {
		this.#keepOlder = true;
		this.planRevised = undefined;
		await this.#flush();
	}

	/** Sends what waits. Who asks while it is being sent waits for it, then looks for more. */
	async #flush(): Promise<void> {
		while (this.#flushing) await this.#flushing;
		if (this.#stopped) return;
		this.#flushing = this.#sendAll();
		try {
			await this.#flushing;
		} finally {
			this.#flushing = undefined;
		}
	}

	async #sendAll(): Promise<void> {
		for (;;) {
			const batch = this.#waiting.filter((record) => !this.#sent.has(record.id)).slice(0, 50);
			if (batch.length === 0) break;
			if (!(await this.#send(batch))) return;
		}
		for (const photo of this.photosWaiting) if (!(await this.#sendPhoto(photo))) return;
	}

	async #sendPhoto(photo: OwnPhoto): Promise<boolean> {
		try {
			await uploadFile(`/hops/${this.hopId}/photos?id=${photo.id}&end=${photo.end}`, photo.bytes);
		} catch (error) {
			if (isFinal(error)) {
				this.photoRefused = error.fields[0]?.message ?? error.message;
			} else {
				this.#later(RETRY_MS, () => void this.#flush());
				return false;
			}
		}
		this.photosWaiting = this.photosWaiting.filter((own) => own.id !== photo.id);
		await forgetPhoto(photo.id).catch(() => undefined);
		return true;
	}

	/** Sends records in order; a refusal of several is narrowed down to the one. */
	async #send(batch: readonly OwnRecord[]): Promise<boolean> {
		try {
			await callApi('POST', `/hops/${this.hopId}/records`, {
				records: batch,
				...(this.#keepOlder ? { keepOlder: true } : {})
			});
			for (const record of batch) this.#sent.add(record.id);
			// A new list makes what depends on `#sent` look again.
			this.#waiting = [...this.#waiting];
			// It stays on the device until the feed has brought it back: between the two the connection
			// may be cut, and a page opened then must still have it.
			return true;
		} catch (error) {
			if (error instanceof ApiRefusal && error.code === 'plan-revised') {
				// Nothing is sent or dropped until somebody has said what shall hold.
				this.planRevised = error.message;
				return false;
			}
			if (isFinal(error)) {
				if (batch.length > 1) {
					for (const record of batch) if (!(await this.#send([record]))) return false;
					return true;
				}
				const [record] = batch;
				this.refused = [...this.refused, { record: record!, message: error.message }];
				this.#waiting = this.#waiting.filter((own) => own.id !== record!.id);
				await forgetWaiting(this.hopId, [record!.id]).catch(() => undefined);
				return true;
			}
			this.#later(RETRY_MS, () => void this.#flush());
			return false;
		}
	}

	dismissRefused(): void {
		this.refused = [];
		this.photoRefused = undefined;
	}

	/** Moves the simulated dish or reads its meter; both ends then see it through the feed. */
	async simulate(action: SimulatorAction): Promise<SimulatorAnswer> {
		await this.#flush();
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
		while (this.#server.length < seq && Date.now() < giveUpAt) {
			await new Promise((resolve) => setTimeout(resolve, 30));
		}
	}
}

/** A refusal that no repeat will change. */
function isFinal(error: unknown): error is ApiRefusal {
	return (
		error instanceof ApiRefusal && error.status < 500 && ![401, 408, 429].includes(error.status)
	);
}

const KEY = Symbol('live hop');

export function provideLiveHop(get: () => LiveHop | undefined): void {
	setContext(KEY, get);
}

/** The live hop of the screens below, undefined while no revision is issued. */
export function useLiveHop(): () => LiveHop | undefined {
	return getContext(KEY);
}
