import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import { invalid } from '../errors';
import { archiveSignatureSchema } from '../schemas/archive';
import { validate } from '../schemas/joi';
import {
	isSignedArchive,
	signArchive,
	type ArchiveSignature,
	type KeyPair
} from './archiveSignature';

export const LARGEST_ARCHIVE_BYTES = 60_000_000;
/** What an archive may unfold to, so that a small one cannot fill the memory. */
const MOST_UNFOLDED_BYTES = 400_000_000;
const MOST_ENTRIES = 600;
/** Beside them, an archive may hold no more than its kind lets stand there; nothing of it is ever written to a disk. */
const ALWAYS = ['signature.json', 'README.txt'];

/** What the archive of one kind of thing is made of. */
export interface ArchiveKind {
	/** Name of the document in it, as `hop.json`. */
	document: string;
	/** What else may stand in it. */
	others: RegExp;
	readme: string;
}

/** What goes into an archive: its document, its photos by their names in it, what can be made again. */
export interface ArchiveContent<D extends object> {
	document: D;
	files: Record<string, Uint8Array>;
	pictures: ReadonlyMap<string, Uint8Array>;
	keys: KeyPair & { name: string };
}

/** An archive as a ZIP, signed by the installation that makes it. */
export function zipArchive<D extends object>(
	kind: ArchiveKind,
	{ document, files, pictures, keys }: ArchiveContent<D>
): Uint8Array {
	const json = (value: object): Uint8Array => strToU8(`${JSON.stringify(value, null, '\t')}\n`);
	const zippable: Zippable = {
		'README.txt': strToU8(kind.readme),
		[kind.document]: json(document),
		'signature.json': json(signArchive(document, pictures, keys)),
		...files
	};
	for (const [name, content] of pictures) {
		// A photo does not shrink any further.
		zippable[name] = [content, { level: 0 }];
	}
	return zipSync(zippable, { level: 6, mtime: '2000-01-01' });
}

/** An archive that was opened: its document as it stands in it, and as its signature says if it has one. */
export interface OpenedArchive {
	raw: unknown;
	files: ReadonlyMap<string, Uint8Array>;
	/** Who signed it; null for an archive without a signature. */
	signer: ArchiveSignature['installation'] | null;
}

/** Opens an archive of a kind. Throws where it is none, holds what does not belong, or is not what was signed. */
export function openArchive(kind: ArchiveKind, bytes: Uint8Array): OpenedArchive {
	const files = unfold(kind, bytes);
	const raw = jsonIn(files, kind.document);
	return { raw, files, signer: signerOf(raw, files) };
}

/** The photos of an archive by their names in it. */
export function photosIn(files: ReadonlyMap<string, Uint8Array>): Map<string, Uint8Array> {
	return new Map([...files].filter(([name]) => name.startsWith('photos/')));
}

/** Throws what is wrong with an archive, at the field where it was given. */
export const refuseArchive = (message: string): never => {
	throw invalid([{ field: 'file', message }]);
};

function signerOf(
	document: unknown,
	files: ReadonlyMap<string, Uint8Array>
): ArchiveSignature['installation'] | null {
	if (!files.has('signature.json')) return null;
	const signature = validate<ArchiveSignature>(
		archiveSignatureSchema,
		jsonIn(files, 'signature.json')
	);
	if (!isSignedArchive(document as object, photosIn(files), signature)) {
		refuseArchive('The archive is not what its signature says: it was changed after it was made.');
	}
	return signature.installation;
}

function unfold(kind: ArchiveKind, bytes: Uint8Array): Map<string, Uint8Array> {
	const belongs = (name: string): boolean =>
		name === kind.document || ALWAYS.includes(name) || kind.others.test(name);
	let count = 0;
	let size = 0;
	let problem: string | undefined;
	let entries: Record<string, Uint8Array> = {};
	try {
		entries = unzipSync(bytes, {
			filter: ({ name, originalSize }) => {
				count += 1;
				size += originalSize;
				if (!belongs(name)) {
					problem ??= `The archive holds “${name.slice(0, 80)}”, which does not belong there.`;
				} else if (count > MOST_ENTRIES) problem ??= 'The archive holds too many files.';
				else if (size > MOST_UNFOLDED_BYTES) problem ??= 'The archive unfolds to too much.';
				return problem === undefined;
			}
		});
	} catch {
		problem ??= 'The file is no ZIP archive, or it is damaged.';
	}
	if (problem) refuseArchive(problem);
	return new Map(Object.entries(entries));
}

function jsonIn(files: ReadonlyMap<string, Uint8Array>, name: string): unknown {
	const file = files.get(name);
	if (!file) return refuseArchive(`The archive has no ${name}.`);
	try {
		return JSON.parse(strFromU8(file)) as unknown;
	} catch {
		return refuseArchive(`${name} is no JSON.`);
	}
}
