<script lang="ts">
	import Check from '@lucide/svelte/icons/check';
	import { Checkbox } from 'bits-ui';
	import type { Snippet } from 'svelte';

	interface Props {
		checked: boolean;
		/** Height of the row and size of the box. */
		size?: 'plain' | 'large';
		name?: string;
		value?: string;
		onpick?: (checked: boolean) => void;
		children: Snippet;
	}

	let {
		checked = $bindable(),
		size = 'plain',
		name,
		value = 'on',
		onpick,
		children
	}: Props = $props();
</script>

<label class="flex items-center gap-3 {size === 'large' ? 'min-h-16 py-2' : 'min-h-12'}">
	<Checkbox.Root
		bind:checked
		{name}
		{value}
		onCheckedChange={(now) => onpick?.(now)}
		class="border-ink data-[state=checked]:bg-ink bg-card flex shrink-0 items-center justify-center rounded-md border-2 {size ===
		'large'
			? 'h-8 w-8'
			: 'h-7 w-7'}"
	>
		{#snippet children({ checked: on })}
			{#if on}<Check class="text-on-ink h-5 w-5" strokeWidth={3.5} aria-hidden="true" />{/if}
		{/snippet}
	</Checkbox.Root>
	{@render children()}
</label>
