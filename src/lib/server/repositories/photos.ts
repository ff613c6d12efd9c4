import type { End } from '#core/ends';
import { select, selectOne } from '../db/sql';
import { photos, type PhotoRow } from '../db/tables';
import type { Unit } from '../db/transaction';

/** What is told of a photo, without the picture. */
export interface Photo {
	id: string;
	end: End;
	width: number;
	height: number;
	sizeBytes: number;
	uploadedAt: Date;
	uploadedBy: string;
}

const COLUMNS = `p.id, p.end, p.width, p.height, p.size_bytes AS sizeBytes,
	p.uploaded_at AS uploadedAt, u.display_name AS uploadedBy`;
const FROM = 'FROM photos p JOIN users u ON u.id = p.uploaded_by';
const OLDEST_FIRST = [
	['uploadedAt', 'ASC'],
	['id', 'ASC']
] as const;

/** The photos of a hop, oldest first. */
export function photosOf(hopId: string, limit: number): Promise<Photo[]> {
	return select(
		`SELECT ${COLUMNS} ${FROM} WHERE p.hop_id = ? ORDER BY p.uploaded_at, p.id LIMIT ?`,
		[hopId, limit]
	);
}

export function findPhoto(hopId: string, id: string): Promise<Photo | undefined> {
	return selectOne(`SELECT ${COLUMNS} ${FROM} WHERE p.hop_id = ? AND p.id = ?`, [hopId, id]);
}

/** Which hop has a photo of this id, and the digest of the file it was made from. */
export async function findPhotoSource(
	id: string
): Promise<Pick<PhotoRow, 'hopId' | 'sourceSha256'> | undefined> {
	const [row] = await photos.some(['hopId', 'sourceSha256'], { id });
	return row;
}

/** One picture, whole or small. */
export async function photoBytes(
	hopId: string,
	id: string,
	size: 'whole' | 'small'
): Promise<Buffer | undefined> {
	const column = size === 'small' ? 'thumbnail' : 'content';
	const [row] = await photos.some([column], { hopId, id });
	return row?.[column];
}

/** How many photos a hop has, and their bytes together. */
export async function photosKept(hopId: string): Promise<{ count: number; bytes: number }> {
	const row = await selectOne<{ count: number; bytes: number | string }>(
		'SELECT COUNT(*) AS count, COALESCE(SUM(size_bytes), 0) AS bytes FROM photos WHERE hop_id = ?',
		[hopId]
	);
	return { count: row?.count ?? 0, bytes: Number(row?.bytes ?? 0) };
}

/** The small pictures of a hop, oldest first. */
export function thumbnailsOf(hopId: string): Promise<Pick<PhotoRow, 'id' | 'thumbnail'>[]> {
	return photos.some(['id', 'thumbnail'], { hopId }, { order: OLDEST_FIRST });
}

/** Whole photos of a hop, oldest first, as an archive holds them. */
export function wholePhotosOf(hopId: string): Promise<Omit<PhotoRow, 'thumbnail'>[]> {
	return photos.some(
		[
			'id',
			'hopId',
			'end',
			'sourceSha256',
			'width',
			'height',
			'sizeBytes',
			'content',
			'uploadedBy',
			'uploadedAt'
		],
		{ hopId },
		{ order: OLDEST_FIRST }
	);
}

/** Throws TakenError where a photo of this id is there already. */
export function insertPhoto(row: PhotoRow, unit?: Unit): Promise<void> {
	return photos.add(row, unit);
}
