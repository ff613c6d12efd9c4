<script lang="ts">
	import { goto, invalidateAll } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { untrack } from 'svelte';
	import { callApi } from '../api';
	import AskFirst from '../form/AskFirst.svelte';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import TextField from '../form/TextField.svelte';

	interface Props {
		hop: { id: string; name: string; archived: boolean };
		/** Whether a plan is issued or something recorded: then it is put away, not deleted. */
		hasHistory: boolean;
	}

	let { hop, hasHistory }: Props = $props();
	let copying = $state(false);
	let deleting = $state(false);
	let name = $state(untrack(() => `${hop.name} (copy)`.slice(0, 80)));
	const working = new Saving();
	const path = $derived(`/hops/${hop.id}`);

	async function copy(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		let made: string | undefined;
		const done = await working.run(async () => {
			made = (await callApi<{ id: string }>('POST', `${path}/copy`, { name })).id;
		});
		if (!done) return;
		await goto(
			resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
				...{ hopId: made!, end: 'a', stage: 'prepare' }
			})
		);
	}
	const putAway = (archived: boolean): Promise<boolean> =>
		working.run(async () => {
			await callApi('PUT', `${path}/archived`, { archived });
			await invalidateAll();
		});
	async function remove(): Promise<void> {
		if (await working.run(() => callApi('DELETE', path))) await goto(resolve('/'));
	}
</script>

<section class="border-line flex flex-col gap-3 border-t pt-4" aria-labelledby="tools-title">
	<h2 id="tools-title" class="text-lg">For planners</h2>
	{#if hop.archived}
		<p class="text-quiet text-sm">
			This hop is put away: it stands in the list only under “Put away”, and nothing else changes.
		</p>
	{/if}
	<div class="flex flex-wrap gap-3">
		<button type="button" class="btn" aria-expanded={copying} onclick={() => (copying = !copying)}
			>Duplicate it</button
		>
		<button
			type="button"
			class="btn"
			disabled={working.busy}
			onclick={() => void putAway(!hop.archived)}
			>{hop.archived ? 'Bring it back' : 'Put it away'}</button
		>
		{#if !hasHistory}
			<button type="button" class="btn" disabled={working.busy} onclick={() => (deleting = true)}
				>Delete it</button
			>
		{/if}
	</div>
	{#if copying}
		<form
			class="flex flex-wrap items-end gap-3"
			aria-label="Duplicate"
			onsubmit={(event) => void copy(event)}
		>
			<div class="min-w-60 flex-1">
				<TextField
					label="Name of the new hop"
					name="name"
					bind:value={name}
					error={working.errorAt('name')}
				/>
			</div>
			<button class="btn btn-main" disabled={working.busy}>Make it</button>
		</form>
		<p class="text-quiet text-sm">
			The same plan between the same sites, as a draft; nothing issued or recorded comes along.
		</p>
	{/if}
	{#if working.message}<Notice kind="trouble">{working.message}</Notice>{/if}
</section>
<AskFirst
	bind:open={deleting}
	title="Delete {hop.name}?"
	means="Its draft of a plan is gone for good. Nothing of it was issued or recorded."
	yes="Delete the hop"
	onyes={() => void remove()}
/>
