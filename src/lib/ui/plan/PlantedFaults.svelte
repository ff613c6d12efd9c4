<script lang="ts">
	import { CONFIGURATIONS } from '#core/budget/configurationKinds';
	import { CAUSE_TABLE } from '#core/diagnose/causes/table';
	import { ENDS } from '#core/ends';
	import { isSimulatedFault, PLACES, SIMULATED_FAULTS } from '#core/simulate/faults';
	import {
		mayHaveFault,
		MOST_PLANTED,
		plantedText,
		readPlanted,
		type PlantedFault
	} from '#core/simulate/planted';
	import SelectField from '../form/SelectField.svelte';

	interface Props {
		/** As it is kept: empty for none, `any` for one drawn by lot. */
		value: string;
		/** Kind of the configuration as it stands in the form. */
		configuration: string;
		error: string | undefined;
	}

	let { value = $bindable(), configuration, error }: Props = $props();
	const planted = $derived(readPlanted(value) ?? []);
	const kind = $derived(CONFIGURATIONS.find((one) => one === configuration) ?? 'single');
	const rows = $derived(
		Array.from({ length: Math.min(MOST_PLANTED, planted.length + 1) }, (_, i) => planted[i])
	);
	const PLACE_OPTIONS = [
		{ value: '', label: 'Both ends alike' },
		{ value: 'A', label: 'A only' },
		{ value: 'B', label: 'B only' }
	];

	const options = (row: number): { value: string; label: string }[] => [
		{ value: '', label: 'None' },
		...(row === 0 ? [{ value: 'any', label: 'One drawn by lot' }] : []),
		...SIMULATED_FAULTS.filter(
			(fault) =>
				planted[row]?.fault === fault ||
				(mayHaveFault(fault, kind) && planted.every((one) => one.fault !== fault))
		).map((fault) => ({ value: fault, label: CAUSE_TABLE[fault].name }))
	];

	function put(row: number, fault: PlantedFault | undefined): void {
		const others = planted.filter((_, i) => i !== row);
		value = plantedText(
			fault ? [...planted.slice(0, row), fault, ...planted.slice(row + 1)] : others
		);
	}
	function choose(row: number, chosen: string): void {
		if (chosen === 'any') value = chosen;
		else put(row, isSimulatedFault(chosen) ? { fault: chosen, end: null } : undefined);
	}
</script>

{#each rows as one, row (row)}
	<div class="min-w-56">
		<SelectField
			label={row === 0 ? 'Planted fault, kept from the crew' : 'And at the same time'}
			name={row === 0 ? 'plantedFault' : 'plantedFault-2'}
			options={options(row)}
			bind:value={
				() => (row === 0 && value === 'any' ? value : (one?.fault ?? '')), (to) => choose(row, to)
			}
			error={row === 0 ? error : undefined}
		/>
	</div>
	{#if one && PLACES[one.fault] === 'either-end'}
		<div class="min-w-40">
			<SelectField
				label="Where"
				name={row === 0 ? 'plantedAt' : 'plantedAt-2'}
				options={PLACE_OPTIONS}
				bind:value={
					() => one.end ?? '',
					(to) => put(row, { ...one, end: ENDS.find((end) => end === to) ?? null })
				}
			/>
		</div>
	{/if}
{/each}
