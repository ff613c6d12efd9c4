<script lang="ts">
	import { judgeLabels, type LabelState } from '#core/tower/receiving';
	import type { End } from '#core/ends';
	import { typedNumber } from '../align/numberInput';
	import CodeReader from './CodeReader.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Draft } from '../form/draft.svelte';
	import TextField from '../form/TextField.svelte';
	import { untrack } from 'svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();
	const labels = $derived(judgeLabels(live.recorded, end));
	let chosen: string | undefined = $state();
	const current = $derived(
		labels.find((label) => label.expected.part === chosen) ??
			labels.find((label) => label.verdict !== 'good')
	);
	const EMPTY = { from: '', to: '', unit: '', flange: '', serial: '' };
	const draft = untrack(() => new Draft(live.placeOf(end, 'label'), { part: '', ...EMPTY }));
	const form = $derived(draft.values);
	if (untrack(() => draft.restored)) chosen = untrack(() => draft.values.part) || undefined;
	let problems: Record<string, string> = $state({});

	function choose(label: LabelState): void {
		chosen = label.expected.part;
		problems = {};
		const { label: read } = label;
		draft.values = {
			part: chosen,
			from: read ? String(read.bandFromGhz) : '',
			to: read ? String(read.bandToGhz) : '',
			unit: read?.subBandUnit ?? '',
			flange: read?.flange ?? '',
			serial: read?.serial ?? ''
		};
	}

	async function keep(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		if (!current) return;
		const [from, to] = [typedNumber(form.from), typedNumber(form.to)];
		problems = {};
		if (from === undefined) problems.from = 'A frequency is needed.';
		if (to === undefined) problems.to = 'A frequency is needed.';
		else if (from !== undefined && to <= from) problems.to = 'It must be above the first.';
		if (!form.serial.trim()) problems.serial = 'The serial number is missing.';
		if (current.expected.flange && !form.flange) problems.flange = 'Choose the flange it has.';
		if (Object.keys(problems).length) return;
		const label = {
			part: current.expected.part,
			code: current.expected.code,
			bandFromGhz: from!,
			bandToGhz: to!,
			subBandUnit: form.unit.trim().toUpperCase(),
			flange: form.flange,
			serial: form.serial.trim()
		};
		// Emptied before it is sent: what is typed of the next one meanwhile must stand.
		chosen = undefined;
		draft.clear();
		await live.add(end, 'part-label', label);
	}
	/** Flanges that the parts of this end have; a label shows one of them, or another. */
	const flanges = $derived([
		...new Set(labels.map((label) => label.expected.flange).filter((flange) => flange !== null))
	]);
</script>

<ul class="border-line border-t">
	{#each labels as label (label.expected.part)}
		<li class="border-line border-b">
			<button
				class="flex min-h-14 w-full flex-wrap items-center gap-x-3 py-2 text-left"
				aria-current={current?.expected.part === label.expected.part ? 'true' : undefined}
				onclick={() => choose(label)}
			>
				<span class="min-w-0 flex-1 font-semibold"
					>{label.expected.called}: {label.expected.name}</span
				>
				<span class="text-sm">
					{label.verdict === 'open'
						? 'not read'
						: label.verdict === 'good'
							? `as planned, ${label.label?.serial}`
							: ''}
				</span>
				{#each label.problems as text (text)}
					<span class="trouble w-full text-sm font-semibold">▲ {text}</span>
				{/each}
			</button>
		</li>
	{/each}
</ul>
{#if current && live.mayRecord}
	<form class="flex flex-col gap-3" onsubmit={(event) => void keep(event)}>
		<KeptTyping {draft} />
		<h2>Label of {current.expected.called.toLowerCase()}, {current.expected.code}</h2>
		<p class="text-quiet text-sm">
			Plan: {current.expected.frequenciesGhz.map((f) => f.toFixed(3)).join(' and ')} GHz{current
				.expected.subBandUnit
				? `, unit ${current.expected.subBandUnit}`
				: ''}{current.expected.flange ? `, flange ${current.expected.flange}` : ''}.
		</p>
		<div class="grid grid-cols-2 gap-3">
			<TextField
				label="Band from"
				name="label-from"
				unit="GHz"
				numeric
				bind:value={draft.values.from}
				error={problems.from}
			/>
			<TextField
				label="Band to"
				name="label-to"
				unit="GHz"
				numeric
				bind:value={draft.values.to}
				error={problems.to}
			/>
			{#if current.expected.part.startsWith('radio')}
				<TextField label="Sub-band unit" name="label-unit" bind:value={draft.values.unit} />
			{/if}
			<TextField
				label="Serial number"
				name="label-serial"
				bind:value={draft.values.serial}
				error={problems.serial}
			/>
		</div>
		<CodeReader what="the serial number" onread={(text) => (draft.values.serial = text)} />
		{#if current.expected.flange}
			<div class="flex flex-wrap gap-2" role="group" aria-label="Flange">
				{#each [...flanges, 'another'] as flange (flange)}
					<button
						type="button"
						class="btn px-3 {form.flange === flange ? 'btn-main' : ''}"
						aria-pressed={form.flange === flange}
						onclick={() => (draft.values.flange = flange)}>{flange}</button
					>
				{/each}
			</div>
		{/if}
		{#if problems.flange}<p class="trouble font-semibold" role="alert">▲ {problems.flange}</p>{/if}
		<button class="btn btn-main btn-big">Record this label</button>
	</form>
{/if}
