<script lang="ts">
	import { Slider } from 'bits-ui';

	interface Props {
		value: number;
		label: string;
		min: number;
		max: number;
		/** The value with its unit, as it is read out. */
		words?: string;
	}

	let { value = $bindable(), label, min, max, words }: Props = $props();
</script>

<Slider.Root
	type="single"
	bind:value
	{min}
	{max}
	step={1}
	class="relative flex h-12 w-full cursor-pointer touch-none items-center select-none"
>
	<span class="bg-land border-quiet relative h-2 w-full rounded-full border">
		<Slider.Range class="bg-fill absolute h-full rounded-full" />
	</span>
	<Slider.Thumb
		index={0}
		aria-label={label}
		aria-valuetext={words}
		class="border-ink bg-card block h-7 w-7 rounded-full border-[3px]"
	/>
</Slider.Root>
