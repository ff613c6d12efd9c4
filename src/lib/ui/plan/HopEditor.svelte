<script lang="ts">
	import type { Catalogue } from '$core/catalogue/parts';
	import { ENDS, type End } from '$core/ends';
	import { untrack } from 'svelte';
	import { callApi } from '../api';
	import { Draft } from '../form/draft.svelte';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import type { LivePlan } from './compute';
	import EndFields from './EndFields.svelte';
	import PlanFigures from './PlanFigures.svelte';
	import {
		emptyHopForm,
		hopFormOf,
		hopInputOf,
		type HopForm,
		type PickedSite,
		type SavedHop
	} from './planForm';
	import SitePicker from './SitePicker.svelte';

	interface Props {
		hop?: SavedHop;
		parts: Catalogue;
		today: string;
		onsaved: (hop: SavedHop) => void;
		/** Told whenever the form differs from what is saved. */
		onchange?: (unsaved: boolean) => void;
	}

	let { hop, parts, today, onsaved, onchange }: Props = $props();
	const start = untrack(() => hop);
	const savedForm: HopForm = start ? hopFormOf(start) : emptyHopForm(untrack(() => today));
	const draft = new Draft(`hop-${start ? `${start.id}-${start.version}` : 'new'}`, savedForm);
	let sites: Record<End, PickedSite | undefined> = $state({
		A: start?.sites.A,
		B: start?.sites.B
	});
	const saving = new Saving();
	const errorAt = (field: string): string | undefined => saving.errorAt(field);
	let savedText = $state(JSON.stringify(savedForm));
	const unsaved = $derived(JSON.stringify(draft.values) !== savedText);
	$effect(() => onchange?.(unsaved));

	// A restored draft knows its sites by id only.
	$effect(() => {
		for (const end of ENDS) {
			const id = draft.values[end === 'A' ? 'siteAId' : 'siteBId'];
			if (id && untrack(() => sites[end]?.id) !== id) {
				void callApi<PickedSite>('GET', `/sites/${id}`).then(
					(site) => (sites[end] = site),
					() => undefined
				);
			}
		}
	});

	let compute: typeof import('./compute').livePlan | undefined = $state.raw();
	void import('./compute').then((loaded) => (compute = loaded.livePlan));
	const live: LivePlan | undefined = $derived(compute?.(draft.values, sites, parts));
	const findings = $derived(
		live?.kind === 'plan' ? live.plan.findings : live?.kind === 'impossible' ? live.findings : []
	);
	const widths = $derived(
		[...new Set(parts.radios.flatMap((radio) => radio.channelWidthsMhz))].sort((p, q) => p - q)
	);
	const modulations = $derived([
		...new Set(parts.radios.flatMap((radio) => radio.modulations.map((m) => m.name)))
	]);

	/** A finding of the live plan stands at its field until the server says otherwise. */
	const problemAt = (field: string): string | undefined =>
		errorAt(field) ??
		findings.find((finding) => `plan.${finding.field}` === field && finding.severity === 'error')
			?.message;

	async function save(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const sent = JSON.stringify(draft.values);
		let answer: SavedHop | undefined;
		const saved = await saving.run(async () => {
			const body = hopInputOf(draft.values, hop?.version);
			answer = hop
				? await callApi<SavedHop>('PUT', `/hops/${hop.id}`, body)
				: await callApi<SavedHop>('POST', '/hops', body);
		});
		if (!saved || !answer) return;
		savedText = sent;
		draft.clear();
		onsaved(answer);
	}
</script>

