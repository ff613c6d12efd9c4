<script lang="ts">
	import { DateTime } from 'luxon';
	import { invalidateAll } from '$app/navigation';
	import { onMount, untrack } from 'svelte';
	import type { PerEnd } from '#core/ends';
	import {
		usualProjectDays,
		type ProjectDays,
		type ProjectSchedule,
		type Stint
	} from '#core/schedule/projectDays';
	import { callApi, troubleOf } from '../api';
	import { Draft } from '../form/draft.svelte';
	import Fold from '../form/Fold.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import Notice from '../form/Notice.svelte';
	import Pick from '../form/Pick.svelte';
	import { FollowedWork } from '../longWork/longWork.svelte';
	import WorkProgress from '../longWork/WorkProgress.svelte';
	import { moment } from '../moment.svelte';
	import { clockAt, dayAt, hindranceWords, lengthWords } from '../timetable/timetableWords';
	import ProjectDaysForm from './ProjectDaysForm.svelte';
	import { projectDaysOf, projectFormOf } from './projectForm';
	import WallOfRails from './WallOfRails.svelte';

	interface Kept {
		days: ProjectDays;
		made: {
			at: string;
			by: string;
			schedule: ProjectSchedule;
			hops: { id: string; name: string; sites: PerEnd<string> }[];
			crews: { id: string; name: string }[];
			drafts: { id: string; name: string }[];
		} | null;
	}

	interface Props {
		projectId: string;
		kept: Kept | null;
		crews: readonly { id: string; name: string; zone: string }[];
		/** Whether something was recorded at a hop of it since. */
		movedOn: boolean;
		mayEdit: boolean;
		now: number;
	}

	let { projectId, kept, crews, movedOn, mayEdit, now }: Props = $props();

	/** A first proposal: every crew, from today on, by the clock of the first. */
	function proposal(): ProjectDays {
		const zone = crews[0]?.zone ?? 'Etc/UTC';
		const today = DateTime.now().setZone(zone).toISODate() ?? '';
		return usualProjectDays(
			today,
			zone,
			crews.map(({ id }) => id)
		);
	}
	const draft = untrack(
		() => new Draft(`project-days-${projectId}`, projectFormOf(kept?.days ?? proposal()))
	);
	const typed = $derived(projectDaysOf(draft.values));
	let settingsOpen = $state(false);
	const work = new FollowedWork<{ unplaced: number }>('schedule');
	let problem: string | undefined = $state();
	let said: string | undefined = $state();
	onMount(() => void work.takeUp());

	async function begin(): Promise<void> {
		problem = said = undefined;
		if (!('days' in typed)) {
			settingsOpen = true;
			return;
		}
		const sent = $state.snapshot(draft.values);
		await work.start(`/projects/${projectId}/schedule`, { days: typed.days });
		if (!work.problem) draft.savedAs(sent);
	}
	/** What was worked out is shown once it is there. */
	let shownFor: string | undefined;
	$effect(() => {
		const { current } = work;
		if (current?.status !== 'done' || shownFor === current.id) return;
		shownFor = current.id;
		void invalidateAll();
	});
	async function assign(): Promise<void> {
		problem = said = undefined;
		try {
			const { assigned } = await callApi<{ assigned: number }>(
				'POST',
				`/projects/${projectId}/schedule/assignments`
			);
			said = `${assigned} ${assigned === 1 ? 'day' : 'days'} assigned; what was assigned before stays.`;
			await invalidateAll();
		} catch (error) {
			problem = troubleOf(error);
		}
	}

	const BY = [
		{ value: 'hop' as const, label: 'By hop' },
		{ value: 'crew' as const, label: 'By crew' }
	];
	const ZOOMS = [
		{ value: '0.8', label: 'Close' },
		{ value: '0.3', label: 'Days' },
		{ value: '0.08', label: 'Weeks' }
	];
	let by: 'hop' | 'crew' = $state('hop');
	let zoom = $state('0.3');
	let selected: Stint | undefined = $state.raw();
	const made = $derived(kept?.made ?? null);
	const zone = $derived(kept?.days.zone ?? 'Etc/UTC');
	const named = $derived({
		task: (id: string) => id.split('/').slice(1).join(' '),
		crew: (id: string) => made?.crews.find((crew) => crew.id === id)?.name ?? '',
		clock: (at: number) => `${dayAt(at, zone)}, ${clockAt(at, zone)}`
	});
	const hopName = (id: string): string => made?.hops.find((hop) => hop.id === id)?.name ?? '';
	/** What waits for something else that has no place says nothing new. */
	const causes = $derived(
		made?.schedule.unplaced.filter(({ why }) => why.kind !== 'after').slice(0, 12) ?? []
	);
