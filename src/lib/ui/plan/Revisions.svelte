<script lang="ts">
	import { untrack } from 'svelte';
	import type { RevisionComparison } from '#core/review/comparePlans';
	import { callApi, troubleOf } from '../api';
	import Notice from '../form/Notice.svelte';
	import Pick from '../form/Pick.svelte';
	import { fixed, moment } from '../format';

	interface Props {
		hopId: string;
		revisions: { number: number; note: string; issuedAt: Date }[];
	}

	let { hopId, revisions }: Props = $props();
	let from = $state(untrack(() => String(Math.max(1, (revisions[0]?.number ?? 1) - 1))));
	const numbers = $derived(
		revisions.map(({ number }) => ({ value: String(number), label: String(number) }))
	);
	let to = $state(untrack(() => String(revisions[0]?.number ?? 1)));
	let comparison: RevisionComparison | undefined = $state.raw();
	let problem: string | undefined = $state();

	async function compare(): Promise<void> {
		problem = undefined;
		try {
			comparison = await callApi<RevisionComparison>(
				'GET',
				`/hops/${hopId}/revisions/comparison?from=${from}&to=${to}`
			);
		} catch (error) {
			problem = troubleOf(error);
		}
	}
</script>

<section aria-labelledby="revisions-title" class="border-ink border-t-2 pt-4">
	<h2 id="revisions-title">Revisions</h2>
	<ul class="mt-2">
		{#each revisions as revision (revision.number)}
			<li class="border-line flex flex-wrap gap-x-4 border-b py-1.5">
				<strong class="num w-8">{revision.number}</strong>
				<span class="text-quiet">{moment(revision.issuedAt)}</span>
				<span>{revision.note || '—'}</span>
			</li>
		{/each}
	</ul>
	{#if revisions.length > 1}
		<div class="mt-3 flex flex-wrap items-center gap-3">
			<span>Compare</span>
			<Pick class="w-24!" label="Revision to compare" options={numbers} bind:value={from} />
			<span>with</span>
			<Pick class="w-24!" label="Revision to compare it with" options={numbers} bind:value={to} />
			<button type="button" class="btn" disabled={from === to} onclick={() => void compare()}
				>Show</button
			>
		</div>
	{/if}
	{#if problem}<div class="mt-3"><Notice kind="trouble">{problem}</Notice></div>{/if}
	{#if comparison}
		<div class="mt-4 grid gap-6 md:grid-cols-2" data-testid="comparison">
			<table class="w-full text-[0.95rem]">
				<caption class="pb-1 text-left font-bold">What was changed</caption>
				<tbody>
					{#each comparison.changed as change (change.field)}
						<tr class="border-line border-b">
							<th class="num py-1 pr-3 text-left text-sm font-normal break-all" scope="row"
								>{change.field}</th
							>
							<td class="num py-1 pr-3">{change.before}</td>
							<td class="num py-1 font-bold">{change.after}</td>
						</tr>
					{:else}<tr><td class="text-quiet">Nothing.</td></tr>{/each}
				</tbody>
			</table>
			<table class="w-full text-[0.95rem]">
				<caption class="pb-1 text-left font-bold">What it did</caption>
				<tbody>
					{#each comparison.effects as effect (effect.name)}
						<tr class="border-line border-b">
							<th class="py-1 pr-3 text-left font-normal" scope="row"
								>{effect.name}, {effect.unit}</th
							>
							<td class="num py-1 pr-3 text-right">{fixed(effect.before, effect.digits)}</td>
							<td class="num py-1 text-right font-bold">{fixed(effect.after, effect.digits)}</td>
							<td class="num text-quiet py-1 text-right"
								>{fixed(effect.after - effect.before, effect.digits, true)}</td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
	{/if}
</section>
