<script lang="ts">
	import { untrack } from 'svelte';
	import { callApi } from '../api';
	import { Draft } from './draft.svelte';
	import Notice from './Notice.svelte';
	import { Saving } from './saving.svelte';
	import TextField from './TextField.svelte';

	interface SavedSite {
		id: string;
		name: string;
		latitudeDeg: number;
		longitudeDeg: number;
		groundAmslM: number;
		notes: string;
		version: number;
	}

	interface Props {
		site?: SavedSite;
		onsaved: () => void;
	}

	let { site, onsaved }: Props = $props();
	const start = untrack(() => site);
	const draft = new Draft(`site-${start ? `${start.id}-${start.version}` : 'new'}`, {
		name: start?.name ?? '',
		latitudeDeg: start ? String(start.latitudeDeg) : '',
		longitudeDeg: start ? String(start.longitudeDeg) : '',
		groundAmslM: start ? String(start.groundAmslM) : '',
		notes: start?.notes ?? ''
	});
	const saving = new Saving();

	async function save(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const body = { ...draft.values, ...(site ? { version: site.version } : {}) };
		const saved = await saving.run(async () => {
			await (site ? callApi('PUT', `/sites/${site.id}`, body) : callApi('POST', '/sites', body));
		});
		if (!saved) return;
		draft.clear();
		onsaved();
	}
</script>

<form class="flex max-w-2xl flex-col gap-5" onsubmit={save} novalidate>
	{#if saving.message}<Notice kind="trouble">{saving.message}</Notice>{/if}
	{#if draft.restored}
		<Notice>What you typed earlier and did not save was put back.</Notice>
	{/if}
	<TextField
		label="Name"
		name="name"
		bind:value={draft.values.name}
		error={saving.errorAt('name')}
	/>
	<div class="grid gap-5 sm:grid-cols-3">
		<TextField
			label="Latitude"
			unit="° north positive"
			name="latitudeDeg"
			numeric
			bind:value={draft.values.latitudeDeg}
			error={saving.errorAt('latitudeDeg')}
		/>
		<TextField
			label="Longitude"
			unit="° east positive"
			name="longitudeDeg"
			numeric
			bind:value={draft.values.longitudeDeg}
			error={saving.errorAt('longitudeDeg')}
		/>
		<TextField
			label="Ground height"
			unit="m a.m.s.l."
			name="groundAmslM"
			numeric
			bind:value={draft.values.groundAmslM}
			error={saving.errorAt('groundAmslM')}
		/>
	</div>
	<TextField
		label="Notes"
		name="notes"
		hint="Access, hazards, where the mast stands: printed on the site sheet."
		bind:value={draft.values.notes}
		error={saving.errorAt('notes')}
	/>
	<div>
		<button class="btn btn-main" disabled={saving.busy}
			>{saving.busy ? 'Saving …' : 'Save the site'}</button
		>
	</div>
</form>
