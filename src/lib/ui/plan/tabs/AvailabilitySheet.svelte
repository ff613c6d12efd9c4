<script lang="ts">
	import { measure } from '../../units.svelte';
	import { availabilityText } from '#core/budget/availability';
	import type { ConfigurationKind } from '#core/budget/configurationKinds';
	import { ENDS, farEnd } from '#core/ends';
	import { fixed } from '../../format';
	import SelectField from '../../form/SelectField.svelte';
	import { usePlanEditor } from '../editor.svelte';
	import Fold from '../../form/Fold.svelte';
	import ClimateStudy from '../ClimateStudy.svelte';
	import OutageAreas from '../OutageAreas.svelte';
	import OutageChart from '../OutageChart.svelte';
	import PlanText from '../PlanText.svelte';
	import SpacingCurve from '../SpacingCurve.svelte';
	import WhatIf from '../WhatIf.svelte';

	const editor = usePlanEditor();
	const percent = (value: number | null): string =>
		value === null
			? '—'
			: value === 0
				? '0'
				: value < 0.0001
					? value.toExponential(1)
					: fixed(value, 4);
	function minutes(value: number): string {
		if (value >= 1440) return `${fixed(value / 1440, 1)} days`;
		return value >= 10 ? `${fixed(value, 0)} min` : `${fixed(value, 1)} min`;
	}
	const kind = $derived(editor.draft.values.configuration.kind as ConfigurationKind);
	let shownCarrier = $state(1);
	const RAIN_SIGN = { within: '', extrapolated: '≈ ', less: '< ', more: '> ' } as const;
	const OUTAGE_SIGN = { none: '', better: '< ', worse: '> ' } as const;
	const COMBINED = {
		all: 'with every carrier up',
		any: 'with at least one carrier up',
		capacity: 'by what each carrier has'
	} as const;
	/** The modulation wanted of a carrier. */
	const wantedOf = (number: number): string =>
		(editor.plan?.carriers.find((carrier) => carrier.number === number)?.role === 'second-band' &&
			editor.draft.values.configuration.secondModulation) ||
		editor.draft.values.operatingModulation;
</script>

