<script lang="ts">
	import { spoken } from '../units.svelte';
	import type { BuildStepState } from '#core/tower/buildState';
	import { judgeStep, refusedStep } from '#core/tower/judgeStep';
	import { expectedText } from '#core/tower/quantity';
	import type { LiftingGear, PowerSource } from '#core/safety/gear';
	import { untrack, type Snippet } from 'svelte';
	import { typedNumber } from '../align/numberInput';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Draft } from '../form/draft.svelte';
	import Notice from '../form/Notice.svelte';
	import TextField from '../form/TextField.svelte';
	import { moment } from '../moment.svelte';
	import { cardStands, type StepPlace } from './stepPlace';
	import StopCardForm from './StopCardForm.svelte';
	import WaitTimer from './WaitTimer.svelte';

	/** What a sheet gives to be judged with the step. */
	interface TypedAtStep {
		gear?: LiftingGear | undefined;
		source?: PowerSource | undefined;
	}

	interface Props {
		place: StepPlace;
		state: BuildStepState;
		ondone: () => void;
		/** Forms of steps that are recorded by more than a yes and a value. */
		work?: Snippet;
		/** Photos of the step: those that are there, and how they are changed where they may be. */
		photos?: Snippet<[ids: string[], change?: (ids: string[]) => void]>;
		/** Arithmetic of the step; gets what takes the gear or source that was typed there. */
		sheet?: Snippet<[take: (typed: TypedAtStep) => void]>;
		/** It is recorded: what was typed into its sheet is with it. */
		onrecorded?: () => void;
	}

	let { place, state: own, ondone, work, photos, sheet, onrecorded }: Props = $props();
	const step = $derived(own.step);
	const draft = untrack(
		() =>
			new Draft(place.draftPlace(`step-${own.step.key}`), {
				...{ value: '', note: '', cause: '', authorisedBy: '' }
			})
	);
	const { value, note, cause, authorisedBy } = $derived(draft.values);
	let gear: LiftingGear | undefined = $state();
	let source: PowerSource | undefined = $state();
	let leaving = $state(untrack(() => draft.values.cause !== ''));
	function take(typed: TypedAtStep): void {
		({ gear, source } = typed);
	}
	let photoIds: string[] = $state(untrack(() => [...own.photoIds]));
	let problem: string | undefined = $state();
	let leavingProblem: { cause?: string; word?: string } = $state({});
	/** A value outside is asked about once before it is kept. */
	let sure = $state(false);

	const cardOpen = $derived(step.card !== undefined && cardStands(place, step.card));
	const number = $derived(typedNumber(value));
	const payload = $derived({
		step: step.key,
		value: step.quantity ? (number ?? null) : null,
		note: note.trim(),
		photoIds,
		...(step.gate?.kind === 'lift' && gear ? { gear } : {}),
		...(step.gate?.kind === 'source' && source ? { source } : {})
	});
	const verdict = $derived(
		step.quantity && number === undefined ? undefined : judgeStep(step, payload)
	);
	/** Why it cannot be recorded so: said once it was tried, and gone as soon as it is put right. */
	const refused = $derived(refusedStep([step], { kind: 'build-step', payload }));
	let tried = $state(false);
	const stopped = $derived(tried ? refused?.message : undefined);
	/** Its sheet is typed into, and judged with the step. */
	const sheetFirst = $derived(step.gate?.kind === 'lift' || step.gate?.kind === 'source');
	const photoMissing = $derived(step.photo && photoIds.length === 0);

	async function done(): Promise<void> {
		problem = undefined;
		if (step.quantity && number === undefined) {
			problem = `${step.quantity.label}: a number${step.quantity.unit ? ` in ${step.quantity.unit}` : ''} is needed.`;
			return;
		}
		if (step.quantity?.kind === 'count' && !Number.isInteger(number)) {
			problem = `${step.quantity.label}: count in whole numbers.`;
			return;
		}
		if (photoMissing) {
			problem = 'A photo proves this step: take one, or leave the step out with a cause.';
			return;
		}
		tried = true;
		if (refused) return;
		if (verdict?.verdict === 'off' && !sure) {
			sure = true;
			return;
		}
		const done = payload;
		const off = verdict?.verdict === 'off';
		draft.clear();
		onrecorded?.();
		await place.add('build-step', done);
		if (!off) ondone();
		sure = false;
	}

	async function leaveOut(): Promise<void> {
		leavingProblem = {
			...(cause.trim().length < 3 ? { cause: 'Write the cause in a few words.' } : {}),
			...(step.gate && authorisedBy.trim().length < 2
				? { word: 'This can hurt or destroy: name the person on whose word it is left out.' }
				: {})
		};
		if (Object.keys(leavingProblem).length) return;
		const skipped = {
			step: step.key,
			cause: cause.trim(),
			...(step.gate ? { authorisedBy: authorisedBy.trim() } : {})
		};
		draft.clear();
		await place.add('step-skipped', skipped);
		ondone();
	}

	async function again(): Promise<void> {
		await place.add('step-reopened', { step: step.key, reason: 'To be done again' });
		draft.clear();
		photoIds = [];
	}
