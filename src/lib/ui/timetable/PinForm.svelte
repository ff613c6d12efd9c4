<script lang="ts">
	import { DateTime } from 'luxon';
	import { untrack } from 'svelte';
	import { clockMoment } from '#core/schedule/hours';
	import TextField from '../form/TextField.svelte';
	import { clockMinute } from './dayForm';
	import { clockAt } from './timetableWords';

	interface Props {
		/** What is offered first, minutes since 1970. */
		start: number;
		zone: string;
		pinned: boolean;
		/** Puts it at a moment, or lets it go with null. */
		onpin: (minute: number | null) => void;
	}

	let { start, zone, pinned, onpin }: Props = $props();
	const first = untrack(() => start);
	let day = $state(
		DateTime.fromMillis(first * 60_000, { zone: untrack(() => zone) }).toISODate() ?? ''
	);
	let time = $state(untrack(() => clockAt(first, zone)));
	let problem: string | undefined = $state();

	function pin(event: SubmitEvent): void {
		event.preventDefault();
		const minute = clockMinute(time);
		problem = minute === undefined || !day ? 'A time of day, as 07:30.' : undefined;
		if (minute !== undefined && day) onpin(clockMoment(day, minute, zone));
	}
</script>

<form class="no-print flex flex-wrap items-end gap-3" onsubmit={pin} novalidate>
	<div class="w-40">
		<TextField label="Begin on" name="pin-day" type="date" bind:value={day} />
	</div>
	<div class="w-24">
		<TextField label="at" name="pin-time" bind:value={time} error={problem} />
	</div>
	<button class="btn">Pin it there</button>
	{#if pinned}
		<button type="button" class="btn" onclick={() => onpin(null)}>Let it go</button>
	{/if}
</form>
