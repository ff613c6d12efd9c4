<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import type { NewerPart } from '#core/budget/newerParts';
	import type { End } from '#core/ends';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import PlanFigures from '../plan/PlanFigures.svelte';
	import SheetsInForce from './SheetsInForce.svelte';

	interface Props {
		end: End;
		hop: { id: string };
		live: LiveHop | undefined;
		/** Parts of the revision that have changed in the catalogue since. */
		newerParts: readonly NewerPart[];
	}

	let { end, hop, live, newerParts }: Props = $props();
</script>

<div class="flex flex-col gap-8 pt-4">
	<h1>{live ? `Prepare ${end}` : 'Prepare'}</h1>
	<SheetsInForce {end} hopId={hop.id} {live} {newerParts} />
	{#if live}
		<section aria-labelledby="figures-of-plan">
			<h2 id="figures-of-plan" class="mb-2">The plan in force</h2>
			<PlanFigures
				plan={live.revision.plan}
				operatingModulation={live.revision.input.operatingModulation}
			/>
		</section>
		<div>
			<button
				class="btn btn-main"
				onclick={() =>
					void goto(
						resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
							hopId: hop.id,
							end: end === 'A' ? 'a' : 'b',
							stage: 'build'
						})
					)}>Go on to build</button
			>
		</div>
	{:else}
		<p class="text-quiet max-w-prose py-6 text-lg">
			No plan revision is issued yet. The planner issues it; then the site sheet stands here.
		</p>
	{/if}
</div>
