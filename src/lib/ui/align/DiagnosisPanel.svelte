<script lang="ts">
	import type { Cause } from '#core/diagnose/causes/keys';
	import { diagnose } from '#core/diagnose/diagnosis';
	import { findTest } from '#core/diagnose/sights';
	import { diagnosisInputOf } from '#core/guide/diagnosisQuestion';
	import type { End } from '#core/ends';
	import { troubleOf } from '../api';
	import type { BenchHop } from '../hop/benchHop';
	import type { AlignBench } from './bench.svelte';
	import Fold from '../form/Fold.svelte';

	interface Props {
		end: End;
		live: BenchHop;
		bench: AlignBench;
		/** Opens by itself when the next step is to look into something; stays as it was left. */
		open: boolean;
	}

	let { end, live, bench, open = $bindable() }: Props = $props();
	const diagnosis = $derived(diagnose(diagnosisInputOf(live.state)));
	const likely = $derived(diagnosis.causes.filter((cause) => cause.probability > 0.02).slice(0, 5));
	const done = $derived(live.recorded.testResults.slice(-6));
	let busy = $state(false);

	async function answer(test: string, value: string): Promise<void> {
		busy = true;
		await live.add(end, 'test-result', { test, value: value as 'yes' | 'no' });
		busy = false;
	}
	/** At a simulated hop somebody can be sent to look. */
	async function look(test: string): Promise<void> {
		busy = true;
		bench.message = undefined;
		await live
			.simulate({ end, action: 'test', test })
			.catch((error: unknown) => (bench.message = troubleOf(error)));
		busy = false;
	}

	async function setRight(cause: Cause): Promise<void> {
		busy = true;
		await live.add(end, 'remedy', { cause });
		busy = false;
	}
	const remedied = $derived(new Set(live.recorded.remedies.map(({ cause }) => cause)));
	/** What can be set right by a hand, as against what is aimed away or waited for. */
	const mendable = (cause: Cause): boolean =>
		!['none', 'side-lobe-a', 'side-lobe-b', 'side-lobe-both'].includes(cause);
	const words = (test: string, value: string): string =>
		findTest(test)?.outcomes.find((outcome) => outcome.value === value)?.words ?? value;
</script>

<div class="border-line border-t pt-2" aria-busy={busy} data-testid="diagnosis">
	<Fold title="What may be wrong" bind:open>
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
					{#if bench.driven}
						<button type="button" class="btn" disabled={busy} onclick={() => void look(test.key)}
							>Send somebody to look</button
						>
					{/if}
				</div>
			</div>
		{/if}
		<ol class="mt-3">
			{#each likely as cause, i (cause.cause)}
				<li
					class="border-line grid grid-cols-[3.5rem_1fr] gap-x-3 border-t py-2"
					data-cause={cause.cause}
				>
					<strong class="num text-right"
						>{Math.max(1, Math.round(100 * cause.probability))} %</strong
					>
					<div>
						<p class={i === 0 ? 'font-bold' : ''}>
							{cause.name.charAt(0).toUpperCase() + cause.name.slice(1)}
						</p>
						<p class="text-quiet text-sm">Predicts: {cause.predicts}.</p>
						{#if cause.evidence.length}<p class="text-sm">
								For it: {cause.evidence.join('; ')}.
							</p>{/if}
						{#if live.mayRecord && mendable(cause.cause) && cause.probability > 0.3}
							<button
								type="button"
								class="btn mt-2"
								disabled={busy}
								onclick={() => void setRight(cause.cause)}
								>{remedied.has(cause.cause) ? 'Set right once more' : 'It is set right now'}</button
							>
						{/if}
					</div>
				</li>
			{/each}
		</ol>
		{#if done.length}
			<p class="text-quiet mt-2 text-sm">
				Tested: {done
					.map((result) => `${words(result.test, result.value)} (${result.end})`)
					.join('; ')}.
			</p>
		{/if}
	</Fold>
</div>
