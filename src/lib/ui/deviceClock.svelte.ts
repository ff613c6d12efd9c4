import { CLOCK_TOLERANCE_S } from '#core/record/deviceClock';

/** By how much this device's clock is ahead of the server's, s; 0 while that is not worth a word. */
export const deviceClock = $state({ aheadS: 0 });

/** Compares the clocks as an answer comes in. */
export function compareClocks(serverTime: string | null): void {
	const at = serverTime === null ? Number.NaN : Date.parse(serverTime);
	if (Number.isNaN(at)) return;
	const aheadS = Math.round((Date.now() - at) / 1000);
	deviceClock.aheadS = Math.abs(aheadS) > CLOCK_TOLERANCE_S ? aheadS : 0;
}
