<script lang="ts">
	import Printer from '@lucide/svelte/icons/printer';
	import { resolve } from '$app/paths';
	import { numberText } from '#core/units/text';
	import CopyButton from '$lib/ui/form/CopyButton.svelte';
	import Download from '$lib/ui/form/Download.svelte';
	import { spoken, units } from '$lib/ui/units.svelte';
	import { moment } from '$lib/ui/moment.svelte';

	let { data } = $props();
	const prepared = $derived(data.prepared);
	const sheet = $derived(prepared.sheet);
	const params = $derived({
		hopId: data.hop.id,
		end: data.end === 'A' ? ('a' as const) : ('b' as const)
	});
</script>

<svelte:head><title>Site sheet {sheet.end} · {prepared.hopName} · Skiaxis</title></svelte:head>

<header class="no-print bg-land sticky top-0 z-10 flex flex-wrap items-center gap-3 px-4 py-2">
	<a
		class="btn"
		href={resolve('/hops/[hopId]/[end=end]/[stage=stage]', { ...params, stage: 'prepare' })}
		>Back to the hop</a
	>
	<button class="btn" onclick={() => print()}><Printer size={20} /> Print</button>
	<Download
		main
		href="{resolve('/hops/[hopId]/[end=end]/sheet.pdf', params)}?units={units.system}"
		label="PDF"
	/>
	<a
		class="btn"
		href={resolve('/hops/[hopId]/[end=end]/[stage=stage]', { ...params, stage: 'power' })}
		>Go on to power</a
	>
</header>

<main id="work">
	<article class="sheet end-{sheet.end} mx-auto max-w-[52rem] px-4 py-5">
		<header class="flex items-start gap-4">
			<p class="text-end-own text-6xl leading-none font-bold">{sheet.end}</p>
			<div class="min-w-0 flex-1">
				<h1>{sheet.siteName}</h1>
				<p class="text-quiet text-lg">toward {sheet.farSiteName}</p>
				<p class="mt-1 text-sm">
					{prepared.hopName} · plan revision {sheet.revisionNumber} · issued {moment(
						prepared.issuedAt
					)}
				</p>
			</div>
			<img src={prepared.qr} alt="Code that opens this sheet" class="h-24 w-24 shrink-0 bg-white" />
		</header>
		<ul class="bg-land my-4 flex flex-col gap-1 rounded-lg px-4 py-3 text-[0.92rem]">
			{#each sheet.cautions as caution (caution)}<li>{spoken(caution)}</li>{/each}
		</ul>
		<div class="columns-1 gap-8 sm:columns-2 print:columns-2">
			{#each sheet.sections as section (section.title)}
				<section class="mb-5 break-inside-avoid">
					<h2 class="text-end-own border-b-2 pb-1" style:border-color="var(--end)">
						{section.title}
					</h2>
					<dl>
						{#each section.rows as row, i (i)}
							<div class="border-line grid grid-cols-[8.2rem_1fr] gap-x-3 border-b py-1.5">
								<dt class="text-quiet text-sm">{row.label}</dt>
								<dd class="min-w-0">
									<span class="break-words {row.strong ? 'num text-lg font-bold' : ''}"
										>{spoken(row.value)}</span
									>
									{#if row.copied}<CopyButton
											text={row.copied}
											what={row.label.toLowerCase()}
										/>{/if}
									{#if row.note}<span class="text-quiet block text-sm">{spoken(row.note)}</span
										>{/if}
								</dd>
							</div>
						{/each}
					</dl>
				</section>
			{/each}
		</div>
		<section class="break-inside-avoid">
			<h2 class="text-end-own border-b-2 pb-1" style:border-color="var(--end)">
				What the meter would mean
			</h2>
			<table class="w-full">
				<thead class="text-quiet text-sm">
					<tr>
						<th class="py-1 text-right font-normal">dB below plan</th>
						<th class="text-right font-normal">dBm</th>
						<th class="text-right font-normal">volts</th>
						<th class="pl-5 text-left font-normal">means</th>
					</tr>
				</thead>
				<tbody>
					{#each sheet.portTable as row (row.shortDb)}
						<tr class="border-line border-t">
							<td class="num py-1 text-right">{numberText(row.shortDb, 0)}</td>
							<td class="num text-right">{numberText(row.levelDbm, 1)}</td>
							<td class="num text-right">{numberText(row.volts, 3)}</td>
							<td class="pl-5 text-sm">{row.meaning}</td>
						</tr>
					{/each}
				</tbody>
			</table>
		</section>
		{#if prepared.siteNotes}
			<p class="mt-4"><strong>Site:</strong> {prepared.siteNotes}</p>
		{/if}
		<section class="mt-5 break-inside-avoid">
			<h2 class="text-end-own">Order of work</h2>
			<ol class="mt-1 list-decimal pl-6">
				{#each sheet.steps as step (step)}<li class="py-0.5">{spoken(step)}</li>{/each}
			</ol>
		</section>
		<footer class="mt-10 grid grid-cols-3 gap-8 text-sm">
			{#each ['Crew', 'Date and weather', 'Remarks'] as label (label)}
				<p class="border-ink text-quiet border-t pt-1">{label}</p>
			{/each}
		</footer>
	</article>
</main>

<style>
	@page {
		size: A4;
		margin: 12mm;
	}
	@media print {
		.sheet {
			max-width: none;
			padding: 0;
			font-size: 11pt;
		}
	}
</style>
