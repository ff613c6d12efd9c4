<script lang="ts">
	import { untrack } from 'svelte';
	import TextField from '../form/TextField.svelte';

	interface Props {
		signature: { name: string; method: 'typed' | 'drawn'; drawing?: string };
		errorAt: (field: string) => string | undefined;
	}

	let { signature = $bindable(), errorAt }: Props = $props();
	let canvas: HTMLCanvasElement | undefined = $state();
	let clear: () => void = $state(() => undefined);

	// Derived, so that a stroke that is kept does not set up the board anew and wipe it.
	const method = $derived(signature.method);
	$effect(() => {
		if (method !== 'drawn' || !canvas) return;
		const board = canvas;
		let gone = false;
		let off = (): void => undefined;
		void import('signature_pad').then(({ default: SignaturePad }) => {
			if (gone) return;
			const ratio = Math.min(2, devicePixelRatio);
			board.width = board.offsetWidth * ratio;
			board.height = board.offsetHeight * ratio;
			board.getContext('2d')?.scale(ratio, ratio);
			const pad = new SignaturePad(board, { penColor: '#15212B' });
			const keep = (): void => {
				signature = { ...signature, drawing: pad.toDataURL('image/png') };
			};
			const kept = untrack(() => signature.drawing);
			if (kept) void pad.fromDataURL(kept, { ratio });
			pad.addEventListener('endStroke', keep);
			clear = () => {
				pad.clear();
				signature = { name: signature.name, method: 'drawn' };
			};
			off = () => pad.off();
		});
		return () => {
			gone = true;
			off();
		};
	});

	function choose(method: 'typed' | 'drawn'): void {
		signature = { name: signature.name, method };
	}
</script>

<TextField
	label="Name of the signer"
	name="signature.name"
	autocomplete="name"
	bind:value={signature.name}
	error={errorAt('signature.name')}
/>
<div class="grid grid-cols-2 gap-2" role="group" aria-label="Way of signing">
	{#each ['typed', 'drawn'] as const as method (method)}
		<button
			type="button"
			class="btn {signature.method === method ? 'btn-main' : ''}"
			aria-pressed={signature.method === method}
			onclick={() => choose(method)}
		>
			{method === 'typed' ? 'Sign by name' : 'Draw a signature'}
		</button>
	{/each}
</div>
{#if signature.method === 'drawn'}
	<div>
		<canvas
			bind:this={canvas}
			class="border-ink h-40 w-full touch-none rounded-lg border-2 bg-white"
			aria-label="Draw your signature here"
		></canvas>
		<button type="button" class="min-h-12 underline" onclick={() => clear()}
			>Clear the drawing</button
		>
		{#if errorAt('signature.drawing')}<p class="trouble text-sm font-semibold">
				▲ {errorAt('signature.drawing')}
			</p>{/if}
	</div>
{/if}
