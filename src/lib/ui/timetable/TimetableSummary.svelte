<script lang="ts">
	import { ENDS } from '#core/ends';
	import type { DayPlan, Timetable } from '#core/schedule/dayPlan';
	import type { HopTask } from '#core/schedule/tasks';
	import Notice from '../form/Notice.svelte';
	import {
		clockAt,
		dayAt,
		hindranceWords,
		lengthWords,
		readyTimes,
		shareWords,
		waitWords
	} from './timetableWords';

	interface Props {
		timetable: Timetable;
		tasks: readonly HopTask[];
		plan: DayPlan;
		now: number;
		named: { task: (id: string) => string; crew: (id: string) => string };
	}

	let { timetable, tasks, plan, now, named }: Props = $props();
	const { zone } = $derived(plan);
	const clock = (minute: number): string => `${dayAt(minute, zone)} ${clockAt(minute, zone)}`;
	const ready = $derived(readyTimes(timetable, tasks));
	const done = $derived(tasks.every(({ real }) => real?.done));
	const open = $derived(tasks.filter(({ real }) => !real?.done).length);
	/** What has no place for a reason of its own. */
	const roots = $derived(timetable.unplaced.filter(({ why }) => why.kind !== 'after'));
	/** The task whose time makes it or breaks it. */
	const decides = $derived(
		timetable.chances.find((chance) => (chance.decides?.difference ?? 0) > 0.1)?.decides?.task
	);
	const chances = $derived(
		timetable.chances
			.map(({ what, share }) => {
				const when = what === 'that-day' ? 'That same day' : 'Within these days';
				return `${when}: ${shareWords(share)}.`;
			})
			.join(' ')
	);
	const MOST_WAITS = 4;
	const waits = $derived(
		timetable.waits.filter(({ from, to }) => to - from >= 10).slice(0, MOST_WAITS)
	);
	const inWords = (minute: number): string =>
		minute <= now
			? 'now'
			: minute - now < 180
				? `in about ${lengthWords(minute - now)}`
				: `about ${clock(minute)}`;
</script>

<div class="flex flex-col gap-2" data-testid="timetable-summary">
	{#if done}
		<p class="text-lg font-semibold">Both ends are done.</p>
	{:else if timetable.finish !== null}
		<p class="text-lg font-semibold">
			Done about <span class="num">{clock(timetable.finish)}</span>.
		</p>
		{#if timetable.chances.length}
			<p class="text-sm">
				{chances}
				This is if work takes as long as it is said to.{decides
					? ` What decides most: ${named.task(decides)}.`
					: ''}
			</p>
		{/if}
	{:else}
		<Notice kind="trouble">
			<p>
				{timetable.unplaced.length} of {open} tasks have no place in these days.
			</p>
			<ul class="mt-1 list-disc pl-5 text-sm">
				{#each roots.slice(0, 4) as { task, why } (task)}
					<li>{named.task(task)}: {hindranceWords(why, { ...named, clock })}</li>
				{/each}
			</ul>
		</Notice>
	{/if}
	{#if !done && ready.A !== undefined && ready.B !== undefined}
		<p>
			{#each ENDS as end, i (end)}{i ? ', ' : ''}<strong>{end}</strong>
				{tasks.find(({ end: at, bench }) => at === end && bench === 'alignment-state')?.real?.done
					? 'is ready to align'
					: `is ready to align ${inWords(ready[end] ?? 0)}`}{/each}.
		</p>
	{/if}
	{#if waits.length}
		<ul class="list-disc pl-5 text-sm">
			{#each waits as wait (wait.crew + wait.from)}
				<li><span class="num">{clock(wait.from)}</span>: {waitWords(wait, named)}</li>
			{/each}
		</ul>
	{/if}
	{#if plan.awayByMin !== null}
		<p class="text-sm">
			Away every day by <span class="num"
				>{String(Math.floor(plan.awayByMin / 60)).padStart(2, '0')}:{String(
					plan.awayByMin % 60
				).padStart(2, '0')}</span
			>{plan.awayBy ? `: ${plan.awayBy}` : ''}.
		</p>
	{/if}
</div>
