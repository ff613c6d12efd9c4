<script lang="ts">
	import Download from '$lib/ui/form/Download.svelte';
	import { resolve } from '$app/paths';
	import { callApi, troubleOf, uploadFile } from '$lib/ui/api';
	import type { Provenance } from '#core/provenance/provenance';
	import ImportNote from '$lib/ui/frame/ImportNote.svelte';
	import { isHubArchive } from '$lib/ui/archiveKind';
	import ColumnList from '$lib/ui/form/ColumnList.svelte';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { pickedFile } from '$lib/ui/form/pickedFile';
	import SelectField from '$lib/ui/form/SelectField.svelte';
	import { FollowedWork } from '$lib/ui/longWork/longWork.svelte';
	import WorkProgress from '$lib/ui/longWork/WorkProgress.svelte';
	import { onMount } from 'svelte';

	interface Row {
		line: number;
		subject: string;
		name: string;
		problems: { column: string; message: string }[];
	}
	interface Answer {
		rows: Row[];
		good: number;
		bad: number;
		imported: number;
	}

	let { data } = $props();
	const FORMATS = [
		{ value: 'csv', label: 'CSV' },
		{ value: 'geojson', label: 'GeoJSON' },
		{ value: 'gpx', label: 'GPX' },
		{ value: 'json', label: 'JSON' }
	] as const;
	const MOST_BYTES = 3_900_000;
	let subject = $state('sites');
	let format = $state('csv');
	let text: string | undefined = $state.raw();
	let fileName = $state('');
	let answer: Answer | undefined = $state.raw();
	let problem: string | undefined = $state();
	let busy = $state(false);
	const taking = new FollowedWork<Answer>('import');
	onMount(() => taking.takeUp());

	function reset(): void {
		text = undefined;
		answer = undefined;
		problem = undefined;
		taking.forget();
	}

	async function pick(event: Event): Promise<void> {
		const picked = pickedFile(event, MOST_BYTES);
		if (!picked) return;
		reset();
		if ('problem' in picked) {
			problem = `${picked.problem} Split it.`;
			return;
		}
		const { file } = picked;
		fileName = file.name;
		const ending = file.name.split('.').at(-1)?.toLowerCase();
		if (FORMATS.some((known) => known.value === ending)) format = ending!;
		text = await file.text();
		await look();
	}

	async function look(): Promise<void> {
		if (text === undefined) return;
		busy = true;
		problem = undefined;
		try {
			answer = await callApi<Answer>('POST', '/import', { subject, format, text, commit: false });
		} catch (error) {
			problem = troubleOf(error);
			answer = undefined;
		} finally {
			busy = false;
		}
	}
	const clock = (at: string): string =>
		new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
	const take = (takeGood: boolean): Promise<void> =>
		taking.start('/imports', { subject, format, text, takeGood });
	/** Nothing was taken in: the rows as the server found them then, beside those of the look. */
	const refusedRows = $derived(
		taking.current?.result?.imported === 0 ? taking.current.result.rows : []
	);
	let archiveBusy = $state(false);
	let archiveProblem: string | undefined = $state();
	type Archived = { records: number; provenance: Provenance | null } & (
		{ hopId: string; photos: number } | { hubId: string; acceptances: number }
	);
	let archived: Archived | undefined = $state.raw();
	async function takeArchive(event: Event): Promise<void> {
		const picked = pickedFile(event, 60_000_000);
		if (!picked) return;
		archiveProblem = 'problem' in picked ? picked.problem : undefined;
		archived = undefined;
		if ('problem' in picked) return;
		archiveBusy = true;
		try {
			archived = await uploadFile(
				(await isHubArchive(picked.file)) ? '/hubs/archive' : '/hops/archive',
				picked.file
			);
		} catch (error) {
			archiveProblem = troubleOf(error);
		}
		archiveBusy = false;
	}
	const shown = $derived(
		[...(refusedRows.length ? refusedRows : (answer?.rows ?? []))]
			.sort((p, q) => Number(q.problems.length > 0) - Number(p.problems.length > 0))
			.slice(0, 200)
	);
</script>

