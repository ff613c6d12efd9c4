<script lang="ts">
	import { spoken } from '../units.svelte';
	import { CONFIGURATION_RULES } from '#core/budget/configuration';
	import { farEnd, type End } from '#core/ends';
	import type { Stage } from '#core/stage/stages';
	import type { BenchHop } from '../hop/benchHop';
	import type { AlignBench } from './bench.svelte';
	import BatonBox from './BatonBox.svelte';
	import { adjusterTurns } from '#core/sweep/adjusterScale';
	import { nutMove } from '#core/sweep/nutMove';
	import { nutInWords, stepInWords } from './stepWords';

	interface Props {
		end: End;
		live: BenchHop;
		bench: AlignBench;
		inTurns: boolean;
		/** The position that a sweep by hand waits for. */
		sweepPosition: string;
		/** A press is being carried out. */
		acting: boolean;
		stageHref: (stage: Stage) => string;
		onact: () => void;
		onread: () => void;
		onsweepreading: () => void;
		/** The alignment is closed here: on to fixing. */
		onclose: () => void;
	}

	let {
		end,
		live,
		bench,
		inTurns,
		sweepPosition,
		acting,
		stageHref,
		onact,
		onread,
		onsweepreading,
		onclose
	}: Props = $props();
	const far = $derived(farEnd(end));
	const step = $derived(bench.step);
	const own = $derived(live.state.ends[end]);
	const holds = $derived(live.state.baton === end);
	const single = $derived(live.state.crews === 1);
	const mount = $derived(live.revision.input.ends[end].mount);
	const running = $derived(bench.running);
	const simulated = $derived(bench.driven);
	const words = $derived(stepInWords(step, mount, own, inTurns, running));
	/** What the hand at the nut does for it. A dish set by the level has its rod where the level wanted it. */
	const nut = $derived(
		step.kind === 'move'
			? nutInWords(
					nutMove(
						mount,
						step.axis,
						own.turns[step.axis],
						adjusterTurns(mount[step.axis], step.targetDeg),
						step.axis === 'azimuth' || !live.recorded.ends[end].building.steps['tilt-preset']
					)
				)
			: ''
	);
	const readWords = $derived(
		bench.meter ? 'Keep what the meter shows' : simulated ? 'Read the meter' : 'Type a reading'
	);

	const action = $derived.by((): string => {
		switch (step.kind) {
			case 'read':
				return readWords;
			case 'sweep':
				return `Record a sweep of ${step.axis}`;
			case 'move':
			case 'turn-mount':
				return simulated ? 'Turn it there' : 'It stands there now';
			case 'hand-over':
				return single ? `Go to ${far} now` : `Hand over the baton to ${far}`;
			case 'check':
				return simulated ? 'Read the meter again' : readWords;
			default:
				return '';
		}
	});
	const sayWhy = $derived(running || step.kind === 'thinking' ? [] : step.why);
	/** Both ends stand, only the level is not what was planned: that may be accepted. */
	const mayClose = $derived(
		step.kind === 'check' && step.about === 'link' && bench.guidance?.advice === 'hand-over'
	);
	/** With traffic on both polarizations the feeds come before the nuts. */
	const after: Stage = $derived(
		CONFIGURATION_RULES[live.revision.input.configuration.kind].coChannelDual ? 'polarize' : 'fix'
	);
</script>

<section
	class="end-{end} flex flex-col gap-3 border-t-[6px] pt-2.5 {step.kind === 'thinking'
		? 'max-md:min-h-[40rem]'
		: ''}"
	style:border-color={holds ? 'var(--end)' : 'var(--line)'}
	aria-label="Next step"
	data-testid="next-step"
	data-step={running ? 'sweeping' : step.kind}
	data-about={bench.about}
>
	<p class="text-quiet text-sm font-semibold">
		{#if single}{holds ? 'One crew · you work here' : `One crew · it works at ${far}`}
		{:else}{holds ? 'Your move · you hold the baton' : `${far} holds the baton`}{/if}
	</p>
	<div aria-live="polite">
		<h1 class="text-[2rem]! leading-[1.05]!">{words.what}</h1>
		{#if words.amount}
			<p
				class="num mt-1 leading-tight font-bold {words.amount.length > 14
					? 'text-xl'
					: 'text-[2.1rem]'}"
			>
				{words.amount}
			</p>
		{/if}
	</div>
	{#if sayWhy.length}
		<ul class="flex flex-col gap-1.5">
			{#each sayWhy.slice(0, 3) as why, i (i)}<li>{spoken(why)}</li>{/each}
			{#if step.kind === 'move'}
				<li class="text-sm" data-testid="nut">{spoken(nut)}</li>
				<li class="text-quiet text-sm">
					{simulated
						? 'The simulated nut goes half a turn past and comes back, so that the play of the thread falls out.'
						: 'Go half a turn past on the low side and come back, as the sweep did: that takes up the play of the thread.'}
				</li>
			{/if}
		</ul>
	{/if}

	{#if running}
		{#if running.source !== 'simulated'}
			<p>
				Bring the {running.axis} to <strong class="num">{sweepPosition}</strong>, then {bench.meter
					? 'take what the meter shows'
					: 'type what the meter shows'}.
			</p>
			<button class="btn btn-main btn-big" onclick={onsweepreading}
				>{bench.meter ? 'Take the reading there' : 'Type the reading there'}</button
			>
			<button
				class="btn"
				disabled={running.samples.length === 0}
				onclick={() => bench.undoSweepReading()}>Take the last reading back</button
			>
		{:else}
			<progress
				class="h-3 w-full accent-(--end)"
				max={running.turns.length}
				value={running.samples.length}
			>
			</progress>
		{/if}
		<button class="btn" onclick={() => bench.stopSweep()}>End the sweep here</button>
		<button
			class="btn btn-dashed"
			disabled={running.source === 'simulated'}
			hidden={running.source === 'simulated'}
			onclick={() => bench.dropSweep()}>Throw this sweep away</button
		>
	{:else if step.kind === 'confirm-state'}
		<a class="btn btn-main btn-big" href={stageHref('power')}>Go to power</a>
	{:else if step.kind === 'lock'}
		{#if own.aim}
			<a class="btn btn-main btn-big" href={stageHref(after)}>Go on to {after}</a>
		{:else}
			<button class="btn btn-main btn-big" disabled={bench.busy || acting} onclick={onclose}
				>{live.state.stands ? 'This dish is on its main lobe' : 'Both ends are on the main lobe'}:
				go on to {after}</button
			>
		{/if}
	{:else if step.kind === 'thinking'}
		<button class="btn btn-main btn-big" disabled>Weighing the readings …</button>
	{:else if !live.mayRecord}
		<p class="text-quiet">You follow this hop; its crew records.</p>
	{:else if action}
		<button
			class="btn btn-big {step.kind === 'hand-over' ? 'btn-main btn-dashed' : 'btn-main'}"
			disabled={bench.busy || acting || live.weighing}
			onclick={onact}>{bench.busy || acting ? 'Working …' : action}</button
		>
		{#if mayClose}
			<button class="btn" disabled={bench.busy || acting} onclick={onclose}
				>Leave it so and go on to {after}</button
			>
		{/if}
	{/if}
	{#if live.mayRecord && !running && !['read', 'confirm-state', 'check'].includes(step.kind)}
		<button class="btn btn-big" disabled={bench.busy} onclick={onread}>{readWords}</button>
	{/if}
	{#if live.mayRecord && !running && step.kind !== 'confirm-state'}
		<BatonBox {end} {live} {bench} />
	{/if}
</section>
