/**
 * `npm run bench:loop [-- hops [family [dish]]]`: the closed loop, on dishes of a family: `own` (the tool’s model),
 * `uneven` or `aperture` (sums over apertures), which it does not know. A scripted technician who does only what the tool
 * says, beside two rivals on the same seeded hops, over every dish and band of the catalogue; compass
 * error 3° and level error 0.5° (one sigma) at both ends, uneven patterns, noise, sway, play, slow fade.
 */
import { readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { ROOT } from '../scripts/lib/setup.mjs';
import { bundle } from './lib/bundle.mjs';

const hops = Number(process.argv[2] ?? 10_000);
const [, , , family = 'own', onlyDish] = process.argv;
const workerFile = await bundle('closedLoop.worker');
const dishes = JSON.parse(readFileSync(join(ROOT, 'catalog/dishes.json'), 'utf8'))
	.flatMap((dish) =>
		dish.bands.map((band) => ({
			name: dish.code,
			frequencyGhz: band.atGhz,
			diameterM: dish.diameterM,
			beamwidthDeg: band.beamwidthDeg
		}))
	)
	.filter((dish) => !onlyDish || dish.name === onlyDish);
let next = 0;
const answers = [];
const batch = () => {
	if (next >= hops) return undefined;
	return Array.from({ length: Math.min(10, hops - next) }, () => {
		const task = { seed: next + 1, family, dish: dishes[next % dishes.length] };
		next += 1;
		return task;
	});
};
await Promise.all(
	Array.from({ length: availableParallelism() }, async () => {
		const worker = new Worker(workerFile);
		for (let tasks = batch(); tasks; tasks = batch()) {
			worker.postMessage(tasks);
			answers.push(
				...(await new Promise((resolve, reject) => {
					worker.removeAllListeners();
					worker.once('message', resolve);
					worker.once('error', reject);
				}))
			);
			if (answers.length % 500 < 10) process.stderr.write(`${answers.length} of ${hops}\n`);
		}
		await worker.terminate();
	})
);
const names = Object.keys(answers[0].outcomes);
const quantile = (values, share) => {
	const sorted = [...values].sort((p, q) => p - q);
	return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
};
const mean = (values) => values.reduce((sum, value) => sum + value, 0) / values.length;
function row(label, list) {
	const remaining = list.map((o) => o.remainingDb);
	return [
		label.padEnd(30),
		`${((100 * list.filter((o) => o.success).length) / list.length).toFixed(2)} %`.padStart(9),
		...[0.5, 0.95, 1].map((share) => quantile(remaining, share).toFixed(2).padStart(7)),
		mean(list.map((o) => o.sweepSamples))
			.toFixed(0)
			.padStart(8),
		mean(list.map((o) => o.moves))
			.toFixed(1)
			.padStart(7)
	].join(' ');
}
console.log(`${hops} hops, dishes: ${family}\n`);
console.log(
	'                                 success  dB left: median, 95th, worst  samples   moves'
);
for (const name of names)
	console.log(
		row(
			name,
			answers.map((a) => a.outcomes[name])
		)
	);
console.log('\nThe tool, by dish');
for (const dish of dishes) {
	const own = answers.filter((a) => a.dish === dish.name);
	if (own.length)
		console.log(
			row(
				`${dish.name}, ${dish.beamwidthDeg.toFixed(2)}°`,
				own.map((a) => a.outcomes['the tool'])
			)
		);
}
const failures = answers.filter((a) => !a.outcomes['the tool'].success);
console.log(`\nFailures of the tool: ${failures.length}`);
for (const { seed, dish, outcomes } of failures.slice(0, 40)) {
	const o = outcomes['the tool'];
	console.log(
		`  seed ${seed} ${dish}: ${o.remainingDb.toFixed(2)} dB, ${o.onMainLobe ? 'main lobe' : 'not on the main lobe'}, ${o.turns} turns, ${o.stoppedAt}`
	);
}
