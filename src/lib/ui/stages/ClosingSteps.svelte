<script lang="ts">
	import { tick, type Snippet } from 'svelte';
	import { closingStepsOf, nextClosingStep, type ClosingStep } from '#core/accept/closingSteps';
	import type { AcceptanceJudgement } from '#core/accept/judgeAcceptance';
	import { farEnd, type End } from '#core/ends';
	import { focusHeading } from '../frame/focus';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import { spoken } from '../units.svelte';
	import ClosingLook from './ClosingLook.svelte';
	import CrewSignature from './CrewSignature.svelte';
	import ErrorTestForm from './ErrorTestForm.svelte';
	import OperatingForm from './OperatingForm.svelte';
	import ServiceCheck from './ServiceCheck.svelte';
	import Snags from './Snags.svelte';

	interface Props {
		end: End;
		live: LiveHop;
		judgement: AcceptanceJudgement;
		/** How the final level of a dish is read. */
		level: Snippet<[ClosingStep]>;
		/** What is next once this end owes nothing. */
		after: Snippet;
	}

	let { end, live, judgement, level, after }: Props = $props();
	const far = $derived(farEnd(end));
	const MARK = { done: '✓', off: '▲', open: '○' } as const;
	const SAID = { done: 'done', off: 'not as planned', open: 'open' } as const;

	const steps = $derived(closingStepsOf(live.recorded, end, judgement));
	let putOff: string[] = $state([]);
	const next = $derived(nextClosingStep(steps, putOff));
	/** Looked at again, or done out of its turn. */
	let chosenKey: string | undefined = $state();
	const current = $derived(steps.find(({ key }) => key === chosenKey) ?? next);
	/** What was done last on this screen, where nobody has gone on from it by hand. */
	let doneKey: string | undefined = $state();
	const done = $derived(steps.find(({ key, state }) => key === doneKey && state !== 'open'));
	let panel: HTMLElement | undefined = $state();

	// A step that has just been done shows what it gave and makes room for the next; what is off stays.
	let shown: { key: string; state: ClosingStep['state'] } | undefined;
	$effect(() => {
		const now = steps.find(({ key }) => key === shown?.key);
		if (shown?.state === 'open' && now && now.state !== 'open') {
			if (now.state === 'off') chosenKey = now.key;
			else {
				chosenKey = undefined;
				doneKey = now.key;
				void tick().then(() => focusHeading(panel));
			}
		}
		shown = current && { key: current.key, state: current.state };
	});

	function choose(key: string | undefined): void {
		chosenKey = key;
		doneKey = undefined;
		void tick().then(() => focusHeading(panel));
	}
	function leaveForLater(key: string): void {
		putOff = [...putOff, key];
		choose(undefined);
	}

	/** What is off is asked for again at once: its own button is the main one then. */
	const formStays = ({ kind, state }: ClosingStep): boolean =>
		state === 'off' && (kind === 'operating' || kind === 'test');

	const owed = $derived(
		closingStepsOf(live.recorded, far, judgement).filter(
			({ state, mayWait }) => state === 'open' && !mayWait
		)
	);
	const left = $derived(steps.filter(({ state, mayWait }) => state === 'open' && mayWait));
	const doneCount = $derived(steps.filter(({ state }) => state !== 'open').length);
</script>

<section
	class="grid gap-x-10 gap-y-5 md:grid-cols-[minmax(0,1fr)_19rem]"
	aria-label="Closing {end}"
>
	<div
		class="flex flex-col gap-3 border-t-[6px] pt-2.5"
		style:border-color={current ? 'var(--end)' : 'var(--line)'}
		data-testid="next-step"
		data-step={current?.key ?? 'closed'}
		bind:this={panel}
	>
		{#if done}
			<p class="text-sm" data-testid="just-done" aria-live="polite">
				<strong>✓ {done.title}.</strong>
				{spoken(done.said)}
				<button class="min-h-11 px-1 underline" onclick={() => choose(done.key)}>Look at it</button>
			</p>
		{/if}
		{#if current}
			{#if current.kind === 'final-level'}
				{@render level(current)}
			{:else if current.kind === 'operating'}
				<OperatingForm {end} {live} />
			{:else if current.kind === 'services'}
				<ServiceCheck {end} {live} />
			{:else if current.kind === 'look'}
				<ClosingLook {end} {live} />
			{:else if current.kind === 'test'}
				<ErrorTestForm {end} {live} />
			{:else}
				<CrewSignature {end} {live} />
			{/if}
			{#if current.state === 'open' && current.mayWait && !putOff.includes(current.key)}
				<button class="btn btn-dashed" onclick={() => leaveForLater(current.key)}
					>{current.kind === 'test'
						? 'No test yet: go on without'
						: `Signed at ${far}: go on without`}</button
				>
			{:else if current.state !== 'open'}
				<button class="btn {formStays(current) ? '' : 'btn-main'}" onclick={() => choose(undefined)}
					>{next ? `Go on: ${next.title}` : 'Go on'}</button
				>
			{/if}
		{:else}
			<h2>{end} owes nothing more</h2>
			{#if left.length}
				<p>
					Left without: {left.map(({ title }) => title.toLowerCase()).join(', ')}. Who signs writes
					the cause.
				</p>
			{/if}
			{#if owed.length}
				<p data-testid="far-owes">
					<strong class="end-{far} text-end-own">{far}</strong> still owes:
					{owed.map(({ title }) => title).join(', ')}.
				</p>
			{:else}
				{@render after()}
			{/if}
		{/if}
	</div>
	<nav aria-label="What {end} owes">
		<p class="flex justify-between font-semibold">
			<span>Closing {end}</span>
			<span class="num text-quiet font-normal">{doneCount}/{steps.length}</span>
		</p>
		<ul class="border-line mt-1 border-t">
			{#each steps as step (step.key)}
				<li class="border-line border-b">
					<button
						class="grid min-h-12 w-full grid-cols-[1.6rem_1fr] items-center py-1 text-left {current?.key ===
						step.key
							? 'text-end-own font-bold'
							: ''}"
						aria-current={current?.key === step.key ? 'step' : undefined}
						data-closing={step.key}
						data-state={step.state}
						onclick={() => choose(step.key)}
					>
						<span class={step.state === 'off' ? 'trouble' : ''} aria-hidden="true"
							>{MARK[step.state]}</span
						>
						<span class="leading-tight"
							>{step.title}<span class="sr-only">, {SAID[step.state]}</span>
							{#if step.state !== 'open'}
								<span class="text-quiet block text-sm font-normal">{spoken(step.said)}</span>
							{/if}</span
						>
					</button>
				</li>
			{/each}
		</ul>
		<div class="mt-4"><Snags {end} {live} /></div>
	</nav>
</section>
