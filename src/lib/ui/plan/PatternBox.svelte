<script lang="ts">
	import {
		isCoPolar,
		patternFigures,
		readMeasuredPattern,
		writeMeasuredPattern
	} from '#core/antenna/measuredPattern';
	import { relativeGainDb } from '#core/antenna/taperedAperture';
	import type { End } from '#core/ends';
	import { fixed } from '../format';
	import Notice from '../form/Notice.svelte';
	import { pickedFile } from '../form/pickedFile';
	import { patternOf } from './planForm';

	interface Props {
		end: End;
		patternJson: string;
		polarization: 'vertical' | 'horizontal';
		/** Beamwidth by the catalogue, for the model drawn beside the measurement. */
		modelBeamwidthDeg: number | undefined;
	}

	let { end, patternJson = $bindable(), polarization, modelBeamwidthDeg }: Props = $props();
	let problem: string | undefined = $state();
	const pattern = $derived(patternOf(patternJson));
	const figures = $derived(pattern ? patternFigures(pattern, polarization) : undefined);
	const MOST_BYTES = 2_000_000;
	const WIDTH = 320;
	const HEIGHT = 150;
	const reachDeg = $derived(5 * (figures?.beamwidthDeg ?? modelBeamwidthDeg ?? 1));
	const x = (deg: number): number => 30 + ((deg + reachDeg) / (2 * reachDeg)) * (WIDTH - 36);
	const y = (db: number): number => 8 + (Math.min(60, Math.max(0, -db)) / 60) * (HEIGHT - 26);
	const lines = $derived.by(() => {
		if (!pattern) return [];
		return pattern.cuts
			.filter((cut) => cut.plane === 'azimuth')
			.map((cut) => ({
				co: isCoPolar(cut),
				name: cut.polarization,
				path: cut.anglesDeg
					.map((deg, i) => [deg, cut.relativeDb[i]!] as const)
					.filter(([deg]) => Math.abs(deg) <= reachDeg)
					.map(([deg, db]) => `${x(deg).toFixed(1)},${y(db).toFixed(1)}`)
					.join('L')
			}))
			.filter((line) => line.path !== '');
	});
	const model = $derived(
		modelBeamwidthDeg === undefined
			? ''
			: Array.from({ length: 161 }, (_, i) => -reachDeg + (i / 80) * reachDeg)
					.map(
						(deg) => `${x(deg).toFixed(1)},${y(relativeGainDb(deg / modelBeamwidthDeg)).toFixed(1)}`
					)
					.join('L')
	);

	async function read(event: Event): Promise<void> {
		const picked = pickedFile(event, MOST_BYTES);
		if (!picked) return;
		problem = 'problem' in picked ? picked.problem : undefined;
		if ('problem' in picked) return;
		const result = readMeasuredPattern(await picked.file.text());
		if (result.kind === 'problem') problem = `Line ${result.line}: ${result.message}`;
		else if (!patternFigures(result.pattern, polarization)) {
			problem = 'The file has no co-polar cut over a main lobe.';
		} else patternJson = JSON.stringify(result.pattern);
	}
</script>

{#if problem}<Notice kind="trouble">{problem}</Notice>{/if}
{#if pattern}
	<figure class="border-line m-0 rounded-lg border p-3">
		<figcaption class="text-sm">
			<strong>Measured pattern {pattern.antennaModel} {pattern.patternNumber}</strong>
			{#if figures}
				<span class="num block"
					>{fixed(figures.gainDbi, 1)} dBi, beam {fixed(figures.beamwidthDeg, 2)}°, first side lobe {fixed(
						figures.firstSideLobeDb,
						1
					)} dB down, discrimination {fixed(figures.crossPolarDiscriminationDb, 1)} dB. Used in place
					of the catalogue's values.</span
				>
			{/if}
		</figcaption>
		<svg
			viewBox="0 0 {WIDTH} {HEIGHT}"
			class="mt-1 block w-full"
			role="img"
			aria-label="Measured cuts beside the model"
		>
			{#each [0, -20, -40, -60] as db (db)}
				<line
					x1="30"
					x2={WIDTH - 6}
					y1={y(db)}
					y2={y(db)}
					stroke="var(--line)"
					stroke-width="0.7"
				/>
				<text x="26" y={y(db) + 4} text-anchor="end" font-size="10" class="num" fill="var(--quiet)"
					>{db}</text
				>
			{/each}
			{#each [-1, 0, 1] as side (side)}
				<text
					x={x(side * reachDeg * 0.96)}
					y={HEIGHT - 4}
					text-anchor="middle"
					font-size="10"
					class="num"
					fill="var(--quiet)">{fixed(side * reachDeg, 1, true)}°</text
				>
			{/each}
			<path d="M{model}" fill="none" stroke="var(--quiet)" stroke-dasharray="4 3" />
			{#each lines as line, i (i)}
				<path
					d="M{line.path}"
					fill="none"
					stroke={line.co ? 'var(--ink)' : `var(--end-${end.toLowerCase()})`}
					stroke-width="1.6"
				/>
			{/each}
		</svg>
		<p class="text-quiet text-sm">Solid: co-polar; coloured: cross-polar; dashed: the model.</p>
		<div class="mt-2 flex flex-wrap gap-2">
			<a
				class="btn"
				download="pattern-{end.toLowerCase()}.txt"
				href="data:text/plain;charset=utf-8,{encodeURIComponent(writeMeasuredPattern(pattern))}"
				>As text</a
			>
			<button type="button" class="btn" onclick={() => (patternJson = '')}
				>Use the catalogue again</button
			>
		</div>
	</figure>
{:else}
	<label class="text-sm underline focus-within:outline-3">
		Import a measured pattern (WG16.99.050)
		<input type="file" accept=".txt,.dat,.nsm,.pat,text/plain" class="sr-only" onchange={read} />
	</label>
{/if}
