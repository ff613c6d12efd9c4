<script lang="ts">
	import type { StopAnswer } from '#core/safety/stopCards';

	interface Props {
		questions: readonly { key: string; ask: string; optional: boolean }[];
		answers: Record<string, StopAnswer>;
	}

	let { questions, answers = $bindable() }: Props = $props();
	const WORDS: Record<StopAnswer, string> = { yes: 'Yes', no: 'No', 'not-here': 'Not here' };
</script>

<ul>
	{#each questions as question (question.key)}
		<li class="border-line flex flex-wrap items-center gap-x-3 gap-y-1 border-b py-2">
			<span class="min-w-0 flex-1 basis-52">{question.ask}</span>
			<span class="flex gap-2" role="group" aria-label={question.ask}>
				{#each ['yes', 'no', ...(question.optional ? ['not-here'] : [])] as StopAnswer[] as answer (answer)}
					<button
						type="button"
						class="btn min-w-16 px-3 {answers[question.key] === answer ? 'btn-main' : ''}"
						aria-pressed={answers[question.key] === answer}
						onclick={() => (answers = { ...answers, [question.key]: answer })}
						>{WORDS[answer]}</button
					>
				{/each}
			</span>
		</li>
	{/each}
</ul>
