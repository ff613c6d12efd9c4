// What screens read here is $state; the set and the dates are made and dropped.
/* eslint-disable svelte/prefer-svelte-reactivity */
import { hubWorkOf, progressOf, type HubWork, type StationProgress } from '#core/bringup/bringUp';
import { advancedHub, EMPTY_HUB_STATE, stationState, type HubState } from '#core/bringup/foldHub';
import type { HubRecord, HubRecordKind, HubRecordPayloads } from '#core/bringup/hubRecords';
import type { LinkTest } from '#core/bringup/linkTests';
import type { HubInput } from '#core/hub/hubInput';
import { callApi, Unreachable } from '../api';
import type { StepPlace } from '../build/stepPlace';
import type { DraftPlace } from '../form/draft.svelte';
import { FeedStream } from '../hop/feedStream.svelte';
import type { LiveFeed } from '../hop/liveFeed';
import { keepFeed, readFeed, type OwnHubRecord, type Owner } from '../hop/outbox';
import { Outgoing } from '../hop/outgoing.svelte';
import { onSessionBack } from '../session.svelte';

export interface LiveHubStart {
	hubId: string;
	revision: { number: number; hub: HubInput };
	records: HubRecord[];
	mayRecord: boolean;
	/** Whether something stands in for radios and air. */
	practice: boolean;
	/** Who records here: what waits on this device is theirs. */
	person: Owner;
}

/** What is looked at on a hub for practice. */
export type StandInLook =
	| { station: string; look: 'lamp' | 'page' }
	| { station: string; look: 'test'; test: LinkTest }
	| { station: string; look: 'pointing'; headingDeg: number };

/** How long a screen waits for what the stand-in showed to come back through the feed. */
const FEED_PATIENCE_MS = 3000;
const LOOK_AGAIN_MS = 30;

/**
 * The record of one hub as this device knows it: what the server has sent, in order and each once, then what was
 * made here and waits. Board and stations are derived from it.
 */
export class LiveHub implements LiveFeed {
	readonly id: string;
	readonly practice: boolean;
	readonly mayRecord: boolean;
	readonly work: HubWork;
	readonly revisionNumber: number;
	/** Ticks every second, for the age of answers. */
	nowMs = $state(0);
	readonly #person: Owner;
	readonly #stream: FeedStream<HubRecord>;
	readonly #outgoing: Outgoing<OwnHubRecord>;
	#server: HubRecord[] = $state.raw([]);

