<script lang="ts">
	import { CONFIGURATION_RULES } from '#core/budget/configuration';
	import type { ConfigurationKind } from '#core/budget/configurationKinds';
	import { ENDS, farEnd, type End } from '#core/ends';
	import { sideOf, subBandUnits, unitForPair } from '#core/frequency/subBand';
	import { fixed } from '../../format';
	import SelectField from '../../form/SelectField.svelte';
	import { usePlanEditor } from '../editor.svelte';
	import Interference from '../Interference.svelte';
	import PlanText from '../PlanText.svelte';

	const editor = usePlanEditor();
	const values = $derived(editor.draft.values);
	const { parts } = editor;
	const kind = $derived(values.configuration.kind as ConfigurationKind);
	const rule = $derived(CONFIGURATION_RULES[kind]);
	const widths = [...new Set(parts.radios.flatMap((radio) => radio.channelWidthsMhz))].sort(
		(p, q) => p - q
	);
	const modulations = [
		...new Set(parts.radios.flatMap((radio) => radio.modulations.map((m) => m.name)))
	];
	const spacingMhz = $derived(
		Math.abs(
			Number(values.ends.A.transmitFrequencyGhz) - Number(values.ends.B.transmitFrequencyGhz)
		) * 1000
	);
	const radioAt = (end: End) =>
		parts.radios.find((part) => part.code === values.ends[end].radioCode);
	const sideAt = (end: End): string =>
		sideOf(
			Number(values.ends[end].transmitFrequencyGhz),
			Number(values.ends[farEnd(end)].transmitFrequencyGhz)
		);

	/** Takes the unit that holds the pair, where the radio is built in one. */
	function fitUnits(): void {
		for (const end of ENDS) {
			const radio = radioAt(end);
			if (!radio) continue;
			const unit = unitForPair(
				radio,
				Number(values.ends[end].transmitFrequencyGhz),
				Number(values.ends[farEnd(end)].transmitFrequencyGhz),
				Number(values.channelWidthMhz)
			);
			editor.draft.values.ends[end].subBandUnit = unit?.unit ?? '';
		}
	}

	/** High and low change ends: the remedy when a site would send both. */
	function swapPair(): void {
		const { A, B } = editor.draft.values.ends;
		[A.transmitFrequencyGhz, B.transmitFrequencyGhz] = [
			B.transmitFrequencyGhz,
			A.transmitFrequencyGhz
		];
		[A.secondTransmitFrequencyGhz, B.secondTransmitFrequencyGhz] = [
			B.secondTransmitFrequencyGhz,
			A.secondTransmitFrequencyGhz
		];
		[A.subBandUnit, B.subBandUnit] = [B.subBandUnit, A.subBandUnit];
	}
</script>

