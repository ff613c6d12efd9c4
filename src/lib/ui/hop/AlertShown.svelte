<script lang="ts">
	import { farEnd, type End } from '#core/ends';
	import { alarms } from './alarms.svelte';

	/** The end that is called; the other one calls. */
	let { end }: { end: End } = $props();
</script>

<div aria-live="assertive">
	{#if alarms.open}
		{@const stop = alarms.open.kind === 'stop'}
		<div
			class="end-{farEnd(
				end
			)} sticky top-12 z-10 mb-2 flex items-center gap-3 rounded-lg border-4 px-3 py-2 lg:top-0 {stop
				? 'border-trouble bg-card text-trouble'
				: 'bg-card'}"
			style:border-color={stop ? undefined : 'var(--end)'}
			data-testid="alert"
			data-kind={alarms.open.kind}
		>
			<p class="min-w-0 flex-1 text-xl leading-tight font-bold">
				{#if stop}<span aria-hidden="true">▲ </span>{/if}{alarms.open.words}
			</p>
			<button type="button" class="btn shrink-0" onclick={() => alarms.seen()}>Seen</button>
		</div>
	{/if}
</div>
