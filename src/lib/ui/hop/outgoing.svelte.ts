// The sets and maps below are bookkeeping that no screen reads; what screens read is $state.
/* eslint-disable svelte/prefer-svelte-reactivity */
import type { End } from '#core/ends';
import { ApiRefusal, callApi, uploadFile } from '../api';
import { session } from '../session.svelte';
import {
	forgetPhoto,
	forgetWaiting,
	keepPhoto,
	keepWaiting,
	markWaiting,
	readPhotos,
	readWaiting,
	type Owner,
	type Own,
	type OwnPhoto,
	type OwnRecord,
	type Refused
} from './outbox';

const RETRY_MS = 2500;
/** Records sent in one request. */
const AT_ONCE = 50;

/** Something of somebody else that waits on this device. */
export interface OthersWaiting {
	name: string;
	count: number;
}

/**
 * What one person made on this device and has not come back through the feed: kept, shown, and sent when it can
 * be. Nothing is dropped: what the server refuses stays until its owner has tried again or taken it off the
 * device, and what others made waits for them.
 */
export class Outgoing<R extends Own = OwnRecord> {
	/** Records that wait, in the order in which they were made. */
	records: R[] = $state.raw([]);
	/** Photos taken here that the server does not have yet. */
	photos: OwnPhoto[] = $state.raw([]);
	/** Records the server will not take, with its words. */
	refused: { record: R; why: Refused }[] = $state.raw([]);
	/** Photos the server will not take. */
	refusedPhotos: OwnPhoto[] = $state.raw([]);
	/** What other people made here and have not sent. */
	others: OthersWaiting[] = $state.raw([]);
	/** Words of the server when somebody else is signed in on this device by now. */
	otherPerson: string | undefined = $state();
	/** Words of the server when a newer plan stands in the way of what waits. */
	planRevised: string | undefined = $state();
	/** Whether the last attempt to send came to nothing: then this page is cut off, whatever it hears. */
	failing = $state(false);
	#keepOlder = false;
	#sent = new Set<string>();
	#flushing: Promise<void> | undefined;
	#stopped = false;
	#timers: ReturnType<typeof setTimeout>[] = [];

