import { joi, uuid } from '../../schemas/joi';
import {
	addAttachment,
	LARGEST_ATTACHMENT_BYTES,
	listAttachments,
	readAttachment,
	removeAttachment
} from '../../services/attachments';
import { endpoint } from '../endpoint';

export const attachmentEndpoints = [
	endpoint({
		method: 'GET',
		path: '/sites/:siteId/attachments',
		tag: 'Planning',
		summary: 'Documents and pictures of a site',
		access: 'signed-in',
		handle: ({ actor, param }) => listAttachments(actor, param('siteId'))
	}),
	endpoint<undefined, { id: string; fileName: string; note: string }>({
		method: 'POST',
		path: '/sites/:siteId/attachments',
		tag: 'Planning',
		summary: 'Attach a PDF or a picture to a site (planners)',
		access: 'signed-in',
		upload: { mostBytes: LARGEST_ATTACHMENT_BYTES, mediaType: 'application/octet-stream' },
		query: joi.object({
			id: uuid().required().label('Id'),
			fileName: joi
				.string()
				.trim()
				.max(160)
				.pattern(/^[^/\\\p{Cc}]+$/u)
				.messages({ 'string.pattern.base': '{#label} may not hold slashes or control characters' })
				.required()
				.label('File name'),
			note: joi.string().trim().allow('').max(400).default('').label('Note')
		}),
		status: 201,
		handle: ({ actor, param, query, upload }) =>
			addAttachment(actor, param('siteId'), query, upload)
	}),
	endpoint({
		method: 'GET',
		path: '/sites/:siteId/attachments/:attachmentId',
		tag: 'Planning',
		summary: 'One attachment',
		access: 'signed-in',
		produces: 'application/octet-stream',
		handle: async ({ actor, param }) => {
			const { attachment, content } = await readAttachment(
				actor,
				param('siteId'),
				param('attachmentId')
			);
			return new Response(new Uint8Array(content), {
				headers: {
					'content-type': attachment.mediaType,
					'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(attachment.fileName)}`,
					'cache-control': 'private, max-age=3600',
					'x-content-type-options': 'nosniff'
				}
			});
		}
	}),
	endpoint({
		method: 'DELETE',
		path: '/sites/:siteId/attachments/:attachmentId',
		tag: 'Planning',
		summary: 'Take an attachment away (planners)',
		access: 'signed-in',
		status: 204,
		handle: ({ actor, param }) => removeAttachment(actor, param('siteId'), param('attachmentId'))
	})
];
