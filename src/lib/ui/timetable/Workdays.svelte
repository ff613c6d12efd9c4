<script lang="ts">
	import Tick from '../form/Tick.svelte';

	interface Props {
		/** Days of the week, 1 Monday to 7 Sunday. */
		workdays: number[];
		error: string | undefined;
	}

	let { workdays = $bindable(), error }: Props = $props();
	const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
	function set(day: number, on: boolean): void {
		const others = workdays.filter((one) => one !== day);
		workdays = on ? [...others, day].sort() : others;
	}
</script>

<fieldset>
	<legend class="text-sm font-semibold">Working days</legend>
	<div class="flex flex-wrap gap-x-5">
		{#each DAYS as name, i (name)}
			<Tick bind:checked={() => workdays.includes(i + 1), (on) => set(i + 1, on)}>{name}</Tick>
		{/each}
	</div>
	{#if error}<p class="trouble text-sm">{error}</p>{/if}
</fieldset>
