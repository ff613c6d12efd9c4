import type { SubBand } from '../catalogue/parts';
import { itemAt } from '../units/lists';
import { interferenceAt } from './interference';
import type { Station } from './stations';

/** Another channel or polarization of a hop, and how it would be heard and hear. */
export interface QuieterChoice {
	/** By how much both frequencies of the pair go up, MHz. */
	shiftMhz: number;
	/** Whether the other polarization is taken. */
	crossed: boolean;
	/** The most that any receiver of the hop loses, dB. */
	hereDb: number;
	/** The most that any receiver of others loses to this hop, dB. */
	thereDb: number;
}

/** Choices told. */
const MOST_TOLD = 3;
/** A choice is told only where it betters the worst of both by this much, dB. */
const WORTH_DB = 0.2;

function changed(stations: readonly Station[], shiftMhz: number, crossed: boolean): Station[] {
	const by = shiftMhz / 1000;
	const turned = { vertical: 'horizontal', horizontal: 'vertical' } as const;
	return stations.map((station) => ({
		...station,
		polarization: crossed ? turned[station.polarization] : station.polarization,
		sends: station.sends && {
			...station.sends,
			frequencyGhz: station.sends.frequencyGhz + by
		},
		hears: { ...station.hears, frequencyGhz: station.hears.frequencyGhz + by }
	}));
}

const worstOf = (losses: readonly { degradationDb: number }[]): number =>
	Math.max(0, ...losses.map(({ degradationDb }) => degradationDb));

/** How far a pair of channels may go down and up within one sub-band, MHz; nothing where none holds them. */
function roomMhz(
	stations: readonly Station[],
	subBands: readonly SubBand[]
): readonly [number, number] {
	const half = Math.max(0, ...stations.map(({ channelWidthMhz }) => channelWidthMhz)) / 2000;
	const sent = stations.flatMap(({ sends }) => (sends ? [sends.frequencyGhz] : []));
	for (const { lowGhz, highGhz } of subBands) {
		const rooms = sent.map((ghz) => {
			const own = [lowGhz, highGhz].find(
				([from, to]) => ghz - half >= from - 1e-9 && ghz + half <= to + 1e-9
			);
			return own && ([own[0] - (ghz - half), own[1] - (ghz + half)] as const);
		});
		if (rooms.length === 0 || rooms.some((room) => room === undefined)) continue;
		const known = rooms.flatMap((room) => (room ? [room] : []));
		return [
			1000 * Math.max(...known.map(([down]) => down)),
			1000 * Math.min(...known.map(([, up]) => up))
		];
	}
	return [0, 0];
}

/**
 * Other channels of the same sub-band, and the other polarization, that disturb less: the most that anybody
 * would lose, here or there, least first. Only the first pair of frequencies is moved.
 *
 * @param own stations of the hop
 * @param others stations of all other hops in reach
 * @param subBands of the radio at either end
 */
export function quieterChoices(
	own: readonly Station[],
	others: readonly Station[],
	subBands: readonly SubBand[]
): QuieterChoice[] {
	const first = own.filter(({ secondPair }) => !secondPair);
	if (first.length === 0) return [];
	const rest = own.filter(({ secondPair }) => secondPair);
	const width = itemAt(first, 0).channelWidthMhz;
	const [down, up] = roomMhz(first, subBands);
	const dual = new Set(first.map(({ polarization }) => polarization)).size > 1;
	const judged = (shiftMhz: number, crossed: boolean): QuieterChoice => {
		const mine = [...changed(first, shiftMhz, crossed), ...rest];
		return {
			...{ shiftMhz, crossed },
			hereDb: worstOf(interferenceAt(mine, others)),
			thereDb: worstOf(interferenceAt(others, mine))
		};
	};
	const shifts: number[] = [];
	for (let n = Math.ceil(down / width - 1e-9); n <= Math.floor(up / width + 1e-9); n++) {
		shifts.push(n * width);
	}
	const now = judged(0, false);
	const worst = (choice: QuieterChoice): number => Math.max(choice.hereDb, choice.thereDb);
	return shifts
		.flatMap((shift) => (dual ? [false] : [false, true]).map((crossed) => judged(shift, crossed)))
		.filter((choice) => worst(choice) < worst(now) - WORTH_DB)
		.toSorted(
			(p, q) =>
				worst(p) - worst(q) ||
				Number(p.crossed) - Number(q.crossed) ||
				Math.abs(p.shiftMhz) - Math.abs(q.shiftMhz)
		)
		.slice(0, MOST_TOLD);
}
