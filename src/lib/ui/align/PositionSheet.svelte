<script lang="ts">
	import type { Adjuster } from '#core/catalogue/parts';
	import type { Axis } from '#core/ends';
	import { adjusterAngleDeg, adjusterTurns } from '#core/sweep/adjusterScale';
	import { degrees, fixed } from '../format';
	import Keypad from './Keypad.svelte';
	import { typedNumber } from './numberInput';
	import Sheet from './Sheet.svelte';

	interface Props {
		open: boolean;
		axis: Axis;
		adjuster: Adjuster;
		onposition: (deg: number) => void;
	}

	let { open = $bindable(), axis, adjuster, onposition }: Props = $props();
	let unit: 'turns' | '°' = $state('turns');
	let value = $state('');
	let error: string | undefined = $state();
	const typed = $derived(typedNumber(value));
	const deg = $derived(
		typed === undefined ? undefined : unit === 'turns' ? adjusterAngleDeg(adjuster, typed) : typed
	);

	function enter(): void {
		if (deg === undefined) {
			error = 'Type a number, such as −1.25.';
			return;
		}
		if (Math.abs(deg) > adjuster.travelDeg) {
			error = `The adjuster reaches ${fixed(adjuster.travelDeg, 1)}° (${fixed(adjusterTurns(adjuster, adjuster.travelDeg), 1)} turns) each way.`;
			return;
		}
		error = undefined;
		onposition(deg);
		value = '';
		open = false;
	}
</script>

<Sheet
	bind:open
	title="Set the {axis}"
	description="From the centre of the adjuster; {axis === 'azimuth' ? 'right' : 'up'} is positive."
>
	<div class="mb-3 grid grid-cols-2 gap-2" role="group" aria-label="Unit">
		{#each ['turns', '°'] as const as option (option)}
			<button
				type="button"
				class="btn {unit === option ? 'btn-main' : ''}"
				aria-pressed={unit === option}
				onclick={() => (unit = option)}>{option === '°' ? 'Degrees' : 'Turns'}</button
			>
		{/each}
	</div>
	<Keypad
		bind:value
		label="Position"
		{unit}
		allowNegative
		enterLabel="Set it there"
		onenter={enter}
		{error}
	/>
	<p class="num mt-2 min-h-6 text-center">
		{deg === undefined
			? ''
			: unit === 'turns'
				? degrees(deg, 2, true)
				: `${fixed(adjusterTurns(adjuster, deg), 2, true)} turns`}
	</p>
</Sheet>
