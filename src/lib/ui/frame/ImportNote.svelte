<script lang="ts">
	import { provenanceWords, type Provenance } from '#core/provenance/provenance';
	import Notice from '../form/Notice.svelte';
	import { moment } from '../moment.svelte';

	/** Says of a hop that was taken in from elsewhere what came with it; nothing of one made here. */
	let { provenance }: { provenance: Provenance | null } = $props();
</script>

{#if provenance}
	<div class="mt-3">
		<Notice kind="caution">
			<p data-testid="import-note">{provenanceWords(provenance, moment)}</p>
		</Notice>
	</div>
{/if}
