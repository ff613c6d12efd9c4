<script lang="ts">
	import { Dialog } from 'bits-ui';
	import X from '@lucide/svelte/icons/x';
	import type { Snippet } from 'svelte';

	interface Props {
		open: boolean;
		title: string;
		description?: string;
		children: Snippet;
	}

	let { open = $bindable(), title, description, children }: Props = $props();
</script>

<Dialog.Root bind:open>
	<Dialog.Portal>
		<Dialog.Overlay class="fixed inset-0 z-40 bg-black/45" />
		<Dialog.Content
			class="bg-paper border-ink fixed inset-x-0 bottom-0 z-50 max-h-[96dvh] overflow-y-auto rounded-t-2xl border-2 p-4 sm:inset-auto sm:top-1/2 sm:left-1/2 sm:w-[26rem] sm:-translate-x-1/2 sm:-translate-y-1/2 sm:rounded-2xl"
		>
			<div class="mb-2 flex items-start justify-between gap-3">
				<div>
					<Dialog.Title class="text-xl font-bold">{title}</Dialog.Title>
					{#if description}
						<Dialog.Description class="text-quiet text-sm">{description}</Dialog.Description>
					{/if}
				</div>
				<Dialog.Close class="flex h-12 w-12 shrink-0 items-center justify-center" aria-label="Close"
					><X size={24} /></Dialog.Close
				>
			</div>
			{@render children()}
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
