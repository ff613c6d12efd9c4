<script lang="ts">
	import Notice from '../form/Notice.svelte';
	import type { LiveHop } from './liveHop.svelte';

	let { live, kept }: { live: LiveHop; kept: boolean } = $props();
	const waits = $derived(live.waitingCount + live.photosWaiting.length > 0);
	const alive = $derived(live.nowMs > 0);
</script>

<div class="mt-1 flex flex-col gap-2 empty:hidden" aria-live="polite">
	{#if alive}
		<p class="text-quiet flex flex-wrap gap-x-2 text-sm" data-testid="record-state">
			<span class={live.connected ? '' : 'text-ink font-semibold'}>
				<span aria-hidden="true">{live.connected ? '●' : '○'}</span>
				{live.connected
					? waits
						? 'Connected, sending.'
						: 'Connected, all sent.'
					: 'No connection: what you record is kept on this device.'}
			</span>
			{#if live.waitingCount > 0}
				<span>
					<span class="num">{live.waitingCount}</span>
					{live.waitingCount === 1 ? 'record waits' : 'records wait'} to be sent.
				</span>
			{/if}
			{#if live.photosWaiting.length > 0}
				<span>
					<span class="num">{live.photosWaiting.length}</span>
					{live.photosWaiting.length === 1 ? 'photo waits' : 'photos wait'} to be sent.
				</span>
			{/if}
			{#if kept && live.connected}<span>This hop is on this device.</span>{/if}
		</p>
	{/if}
	{#if live.planRevised}
		<Notice kind="trouble">
			<p class="font-semibold">{live.planRevised}</p>
			<p class="mt-1">
				Nothing is lost: {live.waitingCount}
				{live.waitingCount === 1 ? 'record waits' : 'records wait'} on this device. They can be kept as
				measured against the older plan; look at the new one first if levels or parts may have changed.
			</p>
			<div class="mt-2 flex flex-wrap gap-3">
				<button class="btn" onclick={() => location.reload()}>Show the new plan</button>
				<button class="btn btn-main" onclick={() => void live.keepAgainstOlder()}
					>Keep them against the older plan</button
				>
			</div>
		</Notice>
	{/if}
	{#if live.photoRefused}
		<Notice kind="trouble"><p>The server did not take a photo: {live.photoRefused}</p></Notice>
	{/if}
	{#each live.refused as refusal (refusal.record.id)}
		<Notice kind="trouble">
			<p>
				The server did not take the {refusal.record.kind.replaceAll('-', ' ')} of
				{new Date(refusal.record.recordedAt).toLocaleTimeString('en-GB')}: {refusal.message}
			</p>
		</Notice>
	{/each}
	{#if live.refused.length > 0 || live.photoRefused}
		<div><button class="btn" onclick={() => live.dismissRefused()}>I have read this</button></div>
	{/if}
</div>
