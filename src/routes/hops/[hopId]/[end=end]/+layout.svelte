<script lang="ts">
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { resolve } from '$app/paths';
	import { farEnd, type End } from '#core/ends';
	import { STAGES, stagesOf, type Stage } from '#core/stage/stages';
	import { onMount, untrack } from 'svelte';
	import KeysButton from '$lib/ui/frame/KeysButton.svelte';
	import ThemeSwitch from '$lib/ui/frame/ThemeSwitch.svelte';
	import UnitSwitch from '$lib/ui/frame/UnitSwitch.svelte';
	import { agoInWords, dbm } from '$lib/ui/format';
	import { LiveHop, provideLiveHop } from '$lib/ui/hop/liveHop.svelte';
	import { canKeep, keepOnDevice, noteOnDevice, onKept } from '$lib/ui/hop/onDevice';
	import AlertBar from '$lib/ui/hop/AlertBar.svelte';
	import AlertSettings from '$lib/ui/hop/AlertSettings.svelte';
	import Mast from '$lib/ui/hop/Mast.svelte';
	import Messages from '$lib/ui/hop/Messages.svelte';
	import MastRail from '$lib/ui/hop/MastRail.svelte';
	import RecordStrip from '$lib/ui/hop/RecordStrip.svelte';
	import { STAGE_WORDS } from '$lib/ui/hop/stageWords';
	import { mainButton, shortcuts } from '$lib/ui/frame/shortcuts.svelte';
	import Span from '$lib/ui/hop/Span.svelte';

	let { data, children } = $props();
	const end: End = $derived(data.end);
	const far: End = $derived(farEnd(end));

	// One live record per revision, and anew once the hop is accepted; switching ends keeps it.
	const revisionKey = $derived(
		data.revision ? `${data.hop.id}/${data.revision.id}/${data.acceptances.length > 0}` : undefined
	);
	const live: LiveHop | undefined = $derived.by(() => {
		if (!revisionKey) return undefined;
		return untrack(
			() =>
				new LiveHop({
					hopId: data.hop.id,
					revision: {
						number: data.revision!.number,
						input: data.revision!.input,
						plan: data.revision!.plan,
						issuedAt: data.revision!.issuedAt.toISOString()
					},
					records: data.records,
					findings: data.findings,
					mayRecord: data.rights.record,
					accepted: data.acceptances.length > 0,
					person: { id: data.actor?.userId ?? '', name: data.actor?.displayName ?? '' }
				})
		);
	});
	$effect(() => {
		const present = live;
		return untrack(() => present?.start());
	});
	provideLiveHop(() => live);

	const KEEP_AGAIN_MS = 15_000;
	/** Every page of this hop is kept on the device, once a visit, for work without connection. */
	let kept = $state(false);
	onMount(() => {
		if (!canKeep()) return;
		const base = `/hops/${data.hop.id}`;
		const own = end === 'A' ? 'a' : 'b';
		const paths = ['sheet', 'timetable', ...STAGES].map((page) => `${base}/${own}/${page}`);
		const key = `${data.hop.id}/${own}/${data.revision?.id ?? 'none'}/${data.acceptances.length}`;
		const stopHearing = onKept((known) => {
			if (known !== key) return;
			kept = true;
			noteOnDevice(data.hop.id, data.hop.name, own);
		});
		const ask = (): void => {
			if (!kept) keepOnDevice([{ key, paths: ['/', base, ...paths] }]);
		};
		ask();
		// A page that could not be fetched is tried again: until then the hop is not all here.
		const again = setInterval(ask, KEEP_AGAIN_MS);
		return () => {
			clearInterval(again);
			stopHearing();
		};
	});

	const stages = $derived(
		stagesOf({
			issued: live?.recorded,
			revisionNumber: data.revision?.number ?? 0,
			accepted: data.acceptances.at(-1) ?? null
		})
	);
	const here: Stage | undefined = $derived(
		STAGES.find((stage) => page.url.pathname.endsWith(`/${stage}`))
	);
	const hrefOf =
		(at: End) =>
		(stage: Stage): string =>
			resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
				hopId: data.hop.id,
				end: at === 'A' ? 'a' : 'b',
				stage
			});

	function reading(at: End): string | undefined {
		const own = live?.state.ends[at];
		if (!own?.lastReadAt) return undefined;
		const level = own.lastLevelDbm === null ? 'reads nonsense' : `RSL ${dbm(own.lastLevelDbm)}`;
		if (!live || live.nowMs === 0) return level;
		return `${level}, ${agoInWords((live.nowMs - Date.parse(own.lastReadAt)) / 1000)}`;
	}
	let farOpen = $state(false);

	const timetableHref = $derived(
		resolve('/hops/[hopId]/[end=end]/timetable', {
			...{ hopId: data.hop.id, end: end === 'A' ? 'a' : 'b' }
		})
	);
	// eslint-disable-next-line svelte/no-navigation-without-resolve -- resolved above
	const toTimetable = (): void => void goto(timetableHref);
	const go = (at: End, stage: Stage): void => {
		// eslint-disable-next-line svelte/no-navigation-without-resolve -- resolved in hrefOf
		void goto(hrefOf(at)(stage));
	};
	onMount(() =>
		shortcuts.use([
			{ key: 'n', does: 'To the next action; Enter presses it', run: () => mainButton()?.focus() },
			...STAGES.map((stage, i) => ({
				key: String(i + 1),
				does: STAGE_WORDS[stage],
				run: () => go(end, stage)
			})),
			{ key: 'f', does: 'To the far end', run: () => go(far, here ?? 'prepare') },
			{
				key: 'r',
				does: 'The record of this hop',
				run: () => void goto(resolve('/hops/[hopId]/record', { hopId: data.hop.id }))
			},
			{ key: 't', does: 'The timetable of both ends', run: toTimetable },
			{ key: 'h', does: 'All hops', run: () => void goto(resolve('/')) }
		])
	);
