<script lang="ts">
	import type { End } from '#core/ends';
	import type { DishNumber } from '#core/record/secondDish';
	import type { Stage } from '#core/stage/stages';
	import { stageHrefOf, type BenchHop } from '../hop/benchHop';

	interface Props {
		end: End;
		live: BenchHop;
		stage: Stage;
	}

	let { end, live, stage }: Props = $props();
	const NAMES: Record<DishNumber, string> = { 1: 'First dish', 2: 'Second dish' };
</script>

{#if live.whole.state.second}
	<nav class="flex gap-2 md:max-w-md" aria-label="Dish of {end}" data-testid="dish-switch">
		{#each [1, 2] as const as dish (dish)}
			<!-- eslint-disable-next-line svelte/no-navigation-without-resolve -- resolved in stageHrefOf -->
			<a
				class="btn flex-1 {live.dish === dish ? 'border-b-[5px] font-bold' : 'text-quiet'}"
				aria-current={live.dish === dish ? 'true' : undefined}
				href={stageHrefOf(live.hopId, end, stage, dish)}>{NAMES[dish]}</a
			>
		{/each}
	</nav>
{/if}
