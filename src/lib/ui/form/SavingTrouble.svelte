<script lang="ts">
	import type { FieldProblem } from '../api';
	import Notice from './Notice.svelte';
	import type { Saving } from './saving.svelte';

	interface Props {
		saving: Saving;
		/** What is wrong at fields that are not in view here. */
		elsewhere?: readonly FieldProblem[];
	}

	let { saving, elsewhere = [] }: Props = $props();
</script>

{#if saving.message}
	<Notice kind="trouble">
		<p>{saving.message}</p>
		{#if elsewhere.length}
			<ul class="mt-1 list-disc pl-5 text-sm">
				{#each elsewhere.slice(0, 8) as problem (problem.field + problem.message)}
					<li>{problem.message}</li>
				{/each}
			</ul>
		{/if}
		{#if saving.code === 'changed-meanwhile'}
			<button type="button" class="btn mt-2" onclick={() => location.reload()}
				>Show what is saved now, with my typing on it</button
			>
		{/if}
	</Notice>
{/if}
