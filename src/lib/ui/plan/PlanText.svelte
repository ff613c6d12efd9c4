<script lang="ts">
	import type { ComponentProps } from 'svelte';
	import TextField from '../form/TextField.svelte';
	import { usePlanEditor } from './editor.svelte';

	type Props = Omit<ComponentProps<typeof TextField>, 'name' | 'error'> & {
		/** Path of the field in the plan, such as `wind.operatingMS`. */
		field: string;
	};

	let { field, value = $bindable(), ...rest }: Props = $props();
	const editor = usePlanEditor();
</script>

<TextField {...rest} name="plan.{field}" bind:value error={editor.problemAt(`plan.${field}`)} />
