<script lang="ts">
	import Check from '@lucide/svelte/icons/check';
	import Copy from '@lucide/svelte/icons/copy';

	interface Props {
		text: string;
		/** What is copied, as it is read out, such as `the position`. */
		what: string;
	}

	let { text, what }: Props = $props();
	let phase: 'idle' | 'copied' | 'refused' = $state('idle');

	async function copy(): Promise<void> {
		try {
			await navigator.clipboard.writeText(text);
			phase = 'copied';
		} catch {
			// Not allowed here, or no clipboard: it can still be marked by hand.
			phase = 'refused';
		}
		setTimeout(() => (phase = 'idle'), 3000);
	}
</script>

<button
	type="button"
	class="no-print text-quiet inline-flex min-h-11 min-w-11 items-center justify-center gap-1 align-middle text-sm"
	aria-label={phase === 'idle' ? `Copy ${what}` : undefined}
	onclick={() => void copy()}
>
	{#if phase === 'copied'}<Check size={18} /> copied{:else if phase === 'refused'}not allowed here:
		mark it by hand{:else}<Copy size={18} />{/if}
</button>
