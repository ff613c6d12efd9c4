<script lang="ts">
	import type { Catalogue } from '$core/catalogue/parts';
	import type { End } from '$core/ends';
	import type { Snippet } from 'svelte';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import type { EndForm } from './planForm';

	interface Props {
		end: End;
		values: EndForm;
		parts: Catalogue;
		errorAt: (field: string) => string | undefined;
		site: Snippet;
	}

	let { end, values = $bindable(), parts, errorAt, site }: Props = $props();
	const at = (field: string): string => `plan.ends.${end}.${field}`;
	const options = (list: readonly { code: string; name: string }[]) =>
		list.map((part) => ({ value: part.code, label: `${part.code} · ${part.name}` }));
	const radio = $derived(parts.radios.find((part) => part.code === values.radioCode));
	const direct = $derived(
		parts.feeders.find((part) => part.code === values.feederCode)?.kind === 'direct'
	);
</script>

<fieldset class="end-{end} border-t-4 pt-3" style:border-color="var(--end)">
	<legend class="text-end-own float-left mb-3 text-2xl leading-none font-bold">{end}</legend>
	<div class="clear-both flex flex-col gap-4">
		{@render site()}
		<SelectField
			label="Radio at {end}"
			name={at('radioCode')}
			bind:value={values.radioCode}
			options={options(parts.radios)}
			error={errorAt(at('radioCode'))}
		/>
		<SelectField
			label="Dish at {end}"
			name={at('dishCode')}
			bind:value={values.dishCode}
			options={options(parts.dishes)}
			error={errorAt(at('dishCode'))}
		/>
		<SelectField
			label="Mount at {end}"
			name={at('mountCode')}
			bind:value={values.mountCode}
			options={options(parts.mounts)}
			error={errorAt(at('mountCode'))}
		/>
		<div class="grid gap-4 {direct ? '' : 'sm:grid-cols-[1fr_8rem]'}">
			<SelectField
				label="Feeder at {end}"
				name={at('feederCode')}
				bind:value={values.feederCode}
				options={options(parts.feeders)}
				error={errorAt(at('feederCode'))}
			/>
			{#if !direct}
				<TextField
					label="Length"
					unit="m"
					name={at('feederLengthM')}
					numeric
					bind:value={values.feederLengthM}
					error={errorAt(at('feederLengthM'))}
				/>
			{/if}
		</div>
		<div class="grid grid-cols-2 gap-4">
			<TextField
				label="Antenna height"
				unit="m a.g.l."
				name={at('antennaHeightAglM')}
				numeric
				bind:value={values.antennaHeightAglM}
				error={errorAt(at('antennaHeightAglM'))}
			/>
			<TextField
				label="Sends on"
				unit="GHz"
				name={at('transmitFrequencyGhz')}
				numeric
				bind:value={values.transmitFrequencyGhz}
				error={errorAt(at('transmitFrequencyGhz'))}
			/>
			<TextField
				label="Operating power"
				unit="dBm"
				name={at('transmitPowerDbm')}
				numeric
				bind:value={values.transmitPowerDbm}
				error={errorAt(at('transmitPowerDbm'))}
			/>
			<TextField
				label="Alignment power"
				unit="dBm"
				name={at('alignmentPowerDbm')}
				numeric
				bind:value={values.alignmentPowerDbm}
				error={errorAt(at('alignmentPowerDbm'))}
			/>
		</div>
		{#if radio}
			<p class="text-quiet -mt-2 text-sm">
				{radio.code} works from <span class="num">{radio.rangeGhz[0]}</span> to
				<span class="num">{radio.rangeGhz[1]}</span> GHz and aligns in
				{radio.alignmentState.modulation}.
			</p>
		{/if}
		<SelectField
			label="Dish stands on the"
			name={at('mountSide')}
			bind:value={values.mountSide}
			options={[
				{ value: 'left', label: 'left of the mast, seen from behind the dish' },
				{ value: 'right', label: 'right of the mast, seen from behind the dish' },
				{ value: 'centred', label: 'middle of the mast' }
			]}
			error={errorAt(at('mountSide'))}
		/>
		<TextField
			label="Landmark toward the far end"
			name={at('landmark')}
			bind:value={values.landmark}
			error={errorAt(at('landmark'))}
		/>
		<TextField
			label="Notes for the crew at {end}"
			name={at('siteNotes')}
			bind:value={values.siteNotes}
			error={errorAt(at('siteNotes'))}
		/>
	</div>
</fieldset>
