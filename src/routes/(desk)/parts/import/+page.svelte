<script lang="ts">
	import Download from '$lib/ui/form/Download.svelte';
	import { resolve } from '$app/paths';
	import { PART_KIND_NAMES, PART_KINDS, type PartKind } from '#core/catalogue/partKinds';
	import { callApi } from '$lib/ui/api';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { pickedFile } from '$lib/ui/form/pickedFile';
	import { Saving } from '$lib/ui/form/saving.svelte';
	import SelectField from '$lib/ui/form/SelectField.svelte';

	interface ImportAnswer {
		rows: {
			line: number;
			kind: PartKind | null;
			code: string;
			state: 'good' | 'wrong';
			problems: { line: number; column: number | string; message: string }[];
		}[];
		good: number;
		wrong: number;
		taken: { added: number; changed: number; same: number } | null;
	}

	let kind: string = $state('radio');
	let file: { name: string; text: string; format: 'json' | 'csv' } | undefined = $state();
	let answer: ImportAnswer | undefined = $state.raw();
	let fileProblem: string | undefined = $state();
	const working = new Saving();
	const wrong = $derived(answer?.rows.filter(({ state: of }) => of === 'wrong') ?? []);

	async function pick(event: Event): Promise<void> {
		answer = undefined;
		const picked = pickedFile(event, 3_900_000);
		if (!picked) return;
		fileProblem = 'problem' in picked ? picked.problem : undefined;
		if ('problem' in picked) return;
		file = {
			name: picked.file.name,
			text: await picked.file.text(),
			format: picked.file.name.toLowerCase().endsWith('.csv') ? 'csv' : 'json'
		};
		await ask(false, false);
	}
	async function ask(commit: boolean, takeGood: boolean): Promise<void> {
		if (!file) return;
		const { format, text } = file;
		await working.run(async () => {
			answer = await callApi<ImportAnswer>('POST', '/parts/import', {
				format,
				kind: format === 'csv' ? kind : null,
				text,
				commit,
				takeGood
			});
		});
	}
	const placeOf = ({ line, column }: { line: number; column: number | string }): string =>
		`line ${line}${column === '' ? '' : `, column ${column}`}`;
</script>

<svelte:head><title>Import and export of parts · Skiaxis</title></svelte:head>

<p class="text-quiet"><a href={resolve('/parts')}>Parts</a></p>
<h1 class="mb-4">Import and export of parts</h1>

<div class="grid gap-8 md:grid-cols-2">
	<section aria-labelledby="import-title" class="flex flex-col gap-4">
		<h2 id="import-title">Import</h2>
		<p class="text-quiet text-sm">
			JSON holds parts of any kind; a CSV table holds one kind. A part whose code is here already
			gets a new version; nothing is written before you have seen what is in the file.
		</p>
		<SelectField
			label="Kind of part in a CSV table"
			name="import-kind"
			bind:value={kind}
			options={PART_KIND_NAMES.map((value) => ({ value, label: PART_KINDS[value].many }))}
		/>
		<div>
			<label class="btn btn-main cursor-pointer">
				Choose a file, JSON or CSV
				<input
					type="file"
					accept=".json,.csv,application/json,text/csv"
					class="sr-only"
					onchange={(event) => void pick(event)}
				/>
			</label>
		</div>
		{#if fileProblem}<Notice kind="trouble">{fileProblem}</Notice>{/if}
		{#if working.message}
			<Notice kind="trouble">
				<p>{file?.name}: {working.message}</p>
			</Notice>
		{/if}
		{#if answer}
			<div class="flex flex-col gap-3" data-testid="import-answer" aria-live="polite">
				{#if answer.taken}
					<Notice>
						<span class="num">{answer.taken.added}</span> added,
						<span class="num">{answer.taken.changed}</span> with a new version,
						<span class="num">{answer.taken.same}</span> were here already.
					</Notice>
				{:else}
					<p>
						{file?.name}: <strong class="num">{answer.good}</strong> good,
						<strong class="num">{answer.wrong}</strong> wrong.
					</p>
				{/if}
				{#if wrong.length}
					<ul class="border-line max-h-96 overflow-y-auto border-t text-sm">
						{#each wrong.slice(0, 100) as row (row.line + row.code)}
							<li class="border-line border-b py-2">
								<strong class="num">{row.code || '—'}</strong>
								{#each row.problems.slice(0, 6) as problem, i (i)}
									<span class="block"
										><span class="trouble font-semibold">▲ {placeOf(problem)}:</span>
										{problem.message}</span
									>
								{/each}
							</li>
						{/each}
					</ul>
				{/if}
				{#if !answer.taken && answer.good > 0}
					<div class="flex flex-wrap gap-3">
						<button
							class="btn btn-main"
							disabled={working.busy}
							onclick={() => void ask(true, answer!.wrong > 0)}
							>{answer.wrong > 0
								? `Import the ${answer.good} good ones`
								: answer.good === 1
									? 'Import it'
									: `Import all ${answer.good}`}</button
						>
					</div>
				{/if}
				{#if answer.taken}<p><a href={resolve('/parts')}>See the parts</a></p>{/if}
			</div>
		{/if}
	</section>
	<section aria-labelledby="export-title" class="flex flex-col gap-3">
		<h2 id="export-title">Export</h2>
		<!-- eslint-disable svelte/no-navigation-without-resolve -- downloads of the API -->
		<p><Download href="/api/v1/parts/export?format=json" label="All parts as JSON" /></p>
		<ul class="border-line border-t">
			{#each PART_KIND_NAMES as name (name)}
				<li class="border-line flex flex-wrap items-center justify-between gap-2 border-b py-1">
					<span>{PART_KINDS[name].many}</span>
					<span class="flex gap-2">
						<Download href="/api/v1/parts/export?format=csv&kind={name}" label="CSV" />
						<Download href="/api/v1/parts/export?format=json&kind={name}" label="JSON" />
					</span>
				</li>
			{/each}
		</ul>
		<p class="text-sm">
			<a href="/api/v1/schemas/parts.json">The JSON Schema of the file</a>
		</p>
		<!-- eslint-enable svelte/no-navigation-without-resolve -->
	</section>
</div>
