<script lang="ts">
	import type { Provenance } from '#core/provenance/provenance';
	import { tick } from 'svelte';
	import { resolve } from '$app/paths';
	import type { StationProgress } from '#core/bringup/bringUp';
	import { LINK_CAUSES } from '#core/bringup/linkCauses';
	import { PHASE_WORDS } from '../build/phaseWords';
	import { isSmallLink, pans, steers } from '#core/bringup/stations';
	import StepNav from '../build/StepNav.svelte';
	import { focusHeading } from '../frame/focus';
	import AcceptTerminal from './AcceptTerminal.svelte';
	import LampPanel from './LampPanel.svelte';
	import LevelForm from './LevelForm.svelte';
	import type { LiveHub } from './liveHub.svelte';
	import PointingPanel from './PointingPanel.svelte';
	import { stageWords, standingOf, type SignedTerminal } from './stageWords';
	import StationRecord from './StationRecord.svelte';
	import StationStep from './StationStep.svelte';
	import TroublePanel from './TroublePanel.svelte';

	interface Props {
		live: LiveHub;
		at: StationProgress;
		hubName: string;
		/** How the hub was taken in; null where it was made here. */
		provenance: Provenance | null;
		signed: SignedTerminal | undefined;
		maySign: boolean;
		signerName: string;
	}

	const WORDS = { ...PHASE_WORDS, office: 'On the ground', receive: 'The box', mount: 'Put up' };
	let { live, at, hubName, provenance, signed, maySign, signerName }: Props = $props();
	/** A step chosen by hand; else the one that is next. */
	let chosen: string | undefined = $state();
	const inWork = $derived(at.stage === 'building' || at.stage === 'close');
	const current = $derived(
		at.build.steps.find(({ step }) => step.key === chosen) ?? (inWork ? at.build.next : undefined)
	);
	let top: HTMLElement | undefined = $state();
	function choose(key: string | undefined): void {
		chosen = key;
		void tick().then(() => focusHeading(top));
	}
	const { station } = $derived(at);
	/** A radio that does not steer is pointed by what it shows, once both ends are up. */
	const points = $derived(
		isSmallLink(live.work.hub) &&
			!steers(station) &&
			pans(station) &&
			live.stations.every(({ stage }) => stage !== 'building')
	);
	/** What comes after this station, for who brings up one after the other. */
	const next = $derived(
		live.stations.find(
			(one) =>
				one.station.id !== station.id &&
				one.stage !== 'done' &&
				(one.station.kind === 'unit' || one.unit !== null)
		)
	);
	const boardHref = $derived(resolve('/hubs/[hubId]/work', { hubId: live.id }));
</script>

<div class="grid gap-8 xl:grid-cols-[minmax(0,1fr)_20rem]">
	<div bind:this={top} class="flex min-w-0 scroll-mt-16 flex-col gap-6">
		<p class="text-quiet text-sm font-semibold" data-testid="station-stage" data-stage={at.stage}>
			{station.name} · {stageWords(at, standingOf(live.stations, signed))}
		</p>
		{#if current}
			{#key `${station.id}/${current.step.key}`}
				<StationStep {live} station={station.id} state={current} ondone={() => choose(undefined)} />
			{/key}
			{#if chosen}
				<button class="btn self-start print:hidden" onclick={() => choose(undefined)}
					>{inWork && at.build.next
						? `Go to the next step: ${at.build.next.step.title}`
						: 'Back to its link'}</button
				>
			{/if}
		{:else}
			<h1 class="text-[1.6rem]!">{station.name}</h1>
			{#if at.stage === 'no-link' && station.kind === 'unit'}
				<section class="flex flex-col gap-2" data-testid="unit-trouble">
					<h2>What it can be</h2>
					{#each ['power-kind', 'cable'] as const as cause (cause)}
						<p><strong>{LINK_CAUSES[cause].name}.</strong> {LINK_CAUSES[cause].mend}</p>
					{/each}
				</section>
			{/if}
			{#if points}<PointingPanel {live} {at} />{/if}
			<TroublePanel {live} {at} />
			{#if at.stage === 'look' || at.stage === 'waits' || at.stage === 'no-link' || at.stage === 'off'}
				<LampPanel {live} {at} />
			{/if}
			{#if at.stage === 'read' || at.stage === 'off'}
				<LevelForm {live} {at} />
			{/if}
			{#if at.stage === 'done' && next && live.mayRecord}
				<!-- eslint-disable-next-line svelte/no-navigation-without-resolve -- resolved above -->
				<a
					class="btn btn-main btn-big print:hidden"
					href="{boardHref}?at={encodeURIComponent(next.station.id)}"
					>Go on at {next.station.name}</a
				>
			{/if}
		{/if}
		{#if station.kind === 'terminal' && !current && (signed || at.stage === 'off' || at.stage === 'done')}
			<AcceptTerminal {live} {at} {hubName} {signed} {maySign} {signerName} />
		{/if}
	</div>
	<div class="print:hidden">
		<StepNav building={at.build} current={current?.step.key} onchoose={choose} words={WORDS} />
		<div class="mt-6"><StationRecord {live} {at} {provenance} /></div>
	</div>
</div>
