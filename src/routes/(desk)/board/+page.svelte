<script lang="ts">
	import { goto, invalidateAll } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { onMount, untrack } from 'svelte';
	import { STAGES } from '#core/stage/stages';
	import { WAITS_FOR, WAITS_WORDS } from '#core/stage/standing';
	import { callApi, troubleOf } from '$lib/ui/api';
	import AssignSheet from '$lib/ui/crew/AssignSheet.svelte';
	import BoardViews from '$lib/ui/crew/BoardViews.svelte';
	import { askedOf, boardSearch, type BoardAsked } from '$lib/ui/crew/boardQuery';
	import { dayWords } from '$lib/ui/crew/dayWords';
	import HopEnds from '$lib/ui/crew/HopEnds.svelte';
	import PutIntoProject from '$lib/ui/crew/PutIntoProject.svelte';
	import Notice from '$lib/ui/form/Notice.svelte';
	import Pick from '$lib/ui/form/Pick.svelte';
	import ListSearch from '$lib/ui/frame/ListSearch.svelte';
	import Pager from '$lib/ui/frame/Pager.svelte';
	import { STAGE_WORDS } from '$lib/ui/hop/stageWords';
	import { lengthWords } from '$lib/ui/timetable/lengthWords';

	let { data } = $props();
	type Board = typeof data.board;
	/** What came last: with the page, or since. */
	let fresh: Board | undefined = $state.raw();
	let freshFor = $state('');
	const asked: BoardAsked = $derived(askedOf(data.query));
	const search = $derived(boardSearch(asked));
	const key = $derived(`${search}&page=${data.query.page}`);
	const board: Board = $derived(fresh && freshFor === key ? fresh : data.board);
	const addressOf = (change: BoardAsked): string => `?${boardSearch(asked, change)}`;
	/** What is kept where something is searched for. */
	const kept = $derived(Object.fromEntries(new URLSearchParams(boardSearch({ ...asked, q: '' }))));
	let nowMs = $state(0);
	let cutOff = $state(false);

	/** How often it is looked what has changed, ms; a page that nobody sees does not look. */
	const LOOK_MS = 2000;
	let looking = false;
	async function look(): Promise<void> {
		nowMs = Date.now();
		if (looking || document.hidden) return;
		looking = true;
		const mine = key;
		try {
			const answer = await callApi<Board>('GET', `/board?${mine}`);
			if (mine === key) {
				fresh = answer;
				freshFor = mine;
			}
			cutOff = false;
		} catch (error) {
			cutOff = troubleOf(error) !== '';
		} finally {
			looking = false;
		}
	}
	onMount(() => {
		nowMs = Date.now();
		const timer = setInterval(() => void look(), LOOK_MS);
		return () => clearInterval(timer);
	});

	const SORTS = [
		{ value: 'waiting', label: 'Waiting longest' },
		{ value: 'due', label: 'Due first' },
		{ value: 'changed', label: 'Changed last' },
		{ value: 'name', label: 'By name' }
	];
	const projectOptions = $derived([
		{ value: '', label: 'Every project' },
		{ value: 'none', label: 'In no project' },
		...data.projects.map(({ id, name }) => ({ value: id, label: name }))
	]);
	const crewOptions = $derived([
		{ value: '', label: 'Every crew' },
		...data.crews.map(({ id, name }) => ({ value: id, label: name }))
	]);
	const regionOptions = $derived([
		{ value: '', label: 'Every region' },
		...data.regions.map((name) => ({ value: name, label: name }))
	]);
	function narrow(change: BoardAsked): void {
		// eslint-disable-next-line svelte/no-navigation-without-resolve -- a query on the page itself
		void goto(addressOf(change), { keepFocus: true, noScroll: true });
	}
	const FLAGS = $derived([
		{ flag: 'all', label: 'All', count: board.counts.hops },
		{ flag: 'trouble', label: 'Trouble', count: board.counts.trouble },
		{ flag: 'overdue', label: 'Overdue', count: board.counts.overdue },
		{ flag: 'parts', label: 'Parts short', count: board.counts.parts }
	]);
	type Row = Board['rows'][number];
	let chosen: string[] = $state([]);
	// What is not on the page any more is not chosen any more.
	$effect(() => {
		const here = board.rows.map(({ id }) => id);
		untrack(() => {
			if (chosen.some((id) => !here.includes(id)))
				chosen = chosen.filter((id) => here.includes(id));
		});
	});
	let assigning: Row | undefined = $state.raw();
	let assignOpen = $state(false);
	async function changed(): Promise<void> {
		fresh = undefined;
		await invalidateAll();
	}
	const narrowed = $derived(search !== '');
</script>

<svelte:head><title>Board · Skiaxis</title></svelte:head>

<div class="mb-3 flex flex-wrap items-center gap-x-6 gap-y-3">
	<h1>Board</h1>
	<div class="flex flex-1 max-sm:order-last max-sm:w-full max-sm:flex-none">
		<ListSearch q={data.query.q} what="hops and sites" keep={kept} />
	</div>
	<a class="inline-flex min-h-11 items-center" href={resolve('/projects')}>Projects</a>
	<a class="inline-flex min-h-11 items-center" href={resolve('/crews')}>Crews</a>
</div>

