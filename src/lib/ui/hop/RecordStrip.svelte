<script lang="ts">
	import Notice from '../form/Notice.svelte';
	import type { LiveHop } from './liveHop.svelte';

	let { live }: { live: LiveHop } = $props();
	const alive = $derived(live.nowMs > 0);
</script>

<div class="mt-1 flex flex-col gap-2 empty:hidden" aria-live="polite">
	{#if alive && (!live.connected || live.waitingCount > 0)}
		<p class="text-quiet text-sm" data-testid="record-state">
			{#if !live.connected}No connection just now; what you record is kept on this device.{/if}
			{#if live.waitingCount > 0}
				<span class="num">{live.waitingCount}</span>
				{live.waitingCount === 1 ? 'record waits' : 'records wait'} to be sent.
			{/if}
		</p>
	{/if}
	{#each live.refused as refusal (refusal.record.id)}
		<Notice kind="trouble">
			<p>
				The server did not take the {refusal.record.kind.replaceAll('-', ' ')} of
				{new Date(refusal.record.recordedAt).toLocaleTimeString('en-GB')}: {refusal.message}
			</p>
		</Notice>
	{/each}
	{#if live.refused.length > 0}
		<div><button class="btn" onclick={() => live.dismissRefused()}>I have read this</button></div>
	{/if}
</div>
