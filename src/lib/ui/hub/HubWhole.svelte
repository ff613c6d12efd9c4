<script lang="ts">
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import type { PickedSite } from '../plan/planForm';
	import SitePicker from '../plan/SitePicker.svelte';
	import type { HubForm } from './hubForm';

	interface Props {
		form: HubForm;
		site: PickedSite | undefined;
		problemAt: (field: string) => string | undefined;
		onpick: (site: PickedSite) => void;
	}

	let { form = $bindable(), site, problemAt, onpick }: Props = $props();
	const NUMBERS = [
		['eirpLimitDbm', 'EIRP limit there', 'dBm'],
		['rainRateMmH', 'Rain rate', 'mm/h, 0.01 %'],
		['targetPercent', 'Availability wanted', '%'],
		['reserveDb', 'Reserve in clear air', 'dB']
	] as const;
</script>

<div class="grid gap-4 pt-2 sm:grid-cols-2">
	<TextField label="Name of the hub" name="name" bind:value={form.name} error={problemAt('name')} />
	<SitePicker label="Site" name="siteId" {site} error={problemAt('siteId')} {onpick} />
	<TextField
		label="Channel width"
		unit="MHz"
		numeric
		name="channelWidthMhz"
		bind:value={form.channelWidthMhz}
		error={problemAt('channelWidthMhz')}
	/>
	<SelectField
		label="Polarization"
		name="polarization"
		bind:value={form.polarization}
		options={['vertical', 'horizontal'].map((value) => ({ value, label: value }))}
	/>
	{#each NUMBERS as [name, label, unit] (name)}
		<TextField {label} {unit} {name} numeric bind:value={form[name]} error={problemAt(name)} />
	{/each}
	<TextField
		label="Where the limit stands"
		name="limitSource"
		bind:value={form.limitSource}
		error={problemAt('limitSource')}
	/>
</div>
