import { randomUUID } from 'node:crypto';
import { doubtsAbout, type PartDoubt } from '#core/catalogue/checkPart';
import {
	bandOf,
	EMPTY_CATALOGUE,
	PART_KINDS,
	type AnyPart,
	type PartKind
} from '#core/catalogue/partKinds';
import { draftOfPart, partOfDraft } from '#core/catalogue/partDraft';
import type { Catalogue } from '#core/catalogue/parts';
import { requireMay, type Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import type { AuditAction } from '../auditActions';
import { inTransaction, type Unit } from '../db/transaction';
import { invalid, notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';
import {
	allParts,
	findPart,
	insertPart,
	listParts,
	partsStamp,
	updatePart,
	versionsOfPart,
	type PartFilter,
	type PartRow,
	type WrittenPart
} from '../repositories/parts';
import { validate } from '../schemas/joi';
import { partSchema } from '../schemas/parts';
import { pageOf, type Page } from './paging';

/** A part as pages and scripts get it. */
export interface Part {
	id: string;
	kind: PartKind;
	version: number;
	retired: boolean;
	/** Code, name and the fields of its kind. */
	data: AnyPart;
	updatedBy: string;
	updatedAt: string;
	/** What is doubtful about its values. */
	doubts: PartDoubt[];
}

export interface PartSummary {
	id: string;
	kind: PartKind;
	code: string;
	name: string;
	bandGhz: readonly [number, number] | null;
	version: number;
	retired: boolean;
	updatedBy: string;
	updatedAt: string;
}

const dataOf = (row: { data: string }): AnyPart => JSON.parse(row.data) as AnyPart;

let kept: { stamp: string; parts: Catalogue } | undefined;

/**
 * Every part of this installation by kind, each with its version; retired ones are among them, since
 * plans may have them. Read anew once any process has changed one.
 */
export async function catalogue(): Promise<Catalogue> {
	const stamp = await partsStamp();
	if (kept?.stamp === stamp) return kept.parts;
	const parts = catalogueOf(await allParts());
	kept = { stamp, parts };
	return parts;
}

function catalogueOf(rows: readonly PartRow[]): Catalogue {
	const lists = Object.fromEntries(
		Object.keys(EMPTY_CATALOGUE).map((list) => [list, [] as AnyPart[]])
	);
	for (const row of rows) {
		const part = { ...dataOf(row), version: row.version };
		lists[PART_KINDS[row.kind].list]!.push(row.retired ? { ...part, retired: true } : part);
	}
	return lists as unknown as Catalogue;
}

/** One page of parts; without frequency, kind or words all that are not retired. */
export async function pageOfParts(
	actor: Actor,
	filter: PartFilter & { page: number }
): Promise<Page<PartSummary>> {
	requireMay(actor, 'read-parts');
	return pageOf({ page: filter.page }, async ({ limit, offset }) => {
		const { rows, count } = await listParts(filter, limit, offset);
		return { rows: rows.map(summaryOf), count };
	});
}

const summaryOf = (row: PartRow): PartSummary => ({
	id: row.id,
	kind: row.kind,
	code: row.code,
	name: row.name,
	bandGhz: row.fromGhz === null || row.toGhz === null ? null : [row.fromGhz, row.toGhz],
	version: row.version,
	retired: row.retired,
	updatedBy: row.updatedBy ?? '',
	updatedAt: row.updatedAt.toISOString()
});

export async function getPart(actor: Actor, id: string): Promise<Part> {
	requireMay(actor, 'read-parts');
	const row = await findPart({ id });
	if (!row) throw notFound('part');
	return partOf(row);
}

function partOf(row: PartRow): Part {
	const data = dataOf(row);
	return {
		id: row.id,
		kind: row.kind,
		version: row.version,
		retired: row.retired,
		data,
		updatedBy: row.updatedBy ?? '',
		updatedAt: row.updatedAt.toISOString(),
		doubts: doubtsAbout(row.kind, data)
	};
}

/** What a part was once. */
export interface PartVersion {
	version: number;
	note: string;
	madeBy: string;
	madeAt: string;
	data: AnyPart;
}

/** What a part was in its versions, the newest first. */
export async function versionsOf(actor: Actor, id: string): Promise<PartVersion[]> {
	await getPart(actor, id);
	return (await versionsOfPart(id)).map((row) => ({
		version: row.version,
		note: row.note,
		madeBy: row.madeBy ?? '',
		madeAt: row.madeAt.toISOString(),
		data: dataOf(row)
	}));
}

/** Checks the data of a part; refusals name the field inside `data`. */
export function checkedPart(kind: PartKind, data: unknown, inside = 'data'): AnyPart {
	const part = validate<AnyPart>(partSchema(kind), data, inside);
	// In the order of the form, so that the same values are stored as the same text.
	return partOfDraft(kind, draftOfPart(kind, part)) as unknown as AnyPart;
}

function written(
	kind: PartKind,
	data: AnyPart,
	rest: Pick<WrittenPart, 'id' | 'version' | 'retired' | 'note' | 'by'>
): WrittenPart {
	const band = bandOf(kind, data);
	return {
		...rest,
		kind,
		code: data.code,
		name: data.name,
		fromGhz: band?.[0] ?? null,
		toGhz: band?.[1] ?? null,
		data: JSON.stringify(data),
		at: new Date()
	};
}

/** Adds a part. A repeat with the same id gives the one of the first time. */
export async function createPart(
	actor: Actor,
	request: { id: string; kind: PartKind; data: unknown }
): Promise<Part> {
	requireMay(actor, 'edit-parts');
	const data = checkedPart(request.kind, request.data);
	const earlier = await findPart({ id: request.id });
	if (earlier) return partOf(earlier);
	await unlessTaken(
		() => inTransaction((unit) => insertChecked(actor.userId, request, data, unit)),
		() => {
			throw codeTaken(request.kind, data.code);
		}
	);
	return getPart(actor, request.id);
}

async function insertChecked(
	userId: string | null,
	{ id, kind }: { id: string; kind: PartKind },
	data: AnyPart,
	unit: Unit
): Promise<void> {
	await insertPart(
		written(kind, data, { id, version: 1, retired: false, note: 'Added.', by: userId }),
		unit
	);
	await audit(userId, 'add-part', `part:${id}`, { kind, code: data.code }, unit);
}

const codeTaken = (kind: PartKind, code: string): ReturnType<typeof invalid> =>
	invalid([
		{
			field: 'data.code',
			message: `There is a ${PART_KINDS[kind].one.toLowerCase()} ${code} already; it may be retired.`
		}
	]);

/** Changes a part: a new version; plans that were issued keep the one they have. */
export async function changePart(
	actor: Actor,
	id: string,
	request: { version: number; data: unknown; note: string }
): Promise<Part> {
	requireMay(actor, 'edit-parts');
	const before = await getPart(actor, id);
	const data = checkedPart(before.kind, request.data);
	if (data.code !== before.data.code) {
		throw invalid([
			{
				field: 'data.code',
				message: 'The type code of a part stays; copy it to make another part.'
			}
		]);
	}
	await change(actor, id, request.version, {
		data,
		retired: before.retired,
		note: request.note.trim(),
		action: 'change-part'
	});
	return getPart(actor, id);
}

/** Takes a part out of what can be chosen, or back; nothing that has it changes. */
export async function setRetired(
	actor: Actor,
	id: string,
	request: { version: number; retired: boolean }
): Promise<Part> {
	requireMay(actor, 'edit-parts');
	const before = await getPart(actor, id);
	if (before.retired !== request.retired) {
		await change(actor, id, request.version, {
			data: before.data,
			retired: request.retired,
			note: request.retired ? 'Retired.' : 'Back in use.',
			action: request.retired ? 'retire-part' : 'restore-part'
		});
	}
	return getPart(actor, id);
}

async function change(
	actor: Actor,
	id: string,
	version: number,
	to: { data: AnyPart; retired: boolean; note: string; action: AuditAction }
): Promise<void> {
	await inTransaction(async (unit) => {
		const row = await findPart({ id }, unit);
		if (!row) throw notFound('part');
		if (row.version !== version) {
			throw refusal('changed-meanwhile', {
				what: 'part',
				by: row.updatedBy,
				version: row.version
			});
		}
		const { data, retired, note } = to;
		await updatePart(
			written(row.kind, data, {
				id,
				version: row.version + 1,
				retired,
				note,
				by: actor.userId
			}),
			unit
		);
		await audit(
			actor.userId,
			to.action,
			`part:${id}`,
			{ kind: row.kind, code: row.code, version: row.version + 1 },
			unit
		);
	});
}

/** One part that is to be added or changed, checked already. */
export interface CheckedPart {
	kind: PartKind;
	data: AnyPart;
}

/**
 * Adds what is new and changes what is other, all or none; what is the same already is left alone.
 *
 * @param userId who does it; null for the demo
 */
export async function putParts(
	userId: string | null,
	parts: readonly CheckedPart[]
): Promise<{ added: number; changed: number; same: number }> {
	return inTransaction(async (unit) => {
		const known = new Map((await allParts(unit)).map((row) => [`${row.kind}/${row.code}`, row]));
		const counts = { added: 0, changed: 0, same: 0 };
		for (const { kind, data } of parts) {
			const before = known.get(`${kind}/${data.code}`);
			if (!before) {
				await insertChecked(userId, { id: randomUUID(), kind }, data, unit);
				counts.added += 1;
			} else if (before.data === JSON.stringify(data)) counts.same += 1;
			else {
				const { id, version, retired } = before;
				await updatePart(
					written(kind, data, {
						id,
						version: version + 1,
						retired,
						note: 'Imported.',
						by: userId
					}),
					unit
				);
				counts.changed += 1;
			}
		}
		return counts;
	});
}
