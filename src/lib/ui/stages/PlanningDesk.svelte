<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { page } from '$app/state';
	import type { NewerPart } from '#core/budget/newerParts';
	import type { Catalogue } from '#core/catalogue/parts';
	import type { End } from '#core/ends';
	import type { NeighbourCarrier } from '#core/frequency/siteConflicts';
	import { callApi } from '../api';
	import AskFirst from '../form/AskFirst.svelte';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import TextField from '../form/TextField.svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import HopEditor from '../plan/HopEditor.svelte';
	import Members, { type PeoplePage } from '../plan/Members.svelte';
	import Revisions, { type RevisionPage } from '../plan/Revisions.svelte';
	import type { SavedHop } from '../plan/planForm';
	import SheetsInForce from './SheetsInForce.svelte';

	interface Props {
		end: End;
		hop: SavedHop;
		live: LiveHop | undefined;
		planning: {
			parts: Catalogue;
			today: string;
			neighbours: NeighbourCarrier[];
			revisions: RevisionPage;
			members: { id: string; displayName: string; role: string }[];
			people: PeoplePage;
		};
		planChanged: boolean;
		/** Parts of the revision that have changed in the catalogue since. */
		newerParts: readonly NewerPart[];
		/** Whether an acceptance of the hop is signed. */
		accepted: boolean;
	}

	let { end, hop, live, planning, planChanged, newerParts, accepted }: Props = $props();
	let unsaved = $state(false);
	/** After saving, what is issued must be what was saved: the page is fetched again first. */
	let refreshing = $state(false);
	async function saved(): Promise<void> {
		refreshing = true;
		await invalidateAll();
		refreshing = false;
	}
	const VIEWS = [
		{ id: 'plan', label: 'Plan' },
		{ id: 'issue', label: 'Issue and sheets' },
		{ id: 'people', label: 'People' }
	] as const;
	const view = $derived(
		VIEWS.find(({ id }) => id === page.url.searchParams.get('view'))?.id ?? 'plan'
	);
	const hereHref = $derived(page.url.pathname);
	let saving = $state(false);
	/** Whether the plan as it stands in the editor may be issued. */
	let mayIssue: boolean | undefined = $state();
	let editor: ReturnType<typeof HopEditor> | undefined = $state();
	let note = $state('');
	const issuing = new Saving();
	let requestId: string | undefined;

	let asking = $state(false);
	async function issue(): Promise<void> {
		// A repeat after a lost answer carries the same id and does nothing twice.
		requestId ??= crypto.randomUUID();
		const done = await issuing.run(async () => {
			await callApi('POST', `/hops/${hop.id}/revisions`, {
				id: requestId,
				version: hop.version,
				note
			});
			await invalidateAll();
		});
		if (done) {
			requestId = undefined;
			note = '';
		}
	}
</script>

<div class="flex flex-col gap-3 pt-1">
	<div class="flex flex-wrap items-center gap-x-2 gap-y-2">
		<h1 class="sr-only">{VIEWS.find(({ id }) => id === view)?.label}</h1>
		<nav class="flex" aria-label="Planning">
			{#each VIEWS as { id, label } (id)}
				<a
					class="border-ink flex min-h-12 items-center border-2 px-4 font-semibold no-underline not-first:-ml-[2px] first:rounded-l-lg last:rounded-r-lg {view ===
					id
						? 'bg-fill text-on-fill'
						: ''}"
					aria-current={view === id ? 'page' : undefined}
					data-sveltekit-noscroll
					data-sveltekit-keepfocus
					href="{hereHref}?view={id}">{label}</a
				>
			{/each}
		</nav>
		<span class="text-quiet ml-auto text-sm" role="status">
			{unsaved ? 'Not saved yet; kept on this device.' : 'Saved.'}
		</span>
		{#if view === 'plan'}
			{#if unsaved || saving || refreshing}
				<button class="btn btn-main" form="plan-form" disabled={saving || refreshing}>
					{saving ? 'Saving …' : 'Save the plan'}
				</button>
			{:else if live && !planChanged}
				<a class="btn btn-main" data-sveltekit-noscroll href="{hereHref}?view=issue"
					>To the site sheets</a
				>
			{:else if mayIssue}
				<a class="btn btn-main" data-sveltekit-noscroll href="{hereHref}?view=issue"
					>Go on: issue it</a
				>
			{:else if mayIssue === false}
				<button type="button" class="btn btn-main" onclick={() => editor?.show('review')}
					>See what is open</button
				>
			{/if}
		{/if}
	</div>
	<!-- The editor stays while another view is looked at: nothing typed is lost. -->
	<div hidden={view !== 'plan'}>
		{#key hop.id}
			<HopEditor
				bind:this={editor}
				{hop}
				parts={planning.parts}
				today={planning.today}
				neighbours={planning.neighbours}
				onsaved={() => void saved()}
				onchange={(value) => (unsaved = value)}
				onbusy={(value) => (saving = value)}
				onreviewed={(value) => (mayIssue = value)}
			/>
		{/key}
	</div>
	{#if view === 'issue'}
		<div class="flex flex-col gap-8">
			<SheetsInForce {end} hopId={hop.id} {live} {newerParts} />
			<section aria-labelledby="issue-title" class="border-ink border-t-2 pt-4">
				<h2 id="issue-title">Issue a plan revision</h2>
				{#if accepted}
					<p class="text-quiet mt-1">
						This hop is accepted. A new revision says why, and asks for a new acceptance; what was
						signed stays readable.
					</p>
				{/if}
				{#if live && !planChanged && !unsaved}
					<p class="text-quiet mt-1">
						The saved plan is the one that is issued. Change it and save it to issue a new revision.
					</p>
				{:else}
					<form
						class="mt-2 flex flex-wrap items-end gap-4"
						onsubmit={(event) => {
							event.preventDefault();
							asking = true;
						}}
					>
						<div class="min-w-64 flex-1">
							<TextField
								label={accepted
									? 'Why the plan of an accepted hop is changed'
									: 'What is new in it'}
								name="note"
								bind:value={note}
								error={issuing.errorAt('note')}
							/>
						</div>
						<button class="btn btn-main" disabled={issuing.busy || unsaved || refreshing}>
							{issuing.busy
								? 'Issuing …'
								: live
									? 'Issue a new revision'
									: 'Issue the first revision'}
						</button>
					</form>
					{#if unsaved}<p class="text-quiet mt-2 text-sm">Save the plan first.</p>{/if}
				{/if}
				{#if issuing.message}
					<div class="mt-3">
						<Notice kind="trouble">
							<p>{issuing.message}</p>
							<ul>
								{#each issuing.problems as problem (problem.field + problem.message)}
									<li>{problem.message}</li>
								{/each}
							</ul>
						</Notice>
					</div>
				{/if}
			</section>
			{#if planning.revisions.count}
				{#key planning.revisions}
					<Revisions hopId={hop.id} first={planning.revisions} />
				{/key}
			{/if}
		</div>
	{:else if view === 'people'}
		<Members hopId={hop.id} members={planning.members} people={planning.people} />
	{/if}
</div>
<AskFirst
	bind:open={asking}
	title="Issue plan revision {(live?.revision.number ?? 0) + 1}?"
	means="It is frozen: crews measure against it, and what it says is never changed any more. A later change is a new revision."
	yes="Issue it"
	onyes={() => void issue()}
/>
