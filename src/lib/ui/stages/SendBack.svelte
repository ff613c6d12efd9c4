<script lang="ts">
	import { untrack } from 'svelte';
	import type { End } from '#core/ends';
	import { callApi } from '../api';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import TextField from '../form/TextField.svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();
	const draft = untrack(() => new Draft(live.placeOf(end, 'sent-back'), { reason: '' }));
	let open = $state(untrack(() => draft.restored));
	const sending = new Saving();
	let requestId: string | undefined;

	async function send(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		requestId ??= crypto.randomUUID();
		const done = await sending.run(() =>
			callApi('POST', `/hops/${live.hopId}/sent-back`, {
				...{ id: requestId, end, reason: draft.values.reason }
			})
		);
		if (!done) return;
		requestId = undefined;
		draft.clear();
		open = false;
	}
</script>

{#if open}
	<form
		class="flex flex-col gap-3"
		aria-label="Send it back"
		{@attach sending.form}
		onsubmit={(event) => void send(event)}
	>
		<KeptTyping {draft} />
		<TextField
			label="What the crew is to see to first"
			name="reason"
			bind:value={draft.values.reason}
			error={sending.errorAt('reason')}
		/>
		{#if sending.message}<Notice kind="trouble">{sending.message}</Notice>{/if}
		<div class="flex flex-wrap gap-3">
			<button class="btn btn-main" disabled={sending.busy}
				>{sending.busy ? 'Sending …' : 'Send it back'}</button
			>
			<button type="button" class="btn" onclick={() => (open = false)}>Not now</button>
		</div>
	</form>
{:else}
	<button type="button" class="btn" onclick={() => (open = true)}
		>Do not sign: send it back …</button
	>
{/if}
