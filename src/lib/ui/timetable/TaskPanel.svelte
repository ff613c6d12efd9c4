<script lang="ts">
	import type { Timetable } from '#core/schedule/dayPlan';
	import type { HopTask } from '#core/schedule/tasks';
	import PinForm from './PinForm.svelte';
	import { clockAt, dayAt, hindranceWords, lengthWords, waitWords } from './timetableWords';

	interface Props {
		task: HopTask;
		timetable: Timetable;
		zone: string;
		pinned: boolean;
		stepTitle: (key: string) => string;
		named: { task: (id: string) => string; crew: (id: string) => string };
		/** Puts the task at a moment, or lets it go with null; undefined where nobody may. */
		onpin: ((task: string, minute: number | null) => void) | undefined;
		onclose: () => void;
	}

	let { task, timetable, zone, pinned, stepTitle, named, onpin, onclose }: Props = $props();
	const where = $derived(timetable.placed.find((one) => one.task === task.id));
	const why = $derived(timetable.unplaced.find((one) => one.task === task.id)?.why);
	const waits = $derived(timetable.waits.filter((wait) => wait.task === task.id));
	const standing = $derived(task.real ? (task.real.done ? 'Done' : 'Under way') : 'Expected');
	const clock = (minute: number): string => `${dayAt(minute, zone)} ${clockAt(minute, zone)}`;
	const DAY_BEGINS_MIN = 480;
</script>

<section
	class="border-ink bg-paper no-print sticky bottom-0 z-30 flex max-h-[50dvh] flex-col gap-2 overflow-y-auto border-t-2 pt-2 pb-3"
	aria-labelledby="task-title"
	data-testid="task-panel"
>
	<div class="flex items-center justify-between gap-3">
		<h2 id="task-title">{named.task(task.id)}</h2>
		<button type="button" class="min-h-11 px-2 text-sm underline" onclick={onclose}>Close</button>
	</div>
	{#if where}
		<p>
			{standing}
			<span class="num">{clock(where.from)}–{clockAt(where.to, zone)}</span>, {named.crew(
				where.crew
			)}{pinned ? '; pinned' : ''}.
		</p>
	{:else if why}
		<p class="trouble">No place for it. {hindranceWords(why, { ...named, clock })}</p>
	{/if}
	{#if !task.real}
		<p class="text-quiet text-sm">
			Takes {lengthWords(task.spread.likely)}; one time in ten less than {lengthWords(
				task.spread.low
			)}, one in ten more than {lengthWords(task.spread.high)}.
		</p>
	{/if}
	{#each waits as wait (wait.from)}<p class="text-sm">{waitWords(wait, named)}</p>{/each}
	{#if task.steps.length}
		<ul class="list-disc pl-5 text-sm">
			{#each task.steps as key (key)}<li>{stepTitle(key)}</li>{/each}
		</ul>
	{/if}
	{#if onpin && !task.real}
		<PinForm
			start={where?.from ?? timetable.span.from + DAY_BEGINS_MIN}
			{zone}
			{pinned}
			onpin={(minute) => onpin(task.id, minute)}
		/>
	{/if}
</section>
