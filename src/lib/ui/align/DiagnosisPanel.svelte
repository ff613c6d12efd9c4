<script lang="ts">
	import { diagnose, findTest } from '$core/diagnose/diagnosis';
	import { diagnosisInputOf } from '$core/diagnose/fromRecord';
	import type { End } from '$core/ends';
	import { recordsOf } from '$core/record/records';
	import type { LiveHop } from '../hop/liveHop.svelte';

	interface Props {
		end: End;
		live: LiveHop;
		/** Shown open when the next step is to look into something. */
		open: boolean;
	}

	let { end, live, open }: Props = $props();
	const diagnosis = $derived(
		diagnose(
			diagnosisInputOf(live.revision.input, live.revision.plan, live.situation, live.records)
		)
	);
	const likely = $derived(diagnosis.causes.filter((cause) => cause.probability > 0.02).slice(0, 5));
	const done = $derived(recordsOf(live.records, 'test-result').slice(-6));
	let busy = $state(false);

	async function answer(test: string, value: string): Promise<void> {
		busy = true;
		await live.add(end, 'test-result', { test, value: value as 'yes' | 'no' });
		busy = false;
	}
	const words = (test: string, value: string): string =>
		findTest(test)?.outcomes.find((outcome) => outcome.value === value)?.words ?? value;
</script>

<details class="border-line border-t pt-2" {open} data-testid="diagnosis">
	<summary class="min-h-12 cursor-pointer py-2.5 font-bold">What may be wrong</summary>
	<p class="text-sm">{diagnosis.reasons.join(' ')}</p>
	{#if diagnosis.nextTest && live.mayRecord}
		{@const test = diagnosis.nextTest}
		<div class="border-ink mt-3 border-l-4 pl-3">
			<p class="text-quiet text-sm font-semibold">
				The test that tells most, about {test.minutes} min
			</p>
			<p class="mt-0.5 font-semibold">{test.what}</p>
			<div class="mt-2 flex flex-wrap gap-3">
				{#each test.outcomes as outcome (outcome.value)}
					<button
						type="button"
						class="btn"
						disabled={busy}
						onclick={() => void answer(test.key, outcome.value)}>{outcome.words}</button
					>
				{/each}
			</div>
		</div>
	{/if}
	<ol class="mt-3">
		{#each likely as cause, i (cause.cause)}
			<li
				class="border-line grid grid-cols-[3.5rem_1fr] gap-x-3 border-t py-2"
				data-cause={cause.cause}
			>
				<strong class="num text-right">{Math.max(1, Math.round(100 * cause.probability))} %</strong>
				<div>
					<p class={i === 0 ? 'font-bold' : ''}>
						{cause.name.charAt(0).toUpperCase() + cause.name.slice(1)}
					</p>
					<p class="text-quiet text-sm">Predicts: {cause.predicts}.</p>
					{#if cause.evidence.length}<p class="text-sm">
							For it: {cause.evidence.join('; ')}.
						</p>{/if}
				</div>
			</li>
		{/each}
	</ol>
	{#if done.length}
		<p class="text-quiet mt-2 text-sm">
			Tested: {done
				.map((record) => `${words(record.payload.test, record.payload.value)} (${record.end})`)
				.join('; ')}.
		</p>
	{/if}
</details>
