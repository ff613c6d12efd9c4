const LONGEST_SIDE_PX = 1600;
const QUALITY = 0.82;

/**
 * A photo as it is sent: upright, shrunk, and drawn anew, so that place and device that the camera
 * wrote into it stay behind. Throws where the file is no picture.
 */
export async function shrinkPhoto(file: Blob): Promise<Blob> {
	const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' });
	const scale = Math.min(1, LONGEST_SIDE_PX / Math.max(bitmap.width, bitmap.height));
	const canvas = document.createElement('canvas');
	canvas.width = Math.max(1, Math.round(bitmap.width * scale));
	canvas.height = Math.max(1, Math.round(bitmap.height * scale));
	canvas.getContext('2d')!.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
	bitmap.close();
	return new Promise((resolve, reject) =>
		canvas.toBlob(
			(blob) => (blob ? resolve(blob) : reject(new Error('The photo could not be drawn.'))),
			'image/jpeg',
			QUALITY
		)
	);
}
