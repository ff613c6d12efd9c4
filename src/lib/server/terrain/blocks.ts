import { inflateSync } from 'node:zlib';

/** Compressions of a raster that are read, by their number in the file (TIFF 6.0, sections 9 and 13). */
export const COMPRESSIONS = {
	none: 1,
	lzw: 5,
	deflate: 8,
	packBits: 32_773,
	deflateOld: 32_946
} as const;

/** A block that unfolds to more than it may hold. */
export class BlockTooLarge extends Error {}

/**
 * Unfolds a deflated block.
 *
 * @param most bytes that the block may hold; more is refused while it unfolds
 */
export function inflateBlock(bytes: Uint8Array, most: number): Uint8Array {
	try {
		return inflateSync(bytes, { maxOutputLength: most });
	} catch (error) {
		if ((error as { code?: string }).code === 'ERR_BUFFER_TOO_LARGE') throw new BlockTooLarge();
		throw error;
	}
}

/** Unfolds a block of repeated and literal runs (PackBits); at most `most` bytes. */
export function unpackBits(bytes: Uint8Array, most: number): Uint8Array {
	const out = new Uint8Array(most);
	let length = 0;
	for (let at = 0; at < bytes.length;) {
		const head = ((bytes[at] ?? 0) << 24) >> 24;
		at += 1;
		if (head === -128) continue;
		const count = head < 0 ? 1 - head : head + 1;
		if (length + count > most) throw new BlockTooLarge();
		if (head < 0) {
			out.fill(bytes[at] ?? 0, length, length + count);
			at += 1;
		} else {
			out.set(bytes.subarray(at, at + count), length);
			at += count;
		}
		length += count;
	}
	return out.subarray(0, length);
}

const CLEAR = 256;
const END = 257;
const MOST_CODES = 4096;

/**
 * Unfolds a block of LZW as TIFF has it: codes of 9 to 12 bits, the highest bit first, one code early.
 * Throws where a code is none, or where it holds more than `most` bytes.
 */
export function unLzw(bytes: Uint8Array, most: number): Uint8Array {
	const out = new Uint8Array(most);
	let length = 0;
	/** Where the string of a code begins in what is written, and how long it is. */
	const start = new Uint32Array(MOST_CODES);
	const size = new Uint16Array(MOST_CODES);
	let codes = END + 1;
	let bits = 9;
	let held = 0;
	let heldBits = 0;
	let before = -1;
	for (let at = 0; ;) {
		while (heldBits < bits) {
			if (at >= bytes.length) return out.subarray(0, length);
			held = ((held << 8) | (bytes[at] ?? 0)) & 0xffffff;
			heldBits += 8;
			at += 1;
		}
		const code = (held >> (heldBits - bits)) & ((1 << bits) - 1);
		heldBits -= bits;
		if (code === END) return out.subarray(0, length);
		if (code === CLEAR) {
			[codes, bits, before] = [END + 1, 9, -1];
			continue;
		}
		if (code > codes || (code === codes && before < 0)) throw new Error('no such code');
		const from = length;
		// The string of the code, or of the one before with its own first sign again.
		const of = code === codes ? before : code;
		const count = of < CLEAR ? 1 : (size[of] ?? 0);
		const total = code === codes ? count + 1 : count;
		if (length + total > most) throw new BlockTooLarge();
		if (of < CLEAR) out[length] = of;
		else out.copyWithin(length, start[of] ?? 0, (start[of] ?? 0) + count);
		length += count;
		if (code === codes) {
			out[length] = out[from] ?? 0;
			length += 1;
		}
		if (before >= 0 && codes < MOST_CODES) {
			// The string before and the first sign of this one: they stand one after the other.
			const beforeCount = before < CLEAR ? 1 : (size[before] ?? 0);
			start[codes] = from - beforeCount;
			size[codes] = beforeCount + 1;
			codes += 1;
		}
		before = code;
		if (codes + 1 >= 1 << bits && bits < 12) bits += 1;
	}
}