<div class="mb-2 flex flex-wrap items-center gap-2" data-testid="board-filters">
	<Pick
		fit
		label="Project"
		options={projectOptions}
		bind:value={() => asked.project ?? '', (project) => narrow({ project })}
	/>
	<Pick
		fit
		label="Crew"
		options={crewOptions}
		bind:value={() => asked.crew ?? '', (crew) => narrow({ crew })}
	/>
	{#if data.regions.length}
		<Pick
			fit
			label="Region"
			options={regionOptions}
			bind:value={() => asked.region ?? '', (region) => narrow({ region })}
		/>
	{/if}
	<Pick
		fit
		label="Order"
		options={SORTS}
		bind:value={() => asked.sort ?? 'waiting', (sort) => narrow({ sort })}
	/>
	<BoardViews views={data.views} {search} />
</div>

<!-- eslint-disable svelte/no-navigation-without-resolve -- queries on the page itself -->
{#snippet choice(label: string, count: number, here: boolean, change: BoardAsked, grave = false)}
	<a
		class="inline-flex min-h-11 items-center gap-1 px-1.5 {here
			? 'font-bold no-underline'
			: 'underline'}"
		aria-current={here ? 'true' : undefined}
		href={addressOf(change)}
		>{label} <span class="num {grave && count ? 'trouble font-bold' : ''}">{count}</span></a
	>
{/snippet}
<nav
	class="border-line mb-1 flex flex-wrap gap-x-6 border-b text-sm"
	aria-label="Which hops"
	data-testid="board-counts"
>
	<div class="flex max-w-full items-center overflow-x-auto whitespace-nowrap">
		{#each FLAGS as { flag, label, count } (flag)}
			{@render choice(
				label,
				count,
				(asked.flag ?? 'all') === flag && !asked.stage && !asked.waits,
				{ flag, stage: '', waits: '' },
				flag === 'trouble' || flag === 'overdue'
			)}
		{/each}
	</div>
	<div class="flex max-w-full items-center overflow-x-auto whitespace-nowrap">
		<span class="text-quiet pr-1">Ends waiting for</span>
		{#each WAITS_FOR as what (what)}
			{@const here = asked.waits === what}
			{@render choice(WAITS_WORDS[what], board.counts.waits[what], here, {
				waits: here ? '' : what
			})}
		{/each}
	</div>
	<div class="flex max-w-full items-center overflow-x-auto whitespace-nowrap">
		<span class="text-quiet pr-1">Ends at</span>
		{#each STAGES as stage (stage)}
			{@const here = asked.stage === stage}
			{@render choice(STAGE_WORDS[stage], board.counts.stages[stage], here, {
				stage: here ? '' : stage
			})}
		{/each}
	</div>
</nav>
<!-- eslint-enable svelte/no-navigation-without-resolve -->

<div class="min-h-6 text-sm" aria-live="polite">
	{#if cutOff}
		<p class="font-semibold">No connection: the board stands as it did.</p>
	{:else if board.behind > 0}
		<p class="text-quiet" data-testid="board-behind">
			<span class="num">{board.behind}</span>
			{board.behind === 1 ? 'record is' : 'records are'} still being read.
		</p>
	{/if}
</div>

{#if data.mayEdit && chosen.length}
	<PutIntoProject
		hopIds={chosen}
		projects={data.projects}
		ondone={() => {
			chosen = [];
			void changed();
		}}
	/>
{/if}

{#if board.rows.length === 0}
	<Notice>
		{narrowed ? 'No hop is like this just now.' : 'No hop here yet that you work on.'}
	</Notice>
{:else}
	<ul data-testid="board">
		{#each board.rows as row (row.id)}
			<li
				class="border-line grid items-start gap-x-4 gap-y-2 border-b py-2.5 lg:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)_minmax(0,1fr)_auto]"
				data-hop={row.name}
			>
				<div class="flex min-w-0 items-start gap-2">
					{#if data.mayEdit}
						<input
							type="checkbox"
							class="mt-0.5 h-6 w-6 shrink-0"
							aria-label="Choose {row.name}"
							bind:group={chosen}
							value={row.id}
						/>
					{/if}
					<div class="min-w-0 text-sm">
						<a
							class="block text-base leading-tight font-semibold"
							href={resolve('/hops/[hopId]', { hopId: row.id })}>{row.name}</a
						>
						<p class="text-quiet">
							{#if row.project}<a
									class="inline-flex min-h-6 items-center"
									href={resolve('/(desk)/projects/[projectId]', { projectId: row.project.id })}
									>{row.project.name}</a
								>{:else}In no project{/if}{row.practice ? ' · practice hop' : ''}
							{#if row.dueDay}
								<span class={row.overdue ? 'trouble font-semibold' : ''}
									>· {row.overdue ? '▲ was due' : 'due'} {dayWords(row.dueDay)}</span
								>
							{/if}
						</p>
						{#each row.trouble as trouble (trouble)}
							<p class="trouble font-semibold">▲ {trouble}</p>
						{/each}
						{#if row.shortParts}
							<p class="font-semibold">
								<span class="num">{row.shortParts}</span>
								{row.shortParts === 1 ? 'part' : 'parts'} short, damaged or wrong
							</p>
						{/if}
						{#if row.last}
							<p class="text-quiet">
								{row.last.by} at {row.last.end}{nowMs
									? `, ${lengthWords(Math.max(0, nowMs - new Date(row.last.at).getTime()) / 60_000)} ago`
									: ''}
							</p>
						{/if}
					</div>
				</div>
				<HopEnds hop={row} {nowMs} />
				{#if data.mayEdit}
					<button
						type="button"
						class="min-h-11 justify-self-start text-sm underline"
						aria-label="Crews at {row.name}"
						onclick={() => {
							assigning = row;
							assignOpen = true;
						}}>Crews …</button
					>
				{/if}
			</li>
		{/each}
	</ul>
{/if}
<Pager
	page={board.page}
	pages={board.pages}
	count={board.count}
	q={data.query.q}
	keep={kept}
	what={board.count === 1 ? 'hop' : 'hops'}
/>
<AssignSheet
	bind:open={assignOpen}
	hop={assigning}
	crews={data.crews}
	today={data.today}
	onchanged={() => void changed()}
/>
