<script lang="ts">
	import { resolve } from '$app/paths';
	import { callApi } from '../api';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import { moment } from '../moment.svelte';

	interface Props {
		hub: { id: string; version: number };
		/** The plan in force; null while none is issued. */
		issued: { number: number; at: Date; changedSince: boolean } | null;
		mayEdit: boolean;
		onissued: () => void;
	}

	let { hub, issued, mayEdit, onissued }: Props = $props();
	const saving = new Saving();
	let requestId: string | undefined;

	async function issue(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		requestId ??= crypto.randomUUID();
		const done = await saving.run(() =>
			callApi('POST', `/hubs/${hub.id}/revisions`, { id: requestId, version: hub.version }).then(
				() => undefined
			)
		);
		if (!done) return;
		requestId = undefined;
		onissued();
	}
</script>

<form
	class="border-line mb-4 flex flex-wrap items-center gap-x-4 gap-y-2 border-y py-2"
	onsubmit={issue}
	{@attach saving.form}
	data-testid="hub-issue"
>
	<p class="min-w-60 grow">
		{#if issued}
			Plan revision <span class="num">{issued.number}</span>, issued {moment(issued.at)}.
			{#if issued.changedSince}<strong>What is saved has changed since.</strong>{/if}
		{:else}
			No plan is issued yet: crews work by an issued one.
		{/if}
	</p>
	{#if issued}
		<a class="btn" href={resolve('/hubs/[hubId]/work', { hubId: hub.id })}>The work at this hub</a>
	{/if}
	{#if mayEdit && (!issued || issued.changedSince)}
		<button class="btn btn-main" disabled={saving.busy}
			>{saving.busy
				? 'Issuing …'
				: issued
					? `Issue revision ${issued.number + 1}`
					: 'Issue the plan'}</button
		>
	{/if}
	{#if saving.message}
		<div class="w-full"><SavingTrouble {saving} elsewhere={saving.problems} /></div>
	{/if}
</form>
