<script lang="ts">
	import { Popover } from 'bits-ui';
	import { resolve } from '$app/paths';
	import type { Term } from '#core/words/vocabulary';

	let { term }: { term: Term } = $props();
</script>

<!-- Explained where it stands, by a tap; nothing here depends on hovering. -->
<Popover.Root>
	<Popover.Trigger
		data-term={term.term}
		class="relative inline cursor-help underline decoration-dotted decoration-1 underline-offset-4 before:absolute before:-inset-x-2 before:-inset-y-3"
		aria-label="{term.term}: what is it?">{term.term}</Popover.Trigger
	>
	<Popover.Portal>
		<Popover.Content
			class="border-ink bg-card text-ink z-60 max-w-80 rounded-lg border-2 p-4 text-base font-normal shadow-lg"
			sideOffset={6}
			collisionPadding={12}
		>
			<p class="font-bold">{term.term}{term.standsFor ? `: ${term.standsFor}` : ''}</p>
			<p class="mt-1 text-sm">{term.means}</p>
			{#if term.unit}<p class="text-quiet mt-1 text-sm">In {term.unit}.</p>{/if}
			<a
				class="mt-1 inline-flex min-h-11 items-center text-sm"
				href="{resolve('/glossary')}#{encodeURIComponent(term.term)}">All terms</a
			>
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
