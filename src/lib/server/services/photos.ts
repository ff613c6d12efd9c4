import { createHash } from 'node:crypto';
import { fileTypeFromBuffer } from 'file-type';
import sharp from 'sharp';
import type { End } from '#core/ends';
import type { Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import { invalid, notFound, refusal } from '../errors';
import {
	findPhoto,
	findPhotoSource,
	insertPhoto,
	photoBytes,
	photosKept,
	photosOf,
	type Photo
} from '../repositories/photos';
import { getHopRow, requireMayRecord } from './hops';

export type { Photo };

export const LARGEST_PHOTO_BYTES = 12_000_000;
/** More than any camera of a phone gives after shrinking; above it memory would be at stake. */
const MOST_PIXELS = 50_000_000;
const LONGEST_SIDE_PX = 2048;
const THUMBNAIL_PX = 320;
const MOST_PHOTOS = 400;
/** All photos of a hop together, so that its archive can be read back in. */
const MOST_BYTES_OF_HOP = 50_000_000;
const TAKEN = new Set(['image/jpeg', 'image/png', 'image/webp']);

/**
 * Keeps a photo of a hop. Turned upright, shrunk, and written anew, so that nothing of the camera's
 * own data (place, time, device) is stored. A repeat with the same id and bytes does nothing.
 */
export async function addPhoto(
	actor: Actor,
	hopId: string,
	request: { id: string; end: End },
	bytes: Uint8Array
): Promise<Photo> {
	const hop = await getHopRow(actor, hopId);
	requireMayRecord(actor, hop);
	const sha256 = createHash('sha256').update(bytes).digest('hex');
	const earlier = await earlierPhoto(hopId, request.id, sha256);
	if (earlier) return earlier;
	const { content, thumbnail, width, height } = await redrawn(bytes);
	await requireRoom(hopId, content.byteLength);
	const row = {
		...request,
		hopId,
		sourceSha256: sha256,
		width,
		height,
		sizeBytes: content.byteLength,
		content,
		thumbnail,
		uploadedBy: actor.userId,
		uploadedAt: new Date()
	};
	// The same photo may have come in by another request meanwhile.
	await unlessTaken(
		() => insertPhoto(row),
		() => undefined
	);
	return (await earlierPhoto(hopId, request.id, sha256)) ?? notThere();
}

/** The photo of the first time, or a refusal where its id means another one. */
async function earlierPhoto(hopId: string, id: string, sha256: string): Promise<Photo | undefined> {
	const known = await findPhotoSource(id);
	if (!known) return undefined;
	if (known.hopId !== hopId || known.sourceSha256 !== sha256) throw refusal('id-used', 'photo');
	return findPhoto(hopId, id);
}

const notThere = (): never => {
	throw notFound('photo');
};

async function requireRoom(hopId: string, moreBytes: number): Promise<void> {
	const kept = await photosKept(hopId);
	if (kept.count >= MOST_PHOTOS) throw refusal('too-many', 'hop', `${MOST_PHOTOS} photos`);
	if (kept.bytes + moreBytes > MOST_BYTES_OF_HOP) {
		throw refusal('too-many', 'hop', `${MOST_BYTES_OF_HOP / 1e6} MB of photos`);
	}
}

/** Checks what the bytes are, whatever their name, and draws them anew. */
async function redrawn(
	bytes: Uint8Array
): Promise<{ content: Buffer; thumbnail: Buffer; width: number; height: number }> {
	const refuse = (message: string): never => {
		throw invalid([{ field: 'file', message }]);
	};
	if (bytes.byteLength === 0) refuse('The photo is empty.');
	const type = await fileTypeFromBuffer(bytes);
	if (!type || !TAKEN.has(type.mime)) {
		refuse(
			`Only JPEG, PNG and WebP photos are taken; this is ${type ? type.mime : 'none of these'}, whatever its name says.`
		);
	}
	try {
		const image = sharp(bytes, { limitInputPixels: false, failOn: 'error' });
		const { width, height, pages = 1 } = await image.metadata();
		if (width * height * pages > MOST_PIXELS) {
			refuse(
				`The photo has ${width} × ${height} points; at most ${MOST_PIXELS / 1e6} million are taken.`
			);
		}
		const upright = image.rotate().resize({
			width: LONGEST_SIDE_PX,
			height: LONGEST_SIDE_PX,
			fit: 'inside',
			withoutEnlargement: true
		});
		const { data, info } = await upright
			.flatten({ background: '#ffffff' })
			.jpeg({ quality: 82 })
			.toBuffer({ resolveWithObject: true });
		const thumbnail = await sharp(data)
			.resize({ width: THUMBNAIL_PX, height: THUMBNAIL_PX, fit: 'inside' })
			.jpeg({ quality: 72 })
			.toBuffer();
		return { content: data, thumbnail, width: info.width, height: info.height };
	} catch (error) {
		if (error instanceof Error && error.constructor === Error) {
			refuse('The photo is damaged and cannot be read to its end.');
		}
		throw error;
	}
}

/** A photo that comes back in an archive: as it was stored, or it is refused. */
export async function checkStoredPhoto(
	bytes: Uint8Array,
	id: string
): Promise<{ content: Buffer; thumbnail: Buffer; width: number; height: number }> {
	const { thumbnail } = await redrawn(bytes);
	const { width, height, format, exif } = await sharp(bytes).metadata();
	if (format !== 'jpeg' || exif || Math.max(width, height) > LONGEST_SIDE_PX) {
		throw invalid([{ field: 'file', message: `The photo ${id} is not as it was stored.` }]);
	}
	return { content: Buffer.from(bytes), thumbnail, width, height };
}

/** The photos of a hop, oldest first. */
export async function listPhotos(actor: Actor, hopId: string): Promise<Photo[]> {
	await getHopRow(actor, hopId);
	return photosOf(hopId, MOST_PHOTOS);
}

/** One photo, whole or small. */
export async function readPhoto(
	actor: Actor,
	hopId: string,
	id: string,
	size: 'whole' | 'small'
): Promise<Buffer> {
	await getHopRow(actor, hopId);
	return (await photoBytes(hopId, id, size)) ?? notThere();
}
