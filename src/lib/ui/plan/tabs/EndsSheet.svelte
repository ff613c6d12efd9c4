<script lang="ts">
	import { CONFIGURATION_RULES } from '#core/budget/configuration';
	import { CONFIGURATIONS, type ConfigurationKind } from '#core/budget/configurationKinds';
	import { ENDS } from '#core/ends';
	import SelectField from '../../form/SelectField.svelte';
	import EndFields from '../EndFields.svelte';
	import ServicesList from '../ServicesList.svelte';
	import { usePlanEditor } from '../editor.svelte';

	const editor = usePlanEditor();
	const values = $derived(editor.draft.values);
	const kind = $derived(values.configuration.kind as ConfigurationKind);
	const rule = $derived(CONFIGURATION_RULES[kind]);
</script>

<div class="mb-6 grid items-end gap-4 sm:grid-cols-[20rem_1fr]">
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
