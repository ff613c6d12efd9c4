<script lang="ts">
	import { resolve } from '$app/paths';
	import type { Term } from '#core/words/vocabulary';

	let { term }: { term: Term } = $props();
	const id = $props.id();
	/** Between the term and what explains it, and between that and the edge of the window, px. */
	const GAP_PX = 6;
	const EDGE_PX = 12;

	let asked: HTMLButtonElement | undefined = $state();
	let shown = $state(false);

	/** Under the term where there is room for it, above it where there is not; within the window. */
	function place(explanation: HTMLElement): void {
		if (!asked || !shown) return;
		const at = asked.getBoundingClientRect();
		const { width, height } = explanation.getBoundingClientRect();
		const below = at.bottom + GAP_PX;
		const top = below + height + EDGE_PX <= innerHeight ? below : at.top - GAP_PX - height;
		const left = at.left + at.width / 2 - width / 2;
		explanation.style.top = `${Math.max(EDGE_PX, top)}px`;
		explanation.style.left = `${Math.max(EDGE_PX, Math.min(left, innerWidth - EDGE_PX - width))}px`;
	}
</script>

<!-- Explained where it stands, by a tap; nothing here depends on hovering. -->
<button
	bind:this={asked}
	type="button"
	popovertarget={id}
	data-term={term.term}
	class="relative inline cursor-help underline decoration-dotted decoration-1 underline-offset-4 before:absolute before:-inset-x-2 before:-inset-y-3"
	aria-label="{term.term}: what is it?"
	aria-expanded={shown}>{term.term}</button
><span
	{id}
	popover="auto"
	role="note"
	class="border-ink bg-card text-ink fixed m-0 w-max max-w-80 rounded-lg border-2 p-4 text-left text-base font-normal shadow-lg"
	onbeforetoggle={(event) => (shown = event.newState === 'open')}
	ontoggle={(event) => place(event.currentTarget)}
>
	{#if shown}
		<strong class="block">{term.term}{term.standsFor ? `: ${term.standsFor}` : ''}</strong>
		<span class="mt-1 block text-sm">{term.means}</span>
		{#if term.unit}<span class="text-quiet mt-1 block text-sm">In {term.unit}.</span>{/if}
		<a
			class="mt-1 inline-flex min-h-11 items-center text-sm"
			href="{resolve('/glossary')}#{encodeURIComponent(term.term)}">All terms</a
		>
	{/if}
</span>
