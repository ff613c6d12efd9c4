<script lang="ts">
	import { invalidate } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { onMount } from 'svelte';
	import { STAGES } from '#core/stage/stages';
	import CallsFromHops from '$lib/ui/crew/CallsFromHops.svelte';
	import { dayWords } from '$lib/ui/crew/dayWords';
	import HopEnds from '$lib/ui/crew/HopEnds.svelte';
	import WorkCalendars from '$lib/ui/crew/WorkCalendars.svelte';
	import PlaceOfWork from '$lib/ui/crew/PlaceOfWork.svelte';
	import { canKeep, keepOnDevice, noteOnDevice, onKept } from '$lib/ui/hop/onDevice';
	import FirstSteps from '$lib/ui/frame/FirstSteps.svelte';
	import WaitingHere from '$lib/ui/hop/WaitingHere.svelte';

	let { data } = $props();
	const work = $derived(data.work);
	const today = $derived(work.places.filter(({ day }) => day === work.today));
	const coming = $derived(work.places.filter(({ day }) => day > work.today));
	/** The one to go on with: today's first that is not done, else what was left, else what comes. */
	const main = $derived(today.find(({ accepted }) => !accepted) ?? work.unfinished[0] ?? coming[0]);
	const none = $derived(work.places.length === 0 && work.unfinished.length === 0);
	/** The far ends of today's places call here too; more than a few nobody works at. */
	const MOST_HEARD = 3;
	const heard = $derived(
		today
			// One crew for both ends is called by nobody: it is there.
			.filter(({ accepted, crew, far, day }) => {
				const alone = far.crews.some((other) => other.name === crew && other.day === day);
				return !accepted && !alone;
			})
			.slice(0, MOST_HEARD)
	);
	let nowMs = $state(0);
	const LOOK_MS = 20_000;

	/** What the next days need is on this device before anybody drives off. */
	function keepDays(): () => void {
		if (!canKeep()) return () => undefined;
		const wanted = [...today, ...work.unfinished, ...coming].slice(0, 4).map((place) => {
			const end = place.end === 'A' ? ('a' as const) : ('b' as const);
			const base = `/hops/${place.hopId}`;
			const pages = ['sheet', 'timetable', ...STAGES].map((page) => `${base}/${end}/${page}`);
			const key = `${place.hopId}/${end}/day-${work.today}`;
			return { key, paths: [base, ...pages], place, end };
		});
		const stop = onKept((key) => {
			const here = wanted.find((one) => one.key === key);
			if (here) noteOnDevice(here.place.hopId, here.place.hopName, here.end);
		});
		keepOnDevice(wanted.map(({ key, paths }) => ({ key, paths })));
		return stop;
	}

	onMount(() => {
		nowMs = Date.now();
		const clock = setInterval(() => (nowMs = Date.now()), 30_000);
		const look = setInterval(() => {
			if (!document.hidden && navigator.onLine) void invalidate('skiaxis:my-work');
		}, LOOK_MS);
		const stop = keepDays();
		return () => {
			clearInterval(clock);
			clearInterval(look);
			stop();
		};
	});
</script>

<svelte:head><title>My work · Skiaxis</title></svelte:head>

<div class="mb-4 flex flex-wrap items-baseline gap-x-6 gap-y-1">
	<h1>My work</h1>
	<p class="text-quiet">
		{dayWords(work.today)}{work.crews.length
			? ` · ${work.crews.map(({ name }) => name).join(', ')}`
			: ''}
	</p>
</div>
{#key heard.map(({ id }) => id).join()}<CallsFromHops places={heard} />{/key}
{#if data.actor}<WaitingHere person={data.actor} />{/if}

{#snippet places(title: string, list: typeof work.places)}
	{#if list.length}
		<section class="mb-7">
			<h2 class="mb-3">{title}</h2>
			<div class="flex flex-col gap-4">
				{#each list as place (place.id)}
					<PlaceOfWork {place} main={place === main} {nowMs} />
				{/each}
			</div>
		</section>
	{/if}
{/snippet}

{#snippet rest()}
	{#if none}
		<p class="text-quiet max-w-prose pb-4">
			{work.crews.length
				? 'Your crew is assigned nowhere just now.'
				: 'You are in no crew yet: whoever runs the job puts people into crews, and crews at ends.'}
			{work.others.length ? 'These are hops that you work on, the last ones first.' : ''}
			{#if data.mayPlan}<a href={resolve('/crews')}>To the crews</a>{/if}
		</p>
	{/if}
	{#if work.others.length}
		<ul class="border-line border-t" data-testid="other-hops">
			{#each work.others as hop (hop.id)}
				<li class="border-line flex flex-col gap-2 border-b py-3">
					<a
						class="inline-flex min-h-11 items-center text-lg font-semibold"
						href={resolve('/hops/[hopId]', { hopId: hop.id })}>{hop.name}</a
					>
					<div class="grid gap-3 sm:grid-cols-2">
						<HopEnds {hop} {nowMs} />
					</div>
				</li>
			{/each}
		</ul>
	{/if}
	<WorkCalendars calendars={data.calendars} crews={work.crews} />
	<p class="pt-4">
		<a class="inline-flex min-h-11 items-center" href={resolve('/')}>All hops</a>
	</p>
{/snippet}

<!-- What is to be done now stands first; how one begins here, behind it. -->
<div class="grid items-start gap-x-6 {none ? '' : 'lg:grid-cols-2'}">
	{#if today.length || work.unfinished.length}
		<div>
			{@render places('Today', today)}
			{@render places('Left from earlier days', work.unfinished)}
		</div>
	{/if}
	{@render places('The days that come', coming)}
</div>
{#if data.actor}
	<FirstSteps role={data.actor.role} seen={data.firstStepsSeen}>{@render rest()}</FirstSteps>
{:else}
	{@render rest()}
{/if}