<div class="grid gap-4 sm:grid-cols-3 lg:grid-cols-6">
	<PlanText
		label="Asked for"
		unit="% of the year"
		numeric
		field="requiredAvailabilityPercent"
		bind:value={editor.draft.values.requiredAvailabilityPercent}
	/>
	{#if kind === 'dual-polarized' || kind === 'four-radios' || kind === 'two-bands'}
		<SelectField
			label="Available when"
			name="plan.configuration.combine"
			bind:value={editor.draft.values.configuration.combine}
			options={[
				{ value: 'all', label: 'all are up' },
				{ value: 'any', label: 'one is up' },
				{ value: 'capacity', label: 'by capacity' }
			]}
		/>
	{/if}
	<SelectField
		label="Directions counted"
		name="plan.directionRule"
		bind:value={editor.draft.values.directionRule}
		options={[
			{ value: 'worse', label: 'worse' },
			{ value: 'either', label: 'both' }
		]}
	/>
	<SelectField
		label="Multipath method"
		name="plan.multipathMethod"
		bind:value={editor.draft.values.multipathMethod}
		options={[
			{ value: 'quick', label: 'quick' },
			{ value: 'detailed', label: 'detailed' }
		]}
	/>
	<PlanText
		label="Air pressure"
		unit="hPa, dry"
		numeric
		field="dryAirPressureHpa"
		bind:value={editor.draft.values.dryAirPressureHpa}
	/>
	<PlanText
		label="Temperature"
		unit="°C"
		numeric
		field="temperatureC"
		bind:value={editor.draft.values.temperatureC}
	/>
	<PlanText
		label="Water vapour"
		unit="g/m³"
		numeric
		field="waterVapourGM3"
		bind:value={editor.draft.values.waterVapourGM3}
	/>
	<PlanText
		label="Additional loss"
		unit="dB"
		numeric
		field="additionalLossDb"
		bind:value={editor.draft.values.additionalLossDb}
	/>
	<PlanText
		label="ATPC range"
		unit="dB"
		numeric
		field="powerControlDb"
		bind:value={editor.draft.values.powerControlDb}
	/>
</div>

{#if editor.plan && editor.input}
	{@const { availability, carriers } = editor.plan}
	{@const { climate } = editor.input}
	<p class="mt-5 text-lg" data-testid="availability">
		{#if !availability.holds}<span class="trouble font-bold">▲ </span>{/if}
		<strong class="num">{availabilityText(availability.achievedPercent, availability.bound)}</strong
		>
		{availability.combined
			? COMBINED[availability.combined.rule]
			: `in ${editor.draft.values.operatingModulation}`}, {availability.byDirection?.rule ===
		'either'
			? 'both directions at once'
			: 'the worse direction'}; asked for
		<span class="num">{availability.requiredPercent} %</span>.
	</p>
	{#if availability.byDirection}
		{@const { worse, either } = availability.byDirection}
		<p class="text-quiet">
			The worse direction <span class="num">{availabilityText(worse.percent, worse.bound)}</span>,
			both directions at once
			<span class="num">{availabilityText(either.percent, either.bound)}</span>.
		</p>
	{/if}
	{#if availability.combined}
		{@const { all, any, capacity } = availability.combined}
		<p class="text-quiet">
			Every carrier <span class="num">{availabilityText(all)}</span>, at least one
			<span class="num">{availabilityText(any)}</span>, by capacity
			<span class="num">{availabilityText(capacity)}</span>.
		</p>
	{/if}
	{#if availability.capacity?.length}
		<p class="mt-2">
			Capacity{availability.combined ? ' of all carriers' : ''}:
			{#each availability.capacity as share, i (share.availabilityPercent)}{i ? ', ' : ''}<span
					class="num">{fixed(share.mbitS, 0)} Mbit/s</span
				>
				for
				<span class="num">{share.availabilityPercent} %</span>{/each} of the year.
		</p>
	{/if}
	<WhatIf />
	{#if carriers.length > 1}
		<div class="mt-5 flex flex-wrap gap-2" role="group" aria-label="Carrier shown">
			{#each carriers as carrier (carrier.number)}
				<button
					type="button"
					class="btn {shownCarrier === carrier.number ? 'btn-main' : ''}"
					aria-pressed={shownCarrier === carrier.number}
					onclick={() => (shownCarrier = carrier.number)}>{carrier.number} · {carrier.name}</button
				>
			{/each}
		</div>
	{/if}
	<OutageAreas {availability} carrier={shownCarrier} modulation={wantedOf(shownCarrier)} />
	<OutageChart {availability} carrier={shownCarrier} />
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<div class="mt-4 overflow-x-auto" role="region" aria-label="Outage, table" tabindex="0">
		<table class="w-full min-w-[50rem] text-[0.93rem]">
			<caption class="sr-only">Outage by cause, direction and modulation</caption>
			<thead>
				<tr class="border-ink border-b-2 text-right">
					<th class="py-1.5 text-left align-bottom">Direction, modulation</th>
					<th class="py-1.5 pl-3 align-bottom">Mbit/s</th>
					<th class="py-1.5 pl-3 align-bottom">margin,<br />dB</th>
					<th class="py-1.5 pl-3 align-bottom">flat fades,<br />%</th>
					<th class="py-1.5 pl-3 align-bottom">selective,<br />%</th>
					<th class="py-1.5 pl-3 align-bottom">rain,<br />%</th>
					<th class="py-1.5 pl-3 align-bottom">XPD,<br />%</th>
					<th class="py-1.5 pl-3 align-bottom">available,<br />%</th>
					<th class="py-1.5 pl-3 align-bottom">out,<br />a year</th>
				</tr>
			</thead>
			<tbody>
				{#each ENDS as end (end)}
					{#each availability.directions.filter((d) => d.receivingEnd === end && d.carrierNumber === shownCarrier) as d (d.modulation)}
						{@const wanted = d.modulation === wantedOf(shownCarrier)}
						<tr class="border-line border-b {wanted ? 'bg-card font-bold' : ''}">
							<th class="py-1.5 text-left {wanted ? 'font-bold' : 'font-normal'}" scope="row"
								><span class="end-{end} text-end-own font-bold">{farEnd(end)} to {end}</span>
								{d.modulation}</th
							>
							<td class="num py-1.5 pl-3 text-right">{fixed(d.capacityMbitS, 0)}</td>
							<td class="num py-1.5 pl-3 text-right">{fixed(d.marginDb, 1)}</td>
							<td class="num py-1.5 pl-3 text-right">{percent(d.multipathPercent)}</td>
							<td class="num py-1.5 pl-3 text-right">{percent(d.selectivePercent ?? null)}</td>
							<td class="num py-1.5 pl-3 text-right"
								>{RAIN_SIGN[d.rainRange]}{percent(d.rainPercent)}</td
							>
							<td class="num py-1.5 pl-3 text-right"
								>{d.clearAirCrossPolarPercent === null
									? '—'
									: `${percent(d.clearAirCrossPolarPercent)} / ${percent(d.rainCrossPolarPercent)}`}</td
							>
							<td class="num py-1.5 pl-3 text-right"
								>{availabilityText(d.availabilityPercent, d.bound).replace(' %', '')}</td
							>
							<td class="num py-1.5 pl-3 text-right"
								>{OUTAGE_SIGN[d.bound ?? 'none']}{minutes(d.outageMinutesPerYear)}</td
							>
						</tr>
					{/each}
				{/each}
			</tbody>
		</table>
	</div>
	<Fold title="What the climate values change" class="mt-4"><ClimateStudy /></Fold>
	{#if kind === 'space-diversity'}
		<Fold title="How far apart the two dishes should stand"><SpacingCurve /></Fold>
	{/if}
	<div class="text-quiet mt-3 flex max-w-prose flex-col gap-1 text-sm">
		<p>
			Multipath by the {availability.method} form of ITU-R P.530-17, the last edition that works with
			dN1: p0 {fixed(availability.occurrencePercent, 3)} % of the worst month,
			{fixed(100 * availability.annualShare, 0)} % of it in the mean year{availability.roughnessM ===
			null
				? ''
				: `, terrain roughness ${measure(availability.roughnessM, 'm', 0)}`}.
			{#if availability.diversity}Diversity improves multipath {fixed(
					availability.diversity.factor,
					1
				)} times.{/if}
		</p>
		<p>
			Rain {climate.rainRate001MmH} mm/h ({climate.rainRateSource}); dN1 {climate.gradientDn1} N/km ({climate.gradientSource});
			low k {climate.lowK} ({climate.lowKSource}). Change them at the sites.
		</p>
		<p>Not modelled: {availability.notModelled.join('; ')}.</p>
	</div>
{/if}
