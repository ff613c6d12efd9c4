import type Joi from 'joi';
import type { Catalogue } from '#core/catalogue/parts';
import cables from '#catalog/cables.json';
import couplings from '#catalog/couplings.json';
import dishes from '#catalog/dishes.json';
import feeders from '#catalog/feeders.json';
import mounts from '#catalog/mounts.json';
import radios from '#catalog/radios.json';
import {
	cableSchema,
	couplingSchema,
	dishSchema,
	feederSchema,
	mountSchema,
	radioSchema
} from '../schemas/catalogue';
import { joi } from '../schemas/joi';

let loaded: Catalogue | undefined;

/** The catalogue of parts, checked once; throws with file and key when an entry is wrong. */
export function catalogue(): Catalogue {
	loaded ??= {
		radios: checkPartFile('radios.json', radios, radioSchema),
		dishes: checkPartFile('dishes.json', dishes, dishSchema),
		mounts: checkPartFile('mounts.json', mounts, mountSchema),
		feeders: checkPartFile('feeders.json', feeders, feederSchema),
		couplings: checkPartFile('couplings.json', couplings, couplingSchema),
		cables: checkPartFile('cables.json', cables, cableSchema)
	};
	return loaded;
}

/** Checks one file of parts: every entry against its schema, and no code twice. */
export function checkPartFile<T extends { code: string }>(
	file: string,
	content: unknown,
	schema: Joi.ObjectSchema
): T[] {
	const result = joi
		.array()
		.items(schema)
		.min(1)
		.unique('code')
		.validate(content, { abortEarly: true, convert: false });
	if (result.error) {
		const { path, message } = result.error.details[0]!;
		const entry = Array.isArray(content)
			? (content[Number(path[0])] as { code?: string })
			: undefined;
		const where = [`[${path[0]}]${entry?.code ? ` (${entry.code})` : ''}`, ...path.slice(1)].join(
			'.'
		);
		throw new Error(`catalog/${file}: ${where}: ${message}`);
	}
	return result.value as T[];
}
