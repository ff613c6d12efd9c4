<script lang="ts">
	import { invalidate } from '$app/navigation';
	import { page } from '$app/state';
	import { resolve } from '$app/paths';
	import { DateTime } from 'luxon';
	import { onMount, untrack } from 'svelte';
	import { ENDS } from '#core/ends';
	import {
		usualDayPlan,
		type DayPlan,
		type DayQuestion,
		type Timetable
	} from '#core/schedule/dayPlan';
	import { withProgress } from '#core/schedule/progress';
	import { hopJobs, hopTasks, type HopToSchedule } from '#core/schedule/tasks';
	import { buildStateOf } from '#core/tower/buildState';
	import TimetableWorker from '$lib/workers/timetable.worker?worker';
	import { callApi } from '$lib/ui/api';
	import { Draft } from '$lib/ui/form/draft.svelte';
	import Fold from '$lib/ui/form/Fold.svelte';
	import KeptTyping from '$lib/ui/form/KeptTyping.svelte';
	import Notice from '$lib/ui/form/Notice.svelte';
	import Pick from '$lib/ui/form/Pick.svelte';
	import { Saving } from '$lib/ui/form/saving.svelte';
	import SavingTrouble from '$lib/ui/form/SavingTrouble.svelte';
	import { useLiveHop } from '$lib/ui/hop/liveHop.svelte';
	import { moment } from '$lib/ui/moment.svelte';
	import { NewestAnswer } from '$lib/ui/newestAnswer';
	import { saveFile } from '$lib/ui/saveFile';
	import { calendarText } from '$lib/ui/timetable/calendar';
	import { dayFormOf, planOf } from '$lib/ui/timetable/dayForm';
	import DayPlanForm from '$lib/ui/timetable/DayPlanForm.svelte';
	import TaskPanel from '$lib/ui/timetable/TaskPanel.svelte';
	import TimeRails from '$lib/ui/timetable/TimeRails.svelte';
	import TimetableSummary from '$lib/ui/timetable/TimetableSummary.svelte';
	import { taskWords } from '$lib/ui/timetable/timetableWords';

	let { data } = $props();
	const liveHop = useLiveHop();
	const live = $derived(liveHop());
	type Kept = NonNullable<typeof data.dayPlan>;
	/** As it is saved: by this page, or by somebody else since. */
	let kept: Kept | null = $state.raw(untrack(() => data.dayPlan));
	const mayChange = $derived(data.rights.record);

	/** A first proposal: from today on, by the clock of this device. */
	function proposal(): DayPlan {
		const zone = Intl.DateTimeFormat().resolvedOptions().timeZone || 'Etc/UTC';
		return usualDayPlan(DateTime.now().setZone(zone).toISODate() ?? '', zone);
	}
	const draft = untrack(
		() => new Draft(`timetable-${data.hop.id}`, dayFormOf(data.dayPlan?.plan ?? proposal()))
	);
	const typed = $derived(planOf(draft.values));
	/** The last plan that could be read from what is typed. */
	let plan: DayPlan = $state.raw(untrack(() => data.dayPlan?.plan ?? proposal()));
	$effect(() => {
		if ('plan' in typed) plan = typed.plan;
	});
	const saving = new Saving();
	const problems = $derived([...('problems' in typed ? typed.problems : []), ...saving.problems]);
	let settingsOpen = $state(false);

	async function save(): Promise<void> {
		if (!('plan' in typed)) return;
		const sent = $state.snapshot(draft.values);
		const body = { version: kept?.version ?? 0, plan: typed.plan };
		const done = await saving.run(async () => {
			kept = await callApi<Kept>('PUT', `/hops/${data.hop.id}/day-plan`, body);
		});
		if (!done) return;
		draft.savedAs(sent);
		settingsOpen = false;
		await invalidate('skiaxis:hop');
	}

	/** What the other end saves is looked for now and then, and taken over where nothing is typed here. */
	const LOOK_MS = 15_000;
	async function lookAgain(): Promise<void> {
		if (document.hidden || !navigator.onLine || draft.changed || saving.busy) return;
		try {
			const path = `/hops/${data.hop.id}/day-plan`;
			const { dayPlan } = await callApi<{ dayPlan: Kept | null }>('GET', path);
			if (!dayPlan || dayPlan.version === kept?.version || draft.changed) return;
			kept = dayPlan;
			draft.values = dayFormOf(dayPlan.plan);
			draft.savedAs($state.snapshot(draft.values));
		} catch {
			// Without a connection it stays as it was here.
		}
	}
	onMount(() => {
		const timer = setInterval(() => void lookAgain(), LOOK_MS);
		const look = (): void => void lookAgain();
		document.addEventListener('visibilitychange', look);
		return () => {
			clearInterval(timer);
			document.removeEventListener('visibilitychange', look);
		};
	});

	const hop: HopToSchedule | undefined = $derived(
		live && {
			id: data.hop.id,
			input: live.revision.input,
			plan: live.revision.plan,
			places: { A: 'A', B: 'B' },
			acceptOnSite: false
		}
	);
	/** Told anew every five minutes, and when something is recorded. */
	const TICK_MIN = 5;
	const now = $derived(live ? Math.floor(live.nowMs / 60_000 / TICK_MIN) * TICK_MIN : 0);
	const tasks = $derived(
		hop && live && now > 0
			? withProgress(hopTasks(hop, data.durations), live.recorded, live.records, {
					...{ now, durations: data.durations, accepted: live.accepted }
				})
			: []
	);
	let timetable: Timetable | undefined = $state.raw();
	let reader: NewestAnswer<DayQuestion, Timetable> | undefined = $state.raw();
	onMount(() => {
		const made = new NewestAnswer<DayQuestion, Timetable>(
			new TimetableWorker(),
			(answer) => (timetable = answer)
		);
		reader = made;
		return () => made.stop();
	});
	$effect(() => {
		if (!hop || tasks.length === 0) return;
		const { sites } = data.hop;
		const at = (end: 'A' | 'B'): { latitudeDeg: number; longitudeDeg: number } => ({
			latitudeDeg: sites[end].latitudeDeg,
			longitudeDeg: sites[end].longitudeDeg
		});
		reader?.ask({
			hopId: hop.id,
			tasks: $state.snapshot(tasks) as typeof tasks,
			jobs: hopJobs(hop),
			places: { A: at('A'), B: at('B') },
			plan: $state.snapshot(plan) as DayPlan,
			now
		});
	});

	let selected: string | undefined = $state();
	const chosen = $derived(tasks.find(({ id }) => id === selected));
	const crewOf = (id: string): string =>
		plan.crews[Number(id.slice('crew-'.length)) - 1]?.name ?? id;
	const taskOf = (id: string): string => {
		const task = tasks.find((one) => one.id === id);
		return task ? taskWords(task) : id;
	};
	const named = { task: taskOf, crew: crewOf };
	const stepTitles = $derived(
		new Map(
			live
				? ENDS.flatMap((end) =>
						buildStateOf(live.recorded, end).steps.map(
							({ step }) => [`${end}${step.key}`, step.title] as const
						)
					)
				: []
		)
	);
	function pin(task: string, minute: number | null): void {
		const others = draft.values.pins.filter((one) => one.task !== task);
		draft.values.pins =
			minute === null ? others : [...others, { task, at: new Date(minute * 60_000).toISOString() }];
	}
	const ZOOMS = [
		{ value: '2', label: 'Close' },
		{ value: '1.2', label: 'A day' },
		{ value: '0.55', label: 'Days' }
	];
	let zoom = $state('1.2');

	async function calendar(crew?: string): Promise<void> {
		if (!timetable) return;
		const text = await calendarText(timetable, tasks, {
			hopName: data.hop.name,
			url: page.url.href,
			siteOf: { A: data.hop.sites.A.name, B: data.hop.sites.B.name },
			crewOf,
			...(crew === undefined ? {} : { crew }),
			madeAt: new Date()
		});
		const whose =
			crew === undefined
				? ''
				: `-${crewOf(crew)
						.toLowerCase()
						.replace(/[^a-z0-9]+/g, '-')}`;
		saveFile(new Blob([text], { type: 'text/calendar' }), `timetable${whose}.ics`);
	}
