<script lang="ts">
	import Field from './Field.svelte';
	import Pick from './Pick.svelte';

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
		<Pick {id} {name} {describedBy} {invalid} {options} bind:value />
	{/snippet}
</Field>
