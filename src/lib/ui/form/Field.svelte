<script lang="ts">
	import type { Snippet } from 'svelte';

	interface Props {
		label: string;
		name: string;
		unit?: string;
		hint?: string;
		error?: string | undefined;
		/** The control; gets the ids that tie it to label, hint and error. */
		control: Snippet<[{ id: string; describedBy: string | undefined; invalid: boolean }]>;
	}

	let { label, name, unit, hint, error, control }: Props = $props();
	const id = $derived(`field-${name.replaceAll('.', '-')}`);
	const describedBy = $derived(
		[error ? `${id}-error` : '', hint ? `${id}-hint` : ''].filter(Boolean).join(' ') || undefined
	);
</script>

<div class="flex min-w-0 flex-col gap-1">
	<label for={id} class="text-[0.95rem] font-semibold">
		{label}{#if unit}<span class="text-quiet font-normal">, {unit}</span>{/if}
	</label>
	{@render control({ id, describedBy, invalid: error !== undefined })}
	{#if error}
		<p id="{id}-error" class="trouble flex gap-1.5 text-sm font-semibold">
			<span aria-hidden="true">▲</span>{error}
		</p>
	{/if}
	{#if hint}<p id="{id}-hint" class="text-quiet text-sm">{hint}</p>{/if}
</div>
