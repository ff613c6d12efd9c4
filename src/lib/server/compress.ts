/** Shorter than this an answer is sent as it is, bytes: most of it would be the wrapping. */
const LEAST_BYTES = 1024;
const WORTH_IT = /^(text\/(html|plain|css|csv)|application\/(json|geo\+json|gpx\+xml)|image\/svg)/i;

/**
 * The answer packed for the way where whoever asks takes that: pages, JSON and other text, never a stream of
 * events (each is wanted at once) nor what is packed already. Nothing that is packed holds a secret beside what
 * its reader has sent, so its length tells nothing.
 */
export function compressed(request: Request, response: Response): Response {
	const { body, headers } = response;
	if (!body || !WORTH_IT.test(headers.get('content-type') ?? '')) return response;
	if (headers.has('content-encoding') || response.status === 206) return response;
	headers.append('vary', 'accept-encoding');
	const length = headers.get('content-length');
	if (!takesGzip(request) || (length !== null && Number(length) < LEAST_BYTES)) return response;
	const packed = new Headers(headers);
	packed.delete('content-length');
	packed.set('content-encoding', 'gzip');
	const tag = headers.get('etag');
	// Byte for byte it is another answer; what it says is the same.
	if (tag && !tag.startsWith('W/')) packed.set('etag', `W/${tag}`);
	const { status, statusText } = response;
	const through = body.pipeThrough(new CompressionStream('gzip') as TransformStream);
	return new Response(through, { status, statusText, headers: packed });
}

/** Whether gzip is named, or everything is, and not with a weight of nothing. */
function takesGzip(request: Request): boolean {
	const named = (request.headers.get('accept-encoding') ?? '').split(',').map((one) => {
		const [name = '', ...parameters] = one.split(';').map((part) => part.trim().toLowerCase());
		const weight = parameters.find((part) => part.startsWith('q='))?.slice(2);
		return { name, weight: weight === undefined ? 1 : Number(weight) };
	});
	const own = named.find(({ name }) => name === 'gzip') ?? named.find(({ name }) => name === '*');
	return (own?.weight ?? 0) > 0;
}
