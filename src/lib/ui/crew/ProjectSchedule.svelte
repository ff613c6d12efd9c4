<script lang="ts">
	import { DateTime } from 'luxon';
	import { invalidateAll } from '$app/navigation';
	import { onMount, untrack } from 'svelte';
	import type { PerEnd } from '#core/ends';
	import { usualProjectDays, type ProjectDays } from '#core/schedule/projectDays';
	import type { MovedSchedule, ProjectSchedule } from '#core/schedule/projectSchedule';
	import { callApi, troubleOf } from '../api';
	import { Draft } from '../form/draft.svelte';
	import Fold from '../form/Fold.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import Notice from '../form/Notice.svelte';
	import Pick from '../form/Pick.svelte';
	import { FollowedWork } from '../longWork/longWork.svelte';
	import WorkProgress from '../longWork/WorkProgress.svelte';
	import { movedBy } from './movedBy';
	import ProjectDaysForm from './ProjectDaysForm.svelte';
	import { projectDaysOf, projectFormOf } from './projectForm';
	import ScheduleSaid from './ScheduleSaid.svelte';
	import StintPanel from './StintPanel.svelte';
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
		crews: readonly { id: string; name: string; zone: string; equipment: readonly string[] }[];
		mayEdit: boolean;
		now: number;
	}

	let { projectId, kept, crews, mayEdit, now }: Props = $props();

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
	let selected: string | undefined = $state();
	const made = $derived(kept?.made ?? null);
	const zone = $derived(kept?.days.zone ?? 'Etc/UTC');
	const crewName = (id: string): string => made?.crews.find((crew) => crew.id === id)?.name ?? '';
	const hopName = (id: string): string => made?.hops.find((hop) => hop.id === id)?.name ?? '';
	/** Where it has moved to by what was recorded since; looked for again and again. */
	let moved: MovedSchedule | undefined = $state.raw();
	let movedFor: string | undefined = $state();
	let knownKey = '';
	const LOOK_MS = 2000;
	let looking = false;
	async function look(): Promise<void> {
		if (!made || looking || document.hidden) return;
		looking = true;
		const { at } = made;
		try {
			const known = movedFor === at ? knownKey : '';
			const answer = await callApi<{ key: string; moved: MovedSchedule | null }>(
				'GET',
				`/projects/${projectId}/schedule/now?known=${known}`
			);
			if (made?.at === at && answer.moved) {
				moved = answer.moved;
				movedFor = at;
				knownKey = answer.key;
			}
		} catch {
			// Until there is an answer again it stands as it stood.
		} finally {
			looking = false;
		}
	}
	onMount(() => {
		void look();
		const timer = setInterval(() => void look(), LOOK_MS);
		return () => clearInterval(timer);
	});
	const movedNow = $derived(made && movedFor === made.at ? moved : undefined);
	const movedOn = $derived(made !== null && movedBy(made.schedule, movedNow).worth);
	const shown = $derived(
		made && {
			span: made.schedule.span,
			stints: movedNow?.stints ?? made.schedule.stints,
			gates: movedNow?.gates ?? made.schedule.gates
		}
	);
	const chosen = $derived(shown?.stints.find(({ first }) => first === selected));
	const was = $derived(made?.schedule.stints.find(({ first }) => first === selected)?.from);
	const pins = $derived(
		new Map(draft.values.pins.map(({ task, at }) => [task, Date.parse(at) / 60_000]))
	);
	function pin(task: string, minute: number | null): void {
		const others = draft.values.pins.filter((one) => one.task !== task);
		draft.values.pins =
			minute === null ? others : [...others, { task, at: new Date(minute * 60_000).toISOString() }];
	}
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
		<ScheduleSaid
			schedule={made.schedule}
			moved={movedNow}
			by={made.by}
			madeAt={made.at}
			drafts={made.drafts}
			{zone}
			{hopName}
			{crewName}
		/>
		{#if shown?.stints.length}
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
				schedule={shown}
				hops={made.hops}
				crews={made.crews}
				{zone}
				{by}
				pxPerMin={Number(zoom)}
				bind:selected
				{pins}
				onpin={mayEdit ? pin : undefined}
				{now}
			/>
			{#if chosen}
				{#key chosen.first}
					<StintPanel
						stint={chosen}
						{was}
						hopName={hopName(chosen.hop)}
						crewName={crewName(chosen.crew)}
						{zone}
						pin={pins.get(chosen.first)}
						onpin={mayEdit ? pin : undefined}
						onclose={() => (selected = undefined)}
					/>
				{/key}
			{/if}
		{/if}
	{/if}
</section>
