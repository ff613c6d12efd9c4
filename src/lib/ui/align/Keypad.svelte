<script lang="ts">
	import Delete from '@lucide/svelte/icons/delete';

	interface Props {
		/** What is typed: text, so that nothing typed is lost on the way to a number. */
		value: string;
		label: string;
		unit: string;
		allowNegative?: boolean;
		onenter: () => void;
		enterLabel: string;
		error?: string | undefined;
	}

	let {
		value = $bindable(),
		label,
		unit,
		allowNegative = false,
		onenter,
		enterLabel,
		error
	}: Props = $props();
	const keys = ['7', '8', '9', '4', '5', '6', '1', '2', '3'];

	function press(key: string): void {
		if (key === '.' && value.includes('.')) return;
		if (value.replace(/[^0-9]/g, '').length >= 8) return;
		value += key;
	}

	function toggleSign(): void {
		value = /^[-−]/.test(value) ? value.slice(1) : `-${value}`;
	}
</script>

<div class="flex flex-col gap-3">
	<div class="flex flex-col gap-1">
		<label for="keypad-value" class="font-semibold">{label}</label>
		<div class="flex items-center gap-3">
			<input
				id="keypad-value"
				class="input num h-16! min-w-0 flex-1 text-right text-4xl! font-bold"
				inputmode="none"
				autocomplete="off"
				bind:value
				aria-invalid={error !== undefined}
				aria-describedby={error ? 'keypad-error' : undefined}
				onkeydown={(event) => {
					if (event.key === 'Enter') {
						event.preventDefault();
						onenter();
					}
				}}
			/>
			<span class="num min-w-12 text-xl">{unit}</span>
		</div>
		{#if error}
			<p id="keypad-error" class="trouble font-semibold" role="alert">
				<span aria-hidden="true">▲</span>
				{error}
			</p>
		{/if}
	</div>
	<div class="grid grid-cols-3 gap-2.5">
		{#each keys as key (key)}
			<button type="button" class="btn num min-h-16! text-2xl" onclick={() => press(key)}
				>{key}</button
			>
		{/each}
		{#if allowNegative}
			<button
				type="button"
				class="btn num min-h-16! text-2xl"
				onclick={toggleSign}
				aria-label="Change the sign">±</button
			>
		{:else}
			<button type="button" class="btn min-h-16!" onclick={() => (value = '')}>Clear</button>
		{/if}
		<button type="button" class="btn num min-h-16! text-2xl" onclick={() => press('0')}>0</button>
		<button
			type="button"
			class="btn num min-h-16! text-2xl"
			onclick={() => press('.')}
			aria-label="Decimal point">.</button
		>
	</div>
	<div class="grid grid-cols-[1fr_2fr] gap-2.5">
		<button
			type="button"
			class="btn min-h-16!"
			onclick={() => (value = value.slice(0, -1))}
			aria-label="Delete the last digit"><Delete size={26} /></button
		>
		<button type="button" class="btn btn-main min-h-16! text-lg" onclick={onenter}
			>{enterLabel}</button
		>
	</div>
</div>
