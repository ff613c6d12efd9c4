<script lang="ts">
	import { withTerms } from '#core/words/vocabulary';
	import TermTip from './TermTip.svelte';

	/** A sentence whose abbreviations explain themselves when they are tapped. */
	let { text }: { text: string } = $props();
</script>

<!-- Nothing between the parts: a space of the markup would be one in the sentence. -->
{#each withTerms(text) as { text: plain, term }, i (i)}{#if term}<TermTip
			{term}
		/>{:else}{plain}{/if}{/each}
