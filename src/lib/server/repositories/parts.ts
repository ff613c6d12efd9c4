import { QueryTypes, type Transaction } from 'sequelize';
import type { PartKind } from '#core/catalogue/partKinds';
import { db } from '../db/connection';

/** One part as it is kept: its data in JSON, its newest version. */
export interface PartRow {
	id: string;
	kind: PartKind;
	code: string;
	name: string;
	fromGhz: number | null;
	toGhz: number | null;
	version: number;
	data: string;
	retired: boolean;
	updatedBy: string | null;
	updatedAt: Date;
}

export interface PartVersionRow {
	version: number;
	data: string;
	note: string;
	madeBy: string | null;
	madeAt: Date;
}

export interface PartFilter {
	q: string;
	kind: PartKind | null;
	/** Frequency the part must carry, GHz; parts without frequencies are left out. */
	ghz: number | null;
	retired: boolean;
}

const COLUMNS = `p.id, p.kind, p.code, p.name, p.from_ghz AS fromGhz, p.to_ghz AS toGhz, p.version,
	p.data, p.retired_at IS NOT NULL AS retired, u.display_name AS updatedBy, p.updated_at AS updatedAt`;
const FROM = 'FROM parts p LEFT JOIN users u ON u.id = p.updated_by';

interface RawPart extends Omit<PartRow, 'retired'> {
	retired: number;
}
const rowOf = (raw: RawPart): PartRow => ({ ...raw, retired: Boolean(raw.retired) });

function conditionOf(
	{ q, kind, ghz, retired }: PartFilter,
	like: string
): {
	where: string;
	values: unknown[];
} {
	const parts = [retired ? 'p.retired_at IS NOT NULL' : 'p.retired_at IS NULL'];
	const values: unknown[] = [];
	if (kind) {
		parts.push('p.kind = ?');
		values.push(kind);
	}
	if (q) {
		parts.push('(p.code LIKE ? OR p.name LIKE ?)');
		values.push(like, like);
	}
	if (ghz !== null) {
		parts.push('p.from_ghz <= ? AND p.to_ghz >= ?');
		values.push(ghz, ghz);
	}
	return { where: parts.join(' AND '), values };
}

/** One page of parts in the order of kind and code. */
export async function listParts(
	filter: PartFilter,
	like: string,
	limit: number,
	offset: number
): Promise<{ rows: PartRow[]; count: number }> {
	const { where, values } = conditionOf(filter, like);
	const [counted] = await db().query<{ count: number }>(
		`SELECT COUNT(*) AS count ${FROM} WHERE ${where}`,
		{ replacements: values, type: QueryTypes.SELECT }
	);
	const rows = await db().query<RawPart>(
		`SELECT ${COLUMNS} ${FROM} WHERE ${where} ORDER BY p.kind, p.code LIMIT ? OFFSET ?`,
		{ replacements: [...values, limit, offset], type: QueryTypes.SELECT }
	);
	return { rows: rows.map(rowOf), count: Number(counted?.count ?? 0) };
}

/** Every part there is, retired ones too: for resolving plans, and for export. */
export async function allParts(transaction?: Transaction): Promise<PartRow[]> {
	const rows = await db().query<RawPart>(`SELECT ${COLUMNS} ${FROM} ORDER BY p.kind, p.code`, {
		type: QueryTypes.SELECT,
		transaction: transaction ?? null
	});
	return rows.map(rowOf);
}

/** A figure that is another one after any change of any part. */
export async function partsStamp(): Promise<string> {
	const [row] = await db().query<{ count: number; sum: number | string | null }>(
		'SELECT COUNT(*) AS count, SUM(version) AS sum FROM parts',
		{ type: QueryTypes.SELECT }
	);
	return `${row?.count ?? 0}/${row?.sum ?? 0}`;
}

export async function findPart(
	where: { id: string } | { kind: PartKind; code: string },
	transaction?: Transaction
): Promise<PartRow | undefined> {
	const [sql, replacements] =
		'id' in where
			? ['p.id = ?', [where.id]]
			: ['p.kind = ? AND p.code = ?', [where.kind, where.code]];
	const [row] = await db().query<RawPart>(
		`SELECT ${COLUMNS} ${FROM} WHERE ${sql}${transaction ? ' FOR UPDATE' : ''}`,
		{ replacements, type: QueryTypes.SELECT, transaction: transaction ?? null }
	);
	return row && rowOf(row);
}

export async function versionsOfPart(partId: string): Promise<PartVersionRow[]> {
	return db().query<PartVersionRow>(
		`SELECT v.version, v.data, v.note, u.display_name AS madeBy, v.made_at AS madeAt
		FROM part_versions v LEFT JOIN users u ON u.id = v.made_by
		WHERE v.part_id = ? ORDER BY v.version DESC LIMIT 200`,
		{ replacements: [partId], type: QueryTypes.SELECT }
	);
}

/** A part as it is written, with the version that its data is. */
export interface WrittenPart extends Omit<PartRow, 'updatedBy' | 'updatedAt'> {
	note: string;
	by: string | null;
	at: Date;
}

export async function insertPart(part: WrittenPart, transaction: Transaction): Promise<void> {
	await db().query(
		`INSERT INTO parts
		(id, kind, code, name, from_ghz, to_ghz, version, data, retired_at, updated_by, updated_at)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, NULL, ?, ?)`,
		{
			replacements: [
				part.id,
				part.kind,
				part.code,
				part.name,
				part.fromGhz,
				part.toGhz,
				part.version,
				part.data,
				part.by,
				part.at
			],
			transaction
		}
	);
	await insertVersion(part, transaction);
}

/** The part as it is now; its former versions stay. */
export async function updatePart(part: WrittenPart, transaction: Transaction): Promise<void> {
	await db().query(
		`UPDATE parts SET name = ?, from_ghz = ?, to_ghz = ?, version = ?, data = ?,
			retired_at = ?, updated_by = ?, updated_at = ? WHERE id = ?`,
		{
			replacements: [
				part.name,
				part.fromGhz,
				part.toGhz,
				part.version,
				part.data,
				part.retired ? part.at : null,
				part.by,
				part.at,
				part.id
			],
			transaction
		}
	);
	await insertVersion(part, transaction);
}

async function insertVersion(part: WrittenPart, transaction: Transaction): Promise<void> {
	await db().query(
		`INSERT INTO part_versions (part_id, version, data, note, made_by, made_at)
		VALUES (?, ?, ?, ?, ?, ?)`,
		{
			replacements: [part.id, part.version, part.data, part.note, part.by, part.at],
			transaction
		}
	);
}
