<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { untrack } from 'svelte';
	import { judgeTerminalOf } from '#core/bringup/judgeTerminal';
	import type { StationProgress } from '#core/bringup/bringUp';
	import { originWords } from '#core/provenance/provenance';
	import { callApi } from '../api';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import type { TypedSignature } from '../form/signature';
	import TextField from '../form/TextField.svelte';
	import { moment } from '../moment.svelte';
	import SignatureBox from '../stages/SignatureBox.svelte';
	import type { LiveHub } from './liveHub.svelte';
	import { standingOf, type SignedTerminal } from './stageWords';

	interface Props {
		live: LiveHub;
		at: StationProgress;
		hubName: string;
		/** The newest acceptance of this terminal. */
		signed: SignedTerminal | undefined;
		maySign: boolean;
		signerName: string;
	}

	let { live, at, hubName, signed, maySign, signerName }: Props = $props();
	const now = $derived(judgeTerminalOf(live.stations, at.station.id));
	const stands = $derived(standingOf(live.stations, signed));
	const judgement = $derived(stands?.judgement ?? now);
	const draft = untrack(
		() =>
			new Draft(live.placeOf(at.station.id, 'acceptance'), {
				causes: {} as Record<string, string>,
				signature: { name: signerName, method: 'typed' } as TypedSignature
			})
	);
	const signing = new Saving();
	let requestId: string | undefined;
	const MARKS = { good: '✓', off: '▲', open: '○' } as const;

	async function sign(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		if (!now) return;
		requestId ??= crypto.randomUUID();
		const off = now.lines.filter(({ verdict }) => verdict === 'off').map(({ key }) => key);
		const { causes, signature } = $state.snapshot(draft.values);
		const done = await signing.run(async () => {
			await callApi('POST', `/hubs/${live.id}/acceptances`, {
				...{ id: requestId, terminal: at.station.id, lastSeq: now.lastSeq },
				causes: Object.fromEntries(
					Object.entries(causes).filter(([key, cause]) => off.includes(key) && cause.trim())
				),
				signature
			});
			await invalidateAll();
		});
		if (!done) return;
		requestId = undefined;
		draft.clear();
	}
</script>

{#if judgement}
	<section
		class="flex flex-col gap-4"
		aria-labelledby="accept-title"
		data-testid="terminal-acceptance"
		data-verdict={stands ? 'signed' : judgement.verdict}
	>
		<div>
			<h2 id="accept-title">{stands ? 'Accepted' : 'Planned against found'}</h2>
			<p class="text-quiet text-sm">
				{at.station.name}, {at.station.part.code}{judgement.unit
					? `, served by ${judgement.unit}`
					: ''}, {hubName}; plan revision {stands?.revisionNumber ?? live.revisionNumber}{stands
					? `. Signed by ${stands.signature.name}, ${moment(stands.signedAt)}. Frozen.`
					: '.'}
			</p>
		</div>
		{#if live.practice}
			<Notice kind="caution"
				>Practice: what is read here is simulated, and this is no acceptance of real work.</Notice
			>
		{/if}
		{#if signed && signed.origin.kind !== 'own'}
			<Notice kind={signed.origin.kind === 'verified' ? undefined : 'caution'}
				><span data-testid="signed-elsewhere"
					>{originWords(signed.origin)}: said to be signed in as {signed.signedBy}.</span
				></Notice
			>
		{/if}
		{#if signed && !stands}
			<Notice
				>Accepted {moment(signed.signedAt)} by {signed.signature.name}; something was recorded or
				planned since. To be accepted anew.</Notice
			>
		{/if}
		<table class="w-full text-left">
			<thead class="text-quiet text-sm max-sm:sr-only">
				<tr><th scope="col">Line</th><th scope="col">Asked</th><th scope="col">Found</th></tr>
			</thead>
			<tbody>
				{#each judgement.lines as line (line.key)}
					<tr
						class="border-line border-t align-top max-sm:flex max-sm:flex-col max-sm:py-2"
						data-line={line.key}
						data-verdict={line.verdict}
					>
						<th scope="row" class="py-1 pr-3 sm:w-44"
							><span class={line.verdict === 'off' ? 'trouble' : ''} aria-hidden="true"
								>{MARKS[line.verdict]}</span
							>
							{line.title}<span class="sr-only">, {line.verdict}</span></th
						>
						<td class="py-1 pr-3 max-sm:text-sm">
							<span class="text-quiet mr-1 sm:sr-only">Asked:</span>{line.asked}</td
						>
						<td class="py-1">
							<span class="text-quiet mr-1 text-sm sm:sr-only">Found:</span>{line.found}
							{#if stands?.causes[line.key]}<span class="block text-sm"
									>Cause: {stands.causes[line.key]}</span
								>{/if}
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
		{#if judgement.overrides.length}
			<div>
				<h3>On somebody’s word</h3>
				<ul class="list-disc pl-5">
					{#each judgement.overrides as override (override)}<li>{override}</li>{/each}
				</ul>
			</div>
		{/if}
		{#if stands}
			{#if stands.signature.drawing}
				<img
					src={stands.signature.drawing}
					alt="Signature of {stands.signature.name}"
					class="h-20 w-auto self-start rounded bg-white"
				/>
			{/if}
			<button type="button" class="btn self-start print:hidden" onclick={() => print()}
				>Print this page</button
			>
		{:else if judgement.verdict === 'open'}
			<p class="text-quiet">Open: what is marked ○ is done or read before anybody signs.</p>
		{:else if maySign}
			<form class="flex flex-col gap-3" onsubmit={sign} novalidate {@attach signing.form}>
				<KeptTyping {draft} />
				<SavingTrouble saving={signing} elsewhere={signing.others(['signature.name'])} />
				{#each judgement.lines.filter(({ verdict }) => verdict === 'off') as line (line.key)}
					<TextField
						label="Cause: {line.title.toLowerCase()}"
						name="causes.{line.key}"
						error={signing.errorAt(`causes.${line.key}`)}
						bind:value={
							() => draft.values.causes[line.key] ?? '',
							(text) => (draft.values.causes[line.key] = text)
						}
					/>
				{/each}
				<SignatureBox
					bind:signature={draft.values.signature}
					errorAt={(field) => signing.errorAt(field)}
				/>
				<button class="btn btn-main btn-big" disabled={signing.busy}
					>{signing.busy ? 'Signing …' : 'Sign the acceptance'}</button
				>
			</form>
		{:else}
			<p class="text-quiet">Ready for an acceptor to sign.</p>
		{/if}
	</section>
{/if}
