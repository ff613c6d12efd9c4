/** The file of an input, which is emptied so that the same one can be chosen again; or why not. */
export function pickedFile(
	event: Event,
	mostBytes: number
): { file: File } | { problem: string } | undefined {
	const input = event.currentTarget as HTMLInputElement;
	const file = input.files?.[0];
	input.value = '';
	if (!file) return undefined;
	if (file.size > mostBytes) {
		return {
			problem: `${file.name} has ${Math.round(file.size / 1e6)} MB; at most ${mostBytes / 1e6} MB are taken.`
		};
	}
	return { file };
}
