<script lang="ts">
	import type { FieldDraft } from './fieldDraft.svelte';

	let { draft }: { draft: FieldDraft<object> } = $props();
</script>

{#if draft.restored}
	<p class="text-quiet flex flex-wrap items-center gap-x-3 text-sm" data-testid="kept-typing">
		What was typed here before was put back.
		<button type="button" class="min-h-11 underline" onclick={() => draft.clear()}
			>Throw it away</button
		>
	</p>
{/if}