<div class="grid gap-4 sm:grid-cols-3 lg:grid-cols-5">
	<SelectField
		label="Polarization"
		name="plan.polarization"
		bind:value={editor.draft.values.polarization}
		options={[
			{ value: 'vertical', label: 'vertical' },
			{ value: 'horizontal', label: 'horizontal' }
		]}
		error={editor.problemAt('plan.polarization')}
	/>
	<SelectField
		label="Channel width"
		unit="MHz"
		name="plan.channelWidthMhz"
		bind:value={editor.draft.values.channelWidthMhz}
		options={widths.map((width) => ({ value: String(width), label: String(width) }))}
		error={editor.problemAt('plan.channelWidthMhz')}
	/>
	<SelectField
		label="Operating modulation"
		name="plan.operatingModulation"
		bind:value={editor.draft.values.operatingModulation}
		options={modulations.map((name) => ({ value: name, label: name }))}
		error={editor.problemAt('plan.operatingModulation')}
	/>
	<PlanText
		label="Tolerance"
		unit="± dB"
		field="toleranceDb"
		numeric
		bind:value={editor.draft.values.toleranceDb}
	/>
	<PlanText
		label="Licensed EIRP"
		unit="dBm, empty: none"
		field="eirpLimitDbm"
		numeric
		bind:value={editor.draft.values.eirpLimitDbm}
	/>
	{#if kind === 'two-bands'}
		<SelectField
			label="Channel of the second band"
			unit="MHz"
			name="plan.configuration.secondChannelWidthMhz"
			bind:value={editor.draft.values.configuration.secondChannelWidthMhz}
			options={[
				{ value: '', label: 'as the first' },
				...widths.map((width) => ({ value: String(width), label: String(width) }))
			]}
			error={editor.problemAt('plan.configuration.secondChannelWidthMhz')}
		/>
		<SelectField
			label="Modulation of the second band"
			name="plan.configuration.secondModulation"
			bind:value={editor.draft.values.configuration.secondModulation}
			options={[
				{ value: '', label: 'as the first' },
				...modulations.map((name) => ({ value: name, label: name }))
			]}
			error={editor.problemAt('plan.configuration.secondModulation')}
		/>
	{/if}
	{#if rule.coChannelDual}
		<PlanText
			label="XPIC improvement"
			unit="dB, 0: none"
			field="configuration.cancellerDb"
			numeric
			bind:value={editor.draft.values.configuration.cancellerDb}
		/>
	{/if}
	<SelectField
		label="First to move"
		name="plan.firstToMove"
		bind:value={editor.draft.values.firstToMove}
		options={[
			{ value: 'A', label: 'End A' },
			{ value: 'B', label: 'End B' }
		]}
		error={editor.problemAt('plan.firstToMove')}
	/>
</div>

<p class="mt-6 mb-3 flex flex-wrap items-center gap-x-5 gap-y-2">
	<span>
		The pair is <strong class="num">{fixed(spacingMhz, 1)} MHz</strong> apart; A sends
		<strong>{sideAt('A')}</strong>, B sends <strong>{sideAt('B')}</strong>.
	</span>
	<button type="button" class="btn" onclick={swapPair}>Swap high and low</button>
	<button type="button" class="btn" onclick={fitUnits}>Take the units that fit</button>
</p>
<div class="grid gap-x-10 gap-y-8 md:grid-cols-2">
	{#each ENDS as end (end)}
		{@const at = (field: string): string => `plan.ends.${end}.${field}`}
		{@const radio = radioAt(end)}
		<fieldset class="end-{end} border-t-4 pt-3" style:border-color="var(--end)">
			<legend class="text-end-own float-left mb-3 text-2xl leading-none font-bold">{end}</legend>
			<div class="clear-both grid grid-cols-2 gap-4">
				<PlanText
					label="Sends on"
					unit="GHz"
					field="ends.{end}.transmitFrequencyGhz"
					numeric
					bind:value={editor.draft.values.ends[end].transmitFrequencyGhz}
				/>
				<SelectField
					label="Sub-band unit at {end}"
					name={at('subBandUnit')}
					bind:value={editor.draft.values.ends[end].subBandUnit}
					options={[
						{ value: '', label: 'not said' },
						...(radio ? subBandUnits(radio) : []).map((unit) => ({
							value: unit.unit,
							label: `${unit.unit}, sends ${unit.transmitGhz.join('–')}`
						}))
					]}
					error={editor.problemAt(at('subBandUnit'))}
				/>
				{#if rule.secondPair}
					<PlanText
						label="Second, sends on"
						unit="GHz"
						field="ends.{end}.secondTransmitFrequencyGhz"
						numeric
						bind:value={editor.draft.values.ends[end].secondTransmitFrequencyGhz}
					/>
				{/if}
				{#if kind === 'two-bands'}
					<PlanText
						label="Second power"
						unit="dBm"
						field="ends.{end}.secondPowerDbm"
						numeric
						bind:value={editor.draft.values.ends[end].secondPowerDbm}
					/>
				{/if}
				<PlanText
					label="Operating power"
					unit="dBm"
					field="ends.{end}.transmitPowerDbm"
					numeric
					bind:value={editor.draft.values.ends[end].transmitPowerDbm}
				/>
				<PlanText
					label="Alignment power"
					unit="dBm"
					field="ends.{end}.alignmentPowerDbm"
					numeric
					bind:value={editor.draft.values.ends[end].alignmentPowerDbm}
				/>
				<PlanText
					label="Interference at {end}"
					unit="dBm"
					field="ends.{end}.interferenceDbm"
					numeric
					bind:value={editor.draft.values.ends[end].interferenceDbm}
				/>
				{#if rule.secondPair}
					<PlanText
						label="Second, interference"
						unit="dBm"
						field="ends.{end}.secondInterferenceDbm"
						numeric
						bind:value={editor.draft.values.ends[end].secondInterferenceDbm}
					/>
				{/if}
			</div>
		</fieldset>
	{/each}
</div>
<section class="mt-8" aria-labelledby="network-title">
	<h2 id="network-title" class="mb-2 text-base! font-bold">Interference inside the network</h2>
	<Interference />
</section>
