<script lang="ts">
	import { callApi, troubleOf } from '../api';
	import Notice from '../form/Notice.svelte';

	interface Check {
		records: number;
		digest: string;
		problems: string[];
	}

	let { hopId }: { hopId: string } = $props();
	let check: Check | undefined = $state.raw();
	let problem: string | undefined = $state();
	let busy = $state(false);

	async function look(): Promise<void> {
		busy = true;
		problem = undefined;
		check = undefined;
		try {
			check = await callApi<Check>('GET', `/hops/${hopId}/records/check`);
		} catch (error) {
			problem = troubleOf(error);
		}
		busy = false;
	}
</script>

<section aria-labelledby="whole-title" class="border-line border-t pt-3" data-testid="record-check">
	<h2 id="whole-title">Is the record whole?</h2>
	<p class="text-quiet text-sm">
		Each entry carries a digest over itself and the one before it. Recomputed, they tell whether
		anything was changed or taken out since it was recorded.
	</p>
	<button class="btn mt-2" disabled={busy} onclick={() => void look()}
		>{busy ? 'Looking …' : 'Check the record'}</button
	>
	<div class="mt-2" role="status">
		{#if problem}<Notice kind="trouble">{problem}</Notice>{/if}
		{#if check}
			{#each check.problems as wrong (wrong)}
				<Notice kind="trouble">{wrong}</Notice>
			{:else}
				<p>
					<strong>Whole:</strong>
					{check.records === 1 ? 'one entry' : `${check.records} entries`}, last digest
					<span class="num break-all">{check.digest}</span>
				</p>
			{/each}
		{/if}
	</div>
</section>
