/** Documents that describe the program itself: they change with the build alone. */
const documents: (() => string)[] = [];

/**
 * An answer that is always the same. Made once, since turning schemas into JSON takes long: before the
 * server listens ({@link makeDocuments}), or the first time it is asked for.
 */
export function fixedDocument(make: () => object): () => Response {
	let text: string | undefined;
	const made = (): string => (text ??= JSON.stringify(make()));
	documents.push(made);
	return () =>
		new Response(made(), {
			headers: { 'content-type': 'application/json', 'cache-control': 'no-cache' }
		});
}

/** Makes every fixed document of the API, so that no request waits for it. */
export function makeDocuments(): void {
	for (const made of documents) made();
}
