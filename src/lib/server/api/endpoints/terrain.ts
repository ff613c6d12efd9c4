import type Joi from 'joi';
import type { GeoPoint } from '#core/geodesy/geodesic';
import { joi } from '../../schemas/joi';
import { mapContent, type MapView } from '../../services/map';
import {
	addRaster,
	listRasters,
	rasterPicture,
	removeRaster,
	takeProfile
} from '../../services/terrain';
import { endpoint } from '../endpoint';

/** The largest GeoTIFF taken, bytes. */
export const LARGEST_RASTER_BYTES = 60_000_000;

const point = (latitude: number, longitude: number): Joi.ObjectSchema =>
	joi
		.object({
			latitudeDeg: joi.number().min(-90).max(90).required().label('Latitude').example(latitude),
			longitudeDeg: joi.number().min(-180).max(180).required().label('Longitude').example(longitude)
		})
		.required();

const profileSchema = joi.object({
	a: point(-46.2012, -118.4031).label('End A'),
	b: point(-46.2405, -118.2861).label('End B'),
	stepM: joi.number().min(5).max(10_000).default(50).label('Step').example(50)
});

const viewSchema = joi.object({
	west: joi.number().min(-540).max(540).required().label('West'),
	south: joi.number().min(-90).max(90).required().label('South'),
	east: joi.number().min(-540).max(540).required().label('East'),
	north: joi.number().min(-90).max(90).required().label('North')
});

export const terrainEndpoints = [
	endpoint({
		method: 'GET',
		path: '/terrain',
		tag: 'Terrain',
		summary: 'Rasters of terrain, the finest first',
		access: 'signed-in',
		handle: ({ actor }) => listRasters(actor)
	}),
	endpoint<undefined, { name: string }>({
		method: 'POST',
		path: '/terrain',
		tag: 'Terrain',
		summary: 'Take in a single-band GeoTIFF in geographic coordinates (planners)',
		access: 'signed-in',
		upload: { mostBytes: LARGEST_RASTER_BYTES, mediaType: 'image/tiff' },
		query: joi.object({ name: joi.string().trim().min(2).max(120).required().label('Name') }),
		status: 201,
		handle: ({ actor, query, upload }) => addRaster(actor, query.name, upload)
	}),
	endpoint({
		method: 'DELETE',
		path: '/terrain/:rasterId',
		tag: 'Terrain',
		summary: 'Take a raster away; profiles taken from it stay (planners)',
		access: 'signed-in',
		status: 204,
		handle: ({ actor, param }) => removeRaster(actor, param('rasterId'))
	}),
	endpoint({
		method: 'GET',
		path: '/terrain/:rasterId/picture',
		tag: 'Terrain',
		summary: 'The raster shaded, as a picture in Mercator rows',
		access: 'signed-in',
		produces: 'image/png',
		handle: async ({ actor, param }) =>
			new Response(new Uint8Array(await rasterPicture(actor, param('rasterId'))), {
				headers: { 'content-type': 'image/png', 'cache-control': 'private, max-age=86400' }
			})
	}),
	endpoint<{ a: GeoPoint; b: GeoPoint; stepM: number }>({
		method: 'POST',
		path: '/terrain/profile',
		tag: 'Terrain',
		summary: 'Ground heights along a path',
		access: 'signed-in',
		body: profileSchema,
		handle: ({ actor, body }) => takeProfile(actor, body)
	}),
	endpoint<undefined, MapView>({
		method: 'GET',
		path: '/map',
		tag: 'Planning',
		summary: 'Sites and hops in a view; many sites come as groups',
		access: 'signed-in',
		query: viewSchema,
		handle: ({ actor, query }) => mapContent(actor, query)
	})
];
