<script lang="ts">
	import type { ReflectionSwing } from '#core/budget/reflectionFigures';
	import { farEnd } from '#core/ends';
	import { DEEPEST_DB } from '#core/path/reflection';
	import { GROUND_WORDS } from '#core/path/reflectionCoefficient';
	import Fold from '../form/Fold.svelte';
	import { fixed } from '../format';
	import { measure } from '../units.svelte';
	import { usePlanEditor } from './editor.svelte';
	import ReflectionCurves from './ReflectionCurves.svelte';

	const editor = usePlanEditor();
	const swings = $derived(editor.plan?.reflections ?? []);
	/** A carrier is named where there are several. */
	const nameOf = (swing: ReflectionSwing): string =>
		(editor.plan?.carriers.length ?? 0) > 1
			? `, ${editor.plan?.carriers.find(({ number }) => number === swing.carrierNumber)?.name.toLowerCase()}`
			: '';
</script>

<div class="mt-4" data-testid="reflections">
	<h3 class="font-bold">Reflections</h3>
	{#each swings as swing (`${swing.carrierNumber} ${swing.receivingEnd}`)}
		{@const strongest = swing.reflections[0]!}
		<div class="border-line mt-2 border-t pt-2">
			<p>
				<span class="end-{swing.receivingEnd} text-end-own font-bold"
					>{farEnd(swing.receivingEnd)} to {swing.receivingEnd}{nameOf(swing)}</span
				>: {GROUND_WORDS[strongest.ground]}
				<span class="num">{measure(strongest.distanceM / 1000, 'km', 2)}</span>
				from A reflects; the level can stand
				<strong class="num">{fixed(swing.highDb, 1)} dB</strong>
				over and
				<strong class="num"
					>{swing.lowDb <= DEEPEST_DB
						? `${-DEEPEST_DB} dB or more`
						: `${fixed(-swing.lowDb, 1)} dB`}</strong
				>
				under the plan.
			</p>
			<p class="text-quiet text-sm">
				Reflected at {fixed(strongest.grazingMrad, 1)} mrad,
				{fixed(-20 * Math.log10(strongest.amplitude), 1)} dB below the direct signal with roughness, bulge,
				shading and the dishes counted; the way over it is {measure(strongest.longerM, 'm', 2)} longer.
				Seen {fixed(Math.abs(strongest.offAxisDeg.A), 2)}° below the far end from A and {fixed(
					Math.abs(strongest.offAxisDeg.B),
					2
				)}° from B.
				{#if swing.reflections.length > 1}{swing.reflections.length === 2
						? 'A weaker one is'
						: `${swing.reflections.length - 1} weaker ones are`} counted too.{/if}
			</p>
			<Fold title="Against air, tide and height"
				><ReflectionCurves carrierNumber={swing.carrierNumber} end={swing.receivingEnd} /></Fold
			>
		</div>
	{:else}
		<p class="text-quiet mt-1 max-w-prose text-sm">
			None that moves the level by half a decibel: the ground is rough, hidden, or off the axes of
			the dishes.
		</p>
	{/each}
</div>
