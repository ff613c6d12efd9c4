<script lang="ts" module>
	export interface RevisionPage {
		rows: { id: string; number: number; note: string; issuedAt: Date | string }[];
		count: number;
		page: number;
		pages: number;
	}
</script>

<script lang="ts">
	import { untrack } from 'svelte';
	import type { RevisionComparison } from '#core/review/comparePlans';
	import { callApi, troubleOf } from '../api';
	import Notice from '../form/Notice.svelte';
	import Pick from '../form/Pick.svelte';
	import { fixed } from '../format';
	import { moment } from '../moment.svelte';

	interface Props {
		hopId: string;
		/** The newest of them. */
		first: RevisionPage;
	}

	let { hopId, first }: Props = $props();
	let shown: RevisionPage = $state.raw(untrack(() => first));
	/** They are numbered from 1 without a gap. */
	const newest = $derived(first.rows[0]?.number ?? 1);
	const numbers = $derived(
		Array.from({ length: newest }, (_, i) => String(newest - i)).map((number) => ({
			value: number,
			label: number
		}))
	);
	let from = $state(untrack(() => String(Math.max(1, newest - 1))));
	let to = $state(untrack(() => String(newest)));
	let comparison: RevisionComparison | undefined = $state.raw();
	let problem: string | undefined = $state();

	async function turnTo(page: number): Promise<void> {
		problem = undefined;
		try {
			shown = await callApi<RevisionPage>('GET', `/hops/${hopId}/revisions?page=${page}`);
		} catch (error) {
			problem = troubleOf(error);
		}
	}

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
		{#each shown.rows as revision (revision.number)}
			<li class="border-line flex flex-wrap gap-x-4 border-b py-1.5">
				<strong class="num w-8">{revision.number}</strong>
				<span class="text-quiet">{moment(revision.issuedAt)}</span>
				<span>{revision.note || '—'}</span>
			</li>
		{/each}
	</ul>
	{#if shown.pages > 1}
		<div class="mt-2 flex flex-wrap items-center gap-3">
			<button
				type="button"
				class="btn"
				disabled={shown.page === 1}
				onclick={() => void turnTo(shown.page - 1)}>Newer</button
			>
			<span class="text-quiet text-sm"
				>page <span class="num">{shown.page}</span> of <span class="num">{shown.pages}</span></span
			>
			<button
				type="button"
				class="btn"
				disabled={shown.page === shown.pages}
				onclick={() => void turnTo(shown.page + 1)}>Older</button
			>
		</div>
	{/if}
	{#if first.count > 1}
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
		<div class="mt-4 grid items-start gap-6 md:grid-cols-2" data-testid="comparison">
			<table class="w-full text-[0.95rem]">
				<caption class="pb-1 text-left font-bold">What was changed</caption>
				<tbody>
					{#each comparison.changed as change (change.field)}
						<tr class="border-line border-b">
							<th class="py-1 pr-3 text-left font-normal" scope="row">{change.words}</th>
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
