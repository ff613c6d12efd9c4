<script lang="ts">
	import type { PowerSource } from '#core/safety/gear';
	import type { PowerMatch } from '#core/tower/towerArithmetic';
	import Notice from '../form/Notice.svelte';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import type { TypedSource } from './source';

	interface Props {
		typed: TypedSource;
		/** Whether source and unit belong together, once both are known. */
		match: PowerMatch | undefined;
		ontyped?: () => void;
	}

	let { typed = $bindable(), match, ontyped }: Props = $props();
</script>

<div class="grid grid-cols-1 gap-3 sm:grid-cols-3">
	<SelectField
		label="Source"
		name="source-kind"
		bind:value={
			() => typed.kind,
			(kind) => {
				typed.kind = kind as PowerSource['kind'];
				ontyped?.();
			}
		}
		options={[
			{ value: 'dc', label: 'DC supply' },
			{ value: 'poe-standard', label: 'Standard Ethernet port' },
			{ value: 'poe-passive', label: 'Passive injector' }
		]}
	/>
	{#each [['volts', 'Voltage', 'V'], ['watts', 'Power', 'W']] as const as [key, label, unit] (key)}
		<TextField
			{label}
			name="source-{key}"
			{unit}
			numeric
			bind:value={
				() => typed[key],
				(text) => {
					typed[key] = text;
					ontyped?.();
				}
			}
		/>
	{/each}
</div>
{#if match}
	<Notice kind={match.verdict === 'match' ? 'quiet' : 'trouble'}>{match.reason}</Notice>
{:else}<p class="text-quiet text-sm">From the plate of what feeds it.</p>{/if}