</script>

{#if page.url.pathname.endsWith('/sheet')}
	{@render children()}
{:else}
	<div
		class="end-{end} grid min-h-dvh grid-cols-[50px_minmax(0,1fr)] grid-rows-[auto_1fr] lg:grid-cols-[9.4rem_minmax(0,1fr)_9.4rem] print:block"
	>
		<!-- Phone: your end on one line, the far end on the right of it, which opens. -->
		<header
			class="no-print border-ink bg-paper sticky top-0 z-20 col-span-2 flex items-center gap-2 border-b lg:hidden"
		>
			<a
				href={resolve('/hops/[hopId]', { hopId: data.hop.id })}
				class="text-end-own flex h-12 w-11 shrink-0 items-center justify-center text-3xl font-bold no-underline"
				aria-label="End {end}; choose the end you stand at">{end}</a
			>
			<p class="min-w-0 flex-1 truncate">
				<strong>{data.hop.sites[end].name}</strong>
				<span class="text-quiet text-sm">toward {far}</span>
			</p>
			<button
				type="button"
				class="end-{far} num flex min-h-12 items-center gap-1.5 px-2 text-sm font-semibold"
				aria-expanded={farOpen}
				aria-controls="far-end-line"
				onclick={() => (farOpen = !farOpen)}
			>
				<span class="text-end-own"
					>{far}
					{live?.state.ends[far].lastLevelDbm != null
						? dbm(live.state.ends[far].lastLevelDbm)
						: 'far end'}</span
				>
				<ChevronDown size={18} class={farOpen ? 'rotate-180' : ''} />
			</button>
		</header>
		<div
			class="border-line col-span-2 border-b px-3 py-3 lg:hidden"
			id="far-end-line"
			hidden={!farOpen}
		>
			<p class="end-{far} font-semibold">
				<span class="text-end-own">{far} {data.hop.sites[far].name}</span>
				<span class="num">{reading(far) ?? 'not read yet'}</span>
			</p>
			<ul class="text-quiet mt-1 text-sm">
				{#each stages[far] as bay (bay.stage)}
					<li>
						<a class="flex min-h-11 items-center" href={hrefOf(far)(bay.stage)}
							>{bay.stage}: {bay.state}. {bay.note}</a
						>
					</li>
				{/each}
			</ul>
			<div class="flex items-center justify-between">
				<a class="flex min-h-12 items-center" href={resolve('/')}>All hops</a>
				<!-- eslint-disable-next-line svelte/no-navigation-without-resolve -- resolved above -->
				<a class="flex min-h-12 items-center" href={timetableHref}>Timetable</a>
				<span class="flex"><AlertSettings /><UnitSwitch /><ThemeSwitch /></span>
			</div>
		</div>
		<div class="no-print sticky top-12 h-[calc(100dvh-3rem)] py-1 pl-1 lg:hidden">
			<MastRail {end} bays={stages[end]} {here} href={hrefOf(end)} />
		</div>

		<!-- Desk: two masts with the work between them. -->
		<aside
			aria-label="Your end"
			class="sticky top-0 row-span-2 hidden h-dvh flex-col gap-4 py-3 pl-3 lg:flex"
		>
			<a
				href={resolve('/hops/[hopId]', { hopId: data.hop.id })}
				class="flex items-start gap-2 leading-tight no-underline"
			>
				<span class="text-end-own text-4xl leading-none font-bold">{end}</span>
				<span>
					<span class="text-quiet block text-sm">You are here</span>
					<span class="block font-bold">{data.hop.sites[end].name}</span>
				</span>
			</a>
			<div class="min-h-0 flex-1">
				<Mast {end} side="left" bays={stages[end]} {here} href={hrefOf(end)} />
			</div>
			<div class="flex flex-wrap gap-x-4">
				<a class="text-quiet flex min-h-11 items-center text-sm" href={resolve('/')}>All hops</a>
				<!-- eslint-disable-next-line svelte/no-navigation-without-resolve -- resolved above -->
				<a class="text-quiet flex min-h-11 items-center text-sm" href={timetableHref}>Timetable</a>
			</div>
		</aside>
		<main id="work" class="min-w-0 px-3 pt-3 pb-8 lg:row-span-2 lg:px-4">
			{#if live}
				<div class="hidden lg:block">
					<p class="mb-1 text-center text-lg font-bold">
						{data.hop.sites[end].name} to {data.hop.sites[far].name}
					</p>
					<!-- At the planning desk the plan itself has the room. -->
					{#if here !== 'prepare' || !data.rights.plan}<Span
							input={live.revision.input}
							plan={live.revision.plan}
							{end}
							revisionNumber={live.revision.number}
							ownReading={reading(end)}
							farReading={reading(far)}
						/>{/if}
				</div>
				<div class="no-print flex items-start gap-2">
					<div class="min-w-0 flex-1">
						<RecordStrip {live} {kept} personName={data.actor?.displayName ?? ''} />
					</div>
					{#key `${live.hopId}${end}`}<Messages {end} {live} />{/key}
				</div>
			{/if}
			{#if live}{#key `${live.hopId}${end}`}<AlertBar {end} {live} />{/key}{/if}
			{@render children()}
		</main>
		<aside
			aria-label="Far end"
			class="sticky top-0 row-span-2 hidden h-dvh flex-col gap-4 py-3 pr-3 lg:flex"
		>
			<a
				href={hrefOf(far)(here ?? 'prepare')}
				class="end-{far} flex items-start justify-end gap-2 text-right leading-tight no-underline"
			>
				<span>
					<span class="text-quiet block text-sm">Far end</span>
					<span class="block font-bold">{data.hop.sites[far].name}</span>
				</span>
				<span class="text-end-own text-4xl leading-none font-bold">{far}</span>
			</a>
			<div class="min-h-0 flex-1">
				<Mast end={far} side="right" bays={stages[far]} href={hrefOf(far)} />
			</div>
			<div class="flex flex-wrap justify-end">
				<AlertSettings /><KeysButton /><UnitSwitch /><ThemeSwitch />
			</div>
		</aside>
	</div>
{/if}
