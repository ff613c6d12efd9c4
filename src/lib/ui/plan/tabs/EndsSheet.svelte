<script lang="ts">
	import { CONFIGURATION_RULES } from '#core/budget/configuration';
	import { CONFIGURATIONS, type ConfigurationKind } from '#core/budget/configurationKinds';
	import { ENDS } from '#core/ends';
	import TextField from '../../form/TextField.svelte';
	import Tick from '../../form/Tick.svelte';
	import PlantedFaults from '../PlantedFaults.svelte';
	import SelectField from '../../form/SelectField.svelte';
	import EndFields from '../EndFields.svelte';
	import ServicesList from '../ServicesList.svelte';
	import { usePlanEditor } from '../editor.svelte';

	const editor = usePlanEditor();
	const values = $derived(editor.draft.values);
	const kind = $derived(values.configuration.kind as ConfigurationKind);
	const rule = $derived(CONFIGURATION_RULES[kind]);
</script>

<div class="mb-5 grid items-end gap-x-6 gap-y-4 md:grid-cols-[minmax(0,1.4fr)_20rem_minmax(0,1fr)]">
	<TextField
		label="Name of the hop"
		name="name"
		bind:value={editor.draft.values.name}
		error={editor.problemAt('name')}
	/>
	<SelectField
		label="Configuration"
		name="plan.configuration.kind"
		bind:value={editor.draft.values.configuration.kind}
		options={CONFIGURATIONS.map((value) => ({ value, label: CONFIGURATION_RULES[value].name }))}
		error={editor.problemAt('plan.configuration.kind')}
	/>
	<p class="text-quiet pb-2 text-sm">
		{rule.radios}
		{rule.radios === 1 ? 'radio' : 'radios'} and {rule.dishes}
		{rule.dishes === 1 ? 'dish' : 'dishes'} at each end{rule.coChannelDual
			? '; both polarizations on one channel'
			: ''}.
	</p>
</div>
<div class="mb-6 flex flex-wrap items-end gap-x-6 gap-y-3">
	<Tick bind:checked={editor.draft.values.practice}>
		<span>
			Practice hop, with a simulated meter
			{#if editor.problemAt('practice')}
				<span class="trouble block text-sm font-semibold" role="alert">
					{editor.problemAt('practice')}
				</span>
			{/if}
		</span>
	</Tick>
	{#if values.practice}
		<PlantedFaults
			bind:value={editor.draft.values.plantedFault}
			configuration={kind}
			error={editor.problemAt('plantedFault')}
		/>
	{/if}
</div>
<div class="grid gap-x-10 gap-y-8 md:grid-cols-2">
	{#each ENDS as end (end)}
		<EndFields
			{end}
			bind:values={editor.draft.values.ends[end]}
			parts={editor.parts}
			configuration={kind}
			site={editor.sites[end]}
			polarization={values.polarization as 'vertical' | 'horizontal'}
			errorAt={editor.problemAt}
			onpick={(site) => editor.pickSite(end, site)}
		/>
	{/each}
</div>
<ServicesList />
