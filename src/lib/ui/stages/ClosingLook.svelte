<script lang="ts">
	import { untrack } from 'svelte';
	import { CLOSING_QUESTIONS, openClosingQuestions } from '#core/accept/closing';
	import type { End } from '#core/ends';
	import type { StopAnswer } from '#core/safety/stopCards';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Draft } from '../form/draft.svelte';
	import QuestionList from '../form/QuestionList.svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();

	const look = untrack(
		() => new Draft(live.placeOf(end, 'look'), { answers: {} as Record<string, StopAnswer> })
	);
	const { answers } = $derived(look.values);
	const open = $derived(openClosingQuestions(live.recorded, end));
	const unanswered = $derived(
		CLOSING_QUESTIONS.filter(({ key }) => answers[key] === undefined).length
	);
	let lookAgain = $state(false);
	async function keepLook(): Promise<void> {
		const given = answers;
		look.clear();
		lookAgain = false;
		await live.add(end, 'closing-check', { answers: given, note: '' });
	}
</script>

<section aria-labelledby="look-title" data-testid="closing-look">
	<h2 id="look-title">Final look at {end}</h2>
	{#if open !== null && !lookAgain}
		<p class={open.length ? 'trouble font-semibold' : ''}>
			{open.length ? `▲ Left open: ${open.join('; ')}.` : 'Done, nothing left open.'}
		</p>
		{#if live.mayRecord}
			<button class="min-h-12 underline" onclick={() => (lookAgain = true)}>Look again</button>
		{/if}
	{:else if live.mayRecord}
		<KeptTyping draft={look} />
		<QuestionList questions={CLOSING_QUESTIONS} bind:answers={look.values.answers} />
		<button
			class="btn btn-main btn-big mt-3 w-full"
			disabled={unanswered > 0}
			onclick={() => void keepLook()}
			>{unanswered > 0 ? `${unanswered} to answer` : 'Record the final look'}</button
		>
	{/if}
</section>
