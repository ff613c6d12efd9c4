import { AppError, refusal } from '../errors';

/** Reads a request to its end or to a limit, whichever comes first; past the limit nothing is kept. */
export async function readBytes(request: Request, mostBytes: number): Promise<Uint8Array> {
	const tooLarge = (): AppError => refusal('too-large', mostBytes);
	if (Number(request.headers.get('content-length') ?? 0) > mostBytes) throw tooLarge();
	const parts: Uint8Array[] = [];
	let size = 0;
	const reader = request.body?.getReader();
	if (!reader) return new Uint8Array();
	try {
		for (;;) {
			const { done, value } = await reader.read();
			if (done) break;
			size += value.byteLength;
			if (size > mostBytes) throw tooLarge();
			parts.push(value);
		}
	} catch (error) {
		await reader.cancel().catch(() => undefined);
		// The platform's own limit ends the stream with an error.
		throw error instanceof AppError ? error : tooLarge();
	}
	return Buffer.concat(parts);
}
