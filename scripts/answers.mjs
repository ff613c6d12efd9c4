/**
 * `npm run answers`: makes the schemas of the API's answers from their types, so that neither lags
 * behind the other. `--check` only says whether they do.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createGenerator } from 'ts-json-schema-generator';
import { ROOT } from './lib/setup.mjs';

const OUT = join(ROOT, 'src/lib/server/api/answers.schema.json');

/** Definitions by name, and the reference of each endpoint's answer. */
export function answerSchemas() {
	const { definitions = {} } = createGenerator({
		path: join(ROOT, 'src/lib/server/api/answers.ts'),
		tsconfig: join(ROOT, 'tsconfig.json'),
		type: 'Answers',
		// The compiler checks them elsewhere; here they are only read.
		skipTypeCheck: true,
		additionalProperties: false,
		encodeRefs: false
	}).createSchema('Answers');
	const { Answers, ...rest } = /** @type {Record<string, any>} */ (definitions);
	const inPlace = withoutNameless(Answers.properties, definitions);
	const kept = Object.entries(rest).filter(([name]) => !isNameless(name));
	const schemas = Object.fromEntries(
		kept.map(([name, schema]) => [name, withoutNameless(schema, definitions)])
	);
	return written(inPlace, schemas);
}

/** Types without a name are named by their place in the source, which moves with every edit. */
const isNameless = (name) => name.includes('structure-');

/** A schema with those of nameless types in the place where they are referred to. */
function withoutNameless(schema, definitions) {
	if (Array.isArray(schema)) return schema.map((one) => withoutNameless(one, definitions));
	if (typeof schema !== 'object' || schema === null) return schema;
	const name = typeof schema.$ref === 'string' && schema.$ref.slice('#/definitions/'.length);
	if (name && isNameless(name)) return withoutNameless(definitions[name], definitions);
	const whole = Object.fromEntries(
		Object.entries(schema).map(([key, own]) => [key, withoutNameless(own, definitions)])
	);
	return Array.isArray(whole.items) ? asTuple(whole) : whole;
}

/** Lists of places as JSON Schema 2020-12 writes them, which OpenAPI 3.1 takes. */
function asTuple({ items, additionalItems = false, ...rest }) {
	return { ...rest, prefixItems: items, items: additionalItems };
}

function written(answersOf, schemasOf) {
	const named = JSON.stringify({ answers: answersOf, schemas: schemasOf })
		// Names of generic types hold signs that a reference may not.
		.replace(
			/"#\/definitions\/((?:[^"\\]|\\.)+)"/g,
			(_, name) => `"#/components/schemas/${plain(name)}"`
		);
	const { answers, schemas } = JSON.parse(named);
	const plainSchemas = Object.fromEntries(
		Object.entries(schemas)
			.map(([name, schema]) => [plain(name), schema])
			.sort(([p], [q]) => (p < q ? -1 : 1))
	);
	return `${JSON.stringify({ answers, schemas: plainSchemas }, null, '\t')}\n`;
}

const plain = (name) => name.replace(/[^A-Za-z0-9]+/g, '_').replace(/^_|_$/g, '');

if (process.argv[1]?.endsWith('answers.mjs')) {
	const made = answerSchemas();
	if (!process.argv.includes('--check')) writeFileSync(OUT, made);
	else if (readFileSync(OUT, 'utf8') !== made) {
		console.error('answers.schema.json lags behind answers.ts: npm run answers');
		process.exitCode = 1;
	}
}
