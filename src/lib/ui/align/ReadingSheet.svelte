<script lang="ts">
	import type { LevelCurve } from '#core/radio/levelCurve';
	import { fixed } from '../format';
	import Keypad from './Keypad.svelte';
	import { typedNumber } from './numberInput';
	import Sheet from './Sheet.svelte';

	interface Props {
		open: boolean;
		title: string;
		description?: string;
		curve: LevelCurve;
		enterLabel?: string;
		onreading: (reading: { volts: number | null; levelDbm: number | null }) => void;
	}

	let {
		open = $bindable(),
		title,
		description,
		curve,
		enterLabel = 'Keep it',
		onreading
	}: Props = $props();
	let unit: 'V' | 'dBm' = $state('V');
	let value = $state('');
	let error: string | undefined = $state();
	const typed = $derived(typedNumber(value));
	const preview = $derived.by(() => {
		if (typed === undefined) return '';
		if (unit === 'dBm') return `${fixed(curve.voltsAt(typed), 3)} V at this port`;
		const reading = curve.read(typed);
		if (reading.kind === 'implausible') return 'This port cannot give that voltage.';
		if (reading.kind === 'at-limit') {
			return `at the ${reading.limit} end of the port: ${fixed(reading.levelDbm, 1)} dBm`;
		}
		return `${fixed(reading.levelDbm, 1)} dBm ± ${fixed(reading.resolutionDb, 1)}`;
	});

	function enter(): void {
		if (typed === undefined) {
			error = 'Type a number, such as 1.234.';
			return;
		}
		if (unit === 'V' ? Math.abs(typed) > 100 : typed < -200 || typed > 50) {
			error = unit === 'V' ? 'No level port gives that.' : 'A level lies between −200 and 50 dBm.';
			return;
		}
		error = undefined;
		if (unit === 'V') {
			const reading = curve.read(typed);
			onreading({
				volts: typed,
				levelDbm: reading.kind === 'implausible' ? null : Number(reading.levelDbm.toFixed(2))
			});
		} else {
			onreading({ volts: null, levelDbm: typed });
		}
		value = '';
	}
</script>

<Sheet bind:open {title} {...description ? { description } : {}}>
	<div class="mb-3 grid grid-cols-2 gap-2" role="group" aria-label="Unit">
		{#each ['V', 'dBm'] as const as option (option)}
			<button
				type="button"
				class="btn {unit === option ? 'btn-main' : ''}"
				aria-pressed={unit === option}
				onclick={() => {
					unit = option;
					value = option === 'dBm' ? '-' : '';
					error = undefined;
				}}>{option === 'V' ? 'Volts' : 'dBm'}</button
			>
		{/each}
	</div>
	<Keypad
		bind:value
		label={unit === 'V' ? 'Meter shows' : 'Level'}
		{unit}
		allowNegative={unit === 'dBm'}
		{enterLabel}
		onenter={enter}
		{error}
	/>
	<p class="num mt-2 min-h-6 text-center" aria-live="polite">{preview}</p>
</Sheet>