<svelte:head><title>Import and export · Skiaxis</title></svelte:head>
<h1 class="mb-5">Import and export</h1>
<div class="grid gap-10 lg:grid-cols-2">
	<section aria-labelledby="out-title">
		<h2 id="out-title">Export</h2>
		<p class="text-quiet mt-1 max-w-prose text-sm">
			All sites, or the hops you work on with their whole plans. CSV, GeoJSON and JSON come back
			without loss; GPX carries places only.
		</p>
		{#each [['sites', 'Sites'], ['hops', 'Hops']] as const as [what, label] (what)}
			<h3 class="mt-4 mb-2 font-bold">{label}</h3>
			<div class="flex flex-wrap gap-3">
				{#each FORMATS as { value, label: name } (value)}
					<Download href="/api/v1/export?subject={what}&format={value}" label={name} />
				{/each}
			</div>
		{/each}
		<p class="mt-5 text-sm">
			The JSON format has a
			<a href="/api/v1/schemas/plan.json" rel="external">published JSON Schema</a>.
		</p>
	</section>
	{#if data.mayEdit}
		<section aria-labelledby="in-title">
			<h2 id="in-title">Import</h2>
			<div class="mt-3 grid gap-4 sm:grid-cols-2">
				<SelectField
					label="What the file holds"
					name="subject"
					bind:value={subject}
					options={[
						{ value: 'sites', label: 'sites' },
						{ value: 'hops', label: 'hops' }
					]}
				/>
				<SelectField label="Format" name="format" bind:value={format} options={FORMATS} />
			</div>
			{#if data.guides && format === 'csv'}
				{@const what = subject === 'hops' ? 'hops' : 'sites'}
				<ColumnList subject={what} columns={data.guides[what]} />
				<p class="text-sm">
					<a class="underline" href="/api/v1/import/example?subject={what}" download
						>An example file of {what}</a
					> to fill in.
				</p>
			{/if}
			<label class="btn btn-main mt-4 focus-within:outline-3">
				{busy ? 'Reading …' : 'Choose a file'}
				<input
					type="file"
					class="sr-only"
					accept=".csv,.json,.geojson,.gpx,text/csv,application/json"
					disabled={busy || taking.running}
					onchange={pick}
				/>
			</label>
			{#if problem}<div class="mt-4"><Notice kind="trouble">{problem}</Notice></div>{/if}
			{#if answer && !taking.current}
				<div class="mt-4 flex flex-wrap items-center gap-3" data-testid="import-look">
					<p class="basis-full">
						<strong>{fileName}</strong>: {answer.good} good, {answer.bad} bad {answer.bad === 1
							? 'row'
							: 'rows'}. Nothing is imported yet.
					</p>
					{#if answer.bad === 0}
						<button
							type="button"
							class="btn btn-main"
							disabled={busy}
							onclick={() => void take(false)}
							>{answer.good === 1 ? 'Import it' : `Import all ${answer.good}`}</button
						>
					{:else if answer.good > 0}
						<button type="button" class="btn" disabled={busy} onclick={() => void take(true)}
							>Import only the {answer.good === 1 ? 'good row' : `${answer.good} good rows`}</button
						>
					{/if}
				</div>
			{/if}
			{#if taking.problem}
				<div class="mt-4"><Notice kind="trouble">{taking.problem}</Notice></div>
			{/if}
			{#if taking.current}
				{@const { status, trouble, result } = taking.current}
				<div class="mt-4 flex flex-col gap-3" data-testid="import-work">
					{#if status === 'running'}
						<WorkProgress work={taking} words="written" />
						<div>
							<button type="button" class="btn" onclick={() => void taking.stop()}
								>Stop: import nothing</button
							>
						</div>
					{:else if result && result.imported > 0}
						<Notice
							>Begun at <span class="num">{clock(taking.current.startedAt)}</span>: {result.imported}
							{result.imported === 1 ? 'row was' : 'rows were'} imported.</Notice
						>
					{:else}
						<Notice kind={status === 'cancelled' ? undefined : 'trouble'}>
							{#if status === 'cancelled'}
								Stopped: nothing was imported.
							{:else if trouble}
								{trouble} Nothing was imported.
							{:else}
								Not every row is good any more: nothing was imported.
							{/if}
						</Notice>
					{/if}
				</div>
			{/if}
			{#if shown.length && !taking.current?.result?.imported}
				<ul class="mt-3">
					{#each shown as row (`${row.subject}${row.line}`)}
						<li class="border-line border-b py-1.5">
							<span class="num text-quiet text-sm"
								>{format === 'csv' ? 'line' : 'no.'} {row.line}</span
							>
							<strong>{row.name || '—'}</strong>
							{#if row.problems.length === 0}<span class="text-quiet">good</span>{/if}
							{#each row.problems as wrong, i (i)}
								<span class="trouble block text-sm"
									>▲ {wrong.column ? `${wrong.column}: ` : ''}{wrong.message}</span
								>
							{/each}
						</li>
					{/each}
				</ul>
			{/if}
			<h3 class="border-line mt-8 border-t pt-5 font-bold">
				One whole hop, hub or link from its archive
			</h3>
			<p class="text-quiet mt-1 max-w-prose text-sm">
				The ZIP that the accept stage of a hop gives, or the files of a hub: plan, record, photos
				and acceptances come back as they were.
			</p>
			<label class="btn mt-3 focus-within:outline-3">
				{archiveBusy ? 'Reading …' : 'Choose an archive'}
				<input
					type="file"
					class="sr-only"
					accept=".zip,application/zip"
					disabled={archiveBusy}
					onchange={(event) => void takeArchive(event)}
				/>
			</label>
			{#if archiveProblem}
				<div class="mt-4"><Notice kind="trouble">{archiveProblem}</Notice></div>
			{/if}
			{#if archived}
				<div class="mt-4">
					<Notice>
						{#if 'hopId' in archived}
							Imported: {archived.records} records, {archived.photos} photos.
							<a href={resolve('/hops/[hopId]', { hopId: archived.hopId })}>Open the hop</a>
						{:else}
							Imported: {archived.records} records, {archived.acceptances}
							{archived.acceptances === 1 ? 'acceptance' : 'acceptances'}.
							<a href={resolve('/(desk)/hubs/[hubId]', { hubId: archived.hubId })}>Open the hub</a>
						{/if}
					</Notice>
					<ImportNote provenance={archived.provenance} />
				</div>
			{/if}
		</section>
	{/if}
</div>
