<script lang="ts">
	import { untrack } from 'svelte';
	import { callApi } from '../api';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import TextField from '../form/TextField.svelte';

	interface Project {
		id: string;
		version: number;
		name: string;
		region: string;
		dueDay: string | null;
		note: string;
	}

	interface Props {
		/** Absent where a new one is made. */
		project?: Project;
		/** Gets the id of what was saved. */
		onsaved: (id: string) => void;
	}

	let { project, onsaved }: Props = $props();
	const start = untrack(() => project);
	/** Made here, so that a repeat makes no second one. */
	const id = start?.id ?? crypto.randomUUID();
	const draft = new Draft(`project-${start?.id ?? 'new'}`, {
		name: start?.name ?? '',
		region: start?.region ?? '',
		dueDay: start?.dueDay ?? '',
		note: start?.note ?? ''
	});
	const saving = new Saving();

	async function save(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const { dueDay, ...rest } = $state.snapshot(draft.values);
		const body = {
			version: project?.version ?? 0,
			project: { ...rest, dueDay: dueDay.trim() || null }
		};
		const sent = $state.snapshot(draft.values);
		if (!(await saving.run(() => callApi('PUT', `/projects/${id}`, body)))) return;
		draft.savedAs(sent);
		onsaved(id);
	}
</script>

<form class="flex max-w-2xl flex-col gap-5" onsubmit={save} novalidate {@attach saving.form}>
	<SavingTrouble {saving} />
	<KeptTyping {draft} always />
	<TextField
		label="Name of the project"
		name="project.name"
		bind:value={draft.values.name}
		error={saving.errorAt('project.name')}
	/>
	<div class="grid gap-5 sm:grid-cols-2">
		<TextField
			label="Region"
			name="project.region"
			bind:value={draft.values.region}
			error={saving.errorAt('project.region')}
		/>
		<TextField
			label="Due"
			name="project.dueDay"
			type="date"
			hint="The day by which every hop of it is accepted"
			bind:value={draft.values.dueDay}
			error={saving.errorAt('project.dueDay')}
		/>
	</div>
	<TextField
		label="Note"
		name="project.note"
		bind:value={draft.values.note}
		error={saving.errorAt('project.note')}
	/>
	<button class="btn btn-main self-start" disabled={saving.busy}
		>{saving.busy ? 'Saving …' : 'Save the project'}</button
	>
</form>
