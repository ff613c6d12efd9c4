import { saveFile } from '../saveFile';
import type { Own, OwnPhoto } from './outbox';

/** What one person made on a device and could not send, as a file that they keep. */
export interface Unsent {
	hopId: string;
	name: string;
	/** Who wrote the file. */
	writtenBy: string;
	records: readonly Own[];
	photos: readonly OwnPhoto[];
}

/** The file as text: records as the device made them, photos as data addresses. */
export async function unsentText(unsent: Unsent): Promise<string> {
	const { hopId, name, writtenBy, records, photos } = unsent;
	const document = {
		format: 'skiaxis-unsent',
		formatVersion: 1,
		hopId,
		madeBy: name,
		writtenBy,
		records,
		photos: await Promise.all(
			photos.map(async ({ id, end, bytes }) => ({ id, end, data: await dataAddress(bytes) }))
		)
	};
	return `${JSON.stringify(document, null, '\t')}\n`;
}

function dataAddress(bytes: Blob): Promise<string> {
	return new Promise((resolve, reject) => {
		const reader = new FileReader();
		reader.onload = () => resolve(typeof reader.result === 'string' ? reader.result : '');
		reader.onerror = () => reject(new Error('The photo cannot be read on this device.'));
		reader.readAsDataURL(bytes);
	});
}

/** Has the browser save a text as a file. */
export const saveText = (text: string, fileName: string): void =>
	saveFile(new Blob([text], { type: 'application/json' }), fileName);