	/** @param what it is sent to: the hop or hub of that id */
	constructor(
		private readonly hopId: string,
		private readonly owner: Owner,
		private readonly what: 'hops' | 'hubs' = 'hops'
	) {}

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
		const waiting = await readWaiting(this.hopId).catch(() => []);
		const isOwn = ({ owner }: { owner?: Owner }): boolean => !owner || owner.id === this.owner.id;
		this.#takePhotos(photos.filter(isOwn));
		const own = waiting
			.filter(isOwn)
			.filter(({ record }) => !hasArrived(record.id))
			// What waits under the id of a hop or hub is a record of one.
			.map(({ record, refused }) => ({ record: record as R, refused }));
		const known = new Set(this.records.map(({ id }) => id));
		const open = own.filter(({ record, refused }) => !refused && !known.has(record.id));
		this.records = [...open.map(({ record }) => record), ...this.records];
		this.refused = own.flatMap(({ record, refused }) =>
			refused ? [{ record, why: refused }] : []
		);
		this.others = namesOf([...waiting, ...photos].filter((one) => !isOwn(one)));
		// Of whomever: what the feed has brought back waits no longer.
		const done = waiting.map(({ record }) => record.id).filter(hasArrived);
		if (done.length) await forgetWaiting(this.hopId, done).catch(() => undefined);
	}

	#takePhotos(photos: readonly OwnPhoto[]): void {
		const shown = new Set(this.photos.map(({ id }) => id));
		const open = photos.filter(({ id, refused }) => !refused && !shown.has(id));
		this.photos = [...open, ...this.photos];
		this.refusedPhotos = photos.filter(({ refused }) => refused);
	}

	stop(): void {
		this.#stopped = true;
		this.#timers.forEach(clearTimeout);
	}

	/** Keeps a record on the device, then shows it. */
	async add(record: R): Promise<void> {
		// Kept first and shown then: what a screen shows as recorded survives a browser that is killed.
		// Without storage on the device the record still lives in this page and is sent.
		await keepWaiting(this.hopId, record, this.owner).catch(() => undefined);
		this.records = [...this.records, record];
	}

	async addPhoto(end: End, bytes: Blob): Promise<OwnPhoto> {
		const { hopId, owner } = this;
		const photo: OwnPhoto = { id: crypto.randomUUID(), hopId, end, bytes, owner };
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

	/** What the server would not take is offered to it once more. */
	async tryAgain(): Promise<void> {
		for (const { record } of this.refused) {
			await markWaiting(this.hopId, record.id, undefined).catch(() => undefined);
		}
		const photos = this.refusedPhotos.map((photo) => ({ ...photo, refused: undefined }));
		for (const photo of photos) await keepPhoto(photo).catch(() => undefined);
		this.records = [...this.refused.map(({ record }) => record), ...this.records];
		this.photos = [...photos, ...this.photos];
		this.refused = [];
		this.refusedPhotos = [];
		await this.flush();
	}

	/** Its owner has saved what the server would not take, and takes it off this device. */
	async takeOff(): Promise<void> {
		const ids = this.refused.map(({ record }) => record.id);
		await forgetWaiting(this.hopId, ids).catch(() => undefined);
		for (const { id } of this.refusedPhotos) await forgetPhoto(id).catch(() => undefined);
		this.refused = [];
		this.refusedPhotos = [];
	}

	/** Sends what waits. Who asks while it is being sent waits for it, then looks for more. */
	async flush(): Promise<void> {
		while (this.#flushing) await this.#flushing;
		if (this.#stopped || session.ended) return;
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
	async #send(batch: readonly R[]): Promise<boolean> {
		const keepOlder = this.#keepOlder;
		try {
			await callApi('POST', `/${this.what}/${this.hopId}/records`, {
				records: batch,
				...(keepOlder ? { keepOlder: true } : {})
			});
			this.failing = false;
			this.otherPerson = undefined;
			this.planRevised = undefined;
			for (const { id } of batch) this.#sent.add(id);
			// A new list makes what depends on `#sent` look again.
			this.records = [...this.records];
			// It stays on the device until the feed has brought it back: between the two the connection
			// may be cut, and a page opened then must still have it.
			return true;
		} catch (error) {
			if (isOtherPerson(error)) return this.#wait(error.message);
			if (error instanceof ApiRefusal && error.code === 'plan-revised') {
				// Nothing is sent or dropped until somebody has said what shall hold; who has said so while this was
				// on its way is not asked once more.
				if (keepOlder === this.#keepOlder) this.planRevised = error.message;
				return false;
			}
			if (!isFinal(error)) return this.#failed();
			this.failing = false;
			const [record, ...more] = batch;
			if (more.length) {
				for (const one of batch) if (!(await this.#send([one]))) return false;
			} else if (record) {
				const why = { code: error.code, message: error.message };
				await markWaiting(this.hopId, record.id, why).catch(() => undefined);
				this.refused = [...this.refused, { record, why }];
				this.#drop(record.id);
			}
			return true;
		}
	}

	async #sendPhoto(photo: OwnPhoto): Promise<boolean> {
		try {
			await uploadFile(`/hops/${this.hopId}/photos?id=${photo.id}&end=${photo.end}`, photo.bytes);
		} catch (error) {
			if (isOtherPerson(error)) return this.#wait(error.message);
			if (!isFinal(error)) return this.#failed();
			this.failing = false;
			const message = error.fields[0]?.message ?? error.message;
			const refused = { ...photo, refused: { code: error.code, message } };
			await keepPhoto(refused).catch(() => undefined);
			this.refusedPhotos = [...this.refusedPhotos, refused];
			this.photos = this.photos.filter((own) => own.id !== photo.id);
			return true;
		}
		this.photos = this.photos.filter((own) => own.id !== photo.id);
		await forgetPhoto(photo.id).catch(() => undefined);
		return true;
	}

	/** Somebody else is signed in here by now: everything stays until its owner is back. */
	#wait(message: string): false {
		this.otherPerson = message;
		// Once they are back, in whichever tab, it goes on by itself.
		return this.#tryLater();
	}

	/** Nothing was answered, or the server could not; where the session has ended nothing more is sent. */
	#failed(): false {
		this.failing = !session.ended;
		return this.#tryLater();
	}

	#tryLater(): false {
		if (!this.#stopped && !session.ended)
			this.#timers.push(setTimeout(() => void this.flush(), RETRY_MS));
		return false;
	}
}

/** The session of this browser is another person's by now. */
const isOtherPerson = (error: unknown): error is ApiRefusal =>
	error instanceof ApiRefusal && error.code === 'other-person';

/** How much waits, by the name of whoever made it. */
function namesOf(waiting: readonly { owner?: Owner }[]): OthersWaiting[] {
	const counts = new Map<string, number>();
	for (const { owner } of waiting) {
		const name = owner?.name ?? '';
		counts.set(name, (counts.get(name) ?? 0) + 1);
	}
	return [...counts].map(([name, count]) => ({ name, count }));
}

/** A refusal that no repeat will change. */
function isFinal(error: unknown): error is ApiRefusal {
	return (
		error instanceof ApiRefusal && error.status < 500 && ![401, 408, 429].includes(error.status)
	);
}
