<script lang="ts">
	import { resolve } from '$app/paths';
	import { untrack } from 'svelte';
	import { callApi, unfit } from '$lib/ui/api';
	import {
		minutesText,
		readTimes,
		saidOf,
		SPREAD_KEYS,
		TIME_COLUMNS,
		timesCsv,
		timesFormOf
	} from '$lib/ui/crew/timesForm';
	import { Draft } from '$lib/ui/form/draft.svelte';
	import KeptTyping from '$lib/ui/form/KeptTyping.svelte';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { pickedFile } from '$lib/ui/form/pickedFile';
	import { Saving } from '$lib/ui/form/saving.svelte';
	import SavingTrouble from '$lib/ui/form/SavingTrouble.svelte';
	import { saveFile } from '$lib/ui/saveFile';
	import { moment } from '$lib/ui/moment.svelte';
	import { WORK_KINDS } from '$lib/ui/words/workKinds';

	let { data } = $props();
	type Work = typeof data.work;
	let work: Work = $state.raw(untrack(() => data.work));
	const timeOf = $derived(new Map(work.times.map((time) => [time.kind, time])));
	const draft = new Draft('times-of-work', timesFormOf(untrack(() => data.work.times)));
	const saving = new Saving();
	let fileSaid: string | undefined = $state();
	let fileProblem: string | undefined = $state();
	const MOST_BYTES = 200_000;

	async function readFile(event: Event): Promise<void> {
		const picked = pickedFile(event, MOST_BYTES);
		if (!picked) return;
		fileSaid = fileProblem = undefined;
		if ('problem' in picked) {
			fileProblem = picked.problem;
			return;
		}
		const read = readTimes(await picked.file.text(), $state.snapshot(draft.values));
		if ('problem' in read) fileProblem = `${picked.file.name}: ${read.problem}`;
		else {
			draft.values = read.form;
			fileSaid = `${read.count} ${read.count === 1 ? 'kind' : 'kinds'} of work read. Save them to plan with them.`;
		}
	}

	async function save(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		fileSaid = undefined;
		const sent = $state.snapshot(draft.values);
		const typed = saidOf(sent);
		const done = await saving.run(async () => {
			if ('problems' in typed) throw unfit(typed.problems);
			const body = { version: work.version, said: typed.said };
			work = await callApi<Work>('PUT', '/durations', body);
		});
		if (done) draft.savedAs(sent);
	}

	const download = (): void =>
		saveFile(new Blob([timesCsv(work.times)], { type: 'text/csv' }), 'work-times.csv');
	const KEY_WORDS = { low: 'short', likely: 'usual', high: 'long' } as const;
</script>

<svelte:head><title>Work times · Skiaxis</title></svelte:head>

<h1 class="mb-2">Work times</h1>
<p class="mb-1 max-w-prose">
	What every timetable is planned with, in minutes: one time in ten it is done sooner than the short
	time, one in ten it takes longer than the long one. What the records of your hops tell counts more
	and more as they grow; hops for practice and from elsewhere do not count.
</p>
<p class="text-quiet mb-4 text-sm">
	{work.changedBy === null || work.changedAt === null
		? 'Nobody has said other times yet.'
		: `Changed by ${work.changedBy}, ${moment(work.changedAt)}.`}
	{#if work.behind > 0}
		{work.behind} {work.behind === 1 ? 'hop is' : 'hops are'} still being read.
	{/if}
	<a class="inline-flex min-h-11 items-center" href={resolve('/crews')}>Crews</a>
</p>

<form class="flex max-w-4xl flex-col gap-4" onsubmit={save} novalidate {@attach saving.form}>
	<SavingTrouble {saving} />
	{#if data.mayEdit}<KeptTyping {draft} />{/if}
	<div class="no-print flex flex-wrap items-center gap-3">
		<button type="button" class="btn" onclick={download}>As CSV</button>
		{#if data.mayEdit}
			<label class="btn focus-within:outline-3">
				From a CSV file
				<input type="file" class="sr-only" accept=".csv,text/csv" onchange={readFile} />
			</label>
			<span class="text-quiet text-sm">Columns: {TIME_COLUMNS.join(', ')}</span>
		{/if}
	</div>
	{#if fileProblem}<Notice kind="trouble">{fileProblem}</Notice>{/if}
	<p class="text-sm" role="status">{fileSaid ?? ''}</p>
	{#each WORK_KINDS as group (group.title)}
		<section aria-label={group.title}>
			<div
				class="border-ink mb-1 grid items-end gap-x-4 border-b sm:grid-cols-[minmax(0,1fr)_9rem_16rem]"
			>
				<h2 class="text-lg">{group.title}</h2>
				<span class="text-quiet text-sm max-sm:hidden">planned with, min</span>
				{#if data.mayEdit}
					<span class="text-quiet flex gap-1.5 text-sm max-sm:hidden" aria-hidden="true">
						{#each SPREAD_KEYS as key (key)}<span class="flex-1">{KEY_WORDS[key]}</span>{/each}
					</span>
				{/if}
			</div>
			<ul>
				{#each Object.entries(group.kinds) as [kind, title] (kind)}
					{@const time = timeOf.get(kind)}
					{@const form = draft.values[kind]}
					{#if time}
						{@const wrong = SPREAD_KEYS.map((key) => saving.errorAt(`said.${kind}.${key}`)).find(
							Boolean
						)}
						<li
							class="border-line grid items-center gap-x-4 gap-y-1 border-b py-1.5 sm:grid-cols-[minmax(0,1fr)_9rem_16rem]"
							data-kind={kind}
						>
							<span>{title}</span>
							<span class="num text-sm">
								<span class="text-quiet sm:sr-only">planned</span>
								{SPREAD_KEYS.map((key) => minutesText(time.used[key])).join(' / ')}
								<span class="text-quiet block font-sans"
									>{time.seen === 0
										? 'not seen yet'
										: `seen ${time.seen === 1 ? 'once' : `${time.seen} times`}`}</span
								>
							</span>
							{#if data.mayEdit && form}
								<span class="flex gap-1.5">
									{#each SPREAD_KEYS as key (key)}
										{@const field = `said.${kind}.${key}`}
										<input
											class="input num min-w-0 px-2"
											name={field}
											inputmode="decimal"
											autocomplete="off"
											aria-label="{title}, {KEY_WORDS[key]}, min"
											aria-invalid={saving.errorAt(field) !== undefined}
											aria-describedby={saving.errorAt(field) ? `wrong-${kind}` : undefined}
											placeholder={minutesText(time.usual[key])}
											bind:value={form[key]}
										/>
									{/each}
								</span>
								{#if wrong}
									<p id="wrong-{kind}" class="trouble text-sm sm:col-start-3">{wrong}</p>
								{/if}
							{/if}
						</li>
					{/if}
				{/each}
			</ul>
		</section>
	{/each}
	{#if data.mayEdit && (draft.changed || saving.busy)}
		<div class="bg-paper border-line sticky bottom-0 z-10 border-t py-3">
			<button class="btn btn-main" disabled={saving.busy}
				>{saving.busy ? 'Saving …' : 'Save the times'}</button
			>
		</div>
	{/if}
</form>
