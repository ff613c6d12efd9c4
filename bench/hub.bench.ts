import { bench, describe } from 'vitest';
import { resolveHub } from '#core/hub/hubDraft';
import type { HubInput } from '#core/hub/hubInput';
import { aimsOf, hubPathsOf, planHub } from '#core/hub/hubPlan';
import { harbour, hubTerminal, hubUnit, QUAY } from '../tests/core/hubFixture';
import { catalogue } from '../tests/core/planFixture';

/** Sixty-four terminals all round, of four units. */
function hubOf(): HubInput {
	const units = [0, 90, 180, 270].map((headingDeg, i) =>
		hubUnit({ id: `u${i}`, name: `Sector ${i}`, headingDeg, frequencyGhz: 58.32 + 2.16 * i })
	);
	const terminals = Array.from({ length: 64 }, (_, i) =>
		hubTerminal({
			bearingDeg: (i * 360) / 64 + (i % 5),
			distanceM: 80 + ((i * 53) % 300),
			name: `Roof ${i}`,
			downMbitS: 20,
			upMbitS: 5
		})
	);
	const resolved = resolveHub(harbour({ units, terminals }), QUAY, catalogue);
	if (resolved.kind !== 'input') throw new Error(resolved.fields.join());
	return resolved.input;
}

const hub = hubOf();
const paths = hubPathsOf(hub);
const turned = Array.from({ length: 36 }, (_, i) => ({
	...hub,
	units: hub.units.map((unit, at) => (at === 0 ? { ...unit, headingDeg: 10 * i } : unit))
}));
let next = 0;

describe('a hub of 64 terminals and four units', () => {
	bench('one plain pass: every path and the plan', () => {
		planHub(hub, hubPathsOf(hub));
	});
	bench('a unit turned a little: the plan alone', () => {
		planHub(turned[next++ % turned.length]!, paths);
	});
	bench(
		'all units aimed',
		() => {
			aimsOf(hub, paths);
		},
		{ iterations: 3, time: 0, warmupIterations: 0, warmupTime: 0 }
	);
});