<form class="flex flex-col gap-7" onsubmit={save} novalidate>
	{#if draft.restored}
		<Notice>What you typed earlier and did not save was put back.</Notice>
	{/if}
	<div class="grid gap-4 sm:grid-cols-2 lg:grid-cols-4">
		<div class="sm:col-span-2">
			<TextField
				label="Name of the hop"
				name="name"
				bind:value={draft.values.name}
				error={errorAt('name')}
			/>
		</div>
		<TextField
			label="Day of the work"
			name="plan.workDate"
			type="date"
			bind:value={draft.values.workDate}
			error={problemAt('plan.workDate')}
		/>
		<SelectField
			label="Polarization"
			name="plan.polarization"
			bind:value={draft.values.polarization}
			options={[
				{ value: 'vertical', label: 'vertical' },
				{ value: 'horizontal', label: 'horizontal' }
			]}
			error={problemAt('plan.polarization')}
		/>
		<SelectField
			label="Channel width"
			unit="MHz"
			name="plan.channelWidthMhz"
			bind:value={draft.values.channelWidthMhz}
			options={widths.map((width) => ({ value: String(width), label: String(width) }))}
			error={problemAt('plan.channelWidthMhz')}
		/>
		<SelectField
			label="Operating modulation"
			name="plan.operatingModulation"
			bind:value={draft.values.operatingModulation}
			options={modulations.map((name) => ({ value: name, label: name }))}
			error={problemAt('plan.operatingModulation')}
		/>
		<TextField
			label="Tolerance"
			unit="± dB"
			name="plan.toleranceDb"
			numeric
			bind:value={draft.values.toleranceDb}
			error={problemAt('plan.toleranceDb')}
		/>
		<SelectField
			label="First to move"
			name="plan.firstToMove"
			bind:value={draft.values.firstToMove}
			options={[
				{ value: 'A', label: 'End A' },
				{ value: 'B', label: 'End B' }
			]}
			error={problemAt('plan.firstToMove')}
		/>
	</div>

	<div class="grid gap-x-10 gap-y-8 md:grid-cols-2">
		{#each ENDS as end (end)}
			<EndFields {end} bind:values={draft.values.ends[end]} {parts} errorAt={problemAt}>
				{#snippet site()}
					<SitePicker
						label="Site {end}"
						name={end === 'A' ? 'siteAId' : 'siteBId'}
						site={sites[end]}
						error={errorAt(end === 'A' ? 'siteAId' : 'siteBId') ??
							problemAt(`plan.ends.${end}.siteId`)}
						onpick={(site) => {
							sites[end] = site;
							draft.values[end === 'A' ? 'siteAId' : 'siteBId'] = site.id;
						}}
					/>
				{/snippet}
			</EndFields>
		{/each}
	</div>

	<details>
		<summary class="min-h-12 cursor-pointer py-2 font-semibold">Air, k and other losses</summary>
		<div class="grid gap-4 pt-2 sm:grid-cols-3 lg:grid-cols-5">
			<TextField
				label="k factor"
				name="plan.kFactor"
				numeric
				bind:value={draft.values.kFactor}
				error={problemAt('plan.kFactor')}
			/>
			<TextField
				label="Air pressure"
				unit="hPa, dry"
				name="plan.dryAirPressureHpa"
				numeric
				bind:value={draft.values.dryAirPressureHpa}
				error={problemAt('plan.dryAirPressureHpa')}
			/>
			<TextField
				label="Temperature"
				unit="°C"
				name="plan.temperatureC"
				numeric
				bind:value={draft.values.temperatureC}
				error={problemAt('plan.temperatureC')}
			/>
			<TextField
				label="Water vapour"
				unit="g/m³"
				name="plan.waterVapourGM3"
				numeric
				bind:value={draft.values.waterVapourGM3}
				error={problemAt('plan.waterVapourGM3')}
			/>
			<TextField
				label="Additional loss"
				unit="dB"
				name="plan.additionalLossDb"
				numeric
				bind:value={draft.values.additionalLossDb}
				error={problemAt('plan.additionalLossDb')}
			/>
		</div>
	</details>

	<label class="flex min-h-12 items-center gap-3">
		<input type="checkbox" class="h-6 w-6 accent-(--ink)" bind:checked={draft.values.practice} />
		<span>Practice hop: a simulated meter stands in for both radios</span>
	</label>

	<section aria-labelledby="figures-title" aria-live="polite">
		<h2 id="figures-title" class="mb-2">What this gives</h2>
		{#if !live}
			<p class="text-quiet">Computing …</p>
		{:else if live.kind === 'incomplete'}
			<p class="text-quiet">{live.what}</p>
		{:else if live.kind === 'out-of-range'}
			<Notice kind="trouble">{live.message}</Notice>
		{:else}
			{#if findings.length}
				<ul class="mb-3 flex flex-col gap-2">
					{#each findings as finding (finding.code + finding.field)}
						<li>
							<Notice kind={finding.severity === 'error' ? 'trouble' : 'caution'}>
								{finding.message}
							</Notice>
						</li>
					{/each}
				</ul>
			{/if}
			{#if live.kind === 'plan'}
				<PlanFigures plan={live.plan} operatingModulation={draft.values.operatingModulation} />
			{/if}
		{/if}
	</section>

	{#if saving.message}<Notice kind="trouble">{saving.message}</Notice>{/if}
	<div class="flex flex-wrap items-center gap-4">
		<button class="btn btn-main" disabled={saving.busy}>
			{saving.busy ? 'Saving …' : hop ? 'Save the plan' : 'Save the new hop'}
		</button>
		<span class="text-quiet text-sm" role="status">
			{unsaved ? 'Not saved yet; kept on this device.' : hop ? 'Saved.' : ''}
		</span>
	</div>
</form>
