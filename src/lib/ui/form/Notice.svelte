<script lang="ts">
	import type { Snippet } from 'svelte';

	interface Props {
		kind?: 'trouble' | 'caution' | 'quiet';
		children: Snippet;
	}

	let { kind = 'quiet', children }: Props = $props();
</script>

<div
	class="flex gap-2.5 rounded-lg border-l-4 px-3.5 py-2.5 {kind === 'trouble'
		? 'border-trouble bg-card'
		: kind === 'caution'
			? 'border-ink bg-land'
			: 'border-line bg-card'}"
	role={kind === 'trouble' ? 'alert' : undefined}
>
	{#if kind === 'trouble'}<span class="trouble" aria-hidden="true">▲</span>{/if}
	<div class="min-w-0">{@render children()}</div>
</div>
