/** How long the address of a file is held for the browser to take it, ms. */
const HELD_MS = 60_000;

/** Has the browser save a file under a name. */
export function saveFile(file: Blob, name: string): void {
	const link = document.createElement('a');
	link.href = URL.createObjectURL(file);
	link.download = name;
	link.click();
	setTimeout(() => URL.revokeObjectURL(link.href), HELD_MS);
}
