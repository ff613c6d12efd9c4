<script lang="ts">
	import type { End } from '#core/ends';
	import type { BayState, Stage } from '#core/stage/stages';
	import { STAGE_WORDS, STATE_WORDS } from './stageWords';

	interface Props {
		end: End;
		bays: readonly BayState[];
		here: Stage | undefined;
		href: (stage: Stage) => string;
	}

	let { end, bays, here, href }: Props = $props();
</script>

<nav class="end-{end} flex h-full w-full flex-col-reverse" aria-label="Stages of end {end}">
	{#each bays as bay (bay.stage)}
		<a
			href={href(bay.stage)}
			aria-current={here === bay.stage ? 'step' : undefined}
			class="border-ink relative flex min-h-12 flex-1 items-center justify-center border-x-2 border-b-2 no-underline first:border-b-4 last:border-t-2 {bay.state ===
			'done'
				? 'bg-fill text-on-fill'
				: bay.state === 'open'
					? 'bg-end-own text-on-fill'
					: 'bg-paper'}"
		>
			<span
				class="text-[0.8rem] font-semibold [writing-mode:vertical-rl] {here === bay.stage
					? 'underline decoration-2'
					: ''}">{STAGE_WORDS[bay.stage]}</span
			>
			<span class="sr-only">, {STATE_WORDS[bay.state]}</span>
			{#if bay.state === 'trouble'}
				<span class="text-trouble absolute top-1" aria-hidden="true">▲</span>
			{:else if bay.state === 'waiting'}
				<span class="bg-ink absolute top-2 block h-1 w-3.5" aria-hidden="true"></span>
			{/if}
		</a>
	{/each}
</nav>
