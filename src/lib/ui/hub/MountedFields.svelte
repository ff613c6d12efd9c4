<script lang="ts">
	import type { SteeredUnitPart } from '#core/catalogue/parts';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import { HOW_WORDS } from './hubWords';

	interface Mounted {
		name: string;
		partCode: string;
		how: string;
		wallBearingDeg: string;
		poleMm: string;
		heightAglM: string;
	}

	interface Props {
		mounted: Mounted;
		/** Path of its fields, ending in a point. */
		inside: string;
		/** The parts it may be, that which it is among them. */
		parts: readonly SteeredUnitPart[];
		problemAt: (field: string) => string | undefined;
	}

	let { mounted = $bindable(), inside, parts, problemAt }: Props = $props();
	const mounting = $derived(
		parts
			.find(({ code }) => code === mounted.partCode)
			?.mountings.find(({ how }) => how === mounted.how)
	);
	const at = (key: string): { name: string; error: string | undefined } => ({
		name: `${inside}${key}`,
		error: problemAt(`${inside}${key}`)
	});
</script>

<TextField label="Name" {...at('name')} bind:value={mounted.name} />
<SelectField
	label="Type"
	{...at('partCode')}
	bind:value={mounted.partCode}
	options={parts.map(({ code, name }) => ({ value: code, label: name }))}
/>
<TextField
	label="Height"
	quantity="m"
	unit="above ground"
	{...at('heightAglM')}
	bind:value={mounted.heightAglM}
/>
<SelectField
	label="Mounted on"
	{...at('how')}
	bind:value={mounted.how}
	options={Object.entries(HOW_WORDS).map(([value, label]) => ({ value, label }))}
	hint={mounting?.name ?? 'No such mounting of this type'}
/>
{#if mounted.how === 'wall'}
	<TextField
		label="Wall faces"
		unit="° true"
		numeric
		{...at('wallBearingDeg')}
		bind:value={mounted.wallBearingDeg}
	/>
{:else}
	<TextField
		label="Pole"
		quantity="mm"
		unit="across"
		{...at('poleMm')}
		bind:value={mounted.poleMm}
	/>
{/if}