</script>

<section class="mb-6" aria-labelledby="schedule-title">
	<h2 id="schedule-title">Schedule</h2>
	{#if mayEdit}
		<form
			class="flex flex-col gap-3 py-2"
			onsubmit={(event) => {
				event.preventDefault();
				void begin();
			}}
			novalidate
		>
			<KeptTyping {draft} />
			<Fold title="Days, crews, ways and weather" bind:open={settingsOpen}>
				<div class="pt-2">
					<ProjectDaysForm
						bind:form={draft.values}
						problems={'problems' in typed ? typed.problems : []}
						{crews}
					/>
				</div>
			</Fold>
			<div class="flex flex-wrap items-center gap-3">
				<button
					class="btn {made && !movedOn && !draft.changed ? '' : 'btn-main'}"
					disabled={work.running || crews.length === 0}
					>{work.running ? 'Working it out …' : made ? 'Work it out again' : 'Work it out'}</button
				>
				{#if work.running}
					<button type="button" class="btn" onclick={() => void work.stop()}>Stop</button>
				{/if}
				{#if crews.length === 0}<p class="text-quiet text-sm">Make a crew first.</p>{/if}
			</div>
			{#if work.running}<WorkProgress {work} words="worked out" />{/if}
			{#if work.problem}<Notice kind="trouble">{work.problem}</Notice>{/if}
			{#if work.current?.status === 'failed'}
				<Notice kind="trouble">{work.current.trouble}</Notice>
			{/if}
		</form>
	{/if}
	{#if !made}
		<p class="text-quiet py-2">It was not worked out yet.</p>
	{:else}
		<div class="mb-3 text-sm" data-testid="schedule-said">
			{#if made.schedule.finish !== null}
				<p class="text-lg">
					<strong
						>All done {dayAt(made.schedule.finish, zone)},
						<span class="num">{clockAt(made.schedule.finish, zone)}</span></strong
					>
				</p>
				<p>
					{#if made.schedule.bound !== null && made.schedule.bound < made.schedule.finish}
						No schedule at all is done before {named.clock(made.schedule.bound)}.
					{:else}
						No schedule is done sooner.
					{/if}
					Crews wait {lengthWords(made.schedule.waitingMin)} and drive {lengthWords(
						made.schedule.travelMin
					)} altogether.
				</p>
			{:else}
				<Notice kind="trouble">
					<p class="font-semibold">Not everything has a place in these days.</p>
					<ul class="mt-1 list-disc pl-5">
						{#each causes as { hop, end, title, why } (hop + end + title)}
							<li>{hopName(hop)}, {title} at {end}: {hindranceWords(why, named)}</li>
						{/each}
					</ul>
				</Notice>
			{/if}
			{#if made.drafts.length}
				<p>Not in it, since no plan is issued: {made.drafts.map(({ name }) => name).join(', ')}.</p>
			{/if}
			<p class="text-quiet">Worked out by {made.by}, {moment(made.at)}.</p>
			{#if movedOn}
				<p class="font-semibold" data-testid="moved-on">
					Something was recorded since: work it out again.
				</p>
			{/if}
		</div>
		{#if made.schedule.stints.length}
			<div class="no-print mb-2 flex flex-wrap items-center gap-3">
				<Pick fit label="Rails" options={BY} bind:value={by} />
				<Pick fit label="How close" options={ZOOMS} bind:value={zoom} />
				{#if mayEdit}
					<button type="button" class="btn" onclick={() => void assign()}
						>Assign the crews as it says</button
					>
				{/if}
				<a class="btn" href="/api/v1/projects/{projectId}/schedule.csv" download>As CSV</a>
			</div>
			{#if problem}<Notice kind="trouble">{problem}</Notice>{/if}
			<p class="min-h-6 text-sm" role="status">{said ?? ''}</p>
			<WallOfRails
				schedule={made.schedule}
				hops={made.hops}
				crews={made.crews}
				{zone}
				{by}
				pxPerMin={Number(zoom)}
				bind:selected
				{now}
			/>
		{/if}
	{/if}
</section>
