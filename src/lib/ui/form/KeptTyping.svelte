<script lang="ts">
	import type { Draft } from './draft.svelte';

	interface Props {
		draft: Draft<object>;
		/** Whether it can be thrown away as soon as anything is typed, not only once it was put back. */
		always?: boolean;
	}

	let { draft, always = false }: Props = $props();
</script>

{#if draft.restored || draft.mayUndo || (always && draft.changed)}
	<p class="text-quiet flex flex-wrap items-center gap-x-3 text-sm" data-testid="kept-typing">
		{#if draft.mayUndo}
			Thrown away.
			<button type="button" class="min-h-11 underline" onclick={() => draft.undo()}
				>Bring it back</button
			>
		{:else}
			{#if draft.restored}What was typed here before was put back.{/if}
			{#if draft.savedMeanwhile}
				<strong class="text-ink"
					>It was saved by somebody else meanwhile: their changes stand wherever you typed nothing.</strong
				>
			{/if}
			<button type="button" class="min-h-11 underline" onclick={() => draft.discard()}
				>{draft.restored ? 'Throw it away' : 'Throw away what I typed'}</button
			>
		{/if}
	</p>
{/if}