</script>

<svelte:head><title>Timetable · {data.hop.name} · Skiaxis</title></svelte:head>
<div class="flex flex-col gap-4">
	<div class="flex flex-wrap items-baseline gap-x-4">
		<h1>Timetable</h1>
		<p class="text-quiet text-sm">
			{kept
				? `Saved by ${kept.changedBy}, ${moment(kept.changedAt)}`
				: 'A first proposal: nobody has saved one yet'}
		</p>
	</div>
	{#if !live}
		<Notice>No plan is issued yet: there is nothing to put times to.</Notice>
		<a
			class="btn btn-main self-start"
			href={resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
				hopId: data.hop.id,
				end: data.end === 'A' ? 'a' : 'b',
				stage: 'prepare'
			})}>Open the plan</a
		>
	{:else}
		{#if timetable}
			<TimetableSummary {timetable} {tasks} {plan} {now} {named} />
		{:else}
			<p class="text-quiet" role="status">Working it out …</p>
		{/if}
		{#if mayChange}
			<form
				class="flex flex-col gap-3"
				onsubmit={(event) => {
					event.preventDefault();
					void save();
				}}
				novalidate
				{@attach saving.form}
				data-testid="day-plan"
			>
				<KeptTyping {draft} />
				<SavingTrouble {saving} elsewhere={settingsOpen ? [] : problems} />
				<Fold title="Days, crews and ways" bind:open={settingsOpen}>
					<div class="pt-2"><DayPlanForm bind:form={draft.values} {problems} /></div>
				</Fold>
				{#if draft.changed || !kept}
					<button class="btn btn-main self-start" disabled={saving.busy || 'problems' in typed}
						>{saving.busy ? 'Saving …' : 'Save it for both ends'}</button
					>
				{/if}
			</form>
		{/if}
		{#if timetable && timetable.placed.length}
			<div class="no-print flex flex-wrap items-center gap-3">
				<span class="w-32"
					><Pick id="zoom" name="zoom" options={ZOOMS} bind:value={zoom} label="How close" /></span
				>
			</div>
			<TimeRails
				{timetable}
				{tasks}
				{plan}
				pxPerMin={Number(zoom)}
				bind:selected
				{now}
				own={data.end}
				siteOf={{ A: `${data.hop.sites.A.name} (A)`, B: `${data.hop.sites.B.name} (B)` }}
				{crewOf}
				onpin={mayChange ? pin : undefined}
			/>
			{#if chosen}
				{#key chosen.id}
					<TaskPanel
						onclose={() => (selected = undefined)}
						task={chosen}
						{timetable}
						zone={plan.zone}
						pinned={plan.pins.some(({ task }) => task === chosen.id)}
						stepTitle={(key) => stepTitles.get(`${chosen.end}${key}`) ?? key}
						{named}
						onpin={mayChange ? pin : undefined}
					/>
				{/key}
			{/if}
			<div class="no-print flex flex-wrap gap-3">
				{#if plan.crews.length > 1}
					{#each plan.crews as { name }, i (i)}
						<button type="button" class="btn" onclick={() => void calendar(`crew-${i + 1}`)}
							>Calendar of {name}</button
						>
					{/each}
				{/if}
				<button type="button" class="btn" onclick={() => void calendar()}>Calendar of all</button>
			</div>
		{/if}
	{/if}
</div>
