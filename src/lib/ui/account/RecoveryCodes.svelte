<script lang="ts">
	import Notice from '../form/Notice.svelte';

	/** Shown once, until the page is left. */
	let { codes }: { codes: readonly string[] } = $props();
</script>

{#if codes.length}
	<Notice kind="caution">
		<p>
			<strong>Write these down now: they are not shown again.</strong> With your password, each lets you
			in once when neither authenticator nor passkey is at hand.
		</p>
		<ul class="num mt-2 grid grid-cols-2 gap-x-6 gap-y-1" data-testid="recovery-codes">
			{#each codes as one (one)}<li>{one}</li>{/each}
		</ul>
	</Notice>
{/if}
