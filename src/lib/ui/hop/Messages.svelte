<script lang="ts">
	import MessageSquare from '@lucide/svelte/icons/message-square';
	import { untrack } from 'svelte';
	import { farEnd, type End } from '#core/ends';
	import { messagesOf } from '#core/record/messages';
	import NotHere from '../form/NotHere.svelte';
	import { Opening } from '../form/opening.svelte';
	import { alarms } from './alarms.svelte';
	import type { LiveHop } from './liveHop.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();
	const far = $derived(farEnd(end));
	const MOST_SHOWN = 30;
	const messages = $derived(messagesOf(live.records, MOST_SHOWN));
	const opening = new Opening();
	/** Place of the last message that was seen here; what was there when the page opened has been. */
	let seenUpTo = $state(untrack(() => live.lastSeq));
	const unseen = $derived(
		messages.filter((message) => message.end === far && message.seq > seenUpTo).length
	);
	$effect(() => {
		if (!opening.open) return;
		// Places of what waits here are not the feed's: what comes then may get them.
		seenUpTo = live.lastSeq;
		if (untrack(() => alarms.open?.kind) === 'message') alarms.seen();
	});
</script>

<button
	type="button"
	class="relative -my-1 flex h-12 shrink-0 items-center gap-1.5 rounded-lg px-2 text-sm font-semibold lg:-mt-2 lg:-mb-5"
	aria-label="Messages with {far}{unseen ? `, ${unseen} new` : ''}"
	title="Messages with {far}"
	data-testid="messages"
	onclick={() => (opening.open = true)}
>
	<MessageSquare size={22} aria-hidden="true" />
	{#if unseen}
		<span
			class="end-{far} num absolute -top-0.5 right-0 min-w-5 rounded-full px-1 text-center text-xs leading-5 font-bold"
			style:background="var(--end)"
			style:color="var(--paper)">{unseen}</span
		>
	{/if}
</button>

{#if opening.ever}
	{#await import('./MessageSheet.svelte') then { default: MessageSheet }}
		<MessageSheet bind:open={opening.open} {end} {live} {messages} />
	{:catch}<NotHere />{/await}
{/if}
