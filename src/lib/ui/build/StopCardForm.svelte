<script lang="ts">
	import {
		STOP_CARD_WORDS,
		stopStateOf,
		unsafeAnswers,
		type StopAnswer,
		type StopCard
	} from '#core/safety/stopCards';
	import Notice from '../form/Notice.svelte';
	import QuestionList from '../form/QuestionList.svelte';
	import TextField from '../form/TextField.svelte';
	import { moment } from '../moment.svelte';
	import type { StepPlace } from './stepPlace';

	interface Props {
		place: StepPlace;
		card: StopCard;
	}

	let { place, card }: Props = $props();
	const words = $derived(STOP_CARD_WORDS[card]);
	const standing = $derived(stopStateOf(card, place.cards[card], place.nowMs));
	let answers: Record<string, StopAnswer> = $state({});
	let again = $state(false);
	const asking = $derived(standing.kind !== 'go' || again);
	const open = $derived(words.questions.filter(({ key }) => answers[key] === undefined).length);
	const unsafe = $derived(open === 0 ? unsafeAnswers(card, answers) : []);

	let name = $state('');
	let why = $state('');
	let taking = $state(false);
	let problem: { name?: string; why?: string } = $state({});

	/** Somebody takes it on that the work goes on: the answers stay as they were given. */
	async function takeOn(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		problem = {
			...(name.trim().length < 2 ? { name: 'Name the person and their function.' } : {}),
			...(why.trim().length < 3 ? { why: 'Write why in a few words.' } : {})
		};
		const last = place.cards[card];
		if (!last || Object.keys(problem).length) return;
		await place.add('stop-card', {
			card,
			answers: last.answers,
			note: '',
			override: { name: name.trim(), why: why.trim() }
		});
		taking = false;
	}

	async function keep(): Promise<void> {
		const given = answers;
		answers = {};
		again = false;
		await place.add('stop-card', { card, answers: given, note: '' });
	}
</script>

<section
	class="border-ink rounded-lg border-2 p-3"
	aria-label={words.title}
	data-testid="stop-card-{card}"
>
	<h2 class="text-lg!">{words.title}</h2>
	{#if !asking}
		{#if standing.kind === 'go' && standing.override}
			<p class="trouble text-sm font-semibold">
				▲ On the word of {standing.override.name}: {standing.override.why}. Not safe: {standing.override.asks.join(
					'; '
				)}.
			</p>
		{/if}
		<p class="text-sm">
			Answered, go. {standing.kind === 'go' ? moment(standing.answeredAt) : ''}
			<button class="min-h-12 px-2 underline" onclick={() => (again = true)}
				>Something has changed: ask again</button
			>
		</p>
	{:else}
		{#if standing.kind === 'stop'}
			<div class="my-2">
				<Notice kind="trouble"
					><strong>Stop.</strong> Not safe when last asked: {standing.asks.join('; ')}.</Notice
				>
				{#if place.mayRecord && !taking}
					<button class="min-h-12 underline" onclick={() => (taking = true)}
						>Go on all the same, on somebody’s word</button
					>
				{:else if place.mayRecord}
					<form class="mt-2 flex flex-col gap-2" onsubmit={(event) => void takeOn(event)}>
						<TextField
							label="On whose word"
							name="card-name"
							hint="Name and function. It stands in the acceptance."
							bind:value={name}
							error={problem.name}
						/>
						<TextField label="Why" name="card-why" bind:value={why} error={problem.why} />
						<button class="btn">Record it: go on</button>
					</form>
				{/if}
			</div>
		{:else if standing.kind === 'out-of-date'}
			<p class="text-sm">Answered {moment(standing.answeredAt)}: too long ago, ask again.</p>
		{/if}
		<QuestionList questions={words.questions} bind:answers />
		<p class="text-quiet my-2 text-sm">
			A reminder, kept in the record. Local rules and licensed people decide.
		</p>
		{#if place.mayRecord}
			<button class="btn btn-main btn-big" disabled={open > 0} onclick={() => void keep()}>
				{open > 0
					? `${open} to answer`
					: unsafe.length
						? 'Record it: the work stops'
						: 'Record it: go'}
			</button>
		{/if}
	{/if}
</section>
