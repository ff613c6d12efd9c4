<script lang="ts">
	import { callApi } from '../api';
	import Pick from '../form/Pick.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';

	interface Props {
		hopIds: readonly string[];
		projects: readonly { id: string; name: string }[];
		ondone: () => void;
	}

	let { hopIds, projects, ondone }: Props = $props();
	let into = $state('');
	const saving = new Saving();
	const options = $derived([
		{ value: '', label: 'No project' },
		...projects.map(({ id, name }) => ({ value: id, label: name }))
	]);

	async function put(): Promise<void> {
		const body = { projectId: into || null, hopIds, dueDay: null };
		if (await saving.run(() => callApi('PUT', '/project-hops', body))) ondone();
	}
</script>

<form
	class="bg-card border-line my-2 flex flex-wrap items-center gap-3 rounded-lg border px-3 py-2"
	data-testid="put-into-project"
	onsubmit={(event) => {
		event.preventDefault();
		void put();
	}}
>
	<span
		><span class="num font-semibold">{hopIds.length}</span>
		{hopIds.length === 1 ? 'hop' : 'hops'} chosen: put into</span
	>
	<Pick fit label="Into which project" {options} bind:value={into} />
	<button class="btn btn-main" disabled={saving.busy}>{saving.busy ? 'Saving …' : 'Put'}</button>
	<SavingTrouble {saving} />
</form>
