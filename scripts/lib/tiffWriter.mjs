/** A small GeoTIFF writer for the demo and the tests: one band, strips or tiles, deflated or not. */
import { deflateSync } from 'node:zlib';

const TYPES = {
	int16: { bits: 16, sampleFormat: 2, write: (view, at, value) => view.setInt16(at, value, true) },
	uint16: {
		bits: 16,
		sampleFormat: 1,
		write: (view, at, value) => view.setUint16(at, value, true)
	},
	float32: {
		bits: 32,
		sampleFormat: 3,
		write: (view, at, value) => view.setFloat32(at, value, true)
	},
	uint8: { bits: 8, sampleFormat: 1, write: (view, at, value) => view.setUint8(at, value) }
};

/**
 * @param {{ columns: number, rows: number, value: (column: number, row: number) => number,
 *   type?: keyof typeof TYPES, tile?: number, deflate?: boolean, noData?: number,
 *   westDeg: number, northDeg: number, stepDeg: number, point?: boolean, projected?: boolean,
 *   bands?: number, claimColumns?: number, claimTile?: number, compression?: number,
 *   encode?: (bytes: Buffer) => Buffer }} options westDeg and northDeg of the middle of the first cell
 * @returns {Buffer}
 */
export function writeGeoTiff(options) {
	const { columns, rows, value, type = 'int16', tile, deflate = true, bands = 1 } = options;
	const { bits, sampleFormat, write } = TYPES[type];
	const size = bits / 8;
	const chunkColumns = tile ?? columns;
	const chunkRows = tile ?? Math.min(rows, Math.max(1, Math.floor(65536 / (columns * size))));
	const chunks = [];
	for (let top = 0; top < rows; top += chunkRows) {
		for (let left = 0; left < columns; left += chunkColumns) {
			const height = tile ? chunkRows : Math.min(chunkRows, rows - top);
			const bytes = Buffer.alloc(chunkColumns * height * size * bands);
			const view = new DataView(bytes.buffer, bytes.byteOffset);
			for (let y = 0; y < height; y++) {
				for (let x = 0; x < chunkColumns; x++) {
					const inside = left + x < columns && top + y < rows;
					for (let band = 0; band < bands; band++) {
						const at = ((y * chunkColumns + x) * bands + band) * size;
						write(view, at, inside ? value(left + x, top + y) : 0);
					}
				}
			}
			chunks.push(options.encode?.(bytes) ?? (deflate ? deflateSync(bytes) : bytes));
		}
	}
	const half = options.point ? 0 : 0.5 * options.stepDeg;
	const ascii = options.noData === undefined ? undefined : `${options.noData}\0`;
	const offsets = [];
	let at = 8;
	for (const chunk of chunks) {
		offsets.push(at);
		at += chunk.length + (chunk.length % 2);
	}
	const short = (tag, ...values) => ({ tag, type: 3, size: 2, values });
	const long = (tag, ...values) => ({ tag, type: 4, size: 4, values });
	const double = (tag, ...values) => ({ tag, type: 12, size: 8, values });
	const entries = [
		long(256, options.claimColumns ?? columns),
		long(257, rows),
		short(258, ...Array.from({ length: bands }, () => bits)),
		short(259, options.compression ?? (deflate ? 8 : 1)),
		short(262, 1),
		...(tile ? [] : [long(273, ...offsets)]),
		short(277, bands),
		...(tile ? [] : [long(278, chunkRows), long(279, ...chunks.map((chunk) => chunk.length))]),
		...(tile
			? [
					long(322, options.claimTile ?? tile),
					long(323, options.claimTile ?? tile),
					long(324, ...offsets),
					long(325, ...chunks.map((chunk) => chunk.length))
				]
			: []),
		short(339, ...Array.from({ length: bands }, () => sampleFormat)),
		double(33550, options.stepDeg, options.stepDeg, 0),
		double(33922, 0, 0, 0, options.westDeg - half, options.northDeg + half, 0),
		short(
			34735,
			1,
			1,
			0,
			3,
			1024,
			0,
			1,
			options.projected ? 1 : 2,
			1025,
			0,
			1,
			options.point ? 2 : 1,
			2048,
			0,
			1,
			4326
		),
		...(ascii ? [{ tag: 42113, type: 2, size: 1, values: [...Buffer.from(ascii)] }] : [])
	];
	const directory = Buffer.alloc(2 + entries.length * 12 + 4);
	const extra = [];
	let extraAt = at + directory.length;
	directory.writeUInt16LE(entries.length, 0);
	for (const [i, { tag, type: kind, size: width, values }] of entries.entries()) {
		const bytes = Buffer.alloc(Math.max(4, values.length * width));
		values.forEach((v, k) => {
			if (width === 1) bytes.writeUInt8(v, k);
			else if (width === 2) bytes.writeUInt16LE(v, k * 2);
			else if (width === 4) bytes.writeUInt32LE(v, k * 4);
			else bytes.writeDoubleLE(v, k * 8);
		});
		const entry = 2 + i * 12;
		directory.writeUInt16LE(tag, entry);
		directory.writeUInt16LE(kind, entry + 2);
		directory.writeUInt32LE(values.length, entry + 4);
		if (values.length * width <= 4) bytes.copy(directory, entry + 8, 0, 4);
		else {
			directory.writeUInt32LE(extraAt, entry + 8);
			const padded = Buffer.alloc(bytes.length + (bytes.length % 2));
			bytes.copy(padded);
			extra.push(padded);
			extraAt += padded.length;
		}
	}
	const header = Buffer.from([0x49, 0x49, 42, 0, 0, 0, 0, 0]);
	header.writeUInt32LE(at, 4);
	const padded = chunks.map((chunk) =>
		chunk.length % 2 ? Buffer.concat([chunk, Buffer.alloc(1)]) : chunk
	);
	return Buffer.concat([header, ...padded, directory, ...extra]);
}
