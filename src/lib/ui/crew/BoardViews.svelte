<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { callApi } from '../api';
	import Sheet from '../align/Sheet.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import TextField from '../form/TextField.svelte';

	interface Props {
		views: readonly { id: string; name: string; query: string }[];
		/** What the board shows now, as it stands in its address. */
		search: string;
	}

	let { views, search }: Props = $props();
	let open = $state(false);
	let name = $state('');
	let id = $state('');
	const saving = new Saving();

	async function keep(): Promise<void> {
		const done = await saving.run(async () => {
			await callApi('PUT', `/me/board-views/${id}`, { name, query: search });
		});
		if (!done) return;
		name = '';
		id = crypto.randomUUID();
		await invalidateAll();
	}
	async function drop(view: string): Promise<void> {
		if (await saving.run(() => callApi('DELETE', `/me/board-views/${view}`))) await invalidateAll();
	}
</script>

<!-- eslint-disable svelte/no-navigation-without-resolve -- resolved, with a query behind -->
{#each views as view (view.id)}
	<a
		class="inline-flex min-h-11 items-center px-1.5 {view.query === search
			? 'font-bold no-underline'
			: 'underline'}"
		aria-current={view.query === search ? 'page' : undefined}
		href="{resolve('/board')}{view.query ? `?${view.query}` : ''}">{view.name}</a
	>
{/each}
<!-- eslint-enable svelte/no-navigation-without-resolve -->
<button
	type="button"
	class="min-h-11 px-1.5 text-sm underline"
	onclick={() => {
		id = crypto.randomUUID();
		open = true;
	}}>{views.length ? 'Your views …' : 'Keep this view …'}</button
>
<Sheet
	bind:open
	title="Your views of the board"
	description="What it is narrowed to and how it is ordered, under a name of yours."
>
	<form
		class="flex flex-col gap-3"
		onsubmit={(event) => {
			event.preventDefault();
			void keep();
		}}
		novalidate
		{@attach saving.form}
	>
		<SavingTrouble {saving} />
		<TextField
			label="Name of the view"
			name="name"
			bind:value={name}
			error={saving.errorAt('name')}
		/>
		<button class="btn btn-main self-start" disabled={saving.busy}>Keep what is shown now</button>
	</form>
	{#if views.length}
		<ul class="border-line mt-3 border-t">
			{#each views as view (view.id)}
				<li class="border-line flex items-center gap-3 border-b py-1">
					<span class="min-w-0 flex-1 truncate">{view.name}</span>
					<button
						type="button"
						class="btn"
						aria-label="Drop the view {view.name}"
						onclick={() => void drop(view.id)}>Drop</button
					>
				</li>
			{/each}
		</ul>
	{/if}
</Sheet>
