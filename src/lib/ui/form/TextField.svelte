<script lang="ts">
	import { shownText, storedText, unitOf, type Quantity } from '../units.svelte';
	import Field from './Field.svelte';

	interface Props {
		label: string;
		name: string;
		value: string;
		unit?: string;
		/** A length or speed: shown and typed in the person's units, stored in metric ones. */
		quantity?: Quantity;
		hint?: string;
		error?: string | undefined;
		type?: 'text' | 'password' | 'date' | 'search';
		/** Numbers are typed as text, so that what was typed is never lost; the keyboard is numeric. */
		numeric?: boolean;
		autocomplete?: AutoFill;
		readonly?: boolean;
	}

	let {
		label,
		name,
		value = $bindable(),
		unit,
		quantity,
		hint,
		error,
		type = 'text',
		numeric = false,
		autocomplete = 'off',
		readonly = false
	}: Props = $props();

	// While it is typed the text stands as typed; converting each key would eat decimal points.
	let typing: string | undefined = $state();
	const shown = $derived(typing ?? (quantity ? shownText(value, quantity) : value));
	const unitShown = $derived(quantity ? `${unitOf(quantity)}${unit ? ` ${unit}` : ''}` : unit);
</script>

<Field {label} {name} unit={unitShown} {hint} {error}>
	{#snippet control({ id, describedBy, invalid })}
		<input
			{id}
			{name}
			{type}
			{autocomplete}
			{readonly}
			inputmode={numeric || quantity ? 'decimal' : undefined}
			class="input {numeric || quantity ? 'num' : ''}"
			aria-describedby={describedBy}
			aria-invalid={invalid}
			onblur={() => (typing = undefined)}
			bind:value={
				() => shown,
				(typed: string) => {
					typing = typed;
					value = quantity ? storedText(typed, quantity) : typed;
				}
			}
		/>
	{/snippet}
</Field>
