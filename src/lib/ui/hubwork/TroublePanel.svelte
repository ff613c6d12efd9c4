<script lang="ts">
	import { linkTroubleOf, type StationProgress } from '#core/bringup/bringUp';
	import type { LinkCause } from '#core/bringup/linkCauses';
	import { LINK_TESTS, type LinkTest } from '#core/bringup/linkTests';
	import Fold from '../form/Fold.svelte';
	import type { LiveHub } from './liveHub.svelte';

	let { live, at }: { live: LiveHub; at: StationProgress } = $props();
	const ranking = $derived(linkTroubleOf(live.stations, at));
	const first = $derived(ranking?.causes[0]);
	const others = $derived(ranking?.causes.slice(1) ?? []);
	const test = $derived(ranking?.nextTest ?? null);
	let busy = $state(false);
	let message: string | undefined = $state();

	async function make(of: LinkTest): Promise<void> {
		busy = true;
		message = undefined;
		try {
			await live.look({ station: at.station.id, look: 'test', test: of });
		} catch (error) {
			message = error instanceof Error ? error.message : 'It did not work.';
		}
		busy = false;
	}
	const answer = (of: LinkTest, value: 'yes' | 'no'): Promise<void> =>
		live.add(at.station.id, 'link-test', { test: of, value, source: 'hand' });
	/** What is set right at the unit is recorded there: every terminal of it is looked at anew. */
	function setRight(cause: LinkCause): Promise<void> {
		const station = cause === 'unit-off' ? (at.unit?.id ?? at.station.id) : at.station.id;
		return live.add(station, 'link-remedy', { cause });
	}
</script>

{#if ranking && first}
	<section class="flex flex-col gap-4" aria-labelledby="why-title" data-testid="link-trouble">
		<h2 id="why-title">
			{at.stage === 'off' ? 'Why it is not as planned' : 'Why it does not link'}
		</h2>
		{#if test}
			<div class="border-ink flex flex-col gap-2 rounded-lg border-2 p-3" data-testid="next-test">
				<p class="text-quiet text-sm font-semibold">
					The cheapest test, about {LINK_TESTS[test].minutes < 1
						? 'half a minute'
						: `${LINK_TESTS[test].minutes} min`}{LINK_TESTS[test].where === 'unit'
						? `, at ${at.unit?.name ?? 'the hub'}`
						: ''}
				</p>
				<p class="text-lg font-semibold">{LINK_TESTS[test].what}</p>
				{#if live.mayRecord}
					{#if live.practice}
						<button
							type="button"
							class="btn btn-main btn-big"
							disabled={busy}
							onclick={() => void make(test)}>{busy ? 'Looking …' : 'Make this test'}</button
						>
					{:else}
						<div class="grid grid-cols-1 gap-2 sm:grid-cols-2">
							{#each ['yes', 'no'] as const as value, i (value)}
								<button type="button" class="btn btn-big" onclick={() => void answer(test, value)}
									>{LINK_TESTS[test].answers[i]}</button
								>
							{/each}
						</div>
					{/if}
				{/if}
			</div>
		{/if}
		<div class="flex flex-col gap-2" data-testid="likeliest">
			<p>
				<span class="text-quiet text-sm font-semibold"
					>Likeliest{ranking.settled ? '' : ' so far'}</span
				>
				<strong class="block text-lg">{first.name}</strong>
			</p>
			{#if first.evidence.length}<p class="text-sm">{first.evidence.join('; ')}.</p>{/if}
			<p>{first.mend}</p>
			{#if live.mayRecord}
				<button
					type="button"
					class="btn {test ? '' : 'btn-main'} btn-big"
					onclick={() => void setRight(first.cause)}>Set right: look at the lamp again</button
				>
			{/if}
		</div>
		<Fold title="Less likely">
			<ol class="border-line mt-1 border-t">
				{#each others as { cause, name, mend, evidence } (cause)}
					<li class="border-line flex flex-col gap-1 border-b py-2">
						<strong>{name}</strong>
						<span class="text-sm">{mend}</span>
						{#if evidence.length}<span class="text-quiet text-sm">{evidence.join('; ')}.</span>{/if}
						{#if live.mayRecord}
							<button
								type="button"
								class="min-h-11 self-start underline"
								onclick={() => void setRight(cause)}>It was this: set right</button
							>
						{/if}
					</li>
				{/each}
			</ol>
		</Fold>
		{#if message}<p class="trouble font-semibold" role="alert">▲ {message}</p>{/if}
	</section>
{/if}
