/** A connection that goes by the clock, as a boat or a lift of a team by helicopter. */
export interface Departure {
	/** Minutes since 1970 UTC. */
	at: number;
	/** Minutes until those on it stand where it goes. */
	minutes: number;
}

/** How one gets from one place to another. */
export type Leg =
	| { kind: 'road'; minutes: number }
	/** In order of their time. */
	| { kind: 'boat'; departures: readonly Departure[] };

/** Ways between places, by where they begin and where they end; one that is not in it takes `otherwiseMin`. */
export interface Ways {
	legs: ReadonlyMap<string, ReadonlyMap<string, Leg>>;
	/** Minutes where nobody has said how long a way takes. */
	otherwiseMin: number;
}

/**
 * Ways from a list of them.
 *
 * @param otherwiseMin minutes of a way that is not in it, 0 or more; Infinity where there is none then
 */
export function waysOf(
	list: readonly { from: string; to: string; leg: Leg }[],
	otherwiseMin: number
): Ways {
	const legs = new Map<string, Map<string, Leg>>();
	for (const { from, to, leg } of list) {
		const out = legs.get(from) ?? new Map<string, Leg>();
		out.set(to, leg);
		legs.set(from, out);
	}
	return { legs, otherwiseMin };
}

/**
 * When somebody who sets out at a moment stands at the other place: whoever sets out later never comes sooner.
 *
 * @param setOut minutes since 1970 UTC
 * @returns Infinity where no boat goes any more
 */
export function arrival(ways: Ways, from: string, to: string, setOut: number): number {
	if (from === to) return setOut;
	const leg = ways.legs.get(from)?.get(to);
	if (!leg) return setOut + ways.otherwiseMin;
	if (leg.kind === 'road') return setOut + leg.minutes;
	let best = Infinity;
	for (const { at, minutes } of leg.departures) {
		if (at >= setOut) best = Math.min(best, at + minutes);
	}
	return best;
}

/** Fewest minutes that the way ever takes. */
export function shortest(ways: Ways, from: string, to: string): number {
	if (from === to) return 0;
	const leg = ways.legs.get(from)?.get(to);
	if (!leg) return ways.otherwiseMin;
	return leg.kind === 'road'
		? leg.minutes
		: Math.min(...leg.departures.map(({ minutes }) => minutes));
}
