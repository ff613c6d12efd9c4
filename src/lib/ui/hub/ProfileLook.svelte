<script lang="ts">
	import type { ClearanceCheck } from '#core/path/clearanceSchool';
	import { profileShape } from '../plan/profileShape';
	import { fixed } from '../format';
	import { measure } from '../units.svelte';

	interface Props {
		check: ClearanceCheck;
		/** What stands at its left. */
		from?: string;
	}

	let { check, from = 'the hub' }: Props = $props();
	let boxWidth = $state(480);
	const WIDTH = $derived(Math.max(260, boxWidth));
	const HEIGHT = 170;
	const shape = $derived(profileShape(check, WIDTH, HEIGHT));
	const worst = $derived(check.clearance.worst);
</script>

<figure bind:clientWidth={boxWidth} class="m-0 mt-4 min-w-0" data-testid="terminal-profile">
	<svg
		viewBox="0 0 {WIDTH} {HEIGHT}"
		width={WIDTH}
		height={HEIGHT}
		class="block max-w-full"
		role="img"
		aria-label="Ground and ray from {from}"
	>
		<path d={shape.zone} fill="var(--well-3)" opacity="0.35" />
		<path d={shape.room} fill="var(--well-4)" opacity="0.8" />
		<path d={shape.hachures} stroke="var(--quiet)" stroke-width="0.9" opacity="0.75" />
		<path d={shape.ground} fill="none" stroke="var(--ink)" stroke-width="1.6" />
		{#each shape.inTheRoom as piece, i (i)}
			<path d={piece} fill="var(--trouble)" stroke="var(--trouble)" />
		{/each}
		{#each shape.obstacles as obstacle, i (i)}
			<path d={obstacle} fill="var(--well-5)" stroke="var(--ink)" stroke-width="0.8" />
		{/each}
		<path d={shape.ray} fill="none" stroke="var(--ink)" stroke-width="2" />
		{#each shape.heightTicks as heightM (heightM)}
			<text
				x="48"
				y={shape.y(heightM) + 4}
				text-anchor="end"
				class="num text-[11px]"
				fill="var(--quiet)">{measure(heightM, 'm', 0)}</text
			>
		{/each}
		<text x={WIDTH - 8} y={HEIGHT - 8} text-anchor="end" class="num text-[11px]" fill="var(--quiet)"
			>{measure(shape.lengthM, 'm', 0)}</text
		>
	</svg>
	{#if worst}
		<figcaption class="text-quiet text-sm">
			Least room {measure(worst.distanceM, 'm', 0)} from {from}: {fixed(worst.ratio, 1)} of the first
			Fresnel zone{worst.obstacle ? ` over ${worst.obstacle}` : ''}.
		</figcaption>
	{/if}
</figure>
