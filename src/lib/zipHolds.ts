import { unzipSync } from 'fflate';

/** Whether there is a file of that name in a ZIP; false for what is no ZIP. Nothing is unfolded. */
export function zipHolds(bytes: Uint8Array, asked: string): boolean {
	let found = false;
	try {
		unzipSync(bytes, {
			filter: ({ name }) => {
				found ||= name === asked;
				return false;
			}
		});
	} catch {
		return false;
	}
	return found;
}
