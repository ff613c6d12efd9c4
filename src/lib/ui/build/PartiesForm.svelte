<script lang="ts">
	import type { End } from '#core/ends';
	import { signatureProblemOf, type TypedSignature } from '../form/signature';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Draft } from '../form/draft.svelte';
	import TextField from '../form/TextField.svelte';
	import { moment } from '../moment.svelte';
	import { untrack } from 'svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import SignatureBox from '../stages/SignatureBox.svelte';
	import Tick from '../form/Tick.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();
	const latest = $derived(live.recorded.ends[end].building.parties);
	const signatures = $derived(live.recorded.ends[end].building.receiptSignatures);
	const draft = untrack(
		() =>
			new Draft(live.placeOf(end, 'parties'), {
				rows: [
					{ party: 'Crew', name: '', absent: false, authorisedBy: '' },
					{ party: 'Carrier or supplier', name: '', absent: false, authorisedBy: '' }
				]
			})
	);
	const { rows } = $derived(draft.values);
	let tried = $state(false);
	const problemOf = (row: (typeof rows)[number]): string | undefined =>
		row.absent
			? row.authorisedBy.trim() === ''
				? 'Who authorised the absence is missing.'
				: undefined
			: row.name.trim() === ''
				? 'The name is missing.'
				: undefined;

	async function keep(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		tried = true;
		if (rows.some((row) => problemOf(row)) || rows.every((row) => row.absent)) return;
		await live.add(end, 'parties', {
			present: rows
				.filter((row) => !row.absent)
				.map(({ name, party }) => ({ name: name.trim(), party })),
			absent: rows
				.filter((row) => row.absent)
				.map(({ party, authorisedBy }) => ({ party, authorisedBy: authorisedBy.trim() }))
		});
		tried = false;
		draft.clear();
	}

	let signing: string | undefined = $state();
	let signature: TypedSignature = $state({
		name: '',
		method: 'typed'
	});
	let signatureProblem: string | undefined = $state();
	async function sign(party: string): Promise<void> {
		signatureProblem = signatureProblemOf(signature);
		if (signatureProblem) return;
		await live.add(end, 'receipt-signature', { ...signature, name: signature.name.trim(), party });
		signing = undefined;
		signature = { name: '', method: 'typed' };
	}
</script>

{#if live.mayRecord && !latest}
	<form class="flex flex-col gap-4" onsubmit={(event) => void keep(event)}>
		<KeptTyping {draft} />
		{#each draft.values.rows as row, i (row.party)}
			<fieldset class="border-line flex flex-col gap-2 border-t pt-3">
				<legend class="sr-only">{row.party}</legend>
				<Tick bind:checked={row.absent}>{row.party} is not here</Tick>
				{#if row.absent}
					<TextField
						label="{row.party}: absent by leave of"
						name="absent-{i}"
						bind:value={row.authorisedBy}
						error={tried ? problemOf(row) : undefined}
					/>
				{:else}
					<TextField
						label="{row.party}: name"
						name="present-{i}"
						bind:value={row.name}
						error={tried ? problemOf(row) : undefined}
					/>
				{/if}
			</fieldset>
		{/each}
		{#if tried && rows.every((row) => row.absent)}
			<p class="trouble font-semibold">▲ Somebody must be here to count.</p>
		{/if}
		<button class="btn btn-main btn-big">Record who is here</button>
	</form>
{:else if latest}
	<ul>
		{#each latest.present as person (person.party)}
			{@const signed = signatures.filter((s) => s.party === person.party).at(-1)}
			<li class="border-line flex flex-wrap items-center gap-3 border-b py-2">
				<span class="min-w-0 flex-1">{person.name}, {person.party}</span>
				{#if signed}
					<span class="text-sm">signed {moment(signed.at)}</span>
				{:else if live.mayRecord}
					<button
						class="btn"
						onclick={() => {
							signing = signing === person.party ? undefined : person.party;
							signature = { name: person.name, method: 'typed' };
						}}>Sign for the goods as counted</button
					>
				{/if}
				{#if signing === person.party}
					<div class="flex w-full flex-col gap-3">
						<SignatureBox
							bind:signature
							errorAt={(field) => (field === 'signature.name' ? signatureProblem : undefined)}
						/>
						{#if signatureProblem}<p class="trouble font-semibold">▲ {signatureProblem}</p>{/if}
						<button class="btn btn-main" onclick={() => void sign(person.party)}>Sign</button>
					</div>
				{/if}
			</li>
		{/each}
	</ul>
{/if}
