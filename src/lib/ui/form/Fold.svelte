<script lang="ts">
	import ChevronRight from '@lucide/svelte/icons/chevron-right';
	import { Collapsible } from 'bits-ui';
	import type { Snippet } from 'svelte';

	interface Props {
		/** What it holds, always shown. */
		title: string;
		open?: boolean;
		class?: string;
		children: Snippet;
	}

	let { title, open = $bindable(false), class: extra = '', children }: Props = $props();
</script>

<Collapsible.Root bind:open class={extra}>
	<Collapsible.Trigger
		class="group flex min-h-12 w-full items-center gap-2 py-2 text-left font-bold"
	>
		<ChevronRight
			class="h-5 w-5 shrink-0 group-data-[state=open]:rotate-90"
			aria-hidden="true"
		/>{title}
	</Collapsible.Trigger>
	<Collapsible.Content>{@render children()}</Collapsible.Content>
</Collapsible.Root>
