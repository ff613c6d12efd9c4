import { followFeed } from '../tests/core/feedFollow';

/** Offsets of one dish from its axis along a diagonal, where the cross-polar lobes are, in beams. */
const OFFSETS = [0, 0.05, 0.1, 0.2, 0.3, 0.42, 0.6];

/** The advice followed on seeded hops, with noise, on and beside the axis. */
export function feedTable(count: number): string {
	const rows = OFFSETS.map((off) => {
		const runs = Array.from({ length: count }, (_, i) => followFeed(7000 + i, off));
		const stood = runs.filter((run) => run.last === 'stands');
		const errors = stood.map((run) => Math.abs(run.errorDeg)).sort((p, q) => p - q);
		const at = (share: number): string =>
			(errors[Math.min(errors.length - 1, Math.floor(share * errors.length))] ?? NaN).toFixed(2);
		const of = (kind: string): string =>
			`${((100 * runs.filter((run) => run.last === kind).length) / count).toFixed(1)} %`;
		const within = errors.filter((error) => error <= 0.3).length;
		const reads = runs.reduce((sum, run) => sum + run.reads, 0) / count;
		return [
			off.toFixed(2),
			of('stands'),
			`${((100 * within) / Math.max(1, stood.length)).toFixed(1)} %`,
			at(0.5),
			at(0.95),
			at(1),
			of('pointing-first'),
			of('not-rotation'),
			of('endless'),
			(reads / 2).toFixed(1)
		];
	});
	const head = [
		'off, beams',
		'stands',
		'within 0.3°',
		'median °',
		'95th °',
		'worst °',
		'pointing',
		'not rotation',
		'endless',
		'looks'
	];
	return [head, ...rows].map((row) => row.map((cell) => cell.padStart(13)).join('')).join('\n');
}
