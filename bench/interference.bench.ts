import { bench, describe } from 'vitest';
import { interferenceAt } from '#core/interference/interference';
import { stationsOf, type Station } from '#core/interference/stations';
import { hopInput } from '../tests/core/planFixture';

/** A thousand hops on a plain of 200 km, on ten channels: made once, as the database would hand them over. */
const HOPS = 1000;
const stations: Station[][] = Array.from({ length: HOPS }, (_, i) => {
	const { A, B } = hopInput().ends;
	const north = ((i * 37) % 100) * 0.02 - 1;
	const east = ((i * 61) % 97) * 0.025 - 1.2;
	const channel = (i % 10) * 0.028;
	const moved = (end: typeof A): typeof A => ({
		...end,
		transmitFrequencyGhz: end.transmitFrequencyGhz + channel - 0.1,
		position: {
			latitudeDeg: end.position.latitudeDeg + north,
			longitudeDeg: end.position.longitudeDeg + east
		}
	});
	const input = hopInput();
	return stationsOf(`hop ${i}`, { ...input, ends: { A: moved(A), B: moved(B) } });
});
const all = stations.flat();
const one = stations[HOPS / 2]!;

describe('interference among 1,000 hops', () => {
	bench('one hop that was changed, heard and harmed', () => {
		interferenceAt(one, all);
		interferenceAt(all, one);
	});
	bench(
		'all of them',
		() => {
			interferenceAt(all, all);
		},
		{ iterations: 1, time: 0, warmupIterations: 0, warmupTime: 0 }
	);
});
