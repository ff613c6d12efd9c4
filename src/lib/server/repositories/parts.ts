import type { PartKind } from '#core/catalogue/partKinds';
import { countRows, likePattern, select, selectOne } from '../db/sql';
import { parts, partVersions, type PartTableRow } from '../db/tables';
import type { Unit } from '../db/transaction';

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

function conditionOf({ q, kind, ghz, retired }: PartFilter): { where: string; values: unknown[] } {
	const conditions = [retired ? 'p.retired_at IS NOT NULL' : 'p.retired_at IS NULL'];
	const values: unknown[] = [];
	if (kind) {
		conditions.push('p.kind = ?');
		values.push(kind);
	}
	if (q) {
		conditions.push('(p.code LIKE ? OR p.name LIKE ?)');
		values.push(likePattern(q), likePattern(q));
	}
	if (ghz !== null) {
		conditions.push('p.from_ghz <= ? AND p.to_ghz >= ?');
		values.push(ghz, ghz);
	}
	return { where: conditions.join(' AND '), values };
}

/** One page of parts in the order of kind and code. */
export async function listParts(
	filter: PartFilter,
	limit: number,
	offset: number
): Promise<{ rows: PartRow[]; count: number }> {
	const { where, values } = conditionOf(filter);
	const count = await countRows(`${FROM} WHERE ${where}`, values);
	const rows = await select<RawPart>(
		`SELECT ${COLUMNS} ${FROM} WHERE ${where} ORDER BY p.kind, p.code LIMIT ? OFFSET ?`,
		[...values, limit, offset]
	);
	return { rows: rows.map(rowOf), count };
}

/** Every part there is, retired ones too: for resolving plans, and for export. */
export async function allParts(unit?: Unit): Promise<PartRow[]> {
	const rows = await select<RawPart>(`SELECT ${COLUMNS} ${FROM} ORDER BY p.kind, p.code`, [], unit);
	return rows.map(rowOf);
}

/** A figure that is another one after any change of any part. */
export async function partsStamp(): Promise<string> {
	const row = await selectOne<{ count: number; sum: number | string | null }>(
		'SELECT COUNT(*) AS count, SUM(version) AS sum FROM parts'
	);
	return `${row?.count ?? 0}/${row?.sum ?? 0}`;
}

/** A part by its id, or by kind and code; locked where it is read in a unit. */
export async function findPart(
	where: { id: string } | { kind: PartKind; code: string },
	unit?: Unit
): Promise<PartRow | undefined> {
	const [sql, values] =
		'id' in where
			? ['p.id = ?', [where.id]]
			: ['p.kind = ? AND p.code = ?', [where.kind, where.code]];
	const row = await selectOne<RawPart>(
		`SELECT ${COLUMNS} ${FROM} WHERE ${sql}${unit ? ' FOR UPDATE' : ''}`,
		values,
		unit
	);
	return row && rowOf(row);
}

const MOST_VERSIONS = 200;

/** What a part was, the newest version first. */
export function versionsOfPart(partId: string): Promise<PartVersionRow[]> {
	return select(
		`SELECT v.version, v.data, v.note, u.display_name AS madeBy, v.made_at AS madeAt
		FROM part_versions v LEFT JOIN users u ON u.id = v.made_by
		WHERE v.part_id = ? ORDER BY v.version DESC LIMIT ?`,
		[partId, MOST_VERSIONS]
	);
}

/** A part as it is written, with the version that its data is. */
export interface WrittenPart extends Omit<PartRow, 'updatedBy' | 'updatedAt'> {
	note: string;
	by: string | null;
	at: Date;
}

/** Throws TakenError where the id, or the code among its kind, is in use. */
export async function insertPart(part: WrittenPart, unit: Unit): Promise<void> {
	const { id, kind, code } = part;
	await parts.add({ id, kind, code, ...valuesOf(part) }, unit);
	await insertVersion(part, unit);
}

/** The part as it is now; its former versions stay. */
export async function updatePart(part: WrittenPart, unit: Unit): Promise<void> {
	await parts.change({ id: part.id }, valuesOf(part), unit);
	await insertVersion(part, unit);
}

function valuesOf(part: WrittenPart): Omit<PartTableRow, 'id' | 'kind' | 'code'> {
	return {
		name: part.name,
		fromGhz: part.fromGhz,
		toGhz: part.toGhz,
		version: part.version,
		data: part.data,
		retiredAt: part.retired ? part.at : null,
		updatedBy: part.by,
		updatedAt: part.at
	};
}

function insertVersion(
	{ id, version, data, note, by, at }: WrittenPart,
	unit: Unit
): Promise<void> {
	return partVersions.add({ partId: id, version, data, note, madeBy: by, madeAt: at }, unit);
}
