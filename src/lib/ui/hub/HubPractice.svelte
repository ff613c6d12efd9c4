<script lang="ts">
	import { untrack } from 'svelte';
	import { LINK_CAUSE_NAMES, LINK_CAUSES, type LinkCause } from '#core/bringup/linkCauses';
	import { callApi } from '../api';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import SelectField from '../form/SelectField.svelte';
	import Tick from '../form/Tick.svelte';

	interface Planted {
		terminal: string;
		cause: LinkCause;
	}
	interface Props {
		hub: { id: string; practice: boolean; planted: readonly Planted[] };
		terminals: readonly { id: string; name: string }[];
		onsaved: () => void;
	}

	let { hub, terminals, onsaved }: Props = $props();
	const draft = untrack(
		() =>
			new Draft(`hub-practice-${hub.id}`, {
				practice: hub.practice,
				planted: hub.planted.map((one) => ({ ...one })) as Planted[]
			})
	);
	const saving = new Saving();
	const free = $derived(
		terminals.filter(({ id }) => !draft.values.planted.some(({ terminal }) => terminal === id))
	);

	function plant(): void {
		const [first] = free;
		if (first) draft.values.planted.push({ terminal: first.id, cause: 'terminal-off' });
	}
	async function save(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const sent = $state.snapshot(draft.values);
		const done = await saving.run(() =>
			callApi('PUT', `/hubs/${hub.id}/practice`, {
				practice: sent.practice,
				planted: sent.practice ? sent.planted : []
			}).then(() => undefined)
		);
		if (!done) return;
		draft.savedAs(sent);
		onsaved();
	}
</script>

<form
	class="flex flex-col gap-3 pt-2"
	onsubmit={save}
	{@attach saving.form}
	data-testid="hub-practice"
>
	<SavingTrouble {saving} elsewhere={saving.problems} />
	<KeptTyping {draft} />
	<Tick bind:checked={draft.values.practice}
		>For practice: something stands in for radios and air</Tick
	>
	{#if draft.values.practice}
		<p class="text-quiet text-sm">
			Troubles stand there until they are set right. Crews do not see this list.
		</p>
		{#each draft.values.planted as planted, i (i)}
			<div class="flex flex-wrap items-end gap-3">
				<div class="min-w-40 flex-1">
					<SelectField
						label="Terminal"
						name="planted.{i}.terminal"
						bind:value={planted.terminal}
						options={terminals.map(({ id, name }) => ({ value: id, label: name }))}
					/>
				</div>
				<div class="min-w-52 flex-1">
					<SelectField
						label="Trouble"
						name="planted.{i}.cause"
						bind:value={() => planted.cause, (cause) => (planted.cause = cause as LinkCause)}
						options={LINK_CAUSE_NAMES.map((value) => ({ value, label: LINK_CAUSES[value].name }))}
					/>
				</div>
				<button
					type="button"
					class="min-h-11 text-sm underline"
					onclick={() => draft.values.planted.splice(i, 1)}>Take it away</button
				>
			</div>
		{/each}
		<button type="button" class="btn self-start" disabled={free.length === 0} onclick={plant}
			>Plant a trouble</button
		>
	{/if}
	<button class="btn self-start" disabled={saving.busy || !draft.changed}
		>{saving.busy ? 'Saving …' : 'Save what it is for'}</button
	>
</form>
