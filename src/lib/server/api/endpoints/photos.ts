import type { End } from '#core/ends';
import { end, joi, uuid } from '../../schemas/joi';
import { addPhoto, LARGEST_PHOTO_BYTES, listPhotos, readPhoto } from '../../services/photos';
import { endpoint } from '../endpoint';

export const photoEndpoints = [
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/photos',
		tag: 'Photos',
		summary: 'Photos of a hop, without their bytes',
		access: 'signed-in',
		handle: async ({ actor, param }) => ({ photos: await listPhotos(actor, param('hopId')) })
	}),
	endpoint<undefined, { id: string; end: End }>({
		method: 'POST',
		path: '/hops/:hopId/photos',
		tag: 'Photos',
		summary: 'Keep a photo (crews); a repeat with the same id does nothing',
		access: 'signed-in',
		upload: { mostBytes: LARGEST_PHOTO_BYTES, mediaType: 'application/octet-stream' },
		query: joi.object({
			id: uuid().required().label('Id'),
			end: end().required().label('End')
		}),
		status: 201,
		handle: ({ actor, param, query, upload }) => addPhoto(actor, param('hopId'), query, upload)
	}),
	endpoint<undefined, { size: 'whole' | 'small' }>({
		method: 'GET',
		path: '/hops/:hopId/photos/:photoId',
		tag: 'Photos',
		summary: 'One photo, whole or small',
		access: 'signed-in',
		query: joi.object({
			size: joi.string().valid('whole', 'small').default('whole').label('Size')
		}),
		produces: 'image/jpeg',
		handle: async ({ actor, param, query }) =>
			new Response(
				new Uint8Array(await readPhoto(actor, param('hopId'), param('photoId'), query.size)),
				{
					headers: {
						'content-type': 'image/jpeg',
						// A photo never changes under its id.
						'cache-control': 'private, max-age=31536000, immutable',
						'x-content-type-options': 'nosniff',
						'content-security-policy': "default-src 'none'"
					}
				}
			)
	})
];
