// The set below is bookkeeping that no screen reads; what screens read is $state.
/* eslint-disable svelte/prefer-svelte-reactivity */
import type { End } from '#core/ends';
import { ApiRefusal, callApi, uploadFile } from '../api';
import {
	forgetPhoto,
	forgetWaiting,
	keepPhoto,
	keepWaiting,
	readPhotos,
	readWaiting,
	type OwnPhoto,
	type OwnRecord
} from './outbox';

const RETRY_MS = 2500;
/** Records sent in one request. */
const AT_ONCE = 50;

/** What was made on this device and has not come back through the feed: kept, shown, and sent when it can be. */
export class Outgoing {
	/** Records that wait, in the order in which they were made. */
	records: OwnRecord[] = $state.raw([]);
	/** Photos taken here that the server does not have yet. */
	photos: OwnPhoto[] = $state.raw([]);
	/** Records the server refused, with its words. */
	refused: { record: OwnRecord; message: string }[] = $state.raw([]);
	/** Why the server did not take a photo. */
	photoRefused: string | undefined = $state();
	/** Words of the server when a newer plan stands in the way of what waits. */
	planRevised: string | undefined = $state();
	#keepOlder = false;
	#sent = new Set<string>();
	#flushing: Promise<void> | undefined;
	#stopped = false;
	#timers: ReturnType<typeof setTimeout>[] = [];

	constructor(private readonly hopId: string) {}

	/** How many records the server has not answered for. */
	readonly count: number = $derived(this.records.filter(({ id }) => !this.#sent.has(id)).length);

	/**
	 * Takes up what waited from an earlier visit.
	 *
	 * @param hasArrived whether the feed has brought a record back already
	 */
	async takeUp(hasArrived: (id: string) => boolean): Promise<void> {
		this.#stopped = false;
		const photos = await readPhotos(this.hopId).catch(() => []);
		const shown = new Set(this.photos.map(({ id }) => id));
		this.photos = [...photos.filter(({ id }) => !shown.has(id)), ...this.photos];
		const waiting = await readWaiting(this.hopId).catch(() => []);
		const known = new Set(this.records.map(({ id }) => id));
		const missing = waiting.filter(({ id }) => !known.has(id) && !hasArrived(id));
		this.records = [...missing, ...this.records];
		const done = waiting.map(({ id }) => id).filter(hasArrived);
		if (done.length) await forgetWaiting(this.hopId, done).catch(() => undefined);
	}

	stop(): void {
		this.#stopped = true;
		this.#timers.forEach(clearTimeout);
	}

	/** Keeps a record on the device, then shows it. */
	async add(record: OwnRecord): Promise<void> {
		// Kept first and shown then: what a screen shows as recorded survives a browser that is killed.
		// Without storage on the device the record still lives in this page and is sent.
		await keepWaiting(this.hopId, record).catch(() => undefined);
		this.records = [...this.records, record];
	}

	async addPhoto(end: End, bytes: Blob): Promise<OwnPhoto> {
		const photo: OwnPhoto = { id: crypto.randomUUID(), hopId: this.hopId, end, bytes };
		await keepPhoto(photo).catch(() => undefined);
		this.photos = [...this.photos, photo];
		return photo;
	}

	/** The feed has brought a record back: it waits no longer. */
	cameBack(id: string): void {
		if (!this.records.some((own) => own.id === id)) return;
		this.#drop(id);
		void forgetWaiting(this.hopId, [id]).catch(() => undefined);
	}

	#drop(id: string): void {
		this.records = this.records.filter((own) => own.id !== id);
		this.#sent.delete(id);
	}

	/** The records that wait were measured against an older plan, and shall stand so. */
	keepAgainstOlder(): Promise<void> {
		this.#keepOlder = true;
		this.planRevised = undefined;
		return this.flush();
	}

	dismissRefused(): void {
		this.refused = [];
		this.photoRefused = undefined;
	}

	/** Sends what waits. Who asks while it is being sent waits for it, then looks for more. */
	async flush(): Promise<void> {
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
			const batch = this.records.filter(({ id }) => !this.#sent.has(id)).slice(0, AT_ONCE);
			if (batch.length === 0) break;
			if (!(await this.#send(batch))) return;
		}
		for (const photo of this.photos) if (!(await this.#sendPhoto(photo))) return;
	}

	/** Sends records in order; a refusal of several is narrowed down to the one. */
	async #send(batch: readonly OwnRecord[]): Promise<boolean> {
		try {
			await callApi('POST', `/hops/${this.hopId}/records`, {
				records: batch,
				...(this.#keepOlder ? { keepOlder: true } : {})
			});
			for (const { id } of batch) this.#sent.add(id);
			// A new list makes what depends on `#sent` look again.
			this.records = [...this.records];
			// It stays on the device until the feed has brought it back: between the two the connection
			// may be cut, and a page opened then must still have it.
			return true;
		} catch (error) {
			if (error instanceof ApiRefusal && error.code === 'plan-revised') {
				// Nothing is sent or dropped until somebody has said what shall hold.
				this.planRevised = error.message;
				return false;
			}
			if (!isFinal(error)) return this.#tryLater();
			const [record, ...more] = batch;
			if (more.length) {
				for (const one of batch) if (!(await this.#send([one]))) return false;
			} else if (record) {
				this.refused = [...this.refused, { record, message: error.message }];
				this.#drop(record.id);
				await forgetWaiting(this.hopId, [record.id]).catch(() => undefined);
			}
			return true;
		}
	}

	async #sendPhoto(photo: OwnPhoto): Promise<boolean> {
		try {
			await uploadFile(`/hops/${this.hopId}/photos?id=${photo.id}&end=${photo.end}`, photo.bytes);
		} catch (error) {
			if (!isFinal(error)) return this.#tryLater();
			this.photoRefused = error.fields[0]?.message ?? error.message;
		}
		this.photos = this.photos.filter((own) => own.id !== photo.id);
		await forgetPhoto(photo.id).catch(() => undefined);
		return true;
	}

	#tryLater(): false {
		if (!this.#stopped) this.#timers.push(setTimeout(() => void this.flush(), RETRY_MS));
		return false;
	}
}

/** A refusal that no repeat will change. */
function isFinal(error: unknown): error is ApiRefusal {
	return (
		error instanceof ApiRefusal && error.status < 500 && ![401, 408, 429].includes(error.status)
	);
}
