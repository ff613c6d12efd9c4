import type { RadioPart } from './parts';
import type { Signature } from '../propagation/selectiveFading';

/**
 * What a radio states of a modulation at a channel width; undefined where it states nothing for both.
 *
 * @param channelWidthMhz above 0
 */
export function signatureOf(
	radio: Pick<RadioPart, 'distortion'>,
	modulation: string,
	channelWidthMhz: number
): Signature | undefined {
	const row = radio.distortion?.signatures.find(
		(s) => s.modulation === modulation && Math.abs(s.channelWidthMhz - channelWidthMhz) < 1e-9
	);
	return row && { ...row, delayNs: radio.distortion?.delayNs ?? 0 };
}
