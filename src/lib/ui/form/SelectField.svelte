<script lang="ts">
	import Field from './Field.svelte';

	interface Props {
		label: string;
		name: string;
		value: string;
		options: readonly { value: string; label: string }[];
		unit?: string;
		hint?: string;
		error?: string | undefined;
	}

	let { label, name, value = $bindable(), options, unit, hint, error }: Props = $props();
</script>

<Field {label} {name} {unit} {hint} {error}>
	{#snippet control({ id, describedBy, invalid })}
		<select
			{id}
			{name}
			class="input"
			aria-describedby={describedBy}
			aria-invalid={invalid}
			bind:value
		>
			{#each options as option (option.value)}
				<option value={option.value}>{option.label}</option>
			{/each}
		</select>
	{/snippet}
</Field>
