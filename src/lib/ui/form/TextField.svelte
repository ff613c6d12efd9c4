<script lang="ts">
	import Field from './Field.svelte';

	interface Props {
		label: string;
		name: string;
		value: string;
		unit?: string;
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
		hint,
		error,
		type = 'text',
		numeric = false,
		autocomplete = 'off',
		readonly = false
	}: Props = $props();
</script>

<Field {label} {name} {unit} {hint} {error}>
	{#snippet control({ id, describedBy, invalid })}
		<input
			{id}
			{name}
			{type}
			{autocomplete}
			{readonly}
			inputmode={numeric ? 'decimal' : undefined}
			class="input {numeric ? 'num' : ''}"
			aria-describedby={describedBy}
			aria-invalid={invalid}
			bind:value
		/>
	{/snippet}
</Field>
