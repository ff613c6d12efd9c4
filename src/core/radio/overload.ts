export type OverloadVerdict =
	| { kind: 'fine'; headroomDb: number }
	| { kind: 'overload' | 'damage'; excessDb: number; powerToSetDbm: number | null };

/** Distance kept from the maximum input, dB: level spread of parts, an up-fade, a gust of luck. */
export const OVERLOAD_GUARD_DB = 5;

/**
 * Whether the aligned level would drown or destroy the receiver, and the far transmitter's power to
 * set instead. Pointing the dish off to cut the level is never the answer: on the slope every gust
 * becomes a fade.
 *
 * @param levelDbm planned level at the receiver with the far end sending `farPowerDbm`
 * @returns `powerToSetDbm` null when even the lowest power of the far radio is too much
 */
export function checkOverload(
	levelDbm: number,
	receiver: { maxInputDbm: number; damageInputDbm: number },
	farPowerDbm: number,
	farRadio: { minPowerDbm: number }
): OverloadVerdict {
	const limitDbm = receiver.maxInputDbm - OVERLOAD_GUARD_DB;
	if (levelDbm <= limitDbm) return { kind: 'fine', headroomDb: limitDbm - levelDbm };
	const excessDb = levelDbm - limitDbm;
	const power = Math.floor(farPowerDbm - excessDb);
	return {
		kind: levelDbm >= receiver.damageInputDbm ? 'damage' : 'overload',
		excessDb,
		powerToSetDbm: power >= farRadio.minPowerDbm ? power : null
	};
}
