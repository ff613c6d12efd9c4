<script lang="ts">
	import type { Stint } from '#core/schedule/projectSchedule';
	import PinForm from '../timetable/PinForm.svelte';
	import { clockAt, dayAt, lengthWords } from '../timetable/timetableWords';

	interface Props {
		stint: Stint;
		/** Where it was when the schedule was worked out, minutes since 1970; undefined where it was not in it. */
		was: number | undefined;
		hopName: string;
		crewName: string;
		zone: string;
		/** Where somebody wants it, minutes since 1970; undefined where nobody has said. */
		pin: number | undefined;
		/** Puts it somewhere, or lets it go with null; undefined where nobody may. */
		onpin: ((task: string, minute: number | null) => void) | undefined;
		onclose: () => void;
	}

	let { stint, was, hopName, crewName, zone, pin, onpin, onclose }: Props = $props();
	const later = $derived(was === undefined ? 0 : stint.from - was);
</script>

<div
	class="end-{stint.end} bg-card sticky bottom-2 z-20 mt-2 flex flex-col gap-2 rounded-lg border-2 p-3 text-sm"
	style:border-color="var(--end)"
	data-testid="stint"
>
	<div class="flex flex-wrap items-start gap-x-6 gap-y-1">
		<p class="min-w-0 flex-1">
			<strong><span class="text-end-own">{stint.end}</span> {hopName}: {crewName}</strong>
			<span class="block"
				>{dayAt(stint.from, zone)} <span class="num">{clockAt(stint.from, zone)}</span> to
				<span class="num">{clockAt(stint.to, zone)}</span>, {lengthWords(
					stint.to - stint.from
				)}{stint.done ? ', done' : stint.begun ? ', under way' : ''}{stint.pinned
					? ', pinned'
					: ''}</span
			>
			{#if was !== undefined && !stint.done && !stint.begun && Math.abs(later) >= 5}
				<span class="block font-semibold" data-testid="stint-was"
					>{lengthWords(Math.abs(later))}
					{later > 0 ? 'later' : 'sooner'} than worked out ({dayAt(was, zone)}
					<span class="num">{clockAt(was, zone)}</span>).</span
				>
			{/if}
			<span class="text-quiet block">{[...new Set(stint.titles)].join(', ')}</span>
		</p>
		<button type="button" class="btn" onclick={onclose}>Close</button>
	</div>
	{#if onpin && !stint.done && !stint.begun}
		<PinForm
			start={pin ?? stint.from}
			{zone}
			pinned={pin !== undefined}
			onpin={(minute) => onpin(stint.first, minute)}
		/>
		{#if pin !== undefined}
			<p role="status">
				Pinned to {dayAt(pin, zone)} <span class="num">{clockAt(pin, zone)}</span>{pin ===
					stint.from && stint.pinned
					? '.'
					: ': it goes there when it is worked out again.'}
			</p>
		{/if}
	{/if}
</div>
