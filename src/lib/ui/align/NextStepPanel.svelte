<script lang="ts">
	import { farEnd, type End } from '$core/ends';
	import type { NextStep } from '$core/guide/nextStep';
	import type { Stage } from '$core/stage/stages';
	import { adjusterTurns } from '$core/sweep/adjusterScale';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import type { AlignBench } from './bench.svelte';
	import { fixed } from '../format';
	import { amountInWords, directionInWords } from './stepWords';

	interface Props {
		end: End;
		step: NextStep;
		live: LiveHop;
		bench: AlignBench;
		inTurns: boolean;
		/** The position that a sweep by hand waits for. */
		sweepPosition: string;
		stageHref: (stage: Stage) => string;
		onact: () => void;
		onread: () => void;
		onsweepreading: () => void;
	}

	let {
		end,
		step,
		live,
		bench,
		inTurns,
		sweepPosition,
		stageHref,
		onact,
		onread,
		onsweepreading
	}: Props = $props();
	const far = $derived(farEnd(end));
	const own = $derived(live.situation.ends[end]);
	const holds = $derived(live.situation.baton === end);
	const mount = $derived(live.revision.input.ends[end].mount);
	const running = $derived(bench.running);
	const simulated = $derived(bench.source === 'simulated');

	/** Two lines a hand can follow: what, and how much. */
	const words = $derived.by((): { what: string; amount: string } => {
		if (running) {
			return {
				what: `Sweeping ${running.axis}`,
				amount: `${running.samples.length} of ${running.turns.length}`
			};
		}
		if (step.kind === 'move') {
			const adjuster = mount[step.axis];
			const turns = adjusterTurns(adjuster, step.targetDeg) - own.turns[step.axis];
			const deg = step.targetDeg - own.angleDeg[step.axis];
			return {
				what: directionInWords(step.axis, turns),
				amount: amountInWords(turns, deg, inTurns)
			};
		}
		if (step.kind === 'sweep') {
			const adjuster = mount[step.axis];
			const at = (deg: number): string =>
				fixed(inTurns ? adjusterTurns(adjuster, deg) : deg, inTurns ? 1 : 2, true);
			const unit = inTurns ? ' turns' : '°';
			return { what: step.headline, amount: `${at(step.fromDeg)} to ${at(step.toDeg)}${unit}` };
		}
		return { what: step.headline, amount: '' };
	});

	const action = $derived.by((): string => {
		switch (step.kind) {
			case 'read':
				return simulated ? 'Read the meter' : 'Type a reading';
			case 'sweep':
				return `Record a sweep of ${step.axis}`;
			case 'move':
				return simulated ? 'Turn it there' : 'It stands there now';
			case 'hand-over':
				return `Hand over the baton to ${far}`;
			case 'check':
				return simulated ? 'Read the meter again' : 'Type a reading';
			default:
				return '';
		}
	});
	const sayWhy = $derived(running ? [] : step.why);
	const linkButton = 'btn btn-main btn-big';
</script>

<section
	class="end-{end} flex flex-col gap-3 border-t-[6px] pt-2.5"
	style:border-color={holds ? 'var(--end)' : 'var(--line)'}
	aria-label="Next step"
	data-testid="next-step"
	data-step={running ? 'sweeping' : step.kind}
>
	<p class="text-quiet text-sm font-semibold">
		{holds ? 'Your move · you hold the baton' : `${far} holds the baton`}
	</p>
	<div aria-live="polite">
		<p class="text-[2rem] leading-[1.05] font-bold">{words.what}</p>
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
			{#each sayWhy.slice(0, 3) as why, i (i)}<li>{why}</li>{/each}
			{#if step.kind === 'move'}
				<li class="text-quiet text-sm">
					{simulated
						? 'The simulated nut goes half a turn past and comes back, so that the play of the thread falls out.'
						: 'Go half a turn past on the low side and come back, as the sweep did: that takes up the play of the thread.'}
				</li>
			{/if}
		</ul>
	{/if}

	{#if running}
		{#if running.source === 'hand'}
			<p>
				Bring the {running.axis} to <strong class="num">{sweepPosition}</strong>, then type what the
				meter shows.
			</p>
			<button class="btn btn-main btn-big" onclick={onsweepreading}>Type the reading there</button>
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
			disabled={running.source !== 'hand'}
			hidden={running.source !== 'hand'}
			onclick={() => bench.dropSweep()}>Throw this sweep away</button
		>
	{:else if step.kind === 'confirm-state'}
		<a class={linkButton} href={stageHref('power')}>Go to power</a>
	{:else if step.kind === 'lock'}
		<a class={linkButton} href={stageHref('fix')}>Go on to fix</a>
	{:else if !live.mayRecord}
		<p class="text-quiet">You follow this hop; its crew records.</p>
	{:else if action}
		<button
			class="btn btn-big {step.kind === 'hand-over' ? 'btn-main btn-dashed' : 'btn-main'}"
			disabled={bench.busy || live.readingSweep}
			onclick={onact}>{bench.busy ? 'Working …' : action}</button
		>
	{/if}
	{#if live.mayRecord && !running && step.kind !== 'read' && step.kind !== 'confirm-state'}
		<button class="btn btn-big" disabled={bench.busy} onclick={onread}>
			{simulated ? 'Read the meter' : 'Type a reading'}
		</button>
	{/if}
	{#if live.mayRecord && !running && holds && step.kind !== 'hand-over' && step.kind !== 'confirm-state' && step.kind !== 'lock'}
		<button class="btn btn-dashed" disabled={bench.busy} onclick={() => void bench.handOver(far)}>
			Hand over the baton to {far}
		</button>
	{/if}
</section>
