<script lang="ts">
	import TextField from '../form/TextField.svelte';
	import type { HubParts, UnitForm } from './hubForm';
	import MountedFields from './MountedFields.svelte';

	interface Props {
		unit: UnitForm;
		/** Its place in the plan. */
		at: number;
		parts: HubParts;
		problemAt: (field: string) => string | undefined;
	}

	let { unit = $bindable(), at, parts, problemAt }: Props = $props();
	/** A small radio at one end of a link stays among its kind. */
	const small = $derived(parts.terminals.some(({ code }) => code === unit.partCode));
	const offered = $derived(
		(small ? parts.terminals : parts.hubUnits).filter(
			({ code, retired }) => !retired || code === unit.partCode
		)
	);
	const part = $derived(offered.find(({ code }) => code === unit.partCode));
	// On a wall nothing pans: a unit looks where its wall does.
	const FIELDS = $derived([
		...(unit.how === 'wall' ? [] : ([['headingDeg', 'Heading', '° true', '']] as const)),
		['tiltDeg', 'Tilt', '° up', ''],
		[
			'frequencyGhz',
			'Middle of its channel',
			'GHz',
			part ? `${part.rangeGhz[0]} to ${part.rangeGhz[1]} GHz` : ''
		]
	] as const);
</script>

<div class="grid gap-4 sm:grid-cols-2">
	<MountedFields bind:mounted={unit} inside="units.{at}." parts={offered} {problemAt} />
	{#each FIELDS as [key, label, unitOf, hint] (key)}
		<TextField
			{label}
			unit={unitOf}
			numeric
			name="units.{at}.{key}"
			{hint}
			bind:value={unit[key]}
			error={problemAt(`units.${at}.${key}`)}
		/>
	{/each}
</div>