</script>

<div class="flex flex-col gap-4" data-testid="step" data-step={step.key} data-state={own.state}>
	<div>
		<h1 class="text-[1.6rem]!">{spoken(step.title)}</h1>
		<p class="text-quiet mt-1">{spoken(step.why)}</p>
		{#if step.lines.length}
			<ul class="border-line mt-2 border-l-4 pl-3" data-testid="step-lines">
				{#each step.lines as line, i (i)}<li class="py-0.5">{spoken(line)}</li>{/each}
			</ul>
		{/if}
		{#if step.people > 1}
			<p class="mt-1 text-sm font-semibold">{step.people} people</p>
		{/if}
	</div>
	{#if step.caution}<Notice kind="caution"><strong>Caution.</strong> {spoken(step.caution)}</Notice
		>{/if}

	{#if own.state === 'blocked'}
		<Notice>{spoken(own.reason)}</Notice>
	{:else if own.state === 'done' || own.state === 'skipped'}
		<p class="text-lg font-semibold">
			{own.state === 'done' ? 'Done' : 'Left out'}{own.reason ? `: ${spoken(own.reason)}` : '.'}
		</p>
		{#if own.recordedAt}
			<p class="text-quiet text-sm">
				{own.recordedBy}{own.recordedBy ? ', ' : ''}{moment(own.recordedAt)}{own.note
					? `. ${own.note}`
					: ''}
			</p>
		{/if}
		{#if own.photoIds.length}
			{@render photos?.([...own.photoIds])}
		{/if}
	{:else if own.state === 'trouble'}
		<Notice kind="trouble">{spoken(own.reason)}{own.note ? ` Note: ${own.note}` : ''}</Notice>
	{/if}

	{#if step.card && own.state !== 'blocked' && own.state !== 'done'}
		<StopCardForm {place} card={step.card} />
	{/if}

	{@render work?.()}

	{#if place.mayRecord && own.state !== 'blocked'}
		{#if own.state === 'done' || own.state === 'skipped'}
			{#if step.work === 'confirm'}
				<button class="btn self-start" onclick={() => void again()}>Do it again</button>
			{/if}
		{:else if !cardOpen}
			{#if step.work === 'confirm'}
				<form
					class="flex flex-col gap-3"
					onsubmit={(event) => {
						event.preventDefault();
						void done();
					}}
				>
					<KeptTyping {draft} />
					{#if step.quantity?.unit === 'min' || step.key === 'boot'}
						<WaitTimer
							key="{place.key}-{step.key}"
							ontake={(minutes) => (draft.values.value = String(minutes))}
						/>
					{/if}
					{#if step.quantity}
						<TextField
							label={step.quantity.label}
							name="step-value"
							unit={step.quantity.unit || undefined}
							numeric
							hint="Expected {expectedText(step.quantity)}: {step.quantity.from}."
							error={problem && number === undefined ? problem : undefined}
							bind:value={
								() => value,
								(typed) => {
									draft.values.value = typed;
									sure = false;
									problem = undefined;
								}
							}
						/>
						{#if verdict && verdict.verdict !== 'good' && !stopped}
							<div data-testid="quantity-off"><Notice kind="trouble">{verdict.reason}</Notice></div>
							<TextField
								label="What is known of it"
								name="step-note"
								bind:value={draft.values.note}
							/>
						{/if}
					{/if}
					{#if sheetFirst}
						{@render sheet?.(take)}
					{/if}
					{#if step.photo}
						{@render photos?.(photoIds, (ids) => (photoIds = ids))}
					{/if}
					{#if (problem && (number !== undefined || !step.quantity)) || stopped}
						<p class="trouble font-semibold" role="alert">▲ {problem ?? stopped}</p>
					{/if}
					<button class="btn btn-main btn-big">
						{verdict?.verdict === 'off' && sure
							? 'Keep it as found, though it is off'
							: step.quantity
								? 'Record it'
								: 'Done'}
					</button>
				</form>
			{/if}
			{#if !leaving}
				<button class="min-h-12 self-start underline" onclick={() => (leaving = true)}
					>Leave this step out</button
				>
			{:else}
				<form
					class="border-line flex flex-col gap-2 border-t pt-3"
					onsubmit={(event) => {
						event.preventDefault();
						void leaveOut();
					}}
				>
					{#if step.gate}
						<Notice kind="caution"
							><strong>This step can hurt or destroy.</strong> It is left out only on the word of a named
							person, and that stands in the acceptance.</Notice
						>
					{/if}
					<TextField
						label="Cause"
						name="step-cause"
						bind:value={draft.values.cause}
						error={leavingProblem.cause}
					/>
					{#if step.gate}
						<TextField
							label="On whose word"
							name="step-authorised"
							hint="Name and function."
							bind:value={draft.values.authorisedBy}
							error={leavingProblem.word}
						/>
					{/if}
					<button class="btn">Leave it out with this cause</button>
				</form>
			{/if}
		{/if}
	{/if}
	{#if step.sheet && (!sheetFirst || own.state === 'blocked')}{@render sheet?.(take)}{/if}
</div>
