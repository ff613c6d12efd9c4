import { THERMAL_NOISE_DBM_HZ } from '../units/constants';
import { requireInRange } from '../units/errors';

/**
 * Noise floor of a receiver, dBm: kT₀B·F. Below it a level port shows noise, not the far end.
 *
 * @param channelWidthMhz 0.1 to 4000
 * @param noiseFigureDb 0 to 30
 * @throws OutOfRangeError outside these ranges
 */
export function receiverFloorDbm(channelWidthMhz: number, noiseFigureDb: number): number {
	requireInRange('channelWidthMhz', channelWidthMhz, 0.1, 4000);
	requireInRange('noiseFigureDb', noiseFigureDb, 0, 30);
	return THERMAL_NOISE_DBM_HZ + 10 * Math.log10(channelWidthMhz * 1e6) + noiseFigureDb;
}
