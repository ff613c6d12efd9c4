<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import type { StationProgress } from '#core/bringup/bringUp';
	import { isSmallLink } from '#core/bringup/stations';
	import HubAbove from '../hub/HubAbove.svelte';
	import type { LiveHub } from './liveHub.svelte';
	import { isLinked, stageMark, stageWords, standingOf, type SignedTerminal } from './stageWords';

	interface Props {
		live: LiveHub;
		/** The newest acceptance of each terminal, by its id. */
		accepted: ReadonlyMap<string, SignedTerminal>;
	}

	let { live, accepted }: Props = $props();
	const link = $derived(isSmallLink(live.work.hub));
	const units = $derived(live.stations.filter(({ station }) => station.kind === 'unit'));
	const terminals = $derived(live.stations.filter(({ station }) => station.kind === 'terminal'));
	const linked = $derived(terminals.filter(isLinked).length);
	const trouble = $derived(
		live.stations.filter(({ stage }) => stage === 'no-link' || stage === 'off').length
	);
	const unserved = $derived(terminals.filter(({ unit }) => unit === null));
	const hrefOf = (station: string): string =>
		`${resolve('/hubs/[hubId]/work', { hubId: live.id })}?at=${encodeURIComponent(station)}`;
	const linkOf = (one: StationProgress): 'linked' | 'trouble' | undefined =>
		one.stage === 'no-link' || one.stage === 'off'
			? 'trouble'
			: isLinked(one)
				? 'linked'
				: undefined;
	const links = $derived(
		new Map(
			terminals.flatMap((one) => {
				const link = linkOf(one);
				return link ? [[one.station.id, link] as const] : [];
			})
		)
	);
	const go = (station: string): void => {
		// eslint-disable-next-line svelte/no-navigation-without-resolve -- resolved in hrefOf
		void goto(hrefOf(station));
	};
	/** Numbers as they stand in the drawing and on the plan. */
	const numberOf = (one: StationProgress): string =>
		one.station.kind === 'terminal' && !link
			? `${live.work.plan.terminals.findIndex(({ terminal }) => terminal.id === one.station.id) + 1} `
			: '';
	const standing = (one: StationProgress): SignedTerminal | undefined =>
		standingOf(live.stations, accepted.get(one.station.id));
	/** What somebody who comes here does first: a unit that is not up, then a terminal that is not done. */
	const next = $derived(
		units.find(({ stage }) => stage !== 'done') ??
			terminals.find(({ unit, stage }) => unit !== null && stage !== 'done' && stage !== 'waits')
	);
</script>

<div class="flex flex-col gap-6">
	<div class="flex flex-wrap items-center gap-x-5 gap-y-2">
		<p class="grow text-lg" data-testid="board-verdict">
			<strong class="num">{linked} of {terminals.length}</strong>
			{terminals.length === 1 ? 'terminal' : 'terminals'} linked,
			<strong class="num">{terminals.filter((one) => standing(one)).length}</strong>
			accepted{trouble ? ', ' : '.'}{#if trouble}<strong class="trouble"
					>▲ {trouble} in trouble</strong
				>.{/if}
		</p>
		{#if next && live.mayRecord}
			<!-- eslint-disable-next-line svelte/no-navigation-without-resolve -- resolved in hrefOf -->
			<a class="btn btn-main" href={hrefOf(next.station.id)}>Go on at {next.station.name}</a>
		{/if}
	</div>
	<div class="grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
		{#if !link}
			<div class="order-last">
				<HubAbove
					plan={live.work.plan}
					hub={live.work.hub.place}
					headings={live.work.plan.units.map(({ unit }) => unit.headingDeg)}
					chosen={undefined}
					mayEdit={false}
					placing={false}
					{links}
					onchoose={go}
					onturn={() => undefined}
					onplace={() => undefined}
				/>
				<p class="text-quiet mt-1 text-center text-sm">
					Filled: linked. Hollow: not yet. Hollow in the colour of trouble: it should link and does
					not.
				</p>
			</div>
		{/if}
		<div class="flex flex-col gap-6">
			{#each units as unit (unit.station.id)}
				{@const own = terminals.filter((one) => one.unit?.id === unit.station.id)}
				<section aria-label={unit.station.name}>
					{@render row(unit, true)}
					<ul class="border-line ml-4 border-l-2 pl-3">
						{#each own as terminal (terminal.station.id)}
							<li class="border-line border-b">{@render row(terminal, false)}</li>
						{/each}
					</ul>
				</section>
			{/each}
			{#if unserved.length}
				<section>
					<h2 class="text-base!">Served by no {link ? 'radio' : 'unit'} of this plan</h2>
					<ul class="border-line mt-1 border-t">
						{#each unserved as { station } (station.id)}
							<li class="border-line border-b py-3">{station.name}</li>
						{/each}
					</ul>
				</section>
			{/if}
		</div>
	</div>
</div>

{#snippet row(one: StationProgress, heading: boolean)}
	{@const signed = accepted.get(one.station.id)}
	{@const stands = standing(one)}
	<!-- eslint-disable-next-line svelte/no-navigation-without-resolve -- resolved in hrefOf -->
	<a
		class="grid min-h-14 grid-cols-[1.6rem_minmax(0,1fr)] items-center gap-x-2 py-2 no-underline sm:grid-cols-[1.6rem_minmax(0,1fr)_minmax(0,1.1fr)]"
		href={hrefOf(one.station.id)}
		data-station={one.station.id}
		data-stage={one.stage}
	>
		<span class={one.stage === 'no-link' || one.stage === 'off' ? 'trouble' : ''} aria-hidden="true"
			>{stageMark(one, stands !== undefined)}</span
		>
		<span class="{heading ? 'text-lg' : ''} font-semibold"
			><span class="num text-quiet font-normal">{numberOf(one)}</span><span class="underline"
				>{one.station.name}</span
			></span
		>
		<span class="text-quiet col-start-2 text-sm sm:col-start-3"
			>{stageWords(one, stands)}{signed && !stands ? '; accepted, and changed since' : ''}</span
		>
	</a>
{/snippet}
