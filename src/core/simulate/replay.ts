import type { FieldRecord } from '../record/records';
import type { HopPosition, SimulatedHop } from './simulatedHop';

/** Position of a simulated hop after its simulated moves and tightenings, in the feed's order. */
export function replayMoves(
	sim: SimulatedHop,
	records: readonly FieldRecord[],
	from: HopPosition = sim.start
): HopPosition {
	let position = from;
	for (const record of records) {
		if (record.kind === 'move' && record.payload.source === 'simulated') {
			const { axis, viaTurns, toTurns } = record.payload;
			for (const turns of [...viaTurns, toTurns]) {
				position = sim.turn(position, record.end, axis, turns);
			}
		} else if (record.kind === 'lock-step' && record.payload.source === 'simulated') {
			const { locks, fastenerIndex } = record.payload;
			position = sim.tighten(position, record.end, locks, fastenerIndex);
		} else if (record.kind === 'mount-turn' && record.payload.source === 'simulated') {
			position = sim.turnMount(position, record.end, record.payload.byDeg);
		} else if (record.kind === 'feed-turn' && record.payload.source === 'simulated') {
			position = sim.turnFeed(position, record.end, record.payload.toDeg);
		} else if (record.kind === 'loosen') {
			position = sim.loosen(position, record.end);
		} else if (record.kind === 'remedy') {
			position = sim.remedy(position, record.payload.cause);
		}
	}
	return position;
}
