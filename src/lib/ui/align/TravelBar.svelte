<script lang="ts">
	import type { Adjuster } from '#core/catalogue/parts';
	import type { Axis } from '#core/ends';
	import { adjusterAngleDeg } from '#core/sweep/adjusterScale';
	import { positionInWords } from './stepWords';

	interface Props {
		axis: Axis;
		adjuster: Adjuster;
		turns: number;
		targetDeg?: number | undefined;
		inTurns: boolean;
		disabled: boolean;
		onset: () => void;
	}

	let { axis, adjuster, turns, targetDeg, inTurns, disabled, onset }: Props = $props();
	const deg = $derived(adjusterAngleDeg(adjuster, turns));
	const x = (angle: number): number =>
		10 + (Math.min(1, Math.max(-1, angle / adjuster.travelDeg)) + 1) * 115;
	const words = $derived(positionInWords(turns, deg, inTurns));
</script>

<div class="flex items-center gap-3">
	<div class="min-w-0 flex-1">
		<p class="flex flex-wrap justify-between gap-x-3 text-sm">
			<span>{axis}{axis === 'azimuth' ? ', right +' : ', up +'}</span><span
				class="num font-semibold">{words}</span
			>
		</p>
		<svg viewBox="0 0 250 22" class="block h-6 w-full" aria-hidden="true">
			<path
				d="M10 11H240M10 5V17M240 5V17M125 8V14M67.5 9V13M182.5 9V13"
				stroke="var(--ink)"
				stroke-width="1.5"
			/>
			{#if targetDeg !== undefined}
				<path d="M{x(deg)} 11H{x(targetDeg)}" stroke="var(--end)" stroke-width="4" />
				<path
					d="M{x(targetDeg)} 12l6 9h-12z"
					fill="var(--paper)"
					stroke="var(--end)"
					stroke-width="1.6"
				/>
			{/if}
			<path d="M{x(deg)} 10l6-9h-12z" fill="var(--end)" />
		</svg>
	</div>
	<button type="button" class="btn px-3!" {disabled} onclick={onset} aria-label="Set the {axis}"
		>Set</button
	>
</div>
