import dishes from '../catalog/dishes.json';
import { READ, reliabilityCase, SITUATIONS, type Situation } from '../tests/core/reliabilityCase';
import { locate } from '#core/locate/locator';

/** Edges of the bins of what is stated. */
const EDGES = [0, 0.1, 0.25, 0.5, 0.75, 0.9, 0.97, 0.99, 1];
/** Within this of the stated place the far end counts as found, beamwidths: a main lobe from its axis. */
const FOUND_BEAMWIDTHS = 0.9;

interface Line {
	stated: number;
	found: boolean;
	/** Errors of both axes over what was stated of them; only where found. */
	sigmas: number[];
}

function linesOf(situation: Situation, read: (typeof READ)[number], count: number): Line[] {
	const bands = dishes.flatMap((dish) =>
		dish.bands.map((band) => ({ diameterM: dish.diameterM, ...band }))
	);
	const lines: Line[] = [];
	for (let seed = 1; seed <= count; seed++) {
		const band = bands[seed % bands.length]!;
		const made = reliabilityCase(seed, band, situation, read);
		const { boresight, probability } = locate(made.input);
		if (!boresight) continue;
		const off = [
			boresight.azimuthDeg - made.truth.azimuthDeg,
			boresight.tiltDeg - made.truth.tiltDeg
		] as const;
		const found = Math.hypot(...off) <= FOUND_BEAMWIDTHS * band.beamwidthDeg;
		lines.push({
			stated: probability,
			found,
			sigmas: found ? [off[0] / boresight.told.azimuthDeg, off[1] / boresight.told.tiltDeg] : []
		});
	}
	return lines;
}

const percent = (value: number): string => `${(100 * value).toFixed(1)}`.padStart(6);

/** Stated against found over every situation and number of readings, and the coverage of what is stated of the aim. */
export function reliabilityTable(count: number): string {
	const text = [
		'situation        read        stated  found   cases   gap | 68 %   95 % of errors within'
	];
	let worst = 0;
	for (const situation of SITUATIONS) {
		for (const read of READ) {
			const lines = linesOf(situation, read, count);
			for (let bin = 0; bin + 1 < EDGES.length; bin++) {
				const inside = lines.filter(
					({ stated }) =>
						stated >= EDGES[bin]! && (stated < EDGES[bin + 1]! || bin === EDGES.length - 2)
				);
				if (inside.length === 0) continue;
				const stated = inside.reduce((sum, line) => sum + line.stated, 0) / inside.length;
				const found = inside.filter((line) => line.found).length / inside.length;
				const gap = found - stated;
				if (inside.length >= 100) worst = Math.max(worst, Math.abs(gap));
				const sigmas = inside.flatMap((line) => line.sigmas.map(Math.abs));
				const within = (sigma: number): number =>
					sigmas.filter((value) => value <= sigma).length / Math.max(1, sigmas.length);
				const mark = inside.length >= 100 && Math.abs(gap) > 0.05 ? ' <<' : '';
				text.push(
					`${situation.padEnd(16)} ${read.padEnd(11)} ${percent(stated)} ${percent(found)} ${String(inside.length).padStart(6)} ${percent(gap)} |${percent(within(1))} ${percent(within(1.96))}${mark}`
				);
			}
		}
	}
	text.push(`Largest gap of a bin with 100 cases and more: ${(100 * worst).toFixed(1)} points.`);
	return text.join('\n');
}
