/** One adjuster as it stands: what the hand has turned, and where the dish really is. */
export interface AdjusterState {
	/** Turns of the nut from the centre of its travel. */
	knobTurns: number;
	/** The dish's own position in turns: it lags the nut by the play of the thread. */
	dishTurns: number;
}

export const CENTRED: AdjusterState = { knobTurns: 0, dishTurns: 0 };

/**
 * Turns a nut to a position. The dish follows only once the play of the thread is taken up, so it
 * stands differently after coming from the left than from the right.
 *
 * @param playTurns full play of the thread in turns, 0 or more
 * @param limitTurns travel each way; the nut stops there
 * @param toTurns wanted position of the nut, turns from centre
 */
export function turnNut(
	state: AdjusterState,
	toTurns: number,
	playTurns: number,
	limitTurns: number
): AdjusterState {
	const knobTurns = Math.min(limitTurns, Math.max(-limitTurns, toTurns));
	const half = playTurns / 2;
	const dishTurns = Math.min(knobTurns + half, Math.max(knobTurns - half, state.dishTurns));
	return { knobTurns, dishTurns };
}
