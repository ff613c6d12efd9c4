<script lang="ts">
	import { snagsOf, type Snag } from '#core/accept/closing';
	import type { End } from '#core/ends';
	import PhotoStrip from '../build/PhotoStrip.svelte';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import TextField from '../form/TextField.svelte';
	import { untrack } from 'svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();
	const snags = $derived(snagsOf(live.recorded).filter((snag) => snag.end === end));

	const draft = untrack(
		() =>
			new Draft(live.placeOf(end, 'snag'), {
				...{ text: '', owner: '', due: '' },
				photoIds: [] as string[]
			})
	);
	const snag = $derived(draft.values);
	let tried = $state(false);
	let noting = $state(untrack(() => draft.restored));
	const problems = $derived({
		text: snag.text.trim().length < 3 ? 'Say what is left, in a few words.' : undefined,
		owner: snag.owner.trim() === '' ? 'Who sees to it.' : undefined,
		due: /^\d{4}-\d{2}-\d{2}$/.test(snag.due) ? undefined : 'The day it is due.'
	});
	async function keep(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		tried = true;
		if (Object.values(problems).some((problem) => problem)) return;
		const kept = {
			snagId: crypto.randomUUID(),
			text: snag.text.trim(),
			owner: snag.owner.trim(),
			due: snag.due,
			photoIds: [...snag.photoIds]
		};
		draft.clear();
		tried = false;
		noting = false;
		await live.add(end, 'snag', kept);
	}

	/** The snag that is being closed: what was done of it, by whom, and what proves it. */
	const closeDraft = untrack(
		() =>
			new Draft(live.placeOf(end, 'snag-closed'), {
				...{ snagId: '', by: '', note: '' },
				photoIds: [] as string[]
			})
	);
	const close = $derived(closeDraft.values);
	let closeTried = $state(false);
	const closeProblems = $derived({
		by: close.by.trim() === '' ? 'Who closed it.' : undefined,
		note: close.note.trim().length < 3 ? 'Say what was done, in a few words.' : undefined,
		photo: close.photoIds.length === 0 ? 'A photo shows that it is done.' : undefined
	});
	function begin(one: Snag): void {
		closeDraft.values = { snagId: one.snagId, by: close.by, note: '', photoIds: [] };
		closeTried = false;
	}
	async function keepClosed(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		closeTried = true;
		if (!close.snagId || Object.values(closeProblems).some((problem) => problem)) return;
		const done = {
			snagId: close.snagId,
			note: close.note.trim(),
			closedBy: close.by.trim(),
			photoIds: [...close.photoIds]
		};
		closeDraft.clear();
		await live.add(end, 'snag-closed', done);
	}
</script>

<section aria-labelledby="snag-title" data-testid="snags">
	<h2 id="snag-title">Snags at {end}</h2>
	{#if snags.length === 0}<p class="text-quiet text-sm">None noted.</p>{/if}
	<ul>
		{#each snags as one (one.snagId)}
			<li class="border-line flex flex-wrap items-center gap-3 border-b py-2">
				<span class="min-w-0 flex-1 basis-52">
					{one.closed ? '✓' : '○'}
					{one.text}
					<span class="text-quiet block text-sm"
						>{one.owner}, by {one.due}{one.closed
							? `; closed by ${one.closed.by}: ${one.closed.note}`
							: ''}</span
					>
				</span>
				{#if one.photoIds.length || one.closed?.photoIds.length}
					<PhotoStrip
						{end}
						{live}
						about="snag"
						photoIds={[...one.photoIds, ...(one.closed?.photoIds ?? [])]}
						readonly
					/>
				{/if}
				{#if !one.closed && live.mayRecord && close.snagId !== one.snagId}
					<button class="btn" onclick={() => begin(one)}>It is done</button>
				{/if}
				{#if close.snagId === one.snagId}
					<form
						class="flex w-full flex-col gap-3"
						onsubmit={(event) => void keepClosed(event)}
						aria-label="Close this snag"
					>
						<TextField
							label="What was done"
							name="snag-note"
							bind:value={closeDraft.values.note}
							error={closeTried ? closeProblems.note : undefined}
						/>
						<TextField
							label="Closed by"
							name="snag-closed-by"
							autocomplete="name"
							bind:value={closeDraft.values.by}
							error={closeTried ? closeProblems.by : undefined}
						/>
						<PhotoStrip
							{end}
							{live}
							about="snag-closed"
							bind:photoIds={closeDraft.values.photoIds}
						/>
						{#if closeTried && closeProblems.photo}
							<p class="trouble text-sm font-semibold" role="alert">▲ {closeProblems.photo}</p>
						{/if}
						<div class="flex flex-wrap gap-3">
							<button class="btn btn-main">Close this snag</button>
							<button type="button" class="btn" onclick={() => closeDraft.clear()}>Not yet</button>
						</div>
					</form>
				{/if}
			</li>
		{/each}
	</ul>
	{#if live.mayRecord && !noting}
		<button class="btn mt-2" onclick={() => (noting = true)}>Note a snag</button>
	{:else if live.mayRecord}
		<form class="mt-2 flex flex-col gap-3" onsubmit={(event) => void keep(event)}>
			<KeptTyping {draft} />
			<TextField
				label="What is left"
				name="snag-text"
				bind:value={draft.values.text}
				error={tried ? problems.text : undefined}
			/>
			<TextField
				label="Owner"
				name="snag-owner"
				bind:value={draft.values.owner}
				error={tried ? problems.owner : undefined}
			/>
			<TextField
				label="Due"
				name="snag-due"
				type="date"
				bind:value={draft.values.due}
				error={tried ? problems.due : undefined}
			/>
			<PhotoStrip {end} {live} about="snag" bind:photoIds={draft.values.photoIds} />
			<button class="btn btn-main">Keep this snag</button>
		</form>
	{/if}
</section>
