<script lang="ts">
	import type { MovedSchedule, ProjectSchedule } from '#core/schedule/projectSchedule';
	import Notice from '../form/Notice.svelte';
	import { movedBy } from './movedBy';
	import { moment } from '../moment.svelte';
	import {
		clockAt,
		dayAt,
		hindranceWords,
		lengthWords,
		shareWords
	} from '../timetable/timetableWords';

	interface Props {
		schedule: ProjectSchedule;
		/** Where it has moved to since; undefined while that is not known. */
		moved: MovedSchedule | undefined;
		by: string;
		/** ISO 8601. */
		madeAt: string;
		drafts: readonly { name: string }[];
		zone: string;
		hopName: (id: string) => string;
		crewName: (id: string) => string;
	}

	let { schedule, moved, by, madeAt, drafts, zone, hopName, crewName }: Props = $props();
	const clock = (at: number): string => `${dayAt(at, zone)}, ${clockAt(at, zone)}`;
	const named = $derived({
		task: (id: string) => id.split('/').slice(1).join(' '),
		crew: crewName,
		clock
	});
	const MOST_CAUSES = 12;
	/** What waits for something else that has no place says nothing new; nor do more tasks that the same crews cannot do. */
	const causes = $derived.by(() => {
		const rows = schedule.unplaced
			.filter(({ why }) => why.kind !== 'after')
			.map(({ hop, end, title, why }) => ({
				what: why.kind === 'no-crew' ? `All at ${end}` : `${title} at ${end}`,
				hop: hopName(hop),
				why: hindranceWords(why, named)
			}));
		const keys = rows.map((row) => Object.values(row).join('|'));
		return rows.filter((_, i) => keys.indexOf(keys[i] ?? '') === i).slice(0, MOST_CAUSES);
	});
	const move = $derived(movedBy(schedule, moved));
	const finish = $derived(moved?.finish ?? schedule.finish);
</script>

<div class="mb-3 text-sm" data-testid="schedule-said">
	{#if schedule.finish !== null && finish !== null && !move.lostHops.length}
		<p class="text-lg">
			<strong
				>All done {dayAt(finish, zone)}, <span class="num">{clockAt(finish, zone)}</span></strong
			>
		</p>
		{#if move.worth}
			<p class="font-semibold" data-testid="moved-on">
				{lengthWords(Math.abs(move.laterMin))}
				{move.laterMin > 0 ? 'later' : 'sooner'} than worked out, by what was recorded since{move.laterMin >
				0
					? ', or was not'
					: ''}. Working it out again may help.
			</p>
		{/if}
		<p>
			{#if schedule.bound !== null && schedule.bound < schedule.finish}
				When it was worked out, no schedule at all could be done before {clock(schedule.bound)}.
			{:else}
				It cannot be done sooner.
			{/if}
			Crews wait {lengthWords(schedule.waitingMin)} and drive {lengthWords(schedule.travelMin)} altogether.
		</p>
		{#if schedule.chances.length && !move.worth}
			<ul data-testid="chances">
				{#each schedule.chances as { what, at, share, runs, decides } (what)}
					<li>
						By the end of {dayAt(at - 1, zone)}{what === 'due' ? ', when it is due' : ''}: {shareWords(
							share
						)}{decides && share < 0.98
							? `; what decides most is ${decides.title} at ${decides.end} of ${hopName(decides.hop)}`
							: ''}
						<span class="text-quiet"
							>({Math.round(share * runs)} of {runs} runs, if work takes as long as it is said to)</span
						>
					</li>
				{/each}
			</ul>
		{/if}
	{:else if move.lostHops.length}
		<Notice kind="trouble">
			<p class="font-semibold" data-testid="moved-on">
				By what was recorded since, {moved?.lost.length}
				{moved?.lost.length === 1 ? 'task has' : 'tasks have'} no place any more in these days: work it
				out again, with more days or crews.
			</p>
			<p>{move.lostHops.slice(0, MOST_CAUSES).map(hopName).join(', ')}</p>
		</Notice>
	{:else}
		<Notice kind="trouble">
			<p class="font-semibold">Not everything has a place in these days.</p>
			<ul class="mt-1 list-disc pl-5">
				{#each causes as { hop, what, why } (hop + what + why)}
					<li>{hop}. {what}: {why}</li>
				{/each}
			</ul>
		</Notice>
	{/if}
	{#if drafts.length}
		<p>Not in it, since no plan is issued: {drafts.map(({ name }) => name).join(', ')}.</p>
	{/if}
	<p class="text-quiet">Worked out by {by}, {moment(madeAt)}.</p>
</div>
