<script lang="ts">
	import { untrack } from 'svelte';
	import { crewSignatureAt } from '#core/accept/closingSteps';
	import type { End } from '#core/ends';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { signatureProblemOf, type TypedSignature } from '../form/signature';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import { moment } from '../moment.svelte';
	import SignatureBox from './SignatureBox.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();

	const signed = $derived(crewSignatureAt(live.recorded, end));
	const draft = untrack(
		() =>
			new Draft<{ signature: TypedSignature }>(live.placeOf(end, 'crew-signature'), {
				signature: { name: '', method: 'typed' }
			})
	);
	let problem: string | undefined = $state();
	async function sign(): Promise<void> {
		const { signature } = draft.values;
		problem = signatureProblemOf(signature);
		if (problem) return;
		const given = { ...$state.snapshot(signature), name: signature.name.trim() };
		draft.clear();
		await live.add(end, 'crew-signature', given);
	}
</script>

<section aria-labelledby="crew-sign-title" class="flex flex-col gap-3" data-testid="crew-signature">
	<h2 id="crew-sign-title">Signature of the crew at {end}</h2>
	{#if signed}
		<p>{signed.name}, {moment(signed.at)}.</p>
	{:else if live.mayRecord}
		<KeptTyping {draft} />
		<SignatureBox
			bind:signature={draft.values.signature}
			errorAt={(field) => (field === 'signature.name' ? problem : undefined)}
		/>
		{#if problem && draft.values.signature.method === 'drawn'}
			<p class="trouble font-semibold">▲ {problem}</p>
		{/if}
		<button class="btn btn-main btn-big" onclick={() => void sign()}>Sign for the crew</button>
	{/if}
</section>
