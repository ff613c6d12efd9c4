/** Whether a file is the archive of a hub; what is no archive at all is for the server to refuse. */
export async function isHubArchive(file: Blob): Promise<boolean> {
	const { zipHolds } = await import('../zipHolds');
	return zipHolds(new Uint8Array(await file.arrayBuffer()), 'hub.json');
}
