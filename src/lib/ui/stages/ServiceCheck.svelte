<script lang="ts">
	import { serviceKey, serviceQuestion } from '#core/budget/services';
	import type { End } from '#core/ends';
	import { stillHolds } from '#core/record/hopState';
	import type { StopAnswer } from '#core/safety/stopCards';
	import { untrack } from 'svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Draft } from '../form/draft.svelte';
	import QuestionList from '../form/QuestionList.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();
	const { services } = $derived(live.revision.input);
	const proved = $derived.by(() => {
		const { serviceCheck } = live.recorded.ends[end];
		const holds =
			stillHolds(live.recorded, 'service-check', end, serviceCheck) &&
			// What the plan has added or moved since is asked for anew.
			services.every((one) => serviceCheck?.answers[serviceKey(end, one)] !== undefined);
		return holds ? serviceCheck : null;
	});
	const wrong = $derived(
		services.filter((one) => proved && proved.answers[serviceKey(end, one)] === 'no')
	);
	const draft = untrack(
		() => new Draft(live.placeOf(end, 'services'), { answers: {} as Record<string, StopAnswer> })
	);
	const { answers } = $derived(draft.values);
	let again = $state(false);
	const open = $derived(services.filter((one) => !answers[serviceKey(end, one)]).length);

	async function keep(): Promise<void> {
		const given = answers as Record<string, 'yes' | 'no'>;
		draft.clear();
		again = false;
		await live.add(end, 'service-check', { answers: given, note: '' });
	}
</script>

{#if services.length}
	<section aria-labelledby="services-proved" data-testid="service-check">
		<h2 id="services-proved">Services at {end}</h2>
		{#if proved && !again}
			<p class={wrong.length ? 'trouble font-semibold' : ''}>
				{wrong.length
					? `▲ Not the way of the plan: ${wrong.map(({ name }) => name).join(', ')}. Follow the cable from port to port.`
					: 'Each goes the way of the plan.'}
			</p>
			{#if live.mayRecord}
				<button class="min-h-12 underline" onclick={() => (again = true)}>Prove them again</button>
			{/if}
		{:else if live.mayRecord}
			<p class="text-quiet text-sm">
				One after the other, with somebody at the far end who sees what falls.
			</p>
			<KeptTyping {draft} />
			<QuestionList
				questions={services.map((service) => ({
					key: serviceKey(end, service),
					ask: serviceQuestion(end, service),
					optional: false
				}))}
				bind:answers={draft.values.answers}
			/>
			<button
				class="btn btn-main btn-big mt-3 w-full"
				disabled={open > 0}
				onclick={() => void keep()}>{open > 0 ? `${open} to answer` : 'Record the services'}</button
			>
		{:else}
			<p class="text-quiet">The crew at {end} has not proved them yet.</p>
		{/if}
	</section>
{/if}
