<script lang="ts">
	import Sheet from '../align/Sheet.svelte';
	import Tick from '../form/Tick.svelte';
	import { shortcuts } from './shortcuts.svelte';

	const named: Record<string, string> = { ArrowLeft: '←', ArrowRight: '→' };
</script>

<Sheet bind:open={shortcuts.list.open} title="Keys of this page">
	<dl class="flex flex-col" data-testid="keys">
		{#each shortcuts.all as { key, does } (key + does)}
			<div class="border-line flex items-baseline gap-4 border-b py-2">
				<dt class="num w-16 shrink-0 text-lg font-bold">{named[key] ?? key}</dt>
				<dd class={shortcuts.on ? '' : 'text-quiet'}>{does}</dd>
			</div>
		{/each}
		<div class="border-line flex items-baseline gap-4 border-b py-2">
			<dt class="num w-16 shrink-0 text-lg font-bold">?</dt>
			<dd>This list</dd>
		</div>
		<div class="flex items-baseline gap-4 py-2">
			<dt class="num w-16 shrink-0 text-lg font-bold">Tab</dt>
			<dd>On to the next control; Enter or Space presses it</dd>
		</div>
	</dl>
	<Tick checked={shortcuts.on} onpick={(on) => shortcuts.switch(on)}
		>Single keys act on this device</Tick
	>
</Sheet>
