<script lang="ts">
	import { Combobox } from 'bits-ui';
	import { callApi } from '../api';
	import type { PickedSite } from './planForm';

	interface Props {
		label: string;
		name: string;
		site: PickedSite | undefined;
		error?: string | undefined;
		onpick: (site: PickedSite) => void;
	}

	let { label, name, site, error, onpick }: Props = $props();
	const id = $derived(`field-${name}`);
	let found: PickedSite[] = $state([]);
	let typed: string | undefined = $state();
	let failed = $state(false);
	let open = $state(false);
	let latest = 0;

	async function search(q: string): Promise<void> {
		const mine = ++latest;
		try {
			const page = await callApi<{ rows: PickedSite[] }>(
				'GET',
				`/sites?q=${encodeURIComponent(q.slice(0, 80))}`
			);
			if (mine === latest) found = page.rows;
			failed = false;
		} catch {
			failed = true;
		}
	}

	function pick(value: string): void {
		const picked = found.find((row) => row.id === value);
		if (!picked) return;
		typed = undefined;
		onpick(picked);
	}
</script>

<div class="flex flex-col gap-1">
	<label for={id} class="text-[0.95rem] font-semibold">{label}</label>
	<Combobox.Root
		type="single"
		value={site?.id ?? ''}
		inputValue={typed ?? site?.name ?? ''}
		onValueChange={pick}
		bind:open
		onOpenChange={(nowOpen) => {
			if (!nowOpen) typed = undefined;
		}}
	>
		<Combobox.Input
			{id}
			{name}
			class="input"
			placeholder="Type a name"
			autocomplete="off"
			aria-invalid={error !== undefined}
			aria-describedby={error ? `${id}-error` : undefined}
			clearOnDeselect
			oninput={(event) => {
				typed = event.currentTarget.value;
				open = true;
				void search(typed);
			}}
			onclick={(event) => {
				event.currentTarget.select();
				if (!open) void search('');
				open = true;
			}}
		/>
		<Combobox.Portal>
			<Combobox.Content
				class="border-ink bg-card z-50 max-h-72 w-[var(--bits-combobox-anchor-width)] overflow-y-auto rounded-lg border-2 shadow-lg"
				sideOffset={4}
			>
				{#each found as row (row.id)}
					<Combobox.Item
						value={row.id}
						label={row.name}
						class="data-highlighted:bg-land flex min-h-12 cursor-pointer items-center px-3"
						>{row.name}</Combobox.Item
					>
				{:else}
					<p class="text-quiet px-3 py-3">
						{failed ? 'No connection to the server.' : 'No site is named like this.'}
					</p>
				{/each}
			</Combobox.Content>
		</Combobox.Portal>
	</Combobox.Root>
	{#if error}
		<p id="{id}-error" class="trouble flex gap-1.5 text-sm font-semibold">
			<span aria-hidden="true">▲</span>{error}
		</p>
	{/if}
</div>
