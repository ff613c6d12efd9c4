<script lang="ts">
	import { untrack } from 'svelte';
	import { ENDS, farEnd, type End } from '#core/ends';
	import { callApi } from '../api';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import { clockMinute } from '../timetable/dayForm';

	interface Props {
		hop: { id: string; sites: Record<End, string> };
		crews: readonly { id: string; name: string }[];
		/** As `2026-06-15`: what is proposed. */
		today: string;
		onassigned: () => void;
	}

	let { hop, crews, today, onassigned }: Props = $props();
	const draft = untrack(
		() =>
			new Draft(`assign-${hop.id}`, {
				...{ end: 'A', crewId: crews[0]?.id ?? '', day: today, at: '', note: '' }
			})
	);
	/** Made with the form, so that a repeat makes no second one. */
	let id = crypto.randomUUID();
	const saving = new Saving();
	const ends = $derived(ENDS.map((end) => ({ value: end, label: `${end}, ${hop.sites[end]}` })));
	const options = $derived(crews.map((crew) => ({ value: crew.id, label: crew.name })));

	async function assign(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const { at, ...rest } = $state.snapshot(draft.values);
		const fromMin = at.trim() === '' ? null : (clockMinute(at) ?? at);
		const path = `/hops/${hop.id}/assignments/${id}`;
		if (!(await saving.run(() => callApi('PUT', path, { ...rest, fromMin })))) return;
		id = crypto.randomUUID();
		draft.values.note = '';
		// The other end is what one thinks of next.
		draft.values.end = farEnd(rest.end as End);
		draft.savedAs($state.snapshot(draft.values));
		onassigned();
	}
</script>

<form class="flex flex-col gap-3" onsubmit={assign} novalidate {@attach saving.form}>
	<SavingTrouble {saving} />
	<KeptTyping {draft} />
	<SelectField
		label="End"
		name="end"
		options={ends}
		bind:value={draft.values.end}
		error={saving.errorAt('end')}
	/>
	<SelectField
		label="Crew"
		name="crewId"
		{options}
		bind:value={draft.values.crewId}
		error={saving.errorAt('crewId')}
	/>
	<div class="grid grid-cols-2 gap-3">
		<TextField
			label="Day"
			name="day"
			type="date"
			bind:value={draft.values.day}
			error={saving.errorAt('day')}
		/>
		<TextField
			label="To be there at"
			name="fromMin"
			hint="Empty: when it begins"
			bind:value={draft.values.at}
			error={saving.errorAt('fromMin')}
		/>
	</div>
	<TextField
		label="Note"
		name="note"
		hint="The key, whom to call at the gate"
		bind:value={draft.values.note}
		error={saving.errorAt('note')}
	/>
	<button class="btn btn-main" disabled={saving.busy}
		>{saving.busy ? 'Saving …' : `Put it at ${draft.values.end}`}</button
	>
</form>
