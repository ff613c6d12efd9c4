import { fileTypeFromBuffer } from 'file-type';
import { QueryTypes } from 'sequelize';
import { requireMay, type Actor } from '../auth/actor';
import { db } from '../db/connection';
import { invalid, notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';
import { getSite } from './sites';

export interface Attachment {
	id: string;
	fileName: string;
	mediaType: string;
	sizeBytes: number;
	note: string;
	uploadedAt: Date;
	uploadedBy: string;
}

export const LARGEST_ATTACHMENT_BYTES = 12_000_000;
const MOST_ATTACHMENTS = 60;

/** What may be attached, by what the bytes are and not by what the name says. */
const TYPES: Readonly<Record<string, string>> = {
	'application/pdf': 'pdf',
	'image/jpeg': 'jpg',
	'image/png': 'png',
	'image/webp': 'webp'
};

const COLUMNS = `a.id, a.file_name AS fileName, a.media_type AS mediaType, a.size_bytes AS sizeBytes,
	a.note, a.uploaded_at AS uploadedAt, u.display_name AS uploadedBy`;

export async function listAttachments(actor: Actor, siteId: string): Promise<Attachment[]> {
	await getSite(actor, siteId);
	return db().query<Attachment>(
		`SELECT ${COLUMNS} FROM site_attachments a JOIN users u ON u.id = a.uploaded_by
		WHERE a.site_id = ? ORDER BY a.uploaded_at DESC, a.id LIMIT ?`,
		{ replacements: [siteId, MOST_ATTACHMENTS], type: QueryTypes.SELECT }
	);
}

/** Attaches a document or picture to a site; a repeat with the same id does nothing twice. */
export async function addAttachment(
	actor: Actor,
	siteId: string,
	request: { id: string; fileName: string; note: string },
	bytes: Uint8Array
): Promise<Attachment> {
	requireMay(actor, 'edit-sites');
	await getSite(actor, siteId);
	const known = await findAttachment(siteId, request.id);
	if (known) return known;
	if (bytes.byteLength === 0) throw invalid([{ field: 'file', message: 'The file is empty.' }]);
	const type = await fileTypeFromBuffer(bytes);
	if (!type || !(type.mime in TYPES)) {
		throw invalid([
			{
				field: 'file',
				message: `Only PDF, JPEG, PNG and WebP are taken; this is ${type ? type.mime : 'none of these'}, whatever its name says.`
			}
		]);
	}
	const [count] = await db().query<{ count: number }>(
		'SELECT COUNT(*) AS count FROM site_attachments WHERE site_id = ?',
		{ replacements: [siteId], type: QueryTypes.SELECT }
	);
	if (Number(count?.count ?? 0) >= MOST_ATTACHMENTS) {
		throw refusal('too-many', 'site', `${MOST_ATTACHMENTS} attachments`);
	}
	await db().query(
		`INSERT INTO site_attachments
		(id, site_id, file_name, media_type, size_bytes, content, note, uploaded_by, uploaded_at)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		{
			replacements: [
				request.id,
				siteId,
				request.fileName,
				type.mime,
				bytes.byteLength,
				Buffer.from(bytes),
				request.note,
				actor.userId,
				new Date()
			]
		}
	);
	await audit(actor.userId, 'attach', `site:${siteId}`, { name: request.fileName });
	return (await findAttachment(siteId, request.id))!;
}

async function findAttachment(siteId: string, id: string): Promise<Attachment | undefined> {
	const [row] = await db().query<Attachment>(
		`SELECT ${COLUMNS} FROM site_attachments a JOIN users u ON u.id = a.uploaded_by
		WHERE a.site_id = ? AND a.id = ?`,
		{ replacements: [siteId, id], type: QueryTypes.SELECT }
	);
	return row;
}

export async function readAttachment(
	actor: Actor,
	siteId: string,
	id: string
): Promise<{ attachment: Attachment; content: Buffer }> {
	await getSite(actor, siteId);
	const attachment = await findAttachment(siteId, id);
	const [row] = await db().query<{ content: Buffer }>(
		'SELECT content FROM site_attachments WHERE site_id = ? AND id = ?',
		{ replacements: [siteId, id], type: QueryTypes.SELECT }
	);
	if (!attachment || !row) throw notFound('attachment');
	return { attachment, content: row.content };
}

export async function removeAttachment(actor: Actor, siteId: string, id: string): Promise<void> {
	requireMay(actor, 'edit-sites');
	const attachment = await findAttachment(siteId, id);
	if (!attachment) throw notFound('attachment');
	await db().query('DELETE FROM site_attachments WHERE site_id = ? AND id = ?', {
		replacements: [siteId, id]
	});
	await audit(actor.userId, 'detach', `site:${siteId}`, { name: attachment.fileName });
}
