import { select, selectOne } from '../db/sql';
import { attachments, type AttachmentRow } from '../db/tables';

/** What is told of a file at a site, without the file. */
export interface Attachment {
	id: string;
	fileName: string;
	mediaType: string;
	sizeBytes: number;
	note: string;
	uploadedAt: Date;
	uploadedBy: string;
}

const COLUMNS = `a.id, a.file_name AS fileName, a.media_type AS mediaType, a.size_bytes AS sizeBytes,
	a.note, a.uploaded_at AS uploadedAt, u.display_name AS uploadedBy`;
const FROM = 'FROM site_attachments a JOIN users u ON u.id = a.uploaded_by';

/** The files at a site, the newest first. */
export function attachmentsAt(siteId: string, limit: number): Promise<Attachment[]> {
	return select(
		`SELECT ${COLUMNS} ${FROM} WHERE a.site_id = ? ORDER BY a.uploaded_at DESC, a.id LIMIT ?`,
		[siteId, limit]
	);
}

export function findAttachment(siteId: string, id: string): Promise<Attachment | undefined> {
	return selectOne(`SELECT ${COLUMNS} ${FROM} WHERE a.site_id = ? AND a.id = ?`, [siteId, id]);
}

export async function attachmentContent(siteId: string, id: string): Promise<Buffer | undefined> {
	const [row] = await attachments.some(['content'], { siteId, id });
	return row?.content;
}

export function countAttachments(siteId: string): Promise<number> {
	return attachments.count({ siteId });
}

export function insertAttachment(row: AttachmentRow): Promise<void> {
	return attachments.add(row);
}

export async function deleteAttachment(siteId: string, id: string): Promise<void> {
	await attachments.remove({ siteId, id });
}
