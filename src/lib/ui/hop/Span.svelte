<script lang="ts">
	import { measure } from '../units.svelte';
	import type { HopPlan } from '#core/budget/hopPlan';
	import type { HopPlanInput } from '#core/budget/planInput';
	import { farEnd, type End } from '#core/ends';
	import { bearing, degrees, fixed } from '../format';
	import { spanShape } from './spanShape';

	interface Props {
		input: HopPlanInput;
		plan: HopPlan;
		end: End;
		revisionNumber: number;
		ownReading: string | undefined;
		farReading: string | undefined;
	}

	let { input, plan, end, revisionNumber, ownReading, farReading }: Props = $props();
	const far = $derived(farEnd(end));
	const WIDTH = 980;
	const HEIGHT = 92;
	const shape = $derived(spanShape(input, plan, end, WIDTH, HEIGHT));
</script>

{#snippet bearings(at: End)}
	<span>toward {bearing(plan.pointing[at].azimuthTrueDeg, 1)}</span>
	<span>compass {bearing(plan.pointing[at].azimuthCompassDeg, 1)}</span>
	<span>tilt {degrees(plan.pointing[at].tiltDeg, 2, true)}</span>
{/snippet}

<section aria-label="The span between the ends">
	<div class="num flex justify-between gap-4 text-[0.82rem]">
		<p class="flex flex-wrap gap-x-3">{@render bearings(end)}</p>
		<p class="flex flex-wrap justify-end gap-x-3 text-right">{@render bearings(far)}</p>
	</div>
	<svg
		viewBox="0 0 {WIDTH} {HEIGHT}"
		class="my-0.5 block h-[5.5rem] w-full"
		preserveAspectRatio="none"
		role="img"
		aria-label="Side view: {measure(
			plan.pathKm,
			'km',
			2
		)}, the ray between both antennas with its first Fresnel zone over the curved earth; {input.path
			.profile
			? "terrain from the plan's profile"
			: 'terrain between the ends is not known'}"
	>
		<path d={shape.fresnel} fill="var(--land)" />
		<path
			d={shape.earth}
			fill="var(--land)"
			stroke="var(--quiet)"
			stroke-width="1"
			vector-effect="non-scaling-stroke"
		/>
		{#each shape.towers as tower, i (i)}
			<path
				d="M{tower.x} {tower.groundY}V{tower.antennaY}"
				stroke={i === 0 ? `var(--end-${end.toLowerCase()})` : `var(--end-${far.toLowerCase()})`}
				stroke-width="4"
				vector-effect="non-scaling-stroke"
			/>
		{/each}
		<path
			d={shape.ray}
			stroke="var(--ink)"
			stroke-width="2"
			fill="none"
			vector-effect="non-scaling-stroke"
		/>
	</svg>
	<div class="num flex flex-wrap justify-between gap-x-4 text-[0.9rem]">
		<strong class="end-{end} text-end-own">{end} {ownReading ?? 'not read yet'}</strong>
		<span class="text-quiet">
			{measure(plan.pathKm, 'km', 2)} · {fixed(plan.received[end].frequencyGhz, 3)} GHz · plan revision
			{revisionNumber}
		</span>
		<strong class="end-{far} text-end-own" data-testid="far-reading"
			>{far} {farReading ?? 'not read yet'}</strong
		>
	</div>
</section>
