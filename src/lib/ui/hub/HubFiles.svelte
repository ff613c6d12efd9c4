<script lang="ts">
	import { callApi } from '../api';
	import Download from '../form/Download.svelte';
	import Notice from '../form/Notice.svelte';
	import { pickedFile } from '../form/pickedFile';
	import { Saving } from '../form/saving.svelte';
	import type { HubFile } from './hubForm';

	interface Props {
		/** Of a hub that is saved. */
		hubId: string | undefined;
		/** Puts what a file says into the form, and tells how much of it was new. */
		ontake: (file: HubFile) => { added: number; changed: number };
	}

	let { hubId, ontake }: Props = $props();
	const MOST_FILE_BYTES = 3_500_000;
	const FORMATS = [
		['csv', 'Terminals as CSV'],
		['geojson', 'All as GeoJSON'],
		['json', 'All as JSON']
	] as const;
	let said: string | undefined = $state();
	const reading = new Saving();

	async function read(event: Event): Promise<void> {
		const picked = pickedFile(event, MOST_FILE_BYTES);
		said = undefined;
		if (!picked) return;
		if ('problem' in picked) {
			reading.message = picked.problem;
			return;
		}
		const { file } = picked;
		const format = /\.(geojson|json)$/i.exec(file.name)?.[1]?.toLowerCase() ?? 'csv';
		await reading.run(async () => {
			const text = await file.text();
			const found = await callApi<HubFile>('POST', '/hubs/reading', { format, text });
			const { added, changed } = ontake(found);
			said = `${added} added, ${changed} changed${found.plan ? ', units taken from the file' : ''}. Nothing is saved yet.`;
		});
		if (reading.problems[0]) reading.message = reading.problems[0].message;
	}
</script>

<div class="flex flex-col items-start gap-3 pt-2">
	<label class="btn cursor-pointer">
		Take terminals from a file
		<input
			type="file"
			class="sr-only"
			accept=".csv,.geojson,.json"
			onchange={(event) => void read(event)}
		/>
	</label>
	<p class="text-quiet text-sm">
		CSV, GeoJSON or JSON. A terminal of a name that is here is changed, others are added.
	</p>
	{#if said}<p class="text-sm" role="status" data-testid="file-said">{said}</p>{/if}
	{#if reading.message}<Notice kind="trouble">{reading.message}</Notice>{/if}
	{#if hubId}
		<p class="text-sm font-semibold">As it is saved:</p>
		{#each FORMATS as [format, label] (format)}
			<Download href="/api/v1/hubs/{hubId}/export?format={format}" {label} />
		{/each}
		<Download href="/api/v1/hubs/{hubId}/archive.zip" label="Archive with all records" />
	{/if}
</div>
