/** A file to be kept by whoever asked for it. */
export function download(
	content: string | Uint8Array<ArrayBuffer>,
	type: string,
	fileName: string
): Response {
	return new Response(content, {
		headers: {
			'content-type': type,
			'content-disposition': `attachment; filename="${fileName}"`,
			'cache-control': 'no-store'
		}
	});
}
