<script lang="ts">
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import type { HubParts, UnitForm } from './hubForm';
	import { HOW_WORDS } from './hubWords';

	interface Props {
		unit: UnitForm;
		/** Its place in the plan. */
		at: number;
		parts: HubParts;
		problemAt: (field: string) => string | undefined;
	}

	let { unit = $bindable(), at, parts, problemAt }: Props = $props();
	const part = $derived(parts.hubUnits.find(({ code }) => code === unit.partCode));
	const field = (key: string): string => `units.${at}.${key}`;
</script>

<div class="grid gap-4 sm:grid-cols-2">
	<TextField
		label="Name"
		name={field('name')}
		bind:value={unit.name}
		error={problemAt(field('name'))}
	/>
	<SelectField
		label="Type"
		name={field('partCode')}
		bind:value={unit.partCode}
		options={parts.hubUnits
			.filter(({ code, retired }) => !retired || code === unit.partCode)
			.map(({ code, name }) => ({ value: code, label: name }))}
		error={problemAt(field('partCode'))}
	/>
	<SelectField
		label="Mounted on"
		name={field('how')}
		bind:value={unit.how}
		options={Object.entries(HOW_WORDS).map(([value, label]) => ({ value, label }))}
		hint={part?.mountings.find(({ how }) => how === unit.how)?.name ??
			'No such mounting of this type'}
		error={problemAt(field('how'))}
	/>
	{#if unit.how === 'wall'}
		<TextField
			label="Wall faces"
			unit="° true"
			numeric
			name={field('wallBearingDeg')}
			bind:value={
				() => unit.wallBearingDeg,
				(typed) => {
					unit.wallBearingDeg = typed;
					// On a wall nothing pans: it looks where the wall does.
					unit.headingDeg = typed;
				}
			}
			error={problemAt(field('wallBearingDeg')) ?? problemAt(field('headingDeg'))}
		/>
	{:else}
		<TextField
			label="Pole"
			quantity="mm"
			unit="across"
			name={field('poleMm')}
			bind:value={unit.poleMm}
			error={problemAt(field('poleMm'))}
		/>
	{/if}
	<TextField
		label="Height"
		quantity="m"
		unit="above ground"
		name={field('heightAglM')}
		bind:value={unit.heightAglM}
		error={problemAt(field('heightAglM'))}
	/>
	<TextField
		label="Middle of its channel"
		unit="GHz"
		numeric
		name={field('frequencyGhz')}
		hint={part ? `${part.rangeGhz[0]} to ${part.rangeGhz[1]} GHz` : ''}
		bind:value={unit.frequencyGhz}
		error={problemAt(field('frequencyGhz'))}
	/>
	{#if unit.how !== 'wall'}
		<TextField
			label="Heading"
			unit="° true"
			numeric
			name={field('headingDeg')}
			bind:value={unit.headingDeg}
			error={problemAt(field('headingDeg'))}
		/>
	{/if}
	<TextField
		label="Tilt"
		unit="° up"
		numeric
		name={field('tiltDeg')}
		bind:value={unit.tiltDeg}
		error={problemAt(field('tiltDeg'))}
	/>
</div>
