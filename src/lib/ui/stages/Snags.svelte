<script lang="ts">
	import { snagsOf, type Snag } from '#core/accept/closing';
	import type { End } from '#core/ends';
	import PhotoStrip from '../build/PhotoStrip.svelte';
	import TextField from '../form/TextField.svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();
	const snags = $derived(snagsOf(live.recorded).filter((snag) => snag.end === end));

	let snag = $state({ text: '', owner: '', due: '' });
	let photoIds: string[] = $state([]);
	let tried = $state(false);
	let noting = $state(false);
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
			photoIds
		};
		snag = { text: '', owner: '', due: '' };
		photoIds = [];
		tried = false;
		noting = false;
		await live.add(end, 'snag', kept);
	}

	/** The snag that is being closed: what was done of it, by whom, and what proves it. */
	let closing: string | undefined = $state();
	let close = $state({ by: '', note: '' });
	let closePhotos: string[] = $state([]);
	let closeTried = $state(false);
	const closeProblems = $derived({
		by: close.by.trim() === '' ? 'Who closed it.' : undefined,
		note: close.note.trim().length < 3 ? 'Say what was done, in a few words.' : undefined,
		photo: closePhotos.length === 0 ? 'A photo shows that it is done.' : undefined
	});
	function begin(one: Snag): void {
		closing = one.snagId;
		close = { by: close.by, note: '' };
		closePhotos = [];
		closeTried = false;
	}
	async function keepClosed(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		closeTried = true;
		if (!closing || Object.values(closeProblems).some((problem) => problem)) return;
		const done = {
			snagId: closing,
			note: close.note.trim(),
			closedBy: close.by.trim(),
			photoIds: closePhotos
		};
		closing = undefined;
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
				{#if !one.closed && live.mayRecord && closing !== one.snagId}
					<button class="btn" onclick={() => begin(one)}>It is done</button>
				{/if}
				{#if closing === one.snagId}
					<form
						class="flex w-full flex-col gap-3"
						onsubmit={(event) => void keepClosed(event)}
						aria-label="Close this snag"
					>
						<TextField
							label="What was done"
							name="snag-note"
							bind:value={close.note}
							error={closeTried ? closeProblems.note : undefined}
						/>
						<TextField
							label="Closed by"
							name="snag-closed-by"
							autocomplete="name"
							bind:value={close.by}
							error={closeTried ? closeProblems.by : undefined}
						/>
						<PhotoStrip {end} {live} about="snag-closed" bind:photoIds={closePhotos} />
						{#if closeTried && closeProblems.photo}
							<p class="trouble text-sm font-semibold" role="alert">▲ {closeProblems.photo}</p>
						{/if}
						<div class="flex flex-wrap gap-3">
							<button class="btn btn-main">Close this snag</button>
							<button type="button" class="btn" onclick={() => (closing = undefined)}
								>Not yet</button
							>
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
			<TextField
				label="What is left"
				name="snag-text"
				bind:value={snag.text}
				error={tried ? problems.text : undefined}
			/>
			<TextField
				label="Owner"
				name="snag-owner"
				bind:value={snag.owner}
				error={tried ? problems.owner : undefined}
			/>
			<TextField
				label="Due"
				name="snag-due"
				type="date"
				bind:value={snag.due}
				error={tried ? problems.due : undefined}
			/>
			<PhotoStrip {end} {live} about="snag" bind:photoIds />
			<button class="btn btn-main">Keep this snag</button>
		</form>
	{/if}
</section>
