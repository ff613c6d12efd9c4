import type { BoardData, BoardKind, IndoorUnitPart } from './parts';

export const BOARD_WORDS: Readonly<Record<BoardKind, string>> = {
	control: 'control and switching',
	radio: 'radio interface',
	ethernet: 'Ethernet',
	circuit: 'circuit lines',
	power: 'power',
	fan: 'fan',
	auxiliary: 'auxiliary'
};

/** What an indoor unit takes with its boards, without its radios, W. */
export function indoorConsumptionW({
	consumptionW,
	chassis
}: Pick<IndoorUnitPart, 'consumptionW' | 'chassis'>): number {
	return (chassis?.boards ?? []).reduce((sum, board) => sum + board.consumptionW, consumptionW);
}

/** What the service boards of an indoor unit carry together, Mbit/s; null where its sheet does not say. */
export function serviceCapacityMbitS({ chassis }: Pick<IndoorUnitPart, 'chassis'>): number | null {
	if (!chassis) return null;
	return chassis.boards
		.filter(({ kind }) => kind === 'ethernet' || kind === 'circuit')
		.reduce((sum, { capacityMbitS }) => sum + capacityMbitS, 0);
}

/** The boards of a chassis in the order of their slots. */
export function boardsInOrder({ chassis }: Pick<IndoorUnitPart, 'chassis'>): BoardData[] {
	return [...(chassis?.boards ?? [])].sort((p, q) => p.slot - q.slot);
}

/** Slots that hold no board and take a filler. */
export function emptySlots({ chassis }: Pick<IndoorUnitPart, 'chassis'>): number[] {
	if (!chassis) return [];
	const taken = new Set(chassis.boards.map(({ slot }) => slot));
	return Array.from({ length: chassis.slots }, (_, i) => i + 1).filter((slot) => !taken.has(slot));
}

/** The ports that radios hang on, in order, as the front of the unit has them. */
export function radioPorts(unit: Pick<IndoorUnitPart, 'chassis' | 'radioPorts'>): string[] {
	if (!unit.chassis) return Array.from({ length: unit.radioPorts }, (_, i) => `Port ${i + 1}`);
	return boardsInOrder(unit)
		.filter(({ kind }) => kind === 'radio')
		.flatMap(({ slot, ports }) =>
			Array.from({ length: ports }, (_, i) => `Slot ${slot}, port ${i + 1}`)
		);
}

/** Supplies that an indoor unit takes, each by itself, 1 or more. */
export function supplyFeeds({ chassis }: Pick<IndoorUnitPart, 'chassis'>): number {
	const feeds = (chassis?.boards ?? [])
		.filter(({ kind }) => kind === 'power')
		.reduce((sum, { ports }) => sum + ports, 0);
	return Math.max(1, feeds);
}