	constructor(start: LiveHubStart) {
		this.id = start.hubId;
		this.practice = start.practice;
		this.mayRecord = start.mayRecord;
		this.revisionNumber = start.revision.number;
		this.work = hubWorkOf(start.revision.hub);
		this.#person = start.person;
		this.#server = start.records;
		this.#outgoing = new Outgoing<OwnHubRecord>(start.hubId, start.person, 'hubs');
		this.#stream = new FeedStream<HubRecord>(
			start.hubId,
			{
				after: () => this.lastSeq,
				taken: (record) => this.#take(record),
				opened: () => void this.#outgoing.flush()
			},
			'hubs'
		);
	}

	readonly lastSeq: number = $derived(this.#server.at(-1)?.seq ?? 0);

	/** All records in order: the server's, then those that wait, with provisional places. */
	readonly records: HubRecord[] = $derived.by(() => {
		const known = new Set(this.#server.map(({ id }) => id));
		const own = this.#outgoing.records
			.filter(({ id }) => !known.has(id))
			.map((record, i) => ({
				...record,
				seq: this.lastSeq + 1 + i,
				revisionNumber: this.revisionNumber,
				recordedBy: this.#person.name
			})) as HubRecord[];
		return [...this.#server, ...own];
	});

	readonly state: HubState = $derived.by(() => advancedHub(EMPTY_HUB_STATE, this.records));
	readonly stations: StationProgress[] = $derived.by(() => progressOf(this.work, this.state));

	get connected(): boolean {
		return this.#stream.connected && !this.#outgoing.failing;
	}
	get barred(): string | undefined {
		return this.#stream.barred;
	}
	get waitingCount(): number {
		return this.#outgoing.count;
	}
	readonly photosWaiting = [];
	get outgoing(): Outgoing<OwnHubRecord> {
		return this.#outgoing;
	}
	get planRevised(): string | undefined {
		return this.#outgoing.planRevised;
	}
	keepAgainstOlder(): Promise<void> {
		return this.#outgoing.keepAgainstOlder();
	}

	/** Where what is typed into a form of a station is kept, for this person. */
	placeOf(station: string, form: string): DraftPlace {
		return { hopId: this.id, end: station, form, userId: this.#person.id };
	}

	/** A station as a place where steps are done. */
	stepPlace(station: string): StepPlace {
		const cards = (): StepPlace['cards'] => stationState(this.state, station).cards;
		const now = (): number => this.nowMs;
		return {
			key: `${this.id}-${station}`,
			mayRecord: this.mayRecord,
			get cards() {
				return cards();
			},
			get nowMs() {
				return now();
			},
			draftPlace: (form) => this.placeOf(station, form),
			// Steps and their cards are recorded at a hub as at a hop.
			add: (kind, payload) => this.add(station, kind, payload as HubRecordPayloads[typeof kind])
		};
	}

	/** Connects to the feed and takes up what waited from an earlier visit. Browser only. */
	start(): () => void {
		this.nowMs = Date.now();
		const clock = setInterval(() => (this.nowMs = Date.now()), 1000);
		const online = (): void => void this.#outgoing.flush();
		addEventListener('online', online);
		const forgetSession = onSessionBack(online);
		this.#stream.restart();
		void this.#takeKept().finally(() => this.#stream.connect());
		void this.#takeWaiting();
		return () => {
			clearInterval(clock);
			removeEventListener('online', online);
			forgetSession();
			this.#stream.stop();
			this.#outgoing.stop();
		};
	}

	/** Takes up what the device has kept of the feed beyond what the page came with. */
	async #takeKept(): Promise<void> {
		try {
			const known = this.#server.length;
			for (const record of await readFeed<HubRecord>(this.id, this.lastSeq)) {
				if (record.seq === this.lastSeq + 1) this.#take(record);
			}
			await keepFeed(this.id, this.#server.slice(0, known));
		} catch {
			// Without storage on the device the page still has what it came with.
		}
	}

	async #takeWaiting(): Promise<void> {
		await this.#outgoing.takeUp((id) => this.#server.some((record) => record.id === id));
		await this.#outgoing.flush();
	}

	#take(record: HubRecord): void {
		if (record.seq <= this.lastSeq) return;
		this.#server = [...this.#server, record];
		void keepFeed(this.id, [record]).catch(() => undefined);
		this.#outgoing.cameBack(record.id);
	}

	/** Keeps a record on the device, shows it, and sends it when it can. */
	async add<K extends HubRecordKind>(
		station: string,
		kind: K,
		payload: HubRecordPayloads[K]
	): Promise<void> {
		await this.#outgoing.add({
			id: crypto.randomUUID(),
			...{ station, kind },
			payload: JSON.parse(JSON.stringify(payload)) as HubRecordPayloads[K],
			recordedAt: new Date().toISOString(),
			revisionNumber: this.revisionNumber
		});
		await this.#outgoing.flush();
	}

	/** Looks at what stands in for the hub; what is seen comes back through the feed. */
	async look(what: StandInLook): Promise<void> {
		await this.#outgoing.flush();
		if (this.waitingCount > 0) throw new Unreachable();
		const { seq } = await callApi<{ seq: number }>('POST', `/hubs/${this.id}/stand-in`, {
			...what,
			id: crypto.randomUUID()
		});
		const giveUpAt = Date.now() + FEED_PATIENCE_MS;
		while (this.lastSeq < seq && Date.now() < giveUpAt) {
			await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN_MS));
		}
	}
}
