<script lang="ts">
	import type { FollowedWork } from './longWork.svelte';

	/** `words` says what has been done to how many, such as "planned". */
	let { work, words }: { work: FollowedWork<unknown>; words: string } = $props();
	const ends = { running: '', done: '', cancelled: ', then stopped', failed: ', then it failed' };
</script>

{#if work.current}
	{@const { total, done, status } = work.current}
	<div role="status">
		<progress
			class="h-3.5 w-full max-w-xl"
			max={Math.max(1, total)}
			value={total === 0 ? undefined : done}
		></progress>
		<p>
			{#if total === 0 && status === 'running'}
				Reading …
			{:else}
				<span class="num">{done} of {total}</span>
				{words}{ends[status]}
			{/if}
		</p>
	</div>
{/if}

<style>
	progress {
		appearance: none;
		border: 2px solid var(--ink);
		background: transparent;
	}
	progress::-webkit-progress-bar {
		background: transparent;
	}
	progress::-webkit-progress-value {
		background: var(--ink);
	}
	progress::-moz-progress-bar {
		background: var(--ink);
	}
</style>
