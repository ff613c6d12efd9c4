<script lang="ts">
	import { untrack } from 'svelte';
	import { farEnd, type End } from '#core/ends';
	import {
		LONGEST_MESSAGE,
		PHRASE_WORDS,
		PHRASES,
		type Message,
		type Phrase
	} from '#core/record/messages';
	import Sheet from '../align/Sheet.svelte';
	import { Draft } from '../form/draft.svelte';
	import { timeOfDay } from '../moment.svelte';
	import type { LiveHop } from './liveHop.svelte';

	interface Props {
		open: boolean;
		end: End;
		live: LiveHop;
		messages: readonly Message[];
	}

	let { open = $bindable(), end, live, messages }: Props = $props();
	const far = $derived(farEnd(end));
	const draft = untrack(() => new Draft(live.placeOf(end, 'message'), { text: '' }));
	let saying = $state(false);

	async function say(phrase: Phrase | null, text: string): Promise<void> {
		if (saying || (phrase === null && text === '')) return;
		saying = true;
		try {
			await live.add(end, 'message', { phrase, text });
			if (phrase === null) {
				draft.values.text = '';
				draft.savedAs({ text: '' });
			}
		} finally {
			saying = false;
		}
	}
	/** The newest one is in view, at first and when one comes. */
	function toNewest(node: HTMLElement): void {
		$effect(() => {
			if (messages.length) node.scrollTop = node.scrollHeight;
		});
	}
</script>

<Sheet
	bind:open
	title="Say to {far}"
	description="It stands in the record of the hop, and waits here where there is no connection."
>
	<div class="flex flex-col gap-3">
		{#if messages.length}
			<ol
				class="flex max-h-[30dvh] flex-col gap-1.5 overflow-y-auto"
				aria-label="Messages, the newest last"
				aria-live="polite"
				data-testid="message-list"
				{@attach toNewest}
			>
				{#each messages as message (message.seq)}
					<li class="end-{message.end} {message.end === end ? 'text-right' : ''}">
						<span class="text-end-own font-bold">{message.end}</span>
						<strong class="break-words">{message.words}</strong>
						<span class="text-quiet num block text-sm">{message.by}, {timeOfDay(message.at)}</span>
					</li>
				{/each}
			</ol>
		{:else}
			<p class="text-quiet text-sm">Nothing has been said yet.</p>
		{/if}
		{#if live.mayRecord}
			<div class="grid grid-cols-2 gap-2" data-testid="phrases">
				{#each PHRASES as phrase (phrase)}
					<button
						type="button"
						class="btn justify-center {phrase === 'stop'
							? 'trouble col-span-2 border-2 font-bold'
							: ''}"
						disabled={saying}
						onclick={() => void say(phrase, '')}
						>{#if phrase === 'stop'}<span aria-hidden="true">▲</span>{/if}
						{PHRASE_WORDS[phrase]}</button
					>
				{/each}
			</div>
			<form
				class="flex items-end gap-2"
				onsubmit={(event) => {
					event.preventDefault();
					void say(null, draft.values.text.trim());
				}}
			>
				<label class="min-w-0 flex-1">
					<span class="text-sm font-semibold">In your own words</span>
					<input
						class="input w-full"
						maxlength={LONGEST_MESSAGE}
						autocomplete="off"
						bind:value={draft.values.text}
					/>
				</label>
				<button class="btn" disabled={saying || draft.values.text.trim() === ''}>Send</button>
			</form>
			<p class="text-quiet text-sm">
				A message is no order to transmit: before anybody climbs into the beam, call and ask.
			</p>
		{:else}
			<p class="text-quiet text-sm">You may read here, and say nothing.</p>
		{/if}
	</div>
</Sheet>
