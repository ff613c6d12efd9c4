<script lang="ts">
	import { discrepancies, judgeReceived, type ReceivedLine } from '#core/tower/receiving';
	import type { End } from '#core/ends';
	import { typedNumber } from '../align/numberInput';
	import { pickedFile } from '../form/pickedFile';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import { saveFile } from '../saveFile';
	import { tick } from 'svelte';
	import CountPad from './CountPad.svelte';
	import PhotoStrip from './PhotoStrip.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();
	const lines = $derived(judgeReceived(live.recorded, end));
	const odd = $derived(discrepancies(live.recorded).filter((row) => row.end === end));
	const unitText = ({ unit, count }: ReceivedLine): string =>
		count === 1 || unit.length < 3 ? unit : `${unit}s`;
	let typed: Record<string, string> = $state({});
	let open: string | undefined = $state();
	let condition: ReceivedLine['condition'] = $state('good');
	let note = $state('');
	let photoIds: string[] = $state([]);
	let problem: { code: string; text: string } | undefined = $state();
	let fileProblem: string | undefined = $state();

	let counting = $state(false);
	const uncounted = $derived(lines.filter(({ verdict }) => verdict === 'open').length);
	type Details = Pick<ReceivedLine, 'condition' | 'note' | 'photoIds'>;
	function record(
		{ code, name }: ReceivedLine,
		found: number,
		details: Details = { condition: 'good', note: '', photoIds: [] }
	): void {
		const { condition, note, photoIds } = details;
		void live.add(end, 'received', { code, name, found, condition, note, photoIds: [...photoIds] });
	}

	/** What is typed next is the next one that is not counted. */
	function goOn(from: ReceivedLine): void {
		const at = lines.findIndex(({ code }) => code === from.code);
		const next = [...lines.slice(at + 1), ...lines.slice(0, at)].find(
			({ code, verdict }) => verdict === 'open' && typed[code] === undefined
		);
		if (next) document.getElementById(`found-${next.code}`)?.focus();
	}

	function keep(line: ReceivedLine, details: boolean): void {
		const count = typedNumber(typed[line.code] ?? (details ? String(line.found ?? '') : ''));
		if (count === undefined || count < 0) {
			problem = { code: line.code, text: 'Type the quantity you counted.' };
			return;
		}
		problem = undefined;
		if (details) {
			record(line, count, { condition, note: note.trim(), photoIds });
			open = undefined;
		} else record(line, count);
	}

	function openDetails(line: ReceivedLine): void {
		open = open === line.code ? undefined : line.code;
		condition = line.condition;
		note = line.note;
		photoIds = [...line.photoIds];
	}

	async function takeList(event: Event): Promise<void> {
		const picked = pickedFile(event, 2_000_000);
		if (!picked) return;
		fileProblem = 'problem' in picked ? picked.problem : undefined;
		if ('problem' in picked) return;
		const { readPackingCsv } = await import('./packingCsv');
		const result = readPackingCsv(await picked.file.text());
		if ('problem' in result) fileProblem = result.problem;
		else await live.add(end, 'packing-list', { source: 'csv', lines: result.lines });
	}

	async function download(): Promise<void> {
		const { discrepancyCsv } = await import('./packingCsv');
		const csv = discrepancyCsv(
			odd.map(({ code, name, listed, found, kind, text, note: said, photoIds: ids }) => ({
				end,
				code,
				name,
				listed: listed ?? '',
				found: found ?? '',
				kind,
				text,
				note: said,
				photos: ids.join(' ')
			}))
		);
		saveFile(new Blob([csv], { type: 'text/csv' }), `discrepancies-${end}.csv`);
	}
</script>

{#if live.mayRecord && uncounted > 0}
	<button type="button" class="btn btn-main mb-3 w-full sm:w-auto" onclick={() => (counting = true)}
		>{uncounted === lines.length ? 'Count by number pad' : `Count the other ${uncounted}`}</button
	>
{/if}
<CountPad
	bind:open={counting}
	{lines}
	{unitText}
	onfound={record}
	onwrong={(line) => {
		if (open !== line.code) openDetails(line);
		void tick().then(() => document.getElementById(`note-${line.code}`)?.focus());
	}}
/>
<ul class="border-line border-t" data-testid="packing">
	{#each lines as line (line.code)}
		<li class="border-line border-b py-2" data-verdict={line.verdict}>
			<div class="flex flex-wrap items-center gap-x-3 gap-y-2">
				<div class="min-w-0 flex-1 basis-40">
					<p class="leading-tight font-semibold">{line.name || line.code}</p>
					<p class="text-quiet text-sm">
						<span class="num">{line.code}</span>, listed
						<span class="num">{line.count}</span>
						{unitText(line)}{line.verdict === 'open' ? '' : `. ${line.reason}`}
					</p>
				</div>
				{#if live.mayRecord}
					<label class="sr-only" for="found-{line.code}">Found of {line.code}</label>
					<input
						id="found-{line.code}"
						class="input num w-20! text-right"
						inputmode="decimal"
						autocomplete="off"
						value={typed[line.code] ?? (line.found === null ? '' : String(line.found))}
						oninput={(event) => (typed = { ...typed, [line.code]: event.currentTarget.value })}
						onkeydown={(event) => {
							if (event.key !== 'Enter') return;
							keep(line, false);
							if (problem?.code !== line.code) goOn(line);
						}}
					/>
					<button class="btn px-3" onclick={() => keep(line, false)}>Count</button>
					<button
						class="btn px-3"
						aria-expanded={open === line.code}
						onclick={() => openDetails(line)}
						aria-label="Condition of {line.code}">…</button
					>
				{:else if line.found !== null}
					<span class="num">{line.found}</span>
				{/if}
				{#if line.verdict !== 'open' && line.verdict !== 'good'}
					<span class="trouble w-full text-sm font-semibold"
						>▲ {line.verdict}{line.note ? `: ${line.note}` : ''}</span
					>
				{/if}
			</div>
			{#if problem?.code === line.code}
				<p class="trouble text-sm font-semibold" role="alert">▲ {problem.text}</p>
			{/if}
			{#if open === line.code}
				<div class="mt-2 flex flex-col gap-2">
					<div class="flex gap-2" role="group" aria-label="Condition">
						{#each ['good', 'damaged', 'wrong'] as const as kind (kind)}
							<button
								class="btn px-3 {condition === kind ? 'btn-main' : ''}"
								aria-pressed={condition === kind}
								onclick={() => (condition = kind)}>{kind}</button
							>
						{/each}
					</div>
					<label class="text-sm font-semibold" for="note-{line.code}">Note</label>
					<input id="note-{line.code}" class="input" bind:value={note} />
					<PhotoStrip {end} {live} about="received-{line.code.toLowerCase()}" bind:photoIds />
					<button class="btn btn-main" onclick={() => keep(line, true)}>Keep it so</button>
				</div>
			{/if}
		</li>
	{/each}
</ul>
{#if live.mayRecord}
	<div class="flex flex-wrap gap-3">
		<label class="btn cursor-pointer">
			Packing list from CSV
			<input
				type="file"
				accept=".csv,text/csv"
				class="sr-only"
				onchange={(e) => void takeList(e)}
			/>
		</label>
		{#if odd.length}<button class="btn" onclick={() => void download()}
				>Discrepancies as CSV ({odd.length})</button
			>{/if}
	</div>
{/if}
{#if fileProblem}<p class="trouble font-semibold" role="alert">▲ {fileProblem}</p>{/if}
