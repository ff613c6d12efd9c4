<script lang="ts">
	import type { BuildState } from '#core/tower/buildState';
	import type { Phase } from '#core/tower/buildSteps';
	import { PHASE_WORDS, STATE_MARK } from './phaseWords';

	interface Props {
		building: BuildState;
		/** Key of the step that is shown. */
		current: string | undefined;
		onchoose: (key: string) => void;
		/** What the stretches of the work are called here. */
		words?: Readonly<Record<Phase, string>>;
	}

	let { building, current, onchoose, words = PHASE_WORDS }: Props = $props();
	const phases = $derived(
		// In the order in which this hop meets them: what goes up as one is put together before it is raised.
		[...new Set(building.steps.map(({ step }) => step.phase))].map((phase) => ({
			phase,
			steps: building.steps.filter((state) => state.step.phase === phase)
		}))
	);
</script>

<nav aria-label="Steps of the building" class="flex flex-col gap-4">
	{#each phases as { phase, steps } (phase)}
		{@const done = steps.filter((s) => s.state === 'done' || s.state === 'skipped').length}
		<section>
			<h2 class="flex justify-between text-base!">
				<span>{words[phase]}</span>
				<span class="num text-quiet font-normal">{done}/{steps.length}</span>
			</h2>
			<ul class="border-line mt-1 border-t">
				{#each steps as state (state.step.key)}
					<li class="border-line border-b">
						<button
							class="grid min-h-12 w-full grid-cols-[1.6rem_1fr] items-center py-1 text-left {current ===
							state.step.key
								? 'text-end-own font-bold'
								: state.state === 'blocked'
									? 'text-quiet'
									: ''}"
							aria-current={current === state.step.key ? 'step' : undefined}
							data-step={state.step.key}
							onclick={() => onchoose(state.step.key)}
						>
							<span class={state.state === 'trouble' ? 'trouble' : ''} aria-hidden="true"
								>{STATE_MARK[state.state]}</span
							>
							<span class="leading-tight"
								>{state.step.title}<span class="sr-only">, {state.state}</span></span
							>
						</button>
					</li>
				{/each}
			</ul>
		</section>
	{/each}
</nav>
