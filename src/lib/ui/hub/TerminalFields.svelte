<script lang="ts">
	import { typedCoordinate } from '#core/geodesy/typedCoordinate';
	import { fixed } from '../format';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import type { HubParts, TerminalForm, UnitForm } from './hubForm';
	import MountedFields from './MountedFields.svelte';

	interface Props {
		terminal: TerminalForm;
		at: number;
		parts: HubParts;
		units: readonly UnitForm[];
		problemAt: (field: string) => string | undefined;
	}

	let { terminal = $bindable(), at, parts, units, problemAt }: Props = $props();
	const offered = $derived(
		parts.terminals.filter(
			({ code, retired, rangeGhz }) => code === terminal.partCode || (!retired && mayHear(rangeGhz))
		)
	);
	/** Whether a terminal's band holds the channel of any unit. */
	const mayHear = ([low, high]: readonly [number, number]): boolean =>
		units.some(({ frequencyGhz }) => Number(frequencyGhz) > low && Number(frequencyGhz) < high);
	const field = (key: string): string => `terminals.${at}.${key}`;
	const readAs = (text: string, kind: 'latitude' | 'longitude'): string => {
		const deg = typedCoordinate(text, kind);
		return deg === undefined || /^-?\d*(?:\.\d*)?$/.test(text.trim())
			? ''
			: `read as ${fixed(deg, 6)}°`;
	};
	const KINDS = [
		{ value: 'trees', label: 'trees' },
		{ value: 'building', label: 'a building' },
		{ value: 'other', label: 'something else' }
	];
	function addObstacle(): void {
		terminal.obstacles.push({
			...{ name: '', kind: 'trees', distanceKm: '', lengthM: '0', heightM: '' }
		});
	}
	/** Distances of metres are typed in metres; the plan keeps kilometres. */
	const inMetres = (km: string): string => (km.trim() === '' ? '' : String(Number(km) * 1000));
	const inKilometres = (metres: string): string =>
		metres.trim() === '' ? '' : String(Number(metres) / 1000);
</script>

<div class="grid gap-4 sm:grid-cols-2">
	<MountedFields bind:mounted={terminal} inside="terminals.{at}." parts={offered} {problemAt} />
	<TextField
		label="Latitude"
		unit="° north positive"
		name={field('latitudeDeg')}
		hint={readAs(terminal.latitudeDeg, 'latitude')}
		bind:value={terminal.latitudeDeg}
		error={problemAt(field('latitudeDeg'))}
	/>
	<TextField
		label="Longitude"
		unit="° east positive"
		name={field('longitudeDeg')}
		hint={readAs(terminal.longitudeDeg, 'longitude')}
		bind:value={terminal.longitudeDeg}
		error={problemAt(field('longitudeDeg'))}
	/>
	<TextField
		label="Ground"
		quantity="m"
		unit="a.m.s.l."
		name={field('groundAmslM')}
		bind:value={terminal.groundAmslM}
		error={problemAt(field('groundAmslM'))}
	/>
	<TextField
		label="Promised to it"
		unit="Mbit/s"
		numeric
		name={field('downMbitS')}
		bind:value={terminal.downMbitS}
		error={problemAt(field('downMbitS'))}
	/>
	<TextField
		label="Promised from it"
		unit="Mbit/s"
		numeric
		name={field('upMbitS')}
		bind:value={terminal.upMbitS}
		error={problemAt(field('upMbitS'))}
	/>
	<SelectField
		label="Served by"
		name={field('unitId')}
		bind:value={terminal.unitId}
		options={[
			{ value: '', label: 'the unit that suits best' },
			...units.map(({ id, name }) => ({ value: id, label: name }))
		]}
		error={problemAt(field('unitId'))}
	/>
</div>
<fieldset class="mt-4">
	<legend class="text-[0.95rem] font-semibold">What stands between, from the hub on</legend>
	{#each terminal.obstacles as obstacle, i (i)}
		<div class="border-line mt-2 grid grid-cols-[1fr_1fr_auto] items-end gap-3 border-b pb-3">
			<div class="col-span-3">
				<SelectField
					label="Kind"
					name={field(`obstacles.${i}.kind`)}
					options={KINDS}
					bind:value={obstacle.kind}
				/>
			</div>
			<TextField
				label="From the hub"
				quantity="m"
				name={field(`obstacles.${i}.distanceKm`)}
				bind:value={
					() => inMetres(obstacle.distanceKm),
					(typed) => (obstacle.distanceKm = inKilometres(typed))
				}
				error={problemAt(field(`obstacles.${i}.distanceKm`))}
			/>
			<TextField
				label="Height"
				quantity="m"
				name={field(`obstacles.${i}.heightM`)}
				bind:value={obstacle.heightM}
				error={problemAt(field(`obstacles.${i}.heightM`))}
			/>
			<button
				type="button"
				class="btn"
				aria-label="Take this away"
				onclick={() => terminal.obstacles.splice(i, 1)}>×</button
			>
		</div>
	{/each}
	<button type="button" class="min-h-11 text-sm underline" onclick={addObstacle}
		>Add trees or a building</button
	>
</fieldset>
