<script lang="ts">
	import { spoken } from '../units.svelte';
	import type { BuildStepState } from '#core/tower/buildState';
	import { judgeStep, refusedStep } from '#core/tower/judgeStep';
	import { expectedText } from '#core/tower/quantity';
	import type { LiftingGear, PowerSource } from '#core/safety/gear';
	import { stopStateOf } from '#core/safety/stopCards';
	import type { End } from '#core/ends';
	import { untrack } from 'svelte';
	import { typedNumber } from '../align/numberInput';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Draft } from '../form/draft.svelte';
	import Notice from '../form/Notice.svelte';
	import TextField from '../form/TextField.svelte';
	import { moment } from '../moment.svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import ChainForm from './ChainForm.svelte';
	import LabelsForm from './LabelsForm.svelte';
	import PackingForm from './PackingForm.svelte';
	import PartiesForm from './PartiesForm.svelte';
	import PhotoStrip from './PhotoStrip.svelte';
	import StepSheet from './StepSheet.svelte';
	import StopCardForm from './StopCardForm.svelte';
	import WaitTimer from './WaitTimer.svelte';

	interface Props {
		end: End;
		live: LiveHop;
		state: BuildStepState;
		ondone: () => void;
	}

	let { end, live, state: own, ondone }: Props = $props();
	const step = $derived(own.step);
	const draft = untrack(
		() =>
			new Draft(live.placeOf(end, `step-${own.step.key}`), {
				...{ value: '', note: '', cause: '', authorisedBy: '' }
			})
	);
	const { value, note, cause, authorisedBy } = $derived(draft.values);
	let sheet: ReturnType<typeof StepSheet> | undefined = $state();
	let gear: LiftingGear | undefined = $state();
	let source: PowerSource | undefined = $state();
	let leaving = $state(untrack(() => draft.values.cause !== ''));
	let photoIds: string[] = $state(untrack(() => [...own.photoIds]));
	let problem: string | undefined = $state();
	let leavingProblem: { cause?: string; word?: string } = $state({});
	/** A value outside is asked about once before it is kept. */
	let sure = $state(false);

	const cardOpen = $derived(
		step.card !== undefined &&
			stopStateOf(step.card, live.recorded.ends[end].stopCards[step.card], live.nowMs).kind !== 'go'
	);
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
		sheet?.recorded();
		await live.add(end, 'build-step', done);
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
		await live.add(end, 'step-skipped', skipped);
		ondone();
	}

	async function again(): Promise<void> {
		await live.add(end, 'step-reopened', { step: step.key, reason: 'To be done again' });
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
			<PhotoStrip {end} {live} about={step.key} photoIds={[...own.photoIds]} readonly />
		{/if}
	{:else if own.state === 'trouble'}
		<Notice kind="trouble">{spoken(own.reason)}{own.note ? ` Note: ${own.note}` : ''}</Notice>
	{/if}

	{#if step.card && own.state !== 'blocked' && own.state !== 'done'}
		<StopCardForm {end} {live} card={step.card} />
	{/if}

	{#if step.work === 'packing'}
		<PackingForm {end} {live} />
	{:else if step.work === 'labels'}
		<LabelsForm {end} {live} />
	{:else if step.work === 'parties'}
		<PartiesForm {end} {live} />
	{:else if step.work === 'chain'}
		<ChainForm {end} {live} joints={step.joints} />
	{/if}

	{#if live.mayRecord && own.state !== 'blocked'}
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
							key="{live.hopId}-{end}-{step.key}"
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
					{#if sheetFirst && step.sheet}
						<StepSheet {end} {live} {step} bind:this={sheet} bind:gear bind:source />
					{/if}
					{#if step.photo}
						<PhotoStrip {end} {live} about={step.key} bind:photoIds label="Take the photo" />
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
	{#if step.sheet && (!sheetFirst || own.state === 'blocked')}<StepSheet {end} {live} {step} />{/if}
</div>
