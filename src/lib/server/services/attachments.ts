import { fileTypeFromBuffer } from 'file-type';
import { requireMay, type Actor } from '../auth/actor';
import { invalid, notFound, refusal } from '../errors';
import {
	attachmentContent,
	attachmentsAt,
	countAttachments,
	deleteAttachment,
	findAttachment,
	insertAttachment,
	type Attachment
} from '../repositories/attachments';
import { audit } from '../repositories/audit';
import { getSite } from './sites';

export type { Attachment };

export const LARGEST_ATTACHMENT_BYTES = 12_000_000;
const MOST_ATTACHMENTS = 60;

/** What may be attached, by what the bytes are and not by what the name says. */
const TYPES: Readonly<Record<string, string>> = {
	'application/pdf': 'pdf',
	'image/jpeg': 'jpg',
	'image/png': 'png',
	'image/webp': 'webp'
};

export async function listAttachments(actor: Actor, siteId: string): Promise<Attachment[]> {
	await getSite(actor, siteId);
	return attachmentsAt(siteId, MOST_ATTACHMENTS);
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
	if ((await countAttachments(siteId)) >= MOST_ATTACHMENTS) {
		throw refusal('too-many', 'site', `${MOST_ATTACHMENTS} attachments`);
	}
	await insertAttachment({
		id: request.id,
		siteId,
		fileName: request.fileName,
		mediaType: type.mime,
		sizeBytes: bytes.byteLength,
		content: Buffer.from(bytes),
		note: request.note,
		uploadedBy: actor.userId,
		uploadedAt: new Date()
	});
	await audit(actor.userId, 'attach', `site:${siteId}`, { name: request.fileName });
	return requireAttachment(siteId, request.id);
}

async function requireAttachment(siteId: string, id: string): Promise<Attachment> {
	const attachment = await findAttachment(siteId, id);
	if (!attachment) throw notFound('attachment');
	return attachment;
}

export async function readAttachment(
	actor: Actor,
	siteId: string,
	id: string
): Promise<{ attachment: Attachment; content: Buffer }> {
	await getSite(actor, siteId);
	const attachment = await requireAttachment(siteId, id);
	const content = await attachmentContent(siteId, id);
	if (!content) throw notFound('attachment');
	return { attachment, content };
}

export async function removeAttachment(actor: Actor, siteId: string, id: string): Promise<void> {
	requireMay(actor, 'edit-sites');
	const { fileName } = await requireAttachment(siteId, id);
	await deleteAttachment(siteId, id);
	await audit(actor.userId, 'detach', `site:${siteId}`, { name: fileName });
}
